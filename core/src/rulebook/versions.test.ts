import { SHIPPED } from '../tests/sound-kits';
import { compareRulebooks, compareVersions, nextVersion } from './versions';

test('versions are ordered by their numbers, not by their letters', () => {
  expect(['1.10.0', '1.9.9', '0.2.30', '1.9.10'].sort(compareVersions)).toEqual(['0.2.30', '1.9.9', '1.9.10', '1.10.0']);
  expect(nextVersion('1.2.9')).toBe('1.2.10');
});

test('what changed between two rulebooks is named by thing and field', () => {
  const before = SHIPPED.plotwick;
  const after = structuredClone(before);
  after.version = '2.0.0';
  after.rules.find((rule) => rule.id === 'triangles')!.limit = 9000;
  after.rules = after.rules.filter((rule) => rule.id !== 'depth').reverse();
  after.naming.reserved = ['ground', 'sea'];
  after.naming.patterns[1].examples = ['seat-07'];
  after.sizeClasses![0].max = [2, 4, 2];
  expect(compareRulebooks(before, before)).toEqual([]);
  const changes = compareRulebooks(before, after);
  expect(changes.map((change) => change.where).sort()).toEqual(
    ['Rule depth', 'Rule triangles, limit', 'Size class Nook, max', 'naming, patterns seat, examples', 'naming, reserved'].sort(),
  );
  expect(changes.find((change) => change.where === 'Rule triangles, limit')).toMatchObject({ before: '12000', after: '9000' });
  expect(changes.find((change) => change.where === 'Rule depth')).toMatchObject({
    before: expect.stringContaining('sixth level'),
    after: null,
  });
});
