import { callOf, type Span } from '../document';
import { runCall } from '../operations';
import { setSwitch } from '../wiring';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import { chainKit, run } from '../tests/helpers';
import { runChecks } from './check-runner';
import { checkRulebook } from './schema';
import type { Variable } from './types';

const rulebook = checkRulebook(brinework);
const variable = rulebook.variables.find(({ indices, min }) => indices === 0 && min < 0) as Variable;
const { min, max } = variable;

function found(...switches: [part: string, variable: string, index: number | null, spans: Span[]][]) {
  const { kit, blobs } = chainKit([{ id: 'still' }, { id: 'blurred' }]);
  const made = run(
    kit,
    blobs,
    ...switches.map(([part, name, index, spans]) => callOf(setSwitch, { part, variable: name, index, spans, among: 'wheel' })),
  );
  const findings = () => runChecks({ kit: made, rulebook, blobs }).filter(({ rule }) => rule === 'switched-once');
  return { made, findings: findings(), blobs };
}

test('two that share the range out are owed nothing', () => {
  expect(
    found(['still', variable.name, null, [{ from: null, to: 0 }]], ['blurred', variable.name, null, [{ from: 0, to: null }]]).findings,
  ).toEqual([]);
});

test('gaps and overlaps are named with their values, and the mend closes them', () => {
  const { made, findings, blobs } = found(
    ['still', variable.name, null, [{ from: null, to: min / 2 }]],
    ['blurred', variable.name, null, [{ from: min / 4, to: null }]],
  );
  expect(findings).toHaveLength(1);
  expect(findings[0].title).toBe('Switched parts leave gaps or overlap');
  expect(findings[0].measured).toBe('1 gap');
  expect(findings[0].message).toContain('none of them is shown');
  const mended = runCall(made, findings[0].mend!.call, blobs).kit;
  expect(runChecks({ kit: mended, rulebook, blobs }).filter(({ rule }) => rule === 'switched-once')).toEqual([]);
  expect(mended.switches!.map(({ spans }) => spans)).toEqual([[{ from: null, to: min / 4 }], [{ from: min / 4, to: null }]]);
});

test('a switch of a variable or an index that is not there, and one that is never shown, are owed', () => {
  const said = (...one: Parameters<typeof found>[0]) => found(one).findings.map(({ title }) => title);
  expect(said('still', 'no_such_thing', null, [])).toEqual(['Switched by nothing']);
  expect(said('still', variable.name, 3, [])).toContain('Switched by an index that is not there');
  expect(said('still', variable.name, null, [{ from: max + 1, to: null }])).toContain('Never shown');
});
