import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { checkRulebook } from './schema';
import { CHECKS } from './checks';

const FOLDER = join(__dirname, '../../../rulebooks');
const FILES = readdirSync(FOLDER).filter((file) => file.endsWith('.rulebook.json'));

test('the seven rulebooks are there', () => {
  expect(FILES.filter((file) => !/-\d/.test(file)).sort()).toEqual(
    ['brinework', 'clashmere', 'cubbin', 'emberfold', 'glasswink', 'lanternlot', 'plotwick'].map((id) => `${id}.rulebook.json`),
  );
});

test.each(FILES)('%s holds together', (file) => {
  const rulebook = checkRulebook(JSON.parse(readFileSync(join(FOLDER, file), 'utf8')));
  expect(file).toBe(`${rulebook.id}${/-\d/.test(file) ? `-${rulebook.version}` : ''}.rulebook.json`);
  for (const { why } of rulebook.rules) expect(why).toMatch(/^[“A-Z].{15,}\.$/);
  if (/-\d/.test(file)) return;
  expect(rulebook.rules.length).toBeGreaterThanOrEqual(20);
  expect(new Set(rulebook.rules.map(({ check }) => CHECKS.get(check)!.family)).size).toBeGreaterThanOrEqual(7);
});

test('every check is asked for by some rulebook, but the one for platforms with one timeline', () => {
  const asked = new Set(
    FILES.flatMap((file) => checkRulebook(JSON.parse(readFileSync(join(FOLDER, file), 'utf8'))).rules.map((rule) => rule.check)),
  );
  expect([...CHECKS.keys()].filter((id) => !asked.has(id)).sort()).toEqual(['clips.one-timeline']);
});
