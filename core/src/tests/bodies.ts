import { emptyKit, MemoryBlobs, newPart, putArray, type Id, type Kit, type Part, type Vec3 } from '../document';
import { quatFromTurn } from '../geometry';

/** Bodies to be skinned in tests: closed tubes and boxes along the axes, as plain arrays. */
export interface Surface {
  positions: number[];
  indices: number[];
}

/** A closed tube along y, rounded off by caps. @param bottom metres */
export function tube(
  radius: number,
  bottom: number,
  top: number,
  rings: number,
  around: number,
  centre: [number, number] = [0, 0],
  capped = true,
): Surface {
  const positions: number[] = [];
  const indices: number[] = [];
  for (let r = 0; r <= rings; r++)
    for (let a = 0; a < around; a++)
      positions.push(
        centre[0] + radius * Math.cos((2 * Math.PI * a) / around),
        bottom + ((top - bottom) * r) / rings,
        centre[1] + radius * Math.sin((2 * Math.PI * a) / around),
      );
  for (let r = 0; r < rings; r++)
    for (let a = 0; a < around; a++) {
      const [p, q] = [r * around + a, r * around + ((a + 1) % around)];
      indices.push(p, p + around, q, q, p + around, q + around);
    }
  if (capped)
    for (const [ring, y, turn] of [
      [0, bottom, false],
      [rings, top, true],
    ] as const) {
      const middle = positions.length / 3;
      positions.push(centre[0], y, centre[1]);
      for (let a = 0; a < around; a++) {
        const [p, q] = [ring * around + a, ring * around + ((a + 1) % around)];
        indices.push(...(turn ? [middle, q, p] : [middle, p, q]));
      }
    }
  return { positions, indices };
}

/** A box with square faces cut into n × n. */
export function box(min: Vec3, max: Vec3, n = 2): Surface {
  const out: Surface = { positions: [], indices: [] };
  for (let axis = 0; axis < 3; axis++)
    for (const side of [0, 1]) {
      const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
      const first = out.positions.length / 3;
      for (let i = 0; i <= n; i++)
        for (let j = 0; j <= n; j++) {
          const point: number[] = [];
          point[axis] = side ? max[axis] : min[axis];
          point[u] = min[u] + ((max[u] - min[u]) * i) / n;
          point[v] = min[v] + ((max[v] - min[v]) * j) / n;
          out.positions.push(...point);
        }
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++) {
          const p = first + i * (n + 1) + j;
          const quad = [p, p + n + 1, p + n + 2, p, p + n + 2, p + 1];
          out.indices.push(...(side ? quad : quad.reverse()));
        }
    }
  return out;
}

export function together(...all: Surface[]): Surface {
  const out: Surface = { positions: [], indices: [] };
  for (const { positions, indices } of all) {
    const first = out.positions.length / 3;
    for (const value of positions) out.positions.push(value);
    for (const index of indices) out.indices.push(first + index);
  }
  return out;
}

/** Two fingers 16 mm thick and 2 mm apart on a palm, open at the wrist. Millimetres to metres. */
export function glove(): Surface {
  const finger = (x: number) => tube(0.008, 0.05, 0.12, 28, 20, [x, 0]);
  return together(box([-0.02, 0, -0.01], [0.02, 0.055, 0.01], 8), finger(-0.009), finger(0.009));
}

/** A kit with one part “skin” that shows a surface, and joints; ids are names. Heads are in the parent's axes. */
export function bodyKit(
  surface: Surface,
  joints: { id: Id; parent: Id | null; at: Vec3; tail?: Vec3; turn?: Vec3 }[],
  part: Partial<Part> = {},
): { kit: Kit; blobs: MemoryBlobs } {
  const blobs = new MemoryBlobs();
  const kit = emptyKit('Body');
  kit.meshes.mesh = {
    id: 'mesh',
    name: 'mesh',
    primitives: [
      {
        material: null,
        attributes: { POSITION: putArray(blobs, Float32Array.from(surface.positions), 3) },
        indices: putArray(blobs, Uint32Array.from(surface.indices), 1),
      },
    ],
  };
  kit.parts.skin = newPart({ id: 'skin', name: 'skin', mesh: 'mesh', ...part });
  joints.forEach(({ id, parent, at, tail, turn }, order) => {
    kit.parts[id] = newPart({
      id,
      name: id,
      role: 'joint',
      parent,
      order,
      translation: at,
      ...(tail ? { tail } : {}),
      ...(turn ? { rotation: quatFromTurn(turn, 'xyz') } : {}),
    });
  });
  return { kit, blobs };
}
