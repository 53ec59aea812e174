import lanternlot from '@itchkit/rulebooks/lanternlot';
import plotwick from '@itchkit/rulebooks/plotwick';
import { callOf, checkKit, MemoryBlobs, type Blobs, type Kit, type Vec3 } from '@itchkit/core/document';
import { kitBounds, kitCounts, restWorlds, sizeOf, transformPoint } from '@itchkit/core/geometry';
import {
  addCallout,
  alignParts,
  assignMaterial,
  flipFaces,
  loadSimplifier,
  readInPart,
  renameParts,
  setHingeAxis,
  splitLoose,
} from '@itchkit/core/shape';
import { checkRulebook, runChecks, type Rulebook } from '@itchkit/core/rulebook';
import { foghornCabinet, hillTramHalt, LID_HINGE, shapeHalt } from '.';
import { Hands } from './hands';

beforeAll(loadSimplifier);
const rulebook = checkRulebook(plotwick);
const inShape = (kit: Kit, blobs: Blobs, book: Rulebook) =>
  runChecks({ kit, rulebook: book, blobs }).filter((finding) => finding.stage === 'shape');

test('the raw halt has faults of its own, on six by four metres', async () => {
  const blobs = new MemoryBlobs();
  const kit = checkKit(await hillTramHalt(rulebook, blobs));
  expect(Object.keys(kit.parts)).toHaveLength(5);
  const { min, max } = kitBounds(kit, blobs);
  expect([min[0], max[0], min[2]].map((value) => Number(value.toFixed(3)))).toEqual([-3, 3, -2]);
  expect([...new Set(inShape(kit, blobs, rulebook).map((finding) => finding.rule))].sort().join(' ')).toBe(
    'flat inside-out names noise one-root paint plot-there scale unused',
  );
});

test('the tools of Shape finish the halt: eight seats, six lamps, three steps, and nothing owed in Shape', async () => {
  const blobs = new MemoryBlobs();
  const hands = new Hands(await hillTramHalt(rulebook, blobs), blobs);
  shapeHalt(hands, rulebook, blobs);
  const seats = () => Object.values(hands.kit.parts).filter((part) => part.name.startsWith('seat'));
  // Four beside one another, each with one behind it.
  const row = seats().map((part) => restWorlds(hands.kit).get(part.id)![12].toFixed(3));
  expect([...new Set(row)].map((x) => row.filter((one) => one === x).length)).toEqual([2, 2, 2, 2]);
  const kit = checkKit(hands.kit);
  expect(inShape(kit, blobs, rulebook).map((finding) => finding.message)).toEqual([]);
  expect(seats()).toHaveLength(8);
  expect(Object.values(kit.parts).filter((part) => part.name.startsWith('lamp'))).toHaveLength(6);
  expect(Object.values(kit.parts).filter((part) => part.name.startsWith('step'))).toHaveLength(3);
  const { min, max } = kitBounds(kit, blobs);
  expect(Math.max(max[0], -min[0])).toBeLessThanOrEqual(3.0001);
  expect(Math.max(max[2], -min[2])).toBeLessThanOrEqual(2.0001);
  for (const part of Object.values(kit.parts)) expect(part.scale).toEqual([1, 1, 1]);
});

test('the cabinet falls into its pieces, and its lid hangs on a hinge typed in the frame’s axes', async () => {
  const blobs = new MemoryBlobs();
  const hands = new Hands(checkKit(await foghornCabinet(checkRulebook(lanternlot), blobs)), blobs);
  expect(sizeOf(kitBounds(hands.kit, blobs))[1]).toBeCloseTo(1.04, 2);
  hands.do(callOf(flipFaces, { parts: [hands.part('Horn')] }));
  hands.do(callOf(splitLoose, { part: hands.part('Cabinet'), place: 'below', pivot: 'middle' }));
  const pieces = Object.values(hands.kit.parts).filter((part) => part.parent === hands.part('Cabinet'));
  expect(pieces.length).toBeGreaterThanOrEqual(3);
  const lid = pieces.find((part) => Math.abs(part.translation[1] - 0.9) < 0.02)!;
  hands.do(callOf(renameParts, { names: { [lid.id]: 'lid', [hands.part('Cabinet')]: 'frame' } }));
  // The frame's z is up: local (x, y, z) is (x, z, −y) of the cabinet.
  const [x, y, z] = LID_HINGE;
  const frame = restWorlds(hands.kit).get(hands.part('frame'))!;
  const [from, to] = [0, 1].map((along) => transformPoint(frame, [x - along * 2 * x, z, -y]) as Vec3);
  hands.do(callOf(setHingeAxis, { part: lid.id, axis: 0, from, to }));
  const read = readInPart(hands.kit, lid.id, from, [to[0] - from[0], 0, 0]);
  read.point.forEach((value) => expect(Math.abs(value)).toBeLessThan(1e-6));
  expect(Math.abs(read.direction[0])).toBeCloseTo(2 * x, 6);
  const callout = {
    id: 'reach',
    kind: 'distance' as const,
    points: [lid.id, hands.part('frame')].map((part) => ({ part, at: [0, 0, 0] as Vec3 })),
  };
  hands.do(callOf(addCallout, callout));
  hands.do(callOf(alignParts, { parts: [hands.part('frame')], axis: 1, side: 'low', at: 0 }));
  hands.do(
    callOf(assignMaterial, {
      parts: [hands.part('Handle')],
      material: Object.values(hands.kit.materials).find(({ name }) => name === 'brass')!.id,
    }),
  );
  expect(kitCounts(checkKit(hands.kit)).triangles).toBeGreaterThan(1000);
});
