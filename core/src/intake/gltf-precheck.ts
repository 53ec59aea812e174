import { strFromU8 } from 'fflate';
import { IntakeError, invalid, notKnown, truncated } from './intake-error';

interface GltfJson {
  asset?: { version?: unknown; generator?: unknown };
  nodes?: { children?: unknown }[];
  buffers?: { uri?: unknown; byteLength?: unknown }[];
  images?: { uri?: unknown }[];
  extensionsRequired?: unknown;
  extensionsUsed?: unknown;
  [key: string]: unknown;
}

const MAGIC = 0x46546c67;
const LISTS = ['accessors', 'animations', 'buffers', 'bufferViews', 'cameras', 'images', 'materials', 'meshes', 'nodes', 'samplers', 'scenes', 'skins', 'textures'];

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
  if (typeof version !== 'string' || !version.startsWith('2.')) throw invalid(fileName, 'asset.version', `it is glTF version ${JSON.stringify(version ?? null)}, and 2.0 is read here`);
  for (const list of LISTS) {
    const value = json[list];
    if (value !== undefined && (!Array.isArray(value) || value.some((entry) => typeof entry !== 'object' || entry === null))) throw invalid(fileName, list, `“${list}” is not a list of objects`);
  }
  checkReferences(json, fileName);
  checkTree(json, fileName);
  checkAddresses(json, fileName, binary);
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
      for (const [field, target] of Object.entries(fields)) for (const value of [entry[field]].flat()) need(value, target, `${list}[${i}].${field}`);
    }
  }
  for (const [i, mesh] of entries('meshes')) {
    if (!Array.isArray(mesh.primitives)) throw invalid(fileName, `meshes[${i}]`, 'it has no list of primitives');
    for (const primitive of mesh.primitives as Record<string, unknown>[]) {
      need(primitive?.indices, 'accessors', `meshes[${i}].indices`);
      need(primitive?.material, 'materials', `meshes[${i}].material`);
      for (const [semantic, value] of Object.entries(primitive?.attributes ?? {})) need(value, 'accessors', `meshes[${i}].${semantic}`);
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
  for (let start = 0; start < nodes.length; start++) {
    let steps = 0;
    for (let up = parent[start]; up >= 0; up = parent[up]) if (++steps > nodes.length) throw invalid(fileName, `nodes[${start}]`, 'its nodes hang in a circle');
  }
}

function checkAddresses(json: GltfJson, fileName: string, binary: boolean): void {
  const check = (uri: unknown, where: string) => {
    if (uri === undefined) return;
    if (typeof uri !== 'string') throw invalid(fileName, where, 'its address is not text');
    if (uri.startsWith('data:')) return;
    if (/^[a-z][a-z0-9+.-]*:|^\/\//i.test(uri))
      throw new IntakeError('remote', `“${fileName}” wants data from another machine (${where}); that is never fetched. Export it with its data inside (GLB).`, where);
    throw new IntakeError('missing-file', `“${fileName}” needs the file “${decodeURIComponent(uri)}”, which is not with it. Export it with its data inside (GLB).`, where);
  };
  json.buffers?.forEach((buffer, i) => {
    if (buffer.uri === undefined && !(binary && i === 0)) throw new IntakeError('missing-file', `“${fileName}” has a buffer with no data (buffers[${i}]). Export it as GLB.`, `buffers[${i}]`);
    check(buffer.uri, `buffers[${i}]`);
  });
  json.images?.forEach((image, i) => check(image.uri, `images[${i}]`));
}
