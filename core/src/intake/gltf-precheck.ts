import { strFromU8 } from 'fflate';
import { IntakeError, invalid, notKnown, truncated } from './intake-error';
import { MAX_PARTS, tooManyParts } from './part-limit';

export interface GltfJson {
  asset?: { version?: unknown; generator?: unknown };
  nodes?: { children?: unknown }[];
  buffers?: { uri?: unknown; byteLength?: unknown; extensions?: unknown }[];
  images?: { uri?: unknown }[];
  extensionsRequired?: unknown;
  extensionsUsed?: unknown;
  [key: string]: unknown;
}

const MAGIC = 0x46546c67;
/** More rows than 5 million triangles can use. */
const MAX_ROWS = 30_000_000;
/** More entries than as many parts can use. */
const MAX_LIST = 20 * MAX_PARTS;
const LISTS = [
  'accessors',
  'animations',
  'buffers',
  'bufferViews',
  'cameras',
  'images',
  'materials',
  'meshes',
  'nodes',
  'samplers',
  'scenes',
  'skins',
  'textures',
];

/**
 * Looks at what a glTF file says of itself before anything is built from it: container, JSON, tree, addresses.
 *
 * @throws {IntakeError} not known, cut short, not glTF 2.0, lists that are none, a tree with a loop, files that are elsewhere
 */
export function precheckGltf(bytes: Uint8Array, fileName: string): { json: GltfJson; binary: boolean } {
  const { text, binary } = jsonText(bytes, fileName);
  let json: GltfJson;
  try {
    json = JSON.parse(text) as GltfJson;
  } catch {
    throw binary ? invalid(fileName, 'JSON chunk', 'its description is not JSON') : notKnown(fileName);
  }
  if (typeof json !== 'object' || json === null || Array.isArray(json)) throw invalid(fileName, 'JSON', 'its description is not an object');
  const version = json.asset?.version;
  if (typeof version !== 'string' || !version.startsWith('2.'))
    throw invalid(fileName, 'asset.version', `it is glTF version ${JSON.stringify(version ?? null)}, and 2.0 is read here`);
  const length = Array.isArray(json.nodes) ? json.nodes.length : 0;
  if (length > MAX_PARTS) throw tooManyParts(fileName, length.toLocaleString('en'));
  for (const list of LISTS) {
    const value = json[list];
    if (value !== undefined && (!Array.isArray(value) || value.some((entry) => typeof entry !== 'object' || entry === null)))
      throw invalid(fileName, list, `“${list}” is not a list of objects`);
  }
  for (const list of LISTS)
    if (((json[list] as unknown[] | undefined) ?? []).length > MAX_LIST)
      throw new IntakeError(
        'too-large',
        `“${fileName}” has more than ${MAX_LIST.toLocaleString('en')} ${list}. Split it into several files.`,
        list,
      );
  checkReferences(json, fileName);
  checkTree(json, fileName);
  checkRanges(json, fileName);
  return { json, binary };
}

function jsonText(bytes: Uint8Array, fileName: string): { text: string; binary: boolean } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length >= 4 && view.getUint32(0, true) === MAGIC) {
    if (bytes.length < 20) throw truncated(fileName, bytes.length, 20);
    const version = view.getUint32(4, true);
    if (version !== 2) throw invalid(fileName, 'GLB header', `it is GLB version ${version}, and version 2 is read here`);
    const total = view.getUint32(8, true);
    if (total > bytes.length) throw truncated(fileName, bytes.length, total);
    const length = view.getUint32(12, true);
    if (20 + length > bytes.length) throw truncated(fileName, bytes.length, 20 + length);
    return { text: strFromU8(bytes.subarray(20, 20 + length)), binary: true };
  }
  const start = strFromU8(bytes.subarray(0, 200)).trimStart();
  if (!start.startsWith('{')) throw notKnown(fileName);
  return { text: strFromU8(bytes), binary: false };
}

/** Fields that name an entry of a list by its number, by the list that they stand in. */
const REFERENCES: Record<string, Record<string, string>> = {
  nodes: { mesh: 'meshes', skin: 'skins', camera: 'cameras' },
  skins: { inverseBindMatrices: 'accessors', skeleton: 'nodes', joints: 'nodes' },
  accessors: { bufferView: 'bufferViews' },
  bufferViews: { buffer: 'buffers' },
  textures: { source: 'images', sampler: 'samplers' },
  images: { bufferView: 'bufferViews' },
  scenes: { nodes: 'nodes' },
};

