import brinework from '@itchkit/rulebooks/brinework';
import { callOf, checkKit, MemoryBlobs, partsInOrder, patchKit, type Id, type Kit } from '@itchkit/core/document';
import { flattenParts, Poser, posedVertices, restBounds } from '@itchkit/core/geometry';
import { compareVersion, giveParked, inSpaceOf, matchVersion, readFile, takeVersion } from '@itchkit/core/intake';
import { addBindingPose } from '@itchkit/core/wiring';
import { checkRulebook, runChecks } from '@itchkit/core/rulebook';
import { runCall } from '@itchkit/core/operations';
import { buildNextSluiceCraneGlb, type NextVersion } from './sluice-crane-next';
import { sluiceCraneFinished } from './sluice-crane-kits';

const blobs = new MemoryBlobs();
const rulebook = checkRulebook(brinework);
let finished: Kit;
let base: Kit;

beforeAll(async () => {
  finished = await sluiceCraneFinished(rulebook, blobs);
  const raw = await readFile(blobs.get(finished.source!.sha), finished.source!.fileName, blobs);
  base = inSpaceOf(finished, raw, blobs);
});

async function take(version: NextVersion) {
  const reading = await readFile(await buildNextSluiceCraneGlb({ detail: 36, ...version }), 'crane-2.glb', blobs);
  const next = inSpaceOf(finished, reading, blobs);
  const matches = matchVersion(finished, base, next, blobs);
  const rows = compareVersion(finished, base, next, matches, blobs);
  const applied = runCall(
    finished,
    callOf(takeVersion, { next, base, matches: Object.fromEntries(Object.entries(matches).map(([id, { part }]) => [id, part])) }),
    blobs,
  );
  return { next, matches, rows, kit: checkKit(applied.kit), applied };
}

const byName = (kit: Kit, name: string) => Object.values(kit.parts).find((part) => part.name === name)!;

/** Vertices of a part in the world, with every variable at a share of its range. */
function wired(kit: Kit, id: Id, share: number): Float64Array {
  const poser = new Poser(flattenParts(kit));
  for (const binding of Object.values(kit.bindings)) {
    const [low, high] = [Math.min(...binding.rows.map((row) => row.value)), Math.max(...binding.rows.map((row) => row.value))];
    addBindingPose(binding, low + share * (high - low), poser.flat.indexOf.get(binding.part)!, poser.pose);
  }
  poser.update();
  return posedVertices(kit, blobs, kit.parts[id], (other) => poser.worldOf(other), poser.weightsOf(id));
}

function restBoundsOf(kit: Kit, id: Id): number[] {
  const { min, max } = restBounds(kit, blobs, [id]);
  return [...min, ...max];
}

/** Bounds rounded to a tenth of a millimetre. */
function boundsOf(points: Float64Array): number[] {
  const out = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  points.forEach((value, i) => {
    out[i % 3] = Math.min(out[i % 3], value);
    out[3 + (i % 3)] = Math.max(out[3 + (i % 3)], value);
  });
  return out.map((value) => Math.round(value * 1e4) / 1e4 + 0);
}

