import Joi from 'joi';
import {
  scaleTrack,
  defineOperation,
  idsSchema,
  moveWhatIsOn,
  partOf,
  partsInOrder,
  putArray,
  readArray,
  type Blobs,
  type Id,
  type Kit,
  type Vec3,
} from '../document';
import {
  affineMatrix,
  applyMat3,
  diagonalMat3,
  mat3FromQuat,
  multiplyMat3,
  transformPartMesh,
  transposeMat3,
  type Mat3,
} from '../geometry';
import { motionOf } from './motion-of';
import { premultiplyBinds } from './move-pivot';
import { ShearError } from './shape-errors';

/**
 * Makes the scale of parts and of everything below them 1; no vertex moves, at rest or at any time of any clip.
 *
 * The scale goes down the branch as a linear residue K: for a child with rest (t, R, S) below a residue K, t' = K·t, R' = R and
 * its own residue is Rᵀ·K·R·S, which its geometry takes; inverse binds of joints take it too (B' = K·B). Offset tracks of the
 * child become K·offset. A turn passes only where K looks the same all around its axis; what can't pass is an error.
 *
 * @throws {ShearError} naming the parts where an uneven scale meets a moving turn
 */
export const applyScale = defineOperation<{ parts: Id[] }>({
  id: 'shape.apply-scale',
  title: (kit, { parts }) => `Apply scale to ${parts.length === 1 ? `“${kit.parts[parts[0]]?.name}”` : `${parts.length} parts`}`,
  args: Joi.object({ parts: idsSchema.required() }),
  change(kit, { parts }, blobs) {
    parts.forEach((id) => partOf(kit, id));
    const chosen = new Set(parts);
    const residues = new Map<Id, Mat3>();
    const skewed: string[] = [];
    for (const part of partsInOrder(kit)) {
      const above = part.parent === null ? undefined : residues.get(part.parent);
      const own = diagonalMat3(part.scale);
      if (above) {
        const rotation = mat3FromQuat(part.rotation);
        const turned = multiplyMat3(transposeMat3(rotation), multiplyMat3(above, rotation));
        if (!motionPasses(kit, part.id, above, turned)) skewed.push(part.name);
        else scaleOffsets(kit, part.id, above, blobs);
        part.translation = applyMat3(above, part.translation);
        residues.set(part.id, multiplyMat3(turned, own));
      } else if (chosen.has(part.id) && !isUnit(part.scale)) residues.set(part.id, own);
    }
    if (skewed.length > 0) throw new ShearError(skewed, 'Applying the scale');
    for (const [id, residue] of residues) {
      kit.parts[id].scale = [1, 1, 1];
      if (isIdentity(residue)) continue;
      if (kit.parts[id].skin === null) transformPartMesh(kit, id, residue, [0, 0, 0], blobs);
      moveWhatIsOn(kit, id, (at) => applyMat3(residue, at));
      premultiplyBinds(kit, id, affineMatrix(residue), blobs);
    }
  },
});

const NEAR = 1e-9;
const isUnit = (v: Vec3) => v.every((value) => value === 1);
const isIdentity = (m: Mat3) => m.every((value, i) => Math.abs(value - (i % 4 === 0 ? 1 : 0)) < 1e-15);

function isDiagonal(m: Mat3): boolean {
  const largest = Math.max(...m.map(Math.abs));
  return m.every((value, i) => i % 4 === 0 || Math.abs(value) <= NEAR * largest);
}

const isUniform = (m: Mat3) =>
  isDiagonal(m) && Math.abs(m[0] - m[4]) <= NEAR * Math.abs(m[0]) && Math.abs(m[0] - m[8]) <= NEAR * Math.abs(m[0]);

/** Whether a part's motion can go on under a residue without skewing. */
function motionPasses(kit: Kit, id: Id, above: Mat3, turned: Mat3): boolean {
  if (isUniform(above)) return true;
  const motion = motionOf(kit, id);
  if (motion.offsetKeys && !isDiagonal(above)) return false;
  if (motion.sizes && !isDiagonal(turned)) return false;
  if (motion.spins || motion.turnAxes.size > 1) return false;
  for (const axis of motion.turnAxes) {
    const [j, k] = [(axis + 1) % 3, (axis + 2) % 3];
    if (!isDiagonal(turned) || Math.abs(turned[4 * j] - turned[4 * k]) > NEAR * Math.abs(turned[4 * j])) return false;
  }
  return true;
}

function scaleOffsets(kit: Kit, id: Id, by: Mat3, blobs: Blobs): void {
  for (const clip of Object.values(kit.clips)) {
    for (const track of clip.tracks) {
      if (track.part !== id || track.property !== 'offset') continue;
      if (track.kind !== 'samples') Object.assign(track, scaleTrack(track, by[4 * track.axis]));
      else {
        const values = readArray<Float32Array>(blobs, track.values).slice();
        for (let i = 0; i < values.length; i += 3) values.set(applyMat3(by, values.subarray(i, i + 3)), i);
        track.values = putArray(blobs, values, track.values.size);
      }
    }
  }
  for (const binding of Object.values(kit.bindings)) {
    if (binding.part === id) for (const row of binding.rows) row.offset = applyMat3(by, row.offset);
  }
}
