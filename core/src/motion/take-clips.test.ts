import { strToU8 } from 'fflate';
import { checkKit, MemoryBlobs, callOf, type Kit, type Vec3 } from '../document';
import { composeMatrix, flattenParts, Poser, quatFromTurn } from '../geometry';
import { readFile } from '../intake';
import { runCall } from '../operations';
import { plainPose } from '../oracles/plain-poser';
import { tailGlb, WALKER_BVH } from '../tests/fixtures';
import { chainKit, withMotion } from '../tests/helpers';
import { matchByNames } from './match-names';
import { plainName } from './plain-name';
import { compileClip, sampleClip } from './sampler';
import { takeClips } from './take-clips';

const blobs = new MemoryBlobs();
const walker = (text = WALKER_BVH) => readFile(strToU8(text), 'walker.bvh', blobs);

/** World place of every named part at a time of the last clip. */
function places(kit: Kit, time: number): Record<string, number[]> {
  const poser = new Poser(flattenParts(kit));
  const clip = Object.values(kit.clips).sort((a, b) => b.order - a.order)[0];
  sampleClip(compileClip(clip, poser.flat, blobs), time, poser.pose);
  poser.update();
  return Object.fromEntries(
    poser.flat.ids.map((id) => [
      kit.parts[id].name,
      [...poser.worldOf(id).slice(12, 15)].map((value) => Math.round(value * 100) / 100 + 0),
    ]),
  );
}

function take(kit: Kit, source: Kit): Kit {
  return checkKit(
    runCall(kit, callOf(takeClips, { source, clips: Object.keys(source.clips), pairs: matchByNames(source, kit), scale: 1 }), blobs).kit,
  );
}

const TIMES = [0, 1 / 30, 0.05, 0.0999];

test('onto the same skeleton tracks come over as they are', async () => {
  const source = await walker();
  const target = { ...(await walker()), clips: {} };
  const kit = take(target, source);
  for (const time of TIMES) expect(places(kit, time)).toEqual(places(source, time));
  const [clip] = Object.values(kit.clips);
  expect(clip.tracks).toHaveLength(Object.values(source.clips)[0].tracks.length);
});

test('onto a skeleton whose joints are turned at rest the limbs still point where they did', async () => {
  const source = await walker();
  const target = { ...(await walker()), clips: {} };
  // The same points in space, with every joint's axes turned about.
  const turned = JSON.parse(JSON.stringify(target)) as Kit;
  const poser = new Poser(flattenParts(target));
  const turns: Record<string, Vec3> = { Hip: [0, 90, 0], Chest: [40, 10, -70] };
  const turnOf = (name: string) => quatFromTurn(turns[name] ?? [90, 0, 20], 'xyz');
  for (const part of Object.values(turned.parts)) {
    const parent = part.parent === null ? null : turned.parts[part.parent];
    const above = parent ? composeMatrix([0, 0, 0], turnOf(parent.name), [1, 1, 1]) : null;
    const world = poser.worldOf(part.id);
    const parentPlace = parent ? poser.worldOf(parent.id).slice(12, 15) : [0, 0, 0];
    const way = [12, 13, 14].map((i) => world[i] - parentPlace[i - 12]);
    part.translation = (
      above ? [0, 1, 2].map((column) => above[4 * column] * way[0] + above[4 * column + 1] * way[1] + above[4 * column + 2] * way[2]) : way
    ) as [number, number, number];
    const own = turnOf(part.name);
    const up = parent ? turnOf(parent.name) : [0, 0, 0, 1];
    const [x, y, z, w] = [-up[0], -up[1], -up[2], up[3]];
    part.rotation = [
      w * own[0] + x * own[3] + y * own[2] - z * own[1],
      w * own[1] - x * own[2] + y * own[3] + z * own[0],
      w * own[2] + x * own[1] - y * own[0] + z * own[3],
      w * own[3] - x * own[0] - y * own[1] - z * own[2],
    ];
  }
  const kit = take(checkKit(turned), source);
  for (const time of [0, 1 / 30, 2 / 30, 0.0999]) {
    const [a, b] = [places(kit, time), places(source, time)];
    for (const name of Object.keys(b)) a[name].forEach((value, axis) => expect(Math.abs(value - b[name][axis])).toBeLessThan(0.05));
  }
});

test('names are matched without namespaces, separators and kinds, with their sides', async () => {
  expect(plainName('rig:Upper_Arm.L')).toBe(plainName('leftUpperArm'));
  expect(plainName('jnt_wing_r')).toBe(plainName('Wing Right'));
  expect(plainName('arm_l')).not.toBe(plainName('arm_r'));
  expect(plainName('leg')).toBe('leg');
  const source = await walker(WALKER_BVH.replace('JOINT Left Knee', 'JOINT walker:knee_L'));
  const pairs = matchByNames(source, await walker());
  expect(Object.values(pairs).every((part) => part !== null)).toBe(true);
});

