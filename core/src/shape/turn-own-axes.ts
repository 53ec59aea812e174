import {
  scaleTrack,
  childrenOf,
  KitError,
  moveWhatIsOn,
  partOf,
  putArray,
  readArray,
  type Axis,
  type Blobs,
  type Id,
  type Kit,
  type Quat,
  type TurnOrder,
  type Vec3,
} from '../document';
import {
  affineMatrix,
  conjugateQuat,
  mat3FromQuat,
  multiplyQuats,
  normalizeQuat,
  rotateVector,
  transformPartMesh,
  transposeMat3,
  type Mat3,
} from '../geometry';
import { motionOf } from './motion-of';
import { premultiplyBinds } from './move-pivot';
import { ShearError } from './shape-errors';

/** Axes can't be turned where that would change motion that can't be rewritten exactly. */
export class AxesMovedError extends KitError {
  constructor(name: string) {
    super(
      'axes-moved',
      `“${name}” turns or grows about its own axes in a clip or by a variable, and the new axes lie askew to the old ones, so its keys can't be written in them. Set its axes before its motion, or turn them by quarter turns.`,
      name,
    );
  }
}

/**
 * Turns a part's own axes; nothing that is drawn moves, at rest or at any time. Rest becomes R·q, geometry and children are turned back by
 * q, inverse binds likewise. Turns T of clips and bindings become q⁻¹·T·q: exactly for dense ones; for keys where q brings axes onto axes
 * (they change places, signs and order); otherwise it is an error.
 *
 * @throws {ShearError} where the part is scaled unevenly: children would be skewed
 * @throws {AxesMovedError}
 */
export function turnOwnAxes(kit: Kit, id: Id, q: Quat, blobs: Blobs): void {
  const part = partOf(kit, id);
  if (Math.abs(Math.abs(q[3]) - 1) < 1e-15) return;
  if (part.scale.some((value) => Math.abs(value - part.scale[0]) > 1e-12)) throw new ShearError([part.name], 'Turning its axes');
  turnMotion(kit, id, q, blobs);
  const back = conjugateQuat(q);
  part.rotation = normalizeQuat(multiplyQuats(part.rotation, q));
  for (const child of childrenOf(kit, id)) {
    child.translation = rotateVector(back, child.translation);
    child.rotation = normalizeQuat(multiplyQuats(back, child.rotation));
    turnOffsets(kit, child.id, back, blobs);
  }
  moveWhatIsOn(kit, id, (at) => rotateVector(back, at));
  const linear = mat3FromQuat(back);
  if (part.skin === null) transformPartMesh(kit, id, linear, [0, 0, 0], blobs);
  premultiplyBinds(kit, id, affineMatrix(linear), blobs);
}

/** Where a turn brings each axis, if it brings axes onto axes. */
function axesOnto(q: Quat): { to: Axis[]; sign: number[] } | null {
  const m = transposeMat3(mat3FromQuat(q));
  const to: Axis[] = [];
  const sign: number[] = [];
  for (let column = 0; column < 3; column++) {
    const own = [m[3 * column], m[3 * column + 1], m[3 * column + 2]];
    const row = own.findIndex((value) => Math.abs(Math.abs(value) - 1) < 1e-7);
    if (row < 0) return null;
    to.push(row as Axis);
    sign.push(Math.sign(own[row]));
  }
  return { to, sign };
}

function turnMotion(kit: Kit, id: Id, q: Quat, blobs: Blobs): void {
  const part = kit.parts[id];
  const motion = motionOf(kit, id);
  const onto = axesOnto(q);
  if ((motion.turnAxes.size > 0 || motion.sizes) && !onto) throw new AxesMovedError(part.name);
  const permute = (v: Vec3, signed: boolean): Vec3 => {
    const out: Vec3 = [0, 0, 0];
    v.forEach((value, axis) => (out[onto!.to[axis]] = (signed ? onto!.sign[axis] : 1) * value + 0));
    return out;
  };
  if (onto) part.turnOrder = [...part.turnOrder].map((letter) => 'xyz'[onto.to['xyz'.indexOf(letter)]]).join('') as TurnOrder;
  for (const clip of Object.values(kit.clips)) {
    for (const track of clip.tracks) {
      if (track.part !== id) continue;
      if (track.property === 'rotation') track.values = turnedRotations(track.values, q, blobs);
      else if (track.kind !== 'samples' && (track.property === 'turn' || track.property === 'size')) {
        if (track.property === 'turn' && onto!.sign[track.axis] < 0) Object.assign(track, scaleTrack(track, -1));
        track.axis = onto!.to[track.axis];
      } else if (track.kind === 'samples' && track.property === 'size')
        track.values = mapRows3(track.values, (row) => permute(row, false), blobs);
    }
  }
  for (const binding of Object.values(kit.bindings))
    if (binding.part === id && onto)
      for (const row of binding.rows) Object.assign(row, { turn: permute(row.turn, true), size: permute(row.size, false) });
}

function turnedRotations(values: Parameters<typeof readArray>[1], q: Quat, blobs: Blobs) {
  const out = readArray<Float32Array>(blobs, values).slice();
  const back = conjugateQuat(q);
  // Tangents of curves turn as the values do: q⁻¹·T·q is linear in T.
  for (let i = 0; i < out.length; i += 4) out.set(multiplyQuats(multiplyQuats(back, Array.from(out.subarray(i, i + 4)) as Quat), q), i);
  return putArray(blobs, out, values.size);
}

function mapRows3(values: Parameters<typeof readArray>[1], map: (row: Vec3) => Vec3, blobs: Blobs) {
  const out = readArray<Float32Array>(blobs, values).slice();
  for (let i = 0; i < out.length; i += 3) out.set(map([out[i], out[i + 1], out[i + 2]]), i);
  return putArray(blobs, out, values.size);
}

/** Offsets of a child are in its parent's axes: they turn along. @throws {AxesMovedError} where sparse keys would have to be mixed */
function turnOffsets(kit: Kit, id: Id, back: Quat, blobs: Blobs): void {
  const linear: Mat3 = mat3FromQuat(back);
  const onto = axesOnto(conjugateQuat(back));
  for (const clip of Object.values(kit.clips)) {
    for (const track of clip.tracks) {
      if (track.part !== id || track.property !== 'offset') continue;
      if (track.kind === 'samples') track.values = mapRows3(track.values, (row) => rotateVector(back, row), blobs);
      else {
        if (!onto) throw new AxesMovedError(kit.parts[id].name);
        if (onto.sign[track.axis] < 0) Object.assign(track, scaleTrack(track, -1));
        track.axis = onto.to[track.axis];
      }
    }
  }
  for (const binding of Object.values(kit.bindings)) {
    if (binding.part === id)
      for (const row of binding.rows)
        row.offset = [0, 1, 2].map(
          (r) => linear[r] * row.offset[0] + linear[r + 3] * row.offset[1] + linear[r + 6] * row.offset[2] + 0,
        ) as Vec3;
  }
}
