import { WebIO, type Document } from '@gltf-transform/core';
import {
  ALL_EXTENSIONS,
  EXTMeshoptCompression,
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMeshQuantization,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import draco3d from 'draco3d';
import { encode } from 'fast-png';
import { strToU8 } from 'fflate';
import { MeshoptEncoder } from 'meshoptimizer/encoder';
import { equipNode } from '../../node';
import { checkKit, MemoryBlobs, readArray, type Kit } from '../document';
import { kitCounts, restBounds } from '../geometry';
import { writeGlb } from '../ship';
import { greatestDifference, worldVertices } from '../tests/helpers';
import { tailDocument, tailDraco, tailGlb } from '../tests/fixtures';
import { readFile } from './read-file';

const blobs = new MemoryBlobs();
const read = async (bytes: Uint8Array, name = 'tail.glb'): Promise<Kit> => checkKit(await readFile(bytes, name, blobs));
const codes = (kit: Kit) => kit.source!.notes.map((note) => note.code);
const sorted = (kit: Kit, clip?: string, time?: number) => worldVertices(kit, blobs, clip, time).sort((a, b) => a - b);

async function written(document: Document): Promise<Uint8Array> {
  await MeshoptEncoder.ready;
  const io = new WebIO()
    .registerExtensions(ALL_EXTENSIONS)
    .registerDependencies({ 'draco3d.encoder': await draco3d.createEncoderModule(), 'meshopt.encoder': MeshoptEncoder });
  return io.writeBinary(document);
}

beforeAll(() => equipNode());

test('Draco and Meshopt are unpacked', async () => {
  const plain = await read(await tailGlb());
  const unpacked = await read(await tailDraco());
  expect(kitCounts(unpacked).triangles).toBe(24);
  for (const axis of [0, 1, 2]) expect(restBounds(unpacked, blobs).max[axis]).toBeCloseTo([0.1, 1.5, 0.1][axis], 3);

  const meshopt = tailDocument();
  meshopt
    .createExtension(EXTMeshoptCompression)
    .setRequired(true)
    .setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE });
  const bytes = await written(meshopt);
  expect(new TextDecoder().decode(bytes.subarray(0, 4000))).toContain('EXT_meshopt_compression');
  const back = await read(bytes);
  expect(greatestDifference(sorted(back), sorted(plain))).toBeLessThan(1e-6);
  expect(codes(back)).toEqual([]);
});

test('morph targets, their clip, material extensions and UV transformations go out as they came in', async () => {
  const document = tailDocument();
  const png = encode({ width: 4, height: 4, channels: 3, depth: 8, data: new Uint8Array(48).fill(90) });
  const texture = document
    .createTexture('scales')
    .setImage(png as Uint8Array<ArrayBuffer>)
    .setMimeType('image/png');
  const coat = document.createExtension(KHRMaterialsClearcoat).createClearcoat().setClearcoatFactor(0.75).setClearcoatTexture(texture);
  const material = document.createMaterial('hide').setBaseColorTexture(texture).setExtension('KHR_materials_clearcoat', coat);
  material.setExtension(
    'KHR_materials_emissive_strength',
    document.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength().setEmissiveStrength(4),
  );
  material
    .getBaseColorTextureInfo()!
    .setExtension(
      'KHR_texture_transform',
      document.createExtension(KHRTextureTransform).createTransform().setScale([2, 3]).setOffset([0.5, 0]).setRotation(1),
    );
  document.getRoot().listMeshes()[0].listPrimitives()[0].setMaterial(material);

  const first = await read(await written(document));
  const again = await read((await writeGlb(first, blobs)).bytes, 'again.glb');
  for (const kit of [first, again]) {
    const [one] = Object.values(kit.materials);
    expect(one.extensions!.KHR_materials_clearcoat.factors.ClearcoatFactor).toBe(0.75);
    expect(one.extensions!.KHR_materials_clearcoat.textures.ClearcoatTexture).toMatchObject({ image: one.baseColorTexture!.image });
    expect(one.extensions!.KHR_materials_emissive_strength.factors.EmissiveStrength).toBe(4);
    expect(one.baseColorTexture!.transform).toEqual({ scale: [2, 3], offset: [0.5, 0], rotation: 1 });
    expect(Object.values(kit.meshes)[0].targets).toEqual([{ name: 'swell', weight: 0.25 }]);
    expect(codes(kit)).toEqual([]);
  }
  const clip = (kit: Kit, name: string) => Object.values(kit.clips).find((one) => one.name === name)!.id;
  for (const name of ['wag', 'hop']) {
    for (const time of [0, 0.2, 0.5, 0.7, 0.95])
      expect(greatestDifference(sorted(again, clip(again, name), time), sorted(first, clip(first, name), time))).toBeLessThan(2e-3);
  }
});

/** A glTF with its data inside, to bend by hand. */
async function bent(bend: (json: Record<string, never> & { [list: string]: never }, data: DataView) => void): Promise<Uint8Array> {
  const { json, resources } = await new WebIO().writeJSON(tailDocument(), { basename: 'tail' });
  const [data] = Object.values(resources);
  bend(json as never, new DataView(data.buffer, data.byteOffset, data.byteLength));
  json.buffers![0].uri = `data:application/octet-stream;base64,${Buffer.from(data).toString('base64')}`;
  return strToU8(JSON.stringify(json));
}

interface Loose {
  accessors: {
    bufferView?: number;
    byteOffset?: number;
    count: number;
    type: string;
    componentType: number;
    sparse?: unknown;
    min?: unknown;
    max?: unknown;
  }[];
  bufferViews: { byteOffset?: number; byteLength: number; buffer: number }[];
  buffers: { byteLength: number; uri?: string }[];
  meshes: { primitives: { attributes: Record<string, number>; indices: number; mode?: number }[] }[];
  nodes: { rotation?: number[]; name: string }[];
}

