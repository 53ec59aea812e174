import brinework from '../../../rulebooks/brinework.rulebook.json';
import { callOf, type Kit, type MemoryBlobs } from '../document';
import { runCall } from '../operations';
import { chainKit, run } from '../tests/helpers';
import { setDerived } from '../wiring';
import { CheckRunner, runChecks } from './check-runner';
import { checkRulebook } from './schema';

const rulebook = checkRulebook(brinework);
const { name, min, max } = rulebook.variables.find(({ indices }) => indices === 0)!;
const told = { name: 'own', unit: 'deg', min: 2 * min, max: 2 * max, neutral: 2 * min };

function made(expression: string, change: Partial<typeof told> = {}): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit([{ id: 'a' }]);
  return { kit: run(kit, blobs, callOf(setDerived, { id: 'own', expression, ...told, ...change })), blobs: blobs as MemoryBlobs };
}
const owed = ({ kit, blobs }: { kit: Kit; blobs: MemoryBlobs }) =>
  runChecks({ kit, rulebook, blobs }).filter(({ rule }) => rule === 'own-variables');

test('one that stays in its range is owed nothing', () => {
  expect(owed(made(`2 * ${name}`))).toEqual([]);
});

test('one that leaves its range says how far, and the mend widens it', () => {
  const start = made(`3 * ${name}`);
  const [finding] = owed(start);
  expect(finding.title).toBe('A variable leaves its range');
  expect(owed({ ...start, kit: runCall(start.kit, finding.mend!.call, start.blobs).kit })).toEqual([]);
});

test.each([
  ['2 * no_such', 'There is no “no_such”'],
  ['4', 'it looks at no variable of the platform'],
])('%s can’t be worked out, and why is said', (expression, why) => {
  const [finding] = owed(made(expression));
  expect([finding.title, finding.message.includes(why)]).toEqual(['A variable can’t be worked out', true]);
});

test('one with the name of the platform’s is a stop', () => {
  expect(owed(made('2', { name }))[0].message).toContain('the platform has a variable of that name itself');
});

test('it is asked again as soon as it changes, and not where something else did', () => {
  const { kit, blobs } = made(`2 * ${name}`);
  const runner = new CheckRunner(rulebook, blobs);
  const rules = () => runner.run(kit).filter(({ rule }) => rule === 'own-variables');
  expect(rules()).toEqual([]);
  const changed = runCall(kit, callOf(setDerived, { ...kit.derived![0], expression: '2 * gone' }), blobs).kit;
  expect(runner.run(changed).filter(({ rule }) => rule === 'own-variables')).toHaveLength(1);
  expect(runner.run(kit).filter(({ rule }) => rule === 'own-variables')).toEqual([]);
});
