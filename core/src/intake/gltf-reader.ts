import { WebIO, type Accessor as GltfAccessor, type Document, type Material as GltfMaterial, type Node, type Primitive as GltfPrimitive, type Texture, type TextureInfo } from '@gltf-transform/core';
import { KHRONOS_EXTENSIONS } from '@gltf-transform/extensions';
import { emptyKit, KitError, newId, newMaterial, newPart, putArray, type Blobs, type Id, type Kit, type Mesh, type Primitive, type ReadingNote, type TextureSlot, type Vec3 } from '../document';
import { normalizeQuat } from '../geometry';
import { describeSource } from './describe-source';
import { readAnimations } from './gltf-animations';
import { precheckGltf } from './gltf-precheck';
import { IntakeError, invalid } from './intake-error';

export interface Reading {
  kit: Kit;
  /** The part made from each node of the file, by the node's number. */
  partOfNode: (Id | undefined)[];
}

export const MAX_PARTS = 20_000;

/**
 * Reads a GLB, or a glTF with its data inside, into a kit. Numbers are kept as the file has them: metres, +Y up, +Z forward
 * by the standard; `settleSource` says otherwise later. What has no place in a kit is named in the notes.
 *
 * @throws {IntakeError} where the file is refused
 */
export async function readGltf(bytes: Uint8Array, fileName: string, blobs: Blobs): Promise<Reading> {
  const { json, binary } = precheckGltf(bytes, fileName);
  let document: Document;
  try {
    const io = new WebIO().registerExtensions(KHRONOS_EXTENSIONS);
    document = binary ? await io.readBinary(bytes) : await io.readJSON({ json: json as never, resources: {} });
  } catch (error) {
    throw invalid(fileName, 'its data', error instanceof Error ? error.message.replace(/\.$/, '') : 'its parts do not fit together');
  }
  try {
    return build(document, json, bytes, fileName, blobs);
  } catch (error) {
    if (error instanceof KitError) throw error;
    throw invalid(fileName, 'its data', error instanceof Error ? error.message.replace(/\.$/, '') : 'its parts do not fit together');
  }
}

