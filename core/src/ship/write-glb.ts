import {
  Document,
  Format,
  GLB_BUFFER,
  WebIO,
  type Accessor as GltfAccessor,
  type Material as GltfMaterial,
  type Mesh as GltfMesh,
  type Node,
  type Texture,
  type TextureInfo,
} from '@gltf-transform/core';
import { KHRONOS_EXTENSIONS } from '@gltf-transform/extensions';
import {
  animationExtras,
  EXTRAS,
  nodeExtras,
  partsInOrder,
  readArray,
  clipsInOrder,
  type Accessor,
  type Blobs,
  type Id,
  type Kit,
  type Material,
  type Mesh,
  type Part,
  type Quat,
  type TextureSlot,
  type Vec3,
} from '../document';
import { writeMaterialExtensions, writeTextureTransform } from '../geometry';
import { bakeClip, type BakeOptions } from './bake';
import { laidOut, type BakedKeys, type BakedValues } from './baked-keys';

const TYPE_BY_SIZE: Record<number, 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4' | 'MAT4'> = {
  1: 'SCALAR',
  2: 'VEC2',
  3: 'VEC3',
  4: 'VEC4',
  16: 'MAT4',
};

/** Metres, or what a turn or a factor is off: less is noise, as checks say of tracks that do nothing. */
const IDLE = 1e-6;

export interface WrittenGlb {
  bytes: Uint8Array;
  /** Parts in the order of the file's nodes. */
  nodes: Id[];
}

export interface WriteOptions extends BakeOptions {
  /**
   * Whether what glTF has no place for goes out in extras, to come back with the file (`document/gltf-extras.ts`). Packages have a
   * manifest.
   */
  extras?: boolean;
}

/**
 * Writes a kit as GLB, its numbers as they are (conform it first for another space). Clips are baked to straight keys.
 * The same kit gives the same bytes. Collapsed and hidden parts are written like all others.
 */