test('motion without a part, clips of a name that is taken, morphs of another number', async () => {
  const tail = await readFile(await tailGlb(), 'tail.glb', blobs);
  const again = take(tail, tail);
  expect(Object.values(again.clips).map((clip) => clip.name)).toEqual(['wag', 'hop', 'wag 2', 'hop 2']);
  const without = {
    ...tail,
    meshes: Object.fromEntries(
      Object.entries(tail.meshes).map(([id, mesh]) => [
        id,
        { ...mesh, targets: undefined, primitives: mesh.primitives.map(({ targets: _, ...rest }) => rest) },
      ]),
    ),
    clips: {},
  };
  const plain = take(JSON.parse(JSON.stringify(without)) as Kit, tail);
  expect(
    Object.values(plain.clips)
      .flatMap((clip) => clip.tracks.map((track) => track.property))
      .sort(),
  ).toEqual(['offset', 'offset', 'rotation']);
  const walked = take({ ...tail }, await walker());
  expect(Object.values(walked.clips).at(-1)!.tracks).toEqual([]);
});

/** A source of which the topmost part has no partner here, and a body without it. */
function carried(scale = 1): { source: Kit; target: Kit } {
  const made = chainKit(
    [
      { id: 'cart', scale: [scale, scale, scale], rotation: quatFromTurn([0, 30, 0], 'xyz') },
      { id: 'mast', translation: [0, 1 / scale, 0] },
      { id: 'sail', translation: [0.5 / scale, 0, 0] },
    ],
    blobs,
  );
  let source = made.kit;
  for (const [part, property, axis, values] of [
    ['cart', 'offset', 2, [0, 2, 5]],
    ['cart', 'turn', 1, [0, 40, -20]],
    ['mast', 'offset', 1, [0, 0.3 / scale, 0]],
    ['sail', 'turn', 2, [0, 25, 70]],
  ] as const)
    source = withMotion(source, blobs, part, property, axis, [...values], 'straight');
  const { kit } = chainKit(
    [
      { id: 'm', name: 'mast', translation: [0, 1, 0] },
      { id: 's', name: 'sail', translation: [0.5, 0, 0] },
    ],
    blobs,
  );
  // As the cart stands at rest, so that both stand alike.
  kit.parts.m.rotation = quatFromTurn([0, 30, 0], 'xyz');
  return { source, target: kit };
}

test.each([1, 0.01, 100])('the motion of a part without a partner is folded into what hangs below it (unit above: %s)', (scale) => {
  const { source, target } = carried(scale);
  const after = take(target, source);
  const clip = Object.values(after.clips)[0];
  for (const time of [0, 1 / 3, 1, 1.5, 59 / 30]) {
    const theirs = plainPose(source, blobs, source.clips.clip, time).worlds;
    const ours = plainPose(after, blobs, clip, time).worlds;
    for (const [id, other] of [
      ['m', 'mast'],
      ['s', 'sail'],
    ]) {
      const [a, b] = [ours.get(id)!.elements, theirs.get(other)!.elements];
      for (const at of [12, 13, 14]) expect(a[at]).toBeCloseTo(b[at], 3);
      const length = Math.hypot(b[0], b[1], b[2]);
      for (const at of [0, 1, 2, 4, 5, 6]) expect(a[at]).toBeCloseTo(b[at] / length, 3);
    }
  }
});

test('what stands alike below a parent that goes along comes over with its own keys; what does not is dense', () => {
  const { source } = carried();
  const kit = take({ ...structuredClone(source), clips: {} }, source);
  const [clip] = Object.values(kit.clips);
  expect(new Set(clip.tracks.map(({ kind }) => kind))).toEqual(new Set(['keys']));
  const turned = structuredClone(source);
  turned.clips = {};
  turned.parts.mast.rotation = quatFromTurn([0, 45, 0], 'xyz');
  const [dense] = Object.values(take(turned, source).clips);
  const kinds = new Map(dense.tracks.map((track) => [track.part, track.kind]));
  expect(kinds.get('cart')).toBe('keys');
  expect([kinds.get('mast'), kinds.get('sail')]).toEqual(['samples', 'samples']);
});

test('a step stays one where tracks go through the world', () => {
  const { source, target } = carried();
  const held = structuredClone(source);
  for (const track of held.clips.clip.tracks) if (track.kind === 'keys') track.keys = track.keys.map((key) => ({ ...key, easing: 'hold' }));
  const after = take(target, held);
  const [clip] = Object.values(after.clips);
  for (const time of [0.2, 0.9985, 1.0005, 1.7]) {
    const [a, b] = [
      plainPose(after, blobs, clip, time).worlds.get('s')!,
      plainPose(held, blobs, held.clips.clip, time).worlds.get('sail')!,
    ];
    for (const at of [12, 13, 14]) expect(a.elements[at]).toBeCloseTo(b.elements[at], 4);
  }
});
