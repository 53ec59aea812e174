import { WebIO, type Document, type Node } from '@gltf-transform/core';
import { buildSluiceCraneGlb } from './sluice-crane-glb';

export interface NextVersion {
  /** Old names to new ones. */
  rename?: Record<string, string>;
  remove?: string[];
  /** Names of parts to how far their pivot moves, centimetres in their own axes; what is seen stays. */
  repivot?: Record<string, [number, number, number]>;
  /** Names of parts to how far they stand from where they stood, centimetres in their parent's axes. */
  shift?: Record<string, [number, number, number]>;
  /** Segments of a middling round part. */
  detail?: number;
}

/** The crane's file as the drawing office sends it again: some parts renamed, gone, or with their pivot elsewhere. */
export async function buildNextSluiceCraneGlb({
  rename = {},
  remove = [],
  repivot = {},
  shift = {},
  detail = 52,
}: NextVersion = {}): Promise<Uint8Array> {
  const document = await new WebIO().readBinary(await buildSluiceCraneGlb(detail));
  document.getRoot().getAsset().generator = 'Tallow Point drawing office';
  const named = (name: string): Node => {
    const node = document
      .getRoot()
      .listNodes()
      .find((one) => one.getName() === name);
    if (!node) throw new Error(`The crane has no part “${name}”`);
    return node;
  };
  for (const [name, by] of Object.entries(repivot)) movePivot(document, named(name), by);
  for (const [name, by] of Object.entries(shift))
    named(name).setTranslation(
      named(name)
        .getTranslation()
        .map((value, axis) => value + by[axis]) as [number, number, number],
    );
  for (const name of remove) named(name).dispose();
  for (const [name, to] of Object.entries(rename)) named(name).setName(to);
  return new WebIO().writeBinary(document);
}

function movePivot(document: Document, node: Node, by: [number, number, number]): void {
  const scale = node.getScale();
  const shift = (at: readonly number[], sign: number) => at.map((value, axis) => value + sign * by[axis]) as [number, number, number];
  node.setTranslation(node.getTranslation().map((value, axis) => value + by[axis] * scale[axis]) as [number, number, number]);
  for (const child of node.listChildren()) child.setTranslation(shift(child.getTranslation(), -1));
  for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
    const position = primitive.getAttribute('POSITION')!;
    const moved = document.createAccessor().setType('VEC3').setBuffer(document.getRoot().listBuffers()[0]);
    moved.setArray(Float32Array.from(position.getArray() as Float32Array, (value, i) => value - by[i % 3]));
    primitive.setAttribute('POSITION', moved);
  }
}