function build(document: Document, json: { asset?: { generator?: unknown }; extensionsUsed?: unknown }, bytes: Uint8Array, fileName: string, blobs: Blobs): Reading {
  const root = document.getRoot();
  const kit = emptyKit(fileName.replace(/\.[^.]*$/, '').slice(0, 200) || 'Kit');
  const notes: ReadingNote[] = [];
  const note = (grade: ReadingNote['grade'], code: string, message: string, part: string | null = null) => notes.push({ grade, code, message, part });

  const images = new Map<Texture, Id>();
  for (const texture of root.listTextures()) {
    const data = texture.getImage();
    const size = texture.getSize();
    if (!data || !size) {
      note('warn', 'image-unreadable', `Left out: the image “${texture.getName()}” is no PNG, JPEG or other image that is known here.`);
      continue;
    }
    const id = newId();
    kit.images[id] = {
      id,
      name: texture.getName() || `image_${images.size + 1}`,
      mediaType: texture.getMimeType(),
      blob: blobs.put(data.slice()),
      bytes: data.length,
      width: size[0],
      height: size[1],
    };
    images.set(texture, id);
  }
  const materials = new Map<GltfMaterial, Id>();
  for (const material of root.listMaterials()) materials.set(material, readMaterial(kit, material, images, materials.size));

  if (root.listNodes().length > MAX_PARTS)
    throw new IntakeError('too-large', `“${fileName}” has ${root.listNodes().length.toLocaleString('en')} nodes; ${MAX_PARTS.toLocaleString('en')} can be taken in. Join or drop some first.`, 'nodes');
  const meshes = new Map<ReturnType<Node['getMesh']>, Id | null>();
  const meshOf = (node: Node): Id | null => {
    const mesh = node.getMesh();
    if (!mesh) return null;
    if (!meshes.has(mesh)) {
      const primitives = mesh.listPrimitives().flatMap((primitive, i) => readPrimitive(primitive, `mesh “${mesh.getName()}”, primitive ${i}`, fileName, materials, blobs, note));
      const made: Mesh = { id: newId(), name: mesh.getName(), primitives };
      if (primitives.length > 0) kit.meshes[made.id] = made;
      meshes.set(mesh, primitives.length > 0 ? made.id : null);
    }
    return meshes.get(mesh)!;
  };

  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  if (root.listScenes().length > 1) note('warn', 'scenes', `Left out: ${root.listScenes().length - 1} further scenes; a kit is made from one (“${scene?.getName() ?? ''}”).`);
  const partOf = new Map<Node, Id>();
  const take = (node: Node, parent: Id | null, order: number) => {
    const part = newPart({
      name: node.getName() || `part_${partOf.size + 1}`,
      parent,
      order,
      translation: [...node.getTranslation()] as Vec3,
      rotation: normalizeQuat(node.getRotation()),
      scale: [...node.getScale()] as Vec3,
      mesh: meshOf(node),
    });
    kit.parts[part.id] = part;
    partOf.set(node, part.id);
    if (node.getCamera()) note('note', 'camera', `Left out: the camera on “${part.name}”.`, part.name);
    if (node.getExtension('KHR_lights_punctual')) note('note', 'light', `Left out: the light on “${part.name}”.`, part.name);
    node.listChildren().forEach((child, i) => take(child, part.id, i));
  };
  (scene?.listChildren() ?? root.listNodes().filter((node) => !node.getParentNode())).forEach((node, i) => take(node, null, i));

  for (const skin of root.listSkins()) {
    const users = root.listNodes().filter((node) => node.getSkin() === skin && partOf.has(node));
    const joints = skin.listJoints().map((joint) => partOf.get(joint));
    if (users.length === 0) continue;
    if (joints.some((joint) => joint === undefined)) {
      note('warn', 'skin-joints', `Left out: the skin “${skin.getName()}”, because some of its joints are not in the scene.`);
      continue;
    }
    const id = newId();
    const binds = skin.getInverseBindMatrices();
    const matrices = new Float32Array(16 * joints.length);
    joints.forEach((_, i) => matrices.set(binds ? binds.getElement(i, []) : [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], 16 * i));
    kit.skins[id] = { id, name: skin.getName(), joints: joints as Id[], inverseBindMatrices: putArray(blobs, matrices, 16) };
    for (const node of users) kit.parts[partOf.get(node)!].skin = id;
    checkJointNumbers(
      kit,
      users.map((node) => kit.parts[partOf.get(node)!].mesh),
      joints.length,
      fileName,
      blobs,
    );
  }
  readAnimations(document, kit, partOf, blobs, note);

  const known = new Set(root.listExtensionsUsed().map((extension) => extension.extensionName));
  const kept = new Set(['KHR_mesh_quantization']);
  const used = Array.isArray(json.extensionsUsed) ? json.extensionsUsed.map(String) : [];
  for (const name of new Set([...known, ...used])) if (!kept.has(name) && name !== 'KHR_lights_punctual') note('note', 'extension', `Left out: what the extension ${name} says.`);

  describeSource(kit, { fileName, format: bytes[0] === 0x67 ? 'glb' : 'gltf', bytes, generator: typeof json.asset?.generator === 'string' ? json.asset.generator : null, notes }, blobs);
  return { kit, partOfNode: root.listNodes().map((node) => partOf.get(node)) };
}

function readMaterial(kit: Kit, material: GltfMaterial, images: Map<Texture, Id>, index: number): Id {
  const slot = (texture: Texture | null, info: TextureInfo | null): TextureSlot | null => {
    const image = texture && images.get(texture);
    return image && info ? { image, texCoord: info.getTexCoord(), wrapS: info.getWrapS(), wrapT: info.getWrapT() } : null;
  };
  const made = newMaterial({
    name: material.getName() || `material_${index + 1}`,
    baseColor: [...material.getBaseColorFactor()] as [number, number, number, number],
    baseColorTexture: slot(material.getBaseColorTexture(), material.getBaseColorTextureInfo()),
    metallic: material.getMetallicFactor(),
    roughness: material.getRoughnessFactor(),
    metallicRoughnessTexture: slot(material.getMetallicRoughnessTexture(), material.getMetallicRoughnessTextureInfo()),
    normalTexture: slot(material.getNormalTexture(), material.getNormalTextureInfo()),
    normalScale: material.getNormalScale(),
    occlusionTexture: slot(material.getOcclusionTexture(), material.getOcclusionTextureInfo()),
    emissive: [...material.getEmissiveFactor()] as Vec3,
    emissiveTexture: slot(material.getEmissiveTexture(), material.getEmissiveTextureInfo()),
    alphaMode: material.getAlphaMode(),
    alphaCutoff: material.getAlphaCutoff(),
    doubleSided: material.getDoubleSided(),
  });
  kit.materials[made.id] = made;
  return made.id;
}

