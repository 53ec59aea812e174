import type { Id, Kit, Quat } from '../document';
import { flattenParts, Poser, slerpQuats, worldsFromLocals } from '../geometry';
import { hermite, seek, type PoseAt } from '../motion';

/** Numbers of one part by key, side by side. */
export interface BakedValues {
  translation: Float64Array;
  rotation: Float64Array;
  scale: Float64Array;
  /** Morph weights, as many a key as the part's mesh has targets. */
  weights: Float64Array;
}

/** Keys of one part: local placements at strictly ascending times, with straight ways or curves between them. */
export interface BakedKeys extends BakedValues {
  part: Id;
  times: number[];
  /** Tangents into each key and out of it, a second, of glTF's CUBICSPLINE; none where keys are straight. */
  curves?: { into: BakedValues; out: BakedValues };
  moves: { [property in keyof BakedValues]: boolean };
}

/** Something of each property. */
export const perProperty = <T>(of: (property: keyof BakedValues) => T): { [property in keyof BakedValues]: T } => ({
  translation: of('translation'),
  rotation: of('rotation'),
  scale: of('scale'),
  weights: of('weights'),
});

/** How many numbers a key has of a property. */
export const widthOf = (baked: BakedKeys, property: keyof BakedValues): number => baked[property].length / baked.times.length;

/** What becomes of a key's numbers. */
export type RowChange = (row: number[]) => readonly number[];

/**
 * A property's numbers as glTF lays them: key by key, and of each key of a curve its tangent in, its value and its tangent out (glTF 2.0,
 * 3.11).
 *
 * @param value What becomes of a value. @param difference What becomes of a tangent.
 */
export function laidOut(
  baked: BakedKeys,
  property: keyof BakedValues,
  value: RowChange = (row) => row,
  difference: RowChange = (row) => row,
): Float64Array {
  const width = widthOf(baked, property);
  const { curves } = baked;
  const row = (from: BakedValues, key: number) => [...from[property].subarray(width * key, width * (key + 1))];
  const rows = baked.times.flatMap((_, key) => {
    const own = value(row(baked, key));
    return curves ? [difference(row(curves.into, key)), own, difference(row(curves.out, key))] : [own];
  });
  return Float64Array.from(rows.flat());
}

/** The pose of baked keys on a kit, as glTF plays them: lines between numbers, the shortest arc between turns, or their cubics. */
export function poseOfBaked(kit: Kit, baked: ReadonlyMap<Id, BakedKeys>): PoseAt {
  const poser = new Poser(flattenParts(kit));
  const { flat, translation, rotation, scale, world, pose } = poser;
  const movers = [...baked.values()].map((keys) => ({ keys, index: flat.indexOf.get(keys.part)!, cursor: 0 }));
  return (time) => {
    for (const one of movers) {
      const { keys, index } = one;
      const i = (one.cursor = seek(keys.times, one.cursor, time));
      mix(keys, 'translation', i, time, translation, 3 * index);
      mix(keys, 'scale', i, time, scale, 3 * index);
      mix(keys, 'weights', i, time, pose.weights, flat.weightsAt[index]);
      turn(keys, i, time, rotation, 4 * index);
    }
    worldsFromLocals(flat, translation, rotation, scale, world);
    return poser;
  };
}

/** How far a time is from a key to the next, 0 to 1; 0 where there is none. */
const shareAt = ({ times }: BakedKeys, i: number, time: number): number =>
  i + 1 < times.length && time > times[i] ? (time - times[i]) / (times[i + 1] - times[i]) : 0;

function mix(keys: BakedKeys, property: keyof BakedValues, i: number, time: number, to: Float64Array, at: number): void {
  const width = widthOf(keys, property);
  const from = keys[property];
  const { times, curves } = keys;
  const u = shareAt(keys, i, time);
  for (let c = 0; c < width; c++) {
    const [here, there] = [width * i + c, width * (i + 1) + c];
    if (u === 0) to[at + c] = from[here];
    else if (!curves) to[at + c] = from[here] + (from[there] - from[here]) * u;
    else
      to[at + c] = hermite(u, from[here], curves.out[property][here], from[there], curves.into[property][there], times[i + 1] - times[i]);
  }
}

function turn(keys: BakedKeys, i: number, time: number, to: Float64Array, at: number): void {
  const u = shareAt(keys, i, time);
  const key = (k: number) => [...keys.rotation.subarray(4 * k, 4 * k + 4)] as Quat;
  if (u === 0) to.set(key(i), at);
  else if (!keys.curves) to.set(slerpQuats(key(i), key(i + 1), u), at);
  else {
    mix(keys, 'rotation', i, time, to, at);
    const length = Math.hypot(to[at], to[at + 1], to[at + 2], to[at + 3]) || 1;
    for (let c = at; c < at + 4; c++) to[c] /= length;
  }
}