test('one part renamed, one removed, one with another pivot: all the work on the kit stays, and nothing stands elsewhere', async () => {
  const { kit, rows, applied, matches } = await take({
    rename: { Boom: 'Jib' },
    remove: ['Ladder'],
    repivot: { 'Gate Leaf': [0, -60, 0] },
  });
  const row = (name: string) => rows.find((one) => one.name === name)!;
  expect(row('drv_boom')).toMatchObject({ nextName: 'Jib', reason: 'shape', renamed: true, bindings: 1, tracks: 1 });
  expect(row('ladder')).toMatchObject({ state: 'gone' });
  expect(row('drv_gate_leaf')).toMatchObject({ state: 'changed', reason: 'path' });
  expect(row('drv_gate_leaf').pivotMoved).toBeCloseTo(0.6, 5);
  expect(rows.filter((one) => one.state === 'new')).toEqual([]);
  // What hangs below the renamed boom has another path, and is found by name.
  expect(Object.values(matches).filter((match) => match.reason === 'name').length).toBeGreaterThan(3);

  expect(Object.keys(kit.bindings).sort()).toEqual(Object.keys(finished.bindings).sort());
  expect(kit.clips).toEqual(finished.clips);
  expect(kit.parked).toBeUndefined();
  expect(byName(kit, 'ladder')).toBeUndefined();
  const left = Object.values(finished.parts).filter((part) => part.name !== 'ladder');
  for (const part of left) {
    const now = kit.parts[part.id];
    expect([now.name, now.role, now.parent, now.translation, now.rotation]).toEqual([
      part.name,
      part.role,
      part.parent,
      part.translation,
      part.rotation,
    ]);
    for (const share of [0, 0.4, 1])
      expect([part.name, ...boundsOf(wired(kit, part.id, share))]).toEqual([part.name, ...boundsOf(wired(finished, part.id, share))]);
  }
  expect(patchKit(applied.kit, applied.inverse)).toEqual(finished);
  expect(kit.source!.fileName).toBe('crane-2.glb');
  // Meshes that the file has as before keep what was mended on them, so nothing is owed again.
  expect(runChecks({ kit, rulebook, blobs })).toEqual([]);
  for (const part of left)
    expect(kit.parts[part.id].mesh && kit.meshes[kit.parts[part.id].mesh!]).toEqual(part.mesh && finished.meshes[part.mesh]);
});

test('a part that stands elsewhere in the new file goes there with what was mended on it', async () => {
  const { kit } = await take({ shift: { Counterweight: [10, 0, -20] } });
  const id = byName(finished, 'counterweight').id;
  // Centimetres of the file along x and z are metres of the kit.
  const way = [0.1, 0, -0.2];
  const [rest, now] = [restBoundsOf(finished, id), restBoundsOf(kit, id)];
  rest.forEach((value, i) => expect(now[i] - value).toBeCloseTo(way[i % 3], 4));
  expect(kit.meshes[kit.parts[id].mesh!].primitives[0].indices).toEqual(finished.meshes[finished.parts[id].mesh!].primitives[0].indices);
});

test('a bound part that is gone leaves its track and binding parked; they can be given to another part and undone', async () => {
  const { kit } = await take({ remove: ['Pump Wheel'] });
  expect(kit.parked!.map((one) => [one.kind, one.partName]).sort()).toEqual([
    ['binding', 'drv_pump_wheel'],
    ['switch', 'drv_pump_wheel'],
    ['track', 'drv_pump_wheel'],
  ]);
  expect(Object.keys(kit.bindings)).toHaveLength(Object.keys(finished.bindings).length - 1);
  const axle = byName(kit, 'pump_axle').id;
  const given = runCall(kit, callOf(giveParked, { parked: kit.parked!.map((one) => one.id), part: axle }), blobs);
  checkKit(given.kit);
  expect(given.kit.parked).toBeUndefined();
  expect(Object.values(given.kit.bindings).filter((binding) => binding.part === axle)).toHaveLength(1);
  expect(Object.values(given.kit.clips).flatMap((clip) => clip.tracks.filter((track) => track.part === axle))).toHaveLength(1);
  expect(patchKit(given.kit, given.inverse)).toEqual(kit);
});

test('finer meshes come in where the coarse ones stood', async () => {
  const { kit, rows } = await take({ detail: 64 });
  const boom = byName(finished, 'drv_boom').id;
  expect(rows.find((one) => one.part === boom)!.triangles[1]).toBeGreaterThan(rows.find((one) => one.part === boom)!.triangles[0]!);
  expect(partsInOrder(kit).map((part) => part.name)).toEqual(partsInOrder(finished).map((part) => part.name));
  const [a, b] = [boundsOf(wired(kit, boom, 0.5)), boundsOf(wired(finished, boom, 0.5))];
  a.forEach((value, i) => expect(Math.abs(value - b[i])).toBeLessThan(0.01));
});

test('a match to a part that is gone, or two to one part, is refused', async () => {
  const { next } = await take({});
  const [one, two] = Object.keys(next.parts);
  const part = byName(finished, 'lamp').id;
  expect(() => runCall(finished, callOf(takeVersion, { next, base, matches: { [one]: 'nowhere' } }), blobs)).toThrow('not there any more');
  expect(() => runCall(finished, callOf(takeVersion, { next, base, matches: { [one]: part, [two]: part } }), blobs)).toThrow(
    'Match each part once',
  );
});