type Note = (grade: ReadingNote['grade'], code: string, message: string, part?: string | null) => void;

function readPrimitive(primitive: GltfPrimitive, where: string, fileName: string, materials: Map<GltfMaterial, Id>, blobs: Blobs, note: Note): Primitive[] {
  const position = primitive.getAttribute('POSITION');
  if (!position) {
    note('warn', 'no-positions', `Left out: ${where} has no positions.`);
    return [];
  }
  if (primitive.getMode() < 4) {
    note('warn', 'points-or-lines', `Left out: ${where} is made of points or lines, not of triangles.`);
    return [];
  }
  if (primitive.listTargets().length > 0) note('warn', 'morph-targets', `Left out: the ${primitive.listTargets().length} morph targets of ${where}.`);
  const attributes: Primitive['attributes'] = {};
  for (const semantic of primitive.listSemantics()) {
    const source = primitive.getAttribute(semantic)!;
    if (source.getCount() !== position.getCount()) throw invalid(fileName, where, `${semantic} has ${source.getCount()} entries for ${position.getCount()} vertices`);
    if (semantic.startsWith('_')) {
      note('note', 'attribute', `Left out: the attribute ${semantic} of ${where}.`);
      continue;
    }
    attributes[semantic] = putArray(blobs, semantic.startsWith('JOINTS') ? Uint16Array.from(source.getArray()!) : floats(source), source.getElementSize());
  }
  const positions = floats(position);
  if (positions.some((value) => !Number.isFinite(value))) throw invalid(fileName, where, 'a position is not a number');
  const indices = triangleList(primitive, position.getCount());
  if (indices.some((index) => index >= position.getCount())) throw new IntakeError('index-range', `“${fileName}” points at a vertex that is not there (${where}). Export it again.`, where);
  const material = primitive.getMaterial();
  return [{ material: material ? materials.get(material)! : null, attributes, indices: putArray(blobs, indices, 1) }];
}

/** Values as floats; normalised integers become the numbers that they stand for. */
function floats(accessor: GltfAccessor): Float32Array {
  const array = accessor.getArray()!;
  if (array instanceof Float32Array) return array.slice();
  const size = accessor.getElementSize();
  const out = new Float32Array(accessor.getCount() * size);
  const row: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) out.set(accessor.getElement(i, row), i * size);
  return out;
}

/** Strips and fans become lists (glTF 2.0, 3.7.2.1). */
function triangleList(primitive: GltfPrimitive, vertices: number): Uint32Array {
  const source = primitive.getIndices()?.getArray() ?? Uint32Array.from({ length: vertices }, (_, i) => i);
  const mode = primitive.getMode();
  if (mode === 4) return Uint32Array.from(source).subarray(0, source.length - (source.length % 3));
  const out = new Uint32Array(Math.max(0, source.length - 2) * 3);
  for (let i = 0; i + 2 < source.length; i++) {
    const odd = i % 2;
    out.set(mode === 5 ? [source[i], source[i + 1 + odd], source[i + 2 - odd]] : [source[i + 1], source[i + 2], source[0]], 3 * i);
  }
  return out;
}

function checkJointNumbers(kit: Kit, meshes: (Id | null)[], joints: number, fileName: string, blobs: Blobs): void {
  for (const mesh of meshes) {
    for (const primitive of mesh === null ? [] : kit.meshes[mesh].primitives) {
      for (const [semantic, accessor] of Object.entries(primitive.attributes)) {
        if (!semantic.startsWith('JOINTS')) continue;
        const numbers = new Uint16Array(blobs.get(accessor.blob).buffer);
        if (numbers.some((number) => number >= joints))
          throw new IntakeError('index-range', `“${fileName}” names a joint that its skin does not have (mesh “${kit.meshes[mesh!].name}”). Export it again.`, semantic);
      }
    }
  }
}
