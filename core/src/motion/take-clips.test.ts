import { strToU8 } from 'fflate';
import { checkKit, MemoryBlobs, callOf, type Kit, type Vec3 } from '../document';
import { composeMatrix, flattenParts, Poser, quatFromTurn } from '../geometry';
import { readFile } from '../intake';
import { runCall } from '../operations';
import { tailGlb, WALKER_BVH } from '../tests/fixtures';
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
