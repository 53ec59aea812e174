import { hashBytes, readArray, type Blobs, type Mesh, type Primitive } from '../document';

/** As fine as the layout is told apart: a ten-thousandth of the picture's side. */
const STEP = 1e-4;

/**
 * A mesh's UV layout in 16 hexadecimal digits: the first 64 bits of SHA-256 over the UVs of every triangle's corners.
 *
 * Neither the order of vertices nor that of triangles matters, nor with which corner a triangle begins; which way round it goes does.
 *
 * @param set Number of the UV set.
 * @returns null where a primitive has no such set.
 */
export function uvLayout(mesh: Mesh, blobs: Blobs, set = 0): string | null {
  const triangles: string[] = [];
  for (const primitive of mesh.primitives) {
    const own = trianglesOf(primitive, blobs, set);
    if (own === null) return null;
    triangles.push(...own);
  }
  triangles.sort();
  return hashBytes(new TextEncoder().encode(triangles.join('\n'))).slice(0, 16);
}

function trianglesOf({ attributes, indices }: Primitive, blobs: Blobs, set: number): string[] | null {
  const uvs = attributes[`TEXCOORD_${set}`];
  if (!uvs) return null;
  const values = readArray(blobs, uvs);
  const corners = readArray(blobs, indices);
  const corner = (i: number) => `${Math.round(values[2 * corners[i]] / STEP)},${Math.round(values[2 * corners[i] + 1] / STEP)}`;
  return Array.from({ length: corners.length / 3 }, (_, t) => {
    const three = [corner(3 * t), corner(3 * t + 1), corner(3 * t + 2)];
    const first = three.indexOf([...three].sort()[0]);
    return `${three[first]} ${three[(first + 1) % 3]} ${three[(first + 2) % 3]}`;
  });
}
