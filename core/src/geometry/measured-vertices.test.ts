import { emptyKit, MemoryBlobs, newPart, type Kit } from '../document';
import { randomKit } from '../oracles/random-kits';
import { putSphere } from '../tests/helpers';
import { MeasuredVertices } from './measured-vertices';
import { flattenParts, Poser } from './pose';
import { posedVertices } from './vertices';

/** Every vertex of a kit in a pose. */
const all = (kit: Kit, blobs: MemoryBlobs, poser: Poser) =>
  Object.values(kit.parts).flatMap((part) => [...posedVertices(kit, blobs, part, (id) => poser.worldOf(id), poser.weightsOf(part.id))]);

function places(kit: Kit, blobs: MemoryBlobs, poser: Poser): Float64Array {
  const vertices = new MeasuredVertices(kit, blobs);
  const out = new Float64Array(3 * vertices.count);
  vertices.place(poser, out);
  return out;
}

test.each(Array.from({ length: 20 }, (_, i) => i))(
  'of a small kit every vertex is measured, and every pivot that means something (%i)',
  (seed) => {
    const { kit, blobs } = randomKit(seed);
    const poser = new Poser(flattenParts(kit));
    const measured = new Set([...places(kit, blobs, poser)].map((value) => value.toFixed(5)));
    for (const value of all(kit, blobs, poser)) expect(measured).toContain(value.toFixed(5));
    for (const { id, skin } of Object.values(kit.parts)) if (skin === null) expect(measured).toContain(poser.worldOf(id)[13].toFixed(5));
  },
);

test('of a large ball those that stand out furthest are measured: a turn’s furthest way is told to 2 %', () => {
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Ball');
  putSphere(kit, blobs, 'ball', 60);
  kit.parts.ball = newPart({ id: 'ball', name: 'ball', mesh: 'ball', scale: [0.3, 2, 0.5] });
  const vertices = new MeasuredVertices(kit, blobs);
  const poser = new Poser(flattenParts(kit));
  const [before, after] = [new Float64Array(3 * vertices.count), new Float64Array(3 * vertices.count)];
  expect(vertices.count).toBeLessThan(400);
  vertices.place(poser, before);
  const stood = all(kit, blobs, poser);
  for (const axis of [0, 1, 2]) {
    poser.reset();
    poser.pose.turn[axis] = 3;
    poser.update();
    vertices.place(poser, after);
    const moved = all(kit, blobs, poser);
    let most = 0;
    for (let i = 0; i < stood.length; i += 3)
      most = Math.max(most, Math.hypot(moved[i] - stood[i], moved[i + 1] - stood[i + 1], moved[i + 2] - stood[i + 2]));
    let told = 0;
    vertices.eachDifference(before, after, (_, __, way) => (told = Math.max(told, way)));
    expect(told).toBeGreaterThan(0.98 * most);
    expect(told).toBeLessThanOrEqual(most + 1e-9);
  }
});

test('what moves a vertex is told: the part itself, and the joints that hold it', () => {
  const made = Array.from({ length: 40 }, (_, seed) => randomKit(seed)).find(({ kit }) => kit.parts.hide)!;
  const { kit, blobs } = made;
  const vertices = new MeasuredVertices(kit, blobs);
  const poser = new Poser(flattenParts(kit));
  const [before, after] = [new Float64Array(3 * vertices.count), new Float64Array(3 * vertices.count)];
  vertices.place(poser, before);
  const [joint] = kit.skins.skin.joints;
  poser.pose.offset[3 * poser.flat.indexOf.get(joint)!] = 0.1;
  poser.update();
  vertices.place(poser, after);
  const movers = new Map<string, readonly string[]>();
  vertices.eachDifference(before, after, (part, list, way) => way > 0 && movers.set(part, list));
  expect(movers.get('hide')).toEqual([...kit.skins.skin.joints, 'hide']);
  expect(movers.get(joint)).toEqual([joint]);
});