export async function writeGlb(kit: Kit, blobs: Blobs, { extras = false, ...bake }: WriteOptions = {}): Promise<WrittenGlb> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Itch Kit';
  const buffer = document.createBuffer();
  const scene = document.createScene(kit.name);
  document.getRoot().setDefaultScene(scene);

  const accessors = new Map<string, GltfAccessor>();
  const accessorOf = (accessor: Accessor, use: string): GltfAccessor => {
    // The same bytes may be numbers of another kind elsewhere: eight zeros are joints of two vertices, or half a colour.
    const key = [use, accessor.blob, accessor.type, accessor.size, accessor.count].join('/');
    let made = accessors.get(key);
    if (!made) {
      const array = readArray(blobs, accessor);
      made = document
        .createAccessor()
        .setType(TYPE_BY_SIZE[accessor.size])
        .setArray(use === 'index' ? smallIndices(array as Uint32Array) : array.slice())
        .setBuffer(buffer);
      accessors.set(key, made);
    }
    return made;
  };
  const textures = new Map<Id, Texture>();
  const textureOf = (id: Id): Texture => {
    let made = textures.get(id);
    if (!made) {
      const image = kit.images[id];
      made = document.createTexture(image.name).setImage(blobs.get(image.blob).slice()).setMimeType(image.mediaType);
      textures.set(id, made);
    }
    return made;
  };
  const materials = new Map<Id, GltfMaterial>();
  const materialOf = (id: Id): GltfMaterial => {
    let made = materials.get(id);
    if (!made) materials.set(id, (made = writeMaterial(document, kit.materials[id], textureOf)));
    return made;
  };
  const meshes = new Map<Id, GltfMesh>();
  const meshOf = (id: Id): GltfMesh => {
    let made = meshes.get(id);
    if (!made) {
      made = document.createMesh(kit.meshes[id].name);
      for (const primitive of kit.meshes[id].primitives) {
        const written = document.createPrimitive().setIndices(accessorOf(primitive.indices, 'index'));
        for (const semantic of Object.keys(primitive.attributes).sort())
          written.setAttribute(semantic, accessorOf(primitive.attributes[semantic], useOf(semantic)));
        if (primitive.material !== null) written.setMaterial(materialOf(primitive.material));
        primitive.targets?.forEach((target, i) => {
          const to = document.createPrimitiveTarget(kit.meshes[id].targets![i].name);
          for (const semantic of Object.keys(target).sort()) to.setAttribute(semantic, accessorOf(target[semantic], 'target'));
          written.addTarget(to);
        });
        made.addPrimitive(written);
      }
      for (const stroke of kit.meshes[id].strokes ?? []) {
        const written = document
          .createPrimitive()
          .setMode(stroke.mode === 'points' ? 0 : 1)
          .setIndices(accessorOf(stroke.indices, 'index'));
        for (const semantic of Object.keys(stroke.attributes).sort())
          written.setAttribute(semantic, accessorOf(stroke.attributes[semantic], useOf(semantic)));
        if (stroke.material !== null) written.setMaterial(materialOf(stroke.material));
        made.addPrimitive(written);
      }
      const targets = kit.meshes[id].targets ?? [];
      if (targets.length > 0)
        made.setWeights(targets.map((target) => target.weight)).setExtras({ targetNames: targets.map((target) => target.name) });
      meshes.set(id, made);
    }
    return made;
  };

  const parts = partsInOrder(kit);
  const parentIds = new Set(parts.map((part) => part.parent));
  // A skinned mesh follows its joints alone, and its own placement means nothing: the standard wants it at the top of the scene. What hangs
  // below one goes along with what is above it, so such a one stays where it is.
  const atTop = (part: Part) => part.parent === null || (part.skin !== null && !parentIds.has(part.id));
  const STILL = { translation: [0, 0, 0] as Vec3, rotation: [0, 0, 0, 1] as Quat, scale: [1, 1, 1] as Vec3 };
  const places = new Map(parts.map((part, place) => [part.id, place]));
  const nodeOf = (id: Id) => places.get(id)!;
  const nodes = new Map<Id, Node>();
  for (const part of parts) {
    const { translation, rotation, scale } = part.skin !== null && !parentIds.has(part.id) ? STILL : part;
    const node = document.createNode(part.name).setTranslation(translation).setRotation(rotation).setScale(scale);
    nodes.set(part.id, node);
    const own = nodeExtras(part, nodeOf);
    if (extras && own) node.setExtras({ [EXTRAS]: own });
    if (atTop(part)) scene.addChild(node);
    else nodes.get(part.parent!)!.addChild(node);
    if (part.mesh !== null && isShown(kit.meshes[part.mesh])) node.setMesh(meshOf(part.mesh));
  }
  for (const part of parts) {
    if (part.skin === null) continue;
    const source = kit.skins[part.skin];
    const skin = document.createSkin(source.name).setInverseBindMatrices(accessorOf(source.inverseBindMatrices, 'bind'));
    source.joints.forEach((joint) => skin.addJoint(nodes.get(joint)!));
    nodes.get(part.id)!.setSkin(skin);
  }
  for (const clip of clipsInOrder(kit)) {
    const animation = document.createAnimation(clip.name);
    const add = (
      part: Id,
      path: 'translation' | 'rotation' | 'scale' | 'weights',
      times: GltfAccessor,
      values: Float64Array,
      curves = false,
    ) => {
      const size = ({ translation: 3, rotation: 4, scale: 3, weights: 1 } as const)[path];
      const output = document.createAccessor().setType(TYPE_BY_SIZE[size]).setArray(Float32Array.from(values)).setBuffer(buffer);
      const sampler = document
        .createAnimationSampler()
        .setInput(times)
        .setOutput(output)
        .setInterpolation(curves ? 'CUBICSPLINE' : 'LINEAR');
      animation
        .addSampler(sampler)
        .addChannel(document.createAnimationChannel().setTargetNode(nodes.get(part)!).setTargetPath(path).setSampler(sampler));
    };
    for (const baked of bakeClip(kit, clip, blobs, bake)) {
      const times = document.createAccessor().setType('SCALAR').setArray(Float32Array.from(baked.times)).setBuffer(buffer);
      const addOf = (property: keyof BakedValues) => add(baked.part, property, times, laidOut(baked, property), baked.curves !== undefined);
      if (baked.moves.weights && baked.weights.length > 0) addOf('weights');
      if (kit.parts[baked.part].skin !== null && !parentIds.has(baked.part)) continue;
      const rest = kit.parts[baked.part];
      // A track that leaves its part at rest says nothing, unless it takes the place of what other clips do.
      for (const property of ['translation', 'rotation', 'scale'] as const)
        if (baked.moves[property] && (clip.overlay !== undefined || differs(baked, property, rest[property]))) addOf(property);
    }
    if (extras) animation.setExtras({ [EXTRAS]: animationExtras(clip, nodeOf, animation.listChannels().length === 0) });
    // glTF knows no clip without a channel: where nothing moves, the first node stays where it is for its length.
    const still = parts.find((part) => part.skin === null);
    if (animation.listChannels().length === 0 && still) {
      const times = document.createAccessor().setType('SCALAR').setArray(Float32Array.of(0, clip.lengthSeconds)).setBuffer(buffer);
      add(still.id, 'translation', times, Float64Array.from([...still.translation, ...still.translation]));
    }
    if (animation.listChannels().length === 0) animation.dispose();
  }
  return { bytes: await binaryOf(document), nodes: parts.map((part) => part.id) };
}

