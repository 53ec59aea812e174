import { putArray, readArray, type Accessor, type Blobs, type NumberArray, type Primitive } from '../document';

/** Primitives with the same material, attributes and morph targets made into one each, in the order of the first of them. */
export function mergePrimitives(primitives: Primitive[], blobs: Blobs): Primitive[] {
  const groups = new Map<string, Primitive[]>();
  for (const primitive of primitives) {
    const key = JSON.stringify([primitive.material, layoutOf(primitive.attributes), primitive.targets?.map(layoutOf)]);
    const group = groups.get(key);
    if (group) group.push(primitive);
    else groups.set(key, [primitive]);
  }
  return [...groups.values()].map((group) => (group.length === 1 ? group[0] : mergeGroup(group, blobs)));
}

const layoutOf = (all: Record<string, Accessor>) =>
  Object.keys(all)
    .sort()
    .map((semantic) => `${semantic}/${all[semantic].size}`);

function mergeGroup(group: Primitive[], blobs: Blobs): Primitive {
  const [first] = group;
  const merge = (pick: (primitive: Primitive) => Record<string, Accessor>): Record<string, Accessor> =>
    Object.fromEntries(
      Object.keys(pick(first)).map((semantic) => [
        semantic,
        concatenate(
          group.map((primitive) => pick(primitive)[semantic]),
          blobs,
        ),
      ]),
    );
  const indices = new Uint32Array(group.reduce((sum, primitive) => sum + primitive.indices.count, 0));
  let at = 0;
  let vertex = 0;
  for (const primitive of group) {
    for (const index of readArray<Uint32Array>(blobs, primitive.indices)) indices[at++] = vertex + index;
    vertex += primitive.attributes.POSITION.count;
  }
  const merged: Primitive = { ...first, attributes: merge(({ attributes }) => attributes), indices: putArray(blobs, indices, 1) };
  if (first.targets) merged.targets = first.targets.map((_, n) => merge(({ targets }) => targets![n]));
  return merged;
}

/** Rows of several arrays behind one another; numbers of different kinds become the widest of them. */
function concatenate(all: Accessor[], blobs: Blobs): Accessor {
  const arrays = all.map((accessor) => readArray(blobs, accessor));
  const kinds = new Set(arrays.map((array) => array.constructor as Float32ArrayConstructor));
  const widest = all.some(({ type }) => type === 'f32') ? Float32Array : Uint32Array;
  const Kind = kinds.size === 1 ? [...kinds][0] : widest;
  const out = new (Kind as Float32ArrayConstructor)(arrays.reduce((sum, array) => sum + array.length, 0));
  let at = 0;
  for (const array of arrays as NumberArray[]) {
    out.set(array as Float32Array, at);
    at += array.length;
  }
  return putArray(blobs, out, all[0].size);
}
