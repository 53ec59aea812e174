import type { Buffer, Document, Material, Node } from '@gltf-transform/core';
import type { Solid } from './solid';

/** A part of a demo file, drawn in metres where it stands, and the faults that a hasty export leaves in it. */
export interface Piece {
  name: string;
  solid?: Solid;
  /** Name of its material. */
  paint?: string;
  children?: Piece[];
  scale?: [number, number, number];
  nudge?: [number, number, number];
  withoutNormals?: boolean;
  flatTriangles?: number;
  /** Every face runs the wrong way round. */
  insideOut?: boolean;
}

/**
 * A piece as a glTF node with all below it. Scales and nudges are undone in the vertices, so that it looks right whatever its numbers say.
 *
 * @param perMetre How many of the file's units a metre is. @param above Scale of what it hangs below.
 */
export function pieceNode(
  document: Document,
  buffer: Buffer,
  piece: Piece,
  materials: Record<string, Material>,
  perMetre: number,
  above: [number, number, number] = [1, 1, 1],
): Node {
  const node = document.createNode(piece.name);
  const scale = piece.scale ?? [1, 1, 1];
  const nudge = piece.nudge ?? [0, 0, 0];
  node.setScale(scale).setTranslation([nudge[0] * perMetre, nudge[1] * perMetre, nudge[2] * perMetre]);
  const total = above.map((value, axis) => value * scale[axis]) as [number, number, number];
  const { solid } = piece;
  if (solid) {
    const positions = solid.positions.map((value, i) => ((value - nudge[i % 3]) * perMetre) / total[i % 3]);
    const indices = [...solid.indices, ...Array.from({ length: piece.flatTriangles ?? 0 }, (_, i) => [i, i, i + 1]).flat()];
    if (piece.insideOut) indices.reverse();
    const accessor = (numbers: number[], type: 'VEC2' | 'VEC3') =>
      document.createAccessor().setType(type).setArray(Float32Array.from(numbers)).setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor(positions, 'VEC3'))
      .setAttribute('TEXCOORD_0', accessor(solid.uvs, 'VEC2'))
      .setIndices(document.createAccessor().setType('SCALAR').setArray(Uint16Array.from(indices)).setBuffer(buffer))
      .setMaterial(materials[piece.paint ?? 'iron']);
    if (!piece.withoutNormals) primitive.setAttribute('NORMAL', accessor(solid.normals, 'VEC3'));
    node.setMesh(document.createMesh(piece.name).addPrimitive(primitive));
  }
  for (const child of piece.children ?? []) node.addChild(pieceNode(document, buffer, child, materials, perMetre, total));
  return node;
}
