import { partOf, type Blobs, type Id, type Kit, type Vec3 } from '../document';
import { cross, dot, subtract, wholeMesh } from '../geometry';
import { NoMeshError } from './move-pivot';

/** Under this share of its bounds' volume a mesh encloses nothing that could be weighed. */
const HOLLOW = 1e-4;

/**
 * The middle of a part's mass, in its own axes, metres: of the volume that its faces enclose, by tetrahedra from the origin (Lien & Kajiya
 * 1984); where it encloses none, as a sheet does, of its surface.
 *
 * @throws {NoMeshError}
 */
export function massCentre(kit: Kit, id: Id, blobs: Blobs): Vec3 {
  const part = partOf(kit, id);
  if (part.mesh === null) throw new NoMeshError(part.name);
  const { positions, indices } = wholeMesh(kit.meshes[part.mesh], blobs);
  if (indices.length === 0) throw new NoMeshError(part.name);
  const volume = { sum: 0, at: [0, 0, 0] };
  const surface = { sum: 0, at: [0, 0, 0] };
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  const origin = [0, 1, 2].map((axis) => positions[3 * indices[0] + axis]);
  for (let t = 0; t + 2 < indices.length; t += 3) {
    const corner = (k: number) => [0, 1, 2].map((axis) => positions[3 * indices[t + k] + axis] - origin[axis]);
    const [a, b, c] = [corner(0), corner(1), corner(2)];
    const n = cross(subtract(b, a), subtract(c, a));
    const six = dot(a, n);
    const area = Math.hypot(...n) / 2;
    volume.sum += six / 6;
    surface.sum += area;
    for (let axis = 0; axis < 3; axis++) {
      const sum = a[axis] + b[axis] + c[axis];
      volume.at[axis] += ((six / 6) * sum) / 4;
      surface.at[axis] += (area * sum) / 3;
      low[axis] = Math.min(low[axis], a[axis], b[axis], c[axis]);
      high[axis] = Math.max(high[axis], a[axis], b[axis], c[axis]);
    }
  }
  const box = low.reduce((all, value, axis) => all * (high[axis] - value), 1);
  const { sum, at } = Math.abs(volume.sum) > HOLLOW * box && box > 0 ? volume : surface;
  return at.map((value, axis) => (sum === 0 ? 0 : value / sum) + origin[axis]) as Vec3;
}
