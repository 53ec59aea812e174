import { emptyKit, MemoryBlobs, newPart, type Blobs, type Id, type Kit, type Quat, type Vec3 } from '../document';
import {
  conjugateQuat,
  decomposeMatrix,
  flattenParts,
  multiplyQuats,
  Poser,
  quatFromTurn,
  restWorlds,
  rotateVector,
  type Mat4,
} from '../geometry';
import { compileClip, sampleClip } from '../motion';

/** A body of given proportions, in metres; its own axes lie this way and that, as fitted skeletons' do. */
export function body(size = 1, turned = false): Kit {
  const kit = emptyKit('body');
  const add = (id: Id, parent: Id | null, at: Vec3) => {
    const above = parent === null ? [0, 0, 0] : places.get(parent)!;
    places.set(id, at);
    kit.parts[id] = newPart({
      id,
      name: id,
      role: 'joint',
      parent,
      order: Object.keys(kit.parts).length,
      translation: at.map((value, k) => (value - above[k]) * size) as Vec3,
    });
  };
  const places = new Map<Id, number[]>();
  add('ground', null, [0, 0, 0]);
  add('hips', 'ground', [0, 1, 0]);
  add('spine', 'hips', [0, 1.15, 0]);
  add('chest', 'spine', [0, 1.35, 0]);
  add('head', 'chest', [0, 1.65, 0]);
  for (const [side, s] of [
    ['l', 1],
    ['r', -1],
  ] as const) {
    add(`upper_arm_${side}`, 'chest', [0.2 * s, 1.5, 0]);
    add(`forearm_${side}`, `upper_arm_${side}`, [0.38 * s, 1.28, 0]);
    add(`hand_${side}`, `forearm_${side}`, [0.54 * s, 1.08, 0.03]);
    add(`thigh_${side}`, 'hips', [0.1 * s, 0.95, 0]);
    add(`shin_${side}`, `thigh_${side}`, [0.11 * s, 0.53, 0.02]);
    add(`foot_${side}`, `shin_${side}`, [0.12 * s, 0.1, 0]);
  }
  if (!turned) return kit;
  // Every joint's own axes another way, with its children where they were.
  for (const part of Object.values(kit.parts)) {
    const q = quatFromTurn([0, 30, 0], 'xyz');
    part.rotation = q;
    for (const child of Object.values(kit.parts))
      if (child.parent === part.id) child.translation = rotateVector(quatFromTurn([0, -30, 0], 'xyz'), child.translation);
  }
  // Their turns add up down the chain; that is what the test wants.
  return kit;
}

/** Where a part is at the times of a kit's clip “made”. */
export function placesOf(kit: Kit, part: Id, times: number[], blobs: Blobs = new MemoryBlobs()): Vec3[] {
  return worldsOf(kit, part, times, blobs).map((world) => [world[12], world[13], world[14]]);
}

/** How a part is turned away from rest then, in the world. */
export function turnsOf(kit: Kit, part: Id, times: number[], blobs: Blobs = new MemoryBlobs()): Quat[] {
  const rest = decomposeMatrix(restWorlds(kit).get(part)!).rotation;
  return worldsOf(kit, part, times, blobs).map((world) => multiplyQuats(decomposeMatrix(world).rotation, conjugateQuat(rest)));
}

function worldsOf(kit: Kit, part: Id, times: number[], blobs: Blobs): Mat4[] {
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip(kit.clips.made, poser.flat, blobs);
  return times.map((time) => {
    poser.reset();
    sampleClip(compiled, time, poser.pose);
    poser.update();
    return poser.worldOf(part).slice() as unknown as Mat4;
  });
}
