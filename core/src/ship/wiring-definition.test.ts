import brinework from '../../../rulebooks/brinework.rulebook.json';
import { callOf, MemoryBlobs, type Kit } from '../document';
import { poseKit, REST, trialFor } from '../trial';
import { flattenParts, Poser } from '../geometry';
import { checkRulebook, runChecks } from '../rulebook';
import { chainKit, run } from '../tests/helpers';
import { addBinding, setDerived, setSwitch } from '../wiring';
import { packKit } from './pack-kit';
import { readPackage } from './read-package';
import { wiringDefinition } from './wiring-definition';
import { unzipSync, strFromU8 } from 'fflate';

const rulebook = checkRulebook(brinework);
const wheel = rulebook.variables.find(({ indices, min, max }) => indices > 0 && min <= 0 && max > 0)!;
const edge = wheel.max / 2;

function kitOf(): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = chainKit([{ id: 'base' }, { id: 'still', parent: 'base' }, { id: 'blurred', parent: 'base' }]);
  const rows = [0, wheel.max].map((value) => ({
    value,
    offset: [0, 0, 0.1 * value] as const,
    turn: [0, 0, value] as const,
    size: [1, 1, 1] as const,
  }));
  const show = (part: string, from: number | null, to: number | null) =>
    callOf(setSwitch, { part, variable: wheel.name, index: 1, spans: [{ from, to }], among: 'wheel, “spun”' });
  return {
    kit: run(
      kit,
      blobs,
      callOf(addBinding, { part: 'base', variable: wheel.name, index: 1, outside: 'clamp', rows: structuredClone(rows) as never }),
      show('still', null, edge),
      show('blurred', edge, null),
    ),
    blobs: blobs as MemoryBlobs,
  };
}

test('the definition is what the package holds, to the letter, and each line speaks of its part', async () => {
  const { kit, blobs } = kitOf();
  const files = wiringDefinition(kit, rulebook);
  const written = unzipSync((await packKit(kit, rulebook, blobs, [])).bytes);
  expect(files.map(({ path }) => path)).toEqual(['wiring.csv', 'shown.csv']);
  for (const { path, text, parts } of files) {
    const name = Object.keys(written).find((one) => one.endsWith(`/${path}`))!;
    expect(text).toBe(strFromU8(written[name]));
    const lines = text.trimEnd().split('\r\n');
    expect(parts).toHaveLength(lines.length);
    lines.forEach((line, i) => parts[i] !== null && expect(line).toContain(kit.parts[parts[i]].name));
  }
  expect(new Set(files[1].parts)).toEqual(new Set([null, 'still', 'blurred']));
});

test('what is shown at which values is the same on the bench and from the package’s bytes alone', async () => {
  const { kit, blobs } = kitOf();
  const there = new MemoryBlobs();
  const loaded = await readPackage((await packKit(kit, rulebook, blobs, [])).bytes, there);
  const [lever] = trialFor(rulebook)!.levers(loaded, rulebook);
  expect(lever.switches.map(({ part }) => loaded.kit.parts[part].name).sort()).toEqual(['blurred', 'still']);
  const log = trialFor(rulebook)!.importLog(loaded, rulebook);
  expect(log.map(({ text }) => text)).toContain(`“still” is shown by ${lever.key}, 1 span`);
  const sizes = (of: Kit, own: MemoryBlobs, value: number) => {
    const poser = new Poser(flattenParts(of));
    poseKit(poser, of, own, { ...REST, levers: { [lever.key]: value } }, rulebook.variables);
    return Object.fromEntries(poser.flat.ids.map((id) => [of.parts[id].name, poser.worldOf(id)[0] !== 0]));
  };
  for (const value of [wheel.min, edge - 1e-9, edge, wheel.max]) {
    expect(sizes(loaded.kit, there, value)).toEqual(sizes(kit, blobs, value));
    expect(sizes(kit, blobs, value)).toEqual({ base: true, still: value < edge, blurred: value >= edge });
  }
});

test('a variable of the kit’s own is worked out by the trial as on the bench; what follows it follows the platform’s variables', async () => {
  const { kit: plain, blobs } = kitOf();
  const key = `${wheel.name}[1]`;
  const kit = run(
    plain,
    blobs,
    callOf(setDerived, { name: 'doubled', expression: `wrap(2 * ${key}, 0, 360)`, unit: 'deg', min: 0, max: 360, neutral: 0 }),
    callOf(addBinding, {
      part: 'still',
      variable: 'doubled',
      index: null,
      outside: 'wrap',
      rows: [0, 360].map((value) => ({ value, offset: [0, 0, 0], turn: [0, 0, value], size: [1, 1, 1] })) as never,
    }),
  );
  expect(runChecks({ kit, rulebook, blobs }).filter(({ rule }) => ['own-variables', 'variables'].includes(rule))).toEqual([]);
  const there = new MemoryBlobs();
  const loaded = await readPackage((await packKit(kit, rulebook, blobs, [])).bytes, there);
  const levers = trialFor(rulebook)!.levers(loaded, rulebook);
  expect(levers.map((lever) => lever.key)).toEqual([key]);
  expect(levers[0].bindings).toHaveLength(2);
  /** How far a part is turned, whatever the axes: the trace of its world matrix. */
  const turnOf = (of: Kit, own: MemoryBlobs, value: number) => {
    const poser = new Poser(flattenParts(of));
    poseKit(poser, of, own, { ...REST, levers: { [key]: value } }, rulebook.variables);
    const world = poser.worldOf(Object.values(of.parts).find(({ name }) => name === 'still')!.id);
    return world[0] + world[5] + world[10];
  };
  for (const value of [0, edge / 3, edge / 1.01, wheel.min])
    expect(turnOf(loaded.kit, there, value)).toBeCloseTo(turnOf(kit, blobs, value), 5);
  // Its own turn and that of what carries it: thrice the way.
  const third = (3 * edge) / 3;
  expect(turnOf(kit, blobs, edge / 3)).toBeCloseTo(1 + 2 * Math.cos((third * Math.PI) / 180), 5);
});
