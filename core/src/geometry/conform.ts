import {
  moveWhatIsOn,
  scaleTrack,
  putArray,
  readArray,
  type Blobs,
  type Kit,
  type SampleTrack,
  type Track,
  type TurnOrder,
  type Vec3,
} from '../document';
import { applyMat3, determinantMat3, type Mat3 } from './linear';
import { axisMap, conformQuat, isIdentityChange, type Change } from './space';
import { transformMesh } from './transform-mesh';

/**
 * Puts a whole kit into other numbers: unit, up and forward axis, handedness. No scaled and no rotated root is left behind.
 *
 * With C the signed permutation and s the unit factor: T' = s·C·T, R' = C·R·Cᵀ, S' = |C|·S, vertices s·C·v, normals C·n,
 * inverse binds (s·C)·B·(s·C)⁻¹, tracks and binding rows likewise. Turns keep their angles; the order in which they are
 * multiplied goes along with the axes, so that several turns at once stay exact. Writes to the draft.
 */
export function conformKit(kit: Kit, change: Change, blobs: Blobs): void {
  if (isIdentityChange(change)) return;
  const { basis, scale } = change;
  const linear = basis.map((value) => value * scale) as Mat3;
  const { to, sign } = axisMap(basis);
  const det = Math.sign(determinantMat3(basis));
  const place = (v: Vec3): Vec3 => applyMat3(linear, v).map((value) => value + 0) as Vec3;
  const permute = (v: ArrayLike<number>): Vec3 => {
    const out: Vec3 = [0, 0, 0];
    for (let axis = 0; axis < 3; axis++) out[to[axis]] = v[axis];
    return out;
  };
  const turn = (v: Vec3): Vec3 => permute(v.map((value, axis) => det * sign[axis] * value + 0));

  for (const part of Object.values(kit.parts)) {
    part.translation = place(part.translation);
    if (part.tail) part.tail = place(part.tail);
    part.rotation = conformQuat(part.rotation, basis);
    part.scale = permute(part.scale);
    part.turnOrder = [...part.turnOrder].map((letter) => 'xyz'[to['xyz'.indexOf(letter)]]).join('') as TurnOrder;
  }
  for (const id of Object.keys(kit.meshes)) kit.meshes[id] = transformMesh(kit.meshes[id], linear, [0, 0, 0], blobs);
  for (const skin of Object.values(kit.skins)) {
    const matrices = readArray<Float32Array>(blobs, skin.inverseBindMatrices).slice();
    for (let i = 0; i < matrices.length; i += 16) matrices.set(conformMatrix(matrices.subarray(i, i + 16), basis, scale), i);
    skin.inverseBindMatrices = putArray(blobs, matrices, 16);
  }
  for (const id of Object.keys(kit.parts)) moveWhatIsOn(kit, id, place);
  for (const coupling of kit.couplings ?? []) {
    // Slides are lengths; turns go the other way round in a mirrored space.
    const limit = (value: number | null, by: number) => (value === null ? null : value * by + 0);
    if (coupling.kind === 'slider') [coupling.min, coupling.max] = [limit(coupling.min, scale), limit(coupling.max, scale)];
    else if (coupling.kind === 'hinge' && det < 0) [coupling.min, coupling.max] = [limit(coupling.max, -1), limit(coupling.min, -1)];
  }
  const track = (one: Track): Track => {
    if (one.kind === 'samples') return conformSamples(one, change, blobs);
    if (one.property === 'shown' || one.property === 'weight') return one;
    const factor = one.property === 'offset' ? scale * sign[one.axis] : one.property === 'turn' ? det * sign[one.axis] : 1;
    return { ...scaleTrack(one, factor), axis: to[one.axis] };
  };
  for (const clip of Object.values(kit.clips)) clip.tracks = clip.tracks.map(track);
  const parked = kit.parked ?? [];
  for (const one of parked) if (one.kind === 'track') one.track = track(one.track);
  for (const binding of [...Object.values(kit.bindings), ...parked.flatMap((one) => (one.kind === 'binding' ? [one.binding] : []))]) {
    binding.rows = binding.rows.map((row) => ({
      value: row.value,
      offset: place(row.offset),
      turn: turn(row.turn),
      size: permute(row.size),
    }));
  }
}

/** (s·C) · M · (s·C)⁻¹ for an affine matrix: C·L·Cᵀ in the linear block, s·C·t in the last column. */
function conformMatrix(m: ArrayLike<number>, basis: Mat3, scale: number): number[] {
  const { to, sign } = axisMap(basis);
  const out = new Array<number>(16).fill(0);
  for (let column = 0; column < 3; column++)
    for (let row = 0; row < 3; row++) out[4 * to[column] + to[row]] = sign[column] * sign[row] * m[4 * column + row];
  for (let row = 0; row < 3; row++) out[12 + to[row]] = scale * sign[row] * m[12 + row];
  out[15] = 1;
  return out;
}

function conformSamples(track: SampleTrack, { basis, scale }: Change, blobs: Blobs): SampleTrack {
  if (track.property === 'weights') return track;
  const { to, sign } = axisMap(basis);
  const det = Math.sign(determinantMat3(basis));
  const values = readArray<Float32Array>(blobs, track.values);
  const out = new Float32Array(values.length);
  const size = track.property === 'rotation' ? 4 : 3;
  for (let i = 0; i < values.length; i += size) {
    if (size === 4) out[i + 3] = values[i + 3];
    for (let axis = 0; axis < 3; axis++) {
      const factor = track.property === 'offset' ? scale * sign[axis] : track.property === 'rotation' ? det * sign[axis] : 1;
      out[i + to[axis]] = factor * values[i + axis];
    }
  }
  return { ...track, values: putArray(blobs, out, track.values.size) };
}
