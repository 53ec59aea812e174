import { newPart, type Kit } from '../document';
import { box } from '../tests/bodies';
import { chainKit } from '../tests/helpers';
import { SHIPPED, SOUND } from '../tests/sound-kits';
import { putArray } from '../document';
import { CHECKS } from './checks';
import { GENERAL } from './general';
import { likelyTargets } from './likely-targets';
import { runChecks } from './check-runner';

const books = Object.values(SHIPPED);
const order = (kit: Kit, blobs: Parameters<typeof likelyTargets>[2]) =>
  likelyTargets(kit, books, blobs).map(({ rulebook, score, reasons }) => ({ id: rulebook.id, score, reasons }));

test('a body with a skeleton and clips is for whom a skeleton is wanted, and it is said why', () => {
  const { kit, blobs } = SOUND.emberfold();
  const [first] = order(kit, blobs);
  expect(first.id).toBe('emberfold');
  expect(first.reasons.join()).toMatch(/skeleton/);
  expect(first.reasons.join()).toMatch(/clips that are played here/);
});

test('boxes are for the world of cubes; a tree of rigid parts that nothing moves is for variables', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b', translation: [0, 0.5, 0] }, { id: 'c', translation: [0, 0.2, 0.2] }]);
  expect(order(kit, blobs)[0]).toMatchObject({
    id: 'brinework',
    reasons: expect.arrayContaining([expect.stringMatching(/3 rigid parts/)]),
  });
  const { positions, indices } = box([-0.1, 0, -0.1], [0.1, 0.3, 0.1], 1);
  for (const mesh of Object.values(kit.meshes))
    mesh.primitives = [
      {
        material: null,
        attributes: { POSITION: putArray(blobs, Float32Array.from(positions), 3) },
        indices: putArray(blobs, Uint32Array.from(indices), 1),
      },
    ];
  expect(order(kit, blobs)[0]).toMatchObject({ id: 'cubbin', reasons: expect.arrayContaining(['every part of it is a box']) });
});

test('one clip alone speaks for a platform that wants one; what is larger than any class speaks against', () => {
  const { kit, blobs } = SOUND.glasswink();
  const scores = Object.fromEntries(order(kit, blobs).map(({ id, reasons }) => [id, reasons.join()]));
  expect(scores.glasswink).toMatch(/one clip/);
  const { kit: small, blobs: own } = chainKit([{ id: 'a' }]);
  const before = order(small, own).find(({ id }) => id === 'glasswink')!;
  small.parts.a.scale = [40, 40, 40];
  const after = order(small, own).find(({ id }) => id === 'glasswink')!;
  expect(after.score).toBeLessThan(before.score);
});

test('an empty kit is for any: the order stays, and nothing is claimed', () => {
  const { kit, blobs } = chainKit([]);
  kit.parts.alone = newPart({ id: 'alone', name: 'alone' });
  const found = order(kit, blobs);
  expect(found.flatMap(({ reasons }) => reasons)).toEqual([]);
  expect(found.filter(({ score }) => score === 0).map(({ id }) => id)).toEqual(
    books.map(({ id }) => id).filter((id) => found.find((one) => one.id === id)!.score === 0),
  );
});

test('the general rules ask for checks that exist and need nothing of a platform, and a sound kit has none of them', () => {
  for (const rule of GENERAL.rules) {
    const check = CHECKS.get(rule.check);
    expect(check).toBeDefined();
    expect(check!.needs?.(GENERAL) ?? null).toBeNull();
  }
  const { kit, blobs } = SOUND.brinework();
  expect(runChecks({ kit, blobs, rulebook: GENERAL }).filter(({ grade }) => grade === 'stop')).toEqual([]);
});