const offsetOf = (json: Loose, accessor: number) =>
  (json.bufferViews[json.accessors[accessor].bufferView!].byteOffset ?? 0) + (json.accessors[accessor].byteOffset ?? 0);

test('weights that do not sum up, rotations that are none, and vertices that are nowhere are repaired, counted and named', async () => {
  const kit = await read(
    await bent((any, data) => {
      const json = any as unknown as Loose;
      const { attributes } = json.meshes[0].primitives[0];
      const stride = json.accessors[attributes.WEIGHTS_0];
      expect(stride.componentType).toBe(5126);
      json.nodes.find((node) => node.name === 'tip')!.rotation = [0, 0, 0, 2];
      json.nodes.find((node) => node.name === 'root')!.rotation = [0, 0, 0, 1];
      // Interleaved by the writer: find the row length by the view.
      const view = json.bufferViews[json.accessors[attributes.POSITION].bufferView!] as { byteStride?: number };
      const row = view.byteStride ?? 12;
      data.setFloat32(offsetOf(json, attributes.POSITION) + 2 * row, NaN, true);
      const weights = json.bufferViews[json.accessors[attributes.WEIGHTS_0].bufferView!] as { byteStride?: number };
      data.setFloat32(offsetOf(json, attributes.WEIGHTS_0) + 0 * (weights.byteStride ?? 16), 3, true);
    }),
    'bent.gltf',
  );
  expect(codes(kit).sort()).toEqual(['not-finite', 'rotation-normalised', 'weights-normalised']);
  expect(kit.source!.notes.map((note) => note.message).join(' ')).toMatch(/weights of 1 vertices.*“tail”/);
  expect(kitCounts(kit).triangles).toBeLessThan(24);
  const [mesh] = Object.values(kit.meshes);
  const weights = readArray<Float32Array>(blobs, mesh.primitives[0].attributes.WEIGHTS_0);
  for (let v = 0; v < weights.length; v += 4) expect(weights[v] + weights[v + 1] + weights[v + 2] + weights[v + 3]).toBeCloseTo(1, 5);
});

test('quantised positions and weights become the numbers that they stand for', async () => {
  const plain = await read(await tailGlb());
  const document = tailDocument();
  const primitive = document.getRoot().listMeshes()[0].listPrimitives()[0];
  const quantise = (semantic: string, most: number, make: (values: number[]) => Int16Array<ArrayBuffer> | Uint8Array<ArrayBuffer>) => {
    const accessor = primitive.getAttribute(semantic)!;
    accessor.setArray(make(Array.from(accessor.getArray() as Float32Array, (value) => Math.round(value * most)))).setNormalized(true);
  };
  const half = primitive.getAttribute('POSITION')!;
  half.setArray(Float32Array.from(half.getArray() as Float32Array, (value) => value / 2));
  quantise('POSITION', 32767, (values) => Int16Array.from(values));
  quantise('WEIGHTS_0', 255, (values) => Uint8Array.from(values));
  document.createExtension(KHRMeshQuantization).setRequired(true);
  const kit = await read(await written(document));
  const points = (one: Kit) => readArray<Float32Array>(blobs, Object.values(one.meshes)[0].primitives[0].attributes.POSITION);
  points(kit).forEach((value, i) => expect(Math.abs(2 * value - points(plain)[i])).toBeLessThan(1e-4));
  const weights = readArray<Float32Array>(blobs, Object.values(kit.meshes)[0].primitives[0].attributes.WEIGHTS_0);
  for (let v = 0; v < weights.length; v += 4) expect(weights[v] + weights[v + 1]).toBeCloseTo(1, 6);
  expect(codes(kit)).toEqual([]);
});

test('sparse accessors, strips and fans', async () => {
  const plain = await read(await tailGlb());
  const sparse = await read(
    await bent((any, data) => {
      const json = any as unknown as Loose;
      const position = json.accessors[json.meshes[0].primitives[0].attributes.POSITION];
      // Vertex 0 is moved by the first three floats that lie anywhere in the buffer: those of vertex 15.
      const row = (json.bufferViews[position.bufferView!] as { byteStride?: number }).byteStride ?? 12;
      const at = offsetOf(json, json.meshes[0].primitives[0].attributes.POSITION) + 15 * row;
      const index = data.byteLength - 2;
      expect(data.getUint16(index, true)).toBeGreaterThanOrEqual(0);
      json.bufferViews.push({ buffer: 0, byteOffset: at, byteLength: 12 });
      const zero = Array.from({ length: data.byteLength / 4 }, (_, i) => 4 * i).find((offset) => data.getUint32(offset, true) === 0)!;
      json.bufferViews.push({ buffer: 0, byteOffset: zero, byteLength: 2 });
      position.sparse = {
        count: 1,
        indices: { bufferView: json.bufferViews.length - 1, componentType: 5123 },
        values: { bufferView: json.bufferViews.length - 2 },
      };
      delete position.min;
      delete position.max;
    }),
    'sparse.gltf',
  );
  const before = worldVertices(plain, blobs);
  expect(worldVertices(sparse, blobs)).toHaveLength(before.length);
  const accessor = Object.values(sparse.meshes)[0].primitives[0].attributes.POSITION;
  expect([...readArray(blobs, accessor).slice(0, 3)]).toEqual([...readArray(blobs, accessor).slice(45, 48)]);

  for (const [mode, triangles] of [
    [5, 70],
    [6, 70],
  ]) {
    const kit = await read(
      await bent((any) => {
        (any as unknown as Loose).meshes[0].primitives[0].mode = mode;
      }),
      'strip.gltf',
    );
    expect(kitCounts(kit).triangles).toBe(triangles);
  }
});
