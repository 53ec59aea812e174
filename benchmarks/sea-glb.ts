import { Document, WebIO } from '@gltf-transform/core';

/** A patch of sea with its waves: a grid of `2 · columns · rows` triangles with normals and UVs, as GLB. */
export async function seaGlb(columns: number, rows: number): Promise<Uint8Array> {
  const vertices = (columns + 1) * (rows + 1);
  const [positions, normals, uvs] = [new Float32Array(3 * vertices), new Float32Array(3 * vertices), new Float32Array(2 * vertices)];
  for (let row = 0; row <= rows; row++) {
    for (let column = 0; column <= columns; column++) {
      const v = row * (columns + 1) + column;
      const [x, z] = [column / 10, row / 10];
      positions.set([x, 0.3 * Math.sin(x) * Math.cos(z), z], 3 * v);
      const slope = [-0.3 * Math.cos(x) * Math.cos(z), 1, 0.3 * Math.sin(x) * Math.sin(z)];
      const length = Math.hypot(...slope);
      normals.set(
        slope.map((value) => value / length),
        3 * v,
      );
      uvs.set([column / columns, row / rows], 2 * v);
    }
  }
  const indices = new Uint32Array(6 * columns * rows);
  for (let row = 0, at = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++, at += 6) {
      const a = row * (columns + 1) + column;
      const b = a + columns + 1;
      indices.set([a, b, a + 1, a + 1, b, b + 1], at);
    }
  }
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (type: 'SCALAR' | 'VEC2' | 'VEC3', array: Float32Array<ArrayBuffer> | Uint32Array<ArrayBuffer>) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', positions))
    .setAttribute('NORMAL', accessor('VEC3', normals))
    .setAttribute('TEXCOORD_0', accessor('VEC2', uvs))
    .setIndices(accessor('SCALAR', indices));
  document.createScene('sea').addChild(document.createNode('sea').setMesh(document.createMesh('sea').addPrimitive(primitive)));
  return new WebIO().writeBinary(document);
}

/** A quay of many small parts, each with a mesh of its own: `parts` boxes under ten sheds, every face of `2 · detail²` triangles. */
export async function quayGlb(parts: number, detail = 1): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene('quay');
  const material = document.createMaterial('planks').setBaseColorFactor([0.6, 0.45, 0.3, 1]);
  const box = boxSides(detail);
  const sheds = Array.from({ length: 10 }, (_, i) => document.createNode(`shed_${i}`).setTranslation([4 * i, 0, 0]));
  sheds.forEach((shed) => scene.addChild(shed));
  for (let i = 0; i < parts; i++) {
    // No two are of the same size, so that no two share an array.
    const size = 0.1 + 0.05 * (i % 7) + 1e-5 * i;
    const positions = box.positions.map((value) => value * size);
    const primitive = document
      .createPrimitive()
      .setMaterial(material)
      .setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(positions).setBuffer(buffer))
      .setAttribute('NORMAL', document.createAccessor().setType('VEC3').setArray(box.normals).setBuffer(buffer))
      .setIndices(document.createAccessor().setType('SCALAR').setArray(box.indices).setBuffer(buffer));
    const node = document.createNode(`plank_${i}`).setMesh(document.createMesh(`plank_${i}`).addPrimitive(primitive));
    node.setTranslation([0.3 * (i % 12), 0.3 * Math.floor((i / 12) % 12), 0.3 * Math.floor(i / 144)]);
    sheds[i % sheds.length].addChild(node);
  }
  return new WebIO().writeBinary(document);
}

/** A box of side 1 from the origin on, each side a grid with its own normals. */
function boxSides(detail: number): {
  positions: Float32Array<ArrayBuffer>;
  normals: Float32Array<ArrayBuffer>;
  indices: Uint16Array<ArrayBuffer>;
} {
  const [positions, normals, indices]: [number[], number[], number[]] = [[], [], []];
  for (let axis = 0; axis < 3; axis++) {
    for (const side of [0, 1]) {
      const first = positions.length / 3;
      for (let row = 0; row <= detail; row++) {
        for (let column = 0; column <= detail; column++) {
          const point = [0, 0, 0];
          point[axis] = side;
          point[(axis + 1) % 3] = column / detail;
          point[(axis + 2) % 3] = row / detail;
          positions.push(...point);
          normals.push(...[0, 1, 2].map((one) => (one === axis ? 2 * side - 1 : 0)));
        }
      }
      for (let row = 0; row < detail; row++) {
        for (let column = 0; column < detail; column++) {
          const a = first + row * (detail + 1) + column;
          const [b, c] = side === 1 ? [a + 1, a + detail + 1] : [a + detail + 1, a + 1];
          indices.push(a, b, c, b, a + detail + 2, c);
        }
      }
    }
  }
  return { positions: Float32Array.from(positions), normals: Float32Array.from(normals), indices: Uint16Array.from(indices) };
}