function checkReferences(json: GltfJson, fileName: string): void {
  const sizes = Object.fromEntries(LISTS.map((list) => [list, Array.isArray(json[list]) ? json[list].length : 0]));
  const need = (value: unknown, list: string, where: string) => {
    if (value === undefined) return;
    if (!Number.isInteger(value) || (value as number) < 0 || (value as number) >= sizes[list])
      throw invalid(fileName, where, `it names entry ${JSON.stringify(value)} of “${list}”, which is not there`);
  };
  const entries = (list: string) => ((json[list] as Record<string, unknown>[] | undefined) ?? []).entries();
  for (const [list, fields] of Object.entries(REFERENCES)) {
    for (const [i, entry] of entries(list)) {
      for (const [field, target] of Object.entries(fields))
        for (const value of [entry[field]].flat()) need(value, target, `${list}[${i}].${field}`);
    }
  }
  for (const [i, mesh] of entries('meshes')) {
    if (!Array.isArray(mesh.primitives)) throw invalid(fileName, `meshes[${i}]`, 'it has no list of primitives');
    for (const primitive of mesh.primitives as Record<string, unknown>[]) {
      need(primitive?.indices, 'accessors', `meshes[${i}].indices`);
      need(primitive?.material, 'materials', `meshes[${i}].material`);
      if (typeof (primitive?.attributes ?? {}) !== 'object') throw invalid(fileName, `meshes[${i}]`, 'its attributes are no object');
      for (const target of [primitive?.attributes, primitive?.targets].flat()) {
        for (const [semantic, value] of Object.entries((target as object | undefined) ?? {}))
          need(value, 'accessors', `meshes[${i}].${semantic}`);
      }
    }
  }
  for (const [i, animation] of entries('animations')) {
    const where = `animations[${i}]`;
    const { samplers, channels } = animation;
    if (!Array.isArray(samplers) || !Array.isArray(channels)) throw invalid(fileName, where, 'it has no lists of samplers and channels');
    for (const sampler of samplers as Record<string, unknown>[])
      for (const field of ['input', 'output']) need(sampler?.[field] ?? null, 'accessors', `${where}.samplers.${field}`);
    sizes[where] = samplers.length;
    for (const channel of channels as Record<string, unknown>[]) {
      need(channel?.sampler ?? null, where, `${where}.channels.sampler`);
      need((channel.target as { node?: unknown } | undefined)?.node, 'nodes', `${where}.channels.target`);
    }
  }
}

function checkTree(json: GltfJson, fileName: string): void {
  const nodes = json.nodes ?? [];
  const parent = new Int32Array(nodes.length).fill(-1);
  nodes.forEach((node, index) => {
    if (node.children === undefined) return;
    if (!Array.isArray(node.children)) throw invalid(fileName, `nodes[${index}].children`, 'its children are not a list');
    for (const child of node.children as unknown[]) {
      if (!Number.isInteger(child) || (child as number) < 0 || (child as number) >= nodes.length)
        throw invalid(fileName, `nodes[${index}].children`, `it names node ${String(child)}, which is not there`);
      if (parent[child as number] >= 0) throw invalid(fileName, `nodes[${String(child)}]`, 'it hangs below two nodes');
      parent[child as number] = index;
    }
  });
  const rooted = new Uint8Array(nodes.length);
  for (let start = 0; start < nodes.length; start++) {
    const way: number[] = [];
    for (let up = start; up >= 0 && !rooted[up]; up = parent[up]) {
      if (way.length > nodes.length) throw invalid(fileName, `nodes[${start}]`, 'its nodes hang in a circle');
      way.push(up);
    }
    for (const node of way) rooted[node] = 1;
  }
}

const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const TYPE_SIZES: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };

interface View {
  buffer?: number;
  byteOffset?: number;
  byteLength?: number;
  byteStride?: number;
}

/** Every view lies in its buffer, every accessor in its view (glTF 2.0, 3.6.2.4). */
function checkRanges(json: GltfJson, fileName: string): void {
  const views = (json.bufferViews ?? []) as View[];
  const whole = (value: unknown) => value === undefined || (Number.isInteger(value) && (value as number) >= 0);
  views.forEach((view, i) => {
    const where = `bufferViews[${i}]`;
    if (!whole(view.byteOffset) || !whole(view.byteStride) || !Number.isInteger(view.byteLength) || view.byteLength! < 0)
      throw invalid(fileName, where, 'its offset, length or stride is no whole number');
    const buffer = json.buffers?.[view.buffer ?? -1];
    if (!buffer || !Number.isInteger(buffer.byteLength)) throw invalid(fileName, where, 'its buffer has no length');
    if ((view.byteOffset ?? 0) + view.byteLength! > (buffer.byteLength as number))
      throw invalid(fileName, where, 'it reaches past the end of its buffer');
  });
  ((json.accessors ?? []) as Record<string, unknown>[]).forEach((accessor, i) => {
    const where = `accessors[${i}]`;
    const component = COMPONENT_BYTES[accessor.componentType as number];
    const size = TYPE_SIZES[accessor.type as string];
    const count = accessor.count;
    if (!component || !size)
      throw invalid(
        fileName,
        where,
        `its type is ${JSON.stringify(accessor.type ?? null)} of ${JSON.stringify(accessor.componentType ?? null)}`.slice(0, 100),
      );
    if (!Number.isInteger(count) || (count as number) < 0 || (count as number) > MAX_ROWS)
      throw invalid(fileName, `${where}.count`, `it has ${JSON.stringify(count ?? null)} entries`.slice(0, 100));
    if (!whole(accessor.byteOffset)) throw invalid(fileName, `${where}.byteOffset`, 'it is no whole number');
    const view = views[(accessor.bufferView as number | undefined) ?? -1];
    if (!view || count === 0) return;
    const row = component * size;
    const stride = view.byteStride && view.byteStride > 0 ? view.byteStride : row;
    if (((accessor.byteOffset as number | undefined) ?? 0) + stride * ((count as number) - 1) + row > view.byteLength!)
      throw invalid(fileName, where, 'it reaches past the end of its view');
  });
}