/** Whether a part is ever elsewhere than at rest, at its keys or between them. */
function differs(baked: BakedKeys, property: keyof BakedValues, rest: readonly number[]): boolean {
  const { times, curves } = baked;
  const width = rest.length;
  if (baked[property].some((value, i) => Math.abs(value - rest[i % width]) > IDLE)) return true;
  if (!curves) return false;
  // What a tangent would come to until the next key.
  const far = (slope: number, from: number, to: number) => Math.abs(slope * (times[to] - times[from])) > IDLE;
  return times.some((_, key) => {
    if (key === 0) return false;
    for (let c = 0; c < width; c++)
      if (far(curves.out[property][width * (key - 1) + c], key - 1, key) || far(curves.into[property][width * key + c], key - 1, key))
        return true;
    return false;
  });
}

/** The document as GLB, every node's place, turn and size in full: the library leaves out what is within 10⁻⁵ of none. */
async function binaryOf(document: Document): Promise<Uint8Array> {
  const { json, resources } = await new WebIO().registerExtensions(KHRONOS_EXTENSIONS).writeJSON(document, { format: Format.GLB });
  document
    .getRoot()
    .listNodes()
    .forEach((node, i) => {
      const written = json.nodes![i];
      if (written.matrix) return;
      const [translation, rotation, scale] = [node.getTranslation(), node.getRotation(), node.getScale()];
      if (translation.some((value) => value !== 0)) written.translation = translation;
      if (rotation.some((value, c) => value !== (c === 3 ? 1 : 0))) written.rotation = rotation;
      if (scale.some((value) => value !== 1)) written.scale = scale;
    });
  return packGlb(json, resources[GLB_BUFFER]);
}

/** A GLB of its two chunks (glTF 2.0, 4.4), each padded to four bytes: the JSON with spaces, the rest with zeros. */
function packGlb(json: object, binary: Uint8Array | undefined): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(json));
  const chunks = [
    { kind: 0x4e4f534a, bytes: text, pad: 0x20 },
    ...(binary && binary.length > 0 ? [{ kind: 0x004e4942, bytes: binary, pad: 0 }] : []),
  ].map((chunk) => ({ ...chunk, length: 4 * Math.ceil(chunk.bytes.length / 4) }));
  const out = new Uint8Array(12 + chunks.reduce((sum, { length }) => sum + 8 + length, 0));
  const view = new DataView(out.buffer);
  view.setUint32(0, 0x46546c67, true);
  view.setUint32(4, 2, true);
  view.setUint32(8, out.length, true);
  let at = 12;
  for (const { kind, bytes, pad, length } of chunks) {
    view.setUint32(at, length, true);
    view.setUint32(at + 4, kind, true);
    out.fill(pad, at + 8, at + 8 + length);
    out.set(bytes, at + 8);
    at += 8 + length;
  }
  return out;
}

/** What an accessor is for, by the family of its semantic: `JOINTS_0` and `JOINTS_1` may share one, `JOINTS_0` and `COLOR_0` may not. */
const useOf = (semantic: string) => semantic.replace(/_\d+$/, '');

const isShown = (mesh: Mesh) => mesh.primitives.length > 0 || (mesh.strokes?.length ?? 0) > 0;

function writeSlot(document: Document, info: TextureInfo, slot: TextureSlot): void {
  info
    .setTexCoord(slot.texCoord)
    .setWrapS(slot.wrapS as 10497)
    .setWrapT(slot.wrapT as 10497);
  if (slot.transform) writeTextureTransform(document, info, slot.transform);
}

function smallIndices(indices: Uint32Array): Uint16Array | Uint32Array {
  return indices.some((index) => index >= 0xffff) ? indices.slice() : Uint16Array.from(indices);
}

function writeMaterial(document: Document, material: Material, textureOf: (id: Id) => Texture): GltfMaterial {
  const made = document
    .createMaterial(material.name)
    .setBaseColorFactor(material.baseColor)
    .setMetallicFactor(material.metallic)
    .setRoughnessFactor(material.roughness)
    .setEmissiveFactor(material.emissive)
    .setNormalScale(material.normalScale)
    .setAlphaMode(material.alphaMode)
    .setAlphaCutoff(material.alphaCutoff)
    .setDoubleSided(material.doubleSided);
  const slots: [TextureSlot | null, (texture: Texture) => unknown, () => ReturnType<GltfMaterial['getBaseColorTextureInfo']>][] = [
    [material.baseColorTexture, (t) => made.setBaseColorTexture(t), () => made.getBaseColorTextureInfo()],
    [material.metallicRoughnessTexture, (t) => made.setMetallicRoughnessTexture(t), () => made.getMetallicRoughnessTextureInfo()],
    [material.normalTexture, (t) => made.setNormalTexture(t), () => made.getNormalTextureInfo()],
    [material.occlusionTexture, (t) => made.setOcclusionTexture(t), () => made.getOcclusionTextureInfo()],
    [material.emissiveTexture, (t) => made.setEmissiveTexture(t), () => made.getEmissiveTextureInfo()],
  ];
  for (const [slot, set, info] of slots) {
    if (!slot) continue;
    set(textureOf(slot.image));
    writeSlot(document, info()!, slot);
  }
  writeMaterialExtensions(document, made, material, textureOf, writeSlot);
  return made;
}
