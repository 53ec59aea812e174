import type { Material as GltfMaterial, Mesh as GltfMesh, Node, Skin as GltfSkin, Texture, TextureInfo } from '@gltf-transform/core';
import {
  emptyKit,
  hashBeside,
  KitError,
  newId,
  newMaterial,
  newPart,
  nodeExtrasIn,
  putArray,
  readArray,
  subtreeOf,
  type Blobs,
  type Id,
  type Kit,
  type Mesh,
  type ReadingNote,
  type TextureSlot,
  type Vec3,
  cutText,
} from '../document';
import { KEPT_MATERIAL_EXTENSIONS, normalizeQuat, readMaterialExtensions, readTextureTransform } from '../geometry';
import { ALONE, type Companions } from './companions';
import { describeSource } from './describe-source';
import { readAnimations } from './gltf-animations';
import { readPrimitive } from './gltf-primitive';
import { readStroke } from './gltf-stroke';
import { readImage } from './image-in';
import { IntakeError, invalid } from './intake-error';
import { openGltf, type OpenedGltf } from './open-gltf';
import { Repairs } from './repairs';

export interface Reading {
  kit: Kit;
  /** The part made from each node of the file, by the node's number. */
  partOfNode: (Id | undefined)[];
}

/** How many nodes a file may have. */

/** Extensions whose say is in the kit already, or that only pack data. */
const TAKEN_IN = new Set([
  ...KEPT_MATERIAL_EXTENSIONS,
  'KHR_mesh_quantization',
  'KHR_texture_transform',
  'KHR_draco_mesh_compression',
  'EXT_meshopt_compression',
  'EXT_texture_webp',
  'KHR_lights_punctual',
]);

/**
 * Reads a GLB, or a glTF with its data inside or beside it, into a kit. Numbers are kept as the file has them: metres, +Y up,
 * +Z forward by the standard; `settleSource` says otherwise later. What has no place in a kit is named in the notes.
 *
 * @param beside Files that it may name.
 * @throws {IntakeError} where the file is refused
 */
export async function readGltf(bytes: Uint8Array, fileName: string, blobs: Blobs, beside: Companions = ALONE): Promise<Reading> {
  const notes: ReadingNote[] = [];
  const known = blobs.nameOf(bytes);
  const sha = known === undefined ? hashBeside(bytes) : Promise.resolve(known);
  // Where reading fails nobody waits for it.
  sha.catch(() => undefined);
  const opened = await openGltf(bytes, fileName, beside, notes);
  try {
    const builder = new GltfBuilder(opened, fileName, blobs, notes);
    const reading = builder.build();
    await Promise.all(builder.pending);
    builder.describe(bytes, await sha);
    return reading;
  } catch (error) {
    if (error instanceof KitError) throw error;
    throw invalid(fileName, 'its data', error instanceof Error ? error.message.replace(/\.$/, '') : 'its parts do not fit together');
  }
}

class GltfBuilder {
  private readonly kit: Kit;
  private readonly repairs = new Repairs();
  private readonly images = new Map<Texture, Id>();
  private readonly materials = new Map<GltfMaterial, Id>();
  private readonly meshes = new Map<GltfMesh, Id | null>();
  private readonly partOf = new Map<Node, Id>();
  /** Kept when all arrays are stored. */
  readonly pending: Promise<void>[] = [];

  constructor(
    private readonly opened: OpenedGltf,
    private readonly fileName: string,
    private readonly blobs: Blobs,
    private readonly notes: ReadingNote[],
  ) {
    this.kit = emptyKit(cutText(fileName.replace(/\.[^.]*$/, ''), 200) || 'Kit');
  }

  build(): Reading {
    const { kit, opened, repairs } = this;
    const { document, json } = opened;
    const root = document.getRoot();
    const nodes = root.listNodes();
    root.listTextures().forEach((texture, i) => this.takeImage(texture, i));
    root.listMaterials().forEach((material, i) => this.takeMaterial(material, i));
    const scene = root.getDefaultScene() ?? root.listScenes()[0];
    if (root.listScenes().length > 1)
      repairs.leftOut('scenes', `${root.listScenes().length - 1} further scenes; a kit is made from one (“${scene?.getName() ?? ''}”)`);
    this.takeNodes(scene ? scene.listChildren() : nodes.filter((node) => !node.getParentNode()));
    root.listSkins().forEach((skin) => this.takeSkin(skin, nodes));
    this.hangSkinned(nodes);
    readAnimations(document, kit, this.partOf, this.blobs, repairs);
    this.nameExtensions(json.extensionsUsed);
    return { kit, partOfNode: nodes.map((node) => this.partOf.get(node)) };
  }

  describe(bytes: Uint8Array, sha: string): void {
    const { binary, json } = this.opened;
    this.notes.push(...this.repairs.notes());
    const generator = typeof json.asset?.generator === 'string' ? json.asset.generator : null;
    describeSource(
      this.kit,
      { fileName: this.fileName, format: binary ? 'glb' : 'gltf', bytes, sha, generator, notes: this.notes },
      this.blobs,
    );
  }

  private takeImage(texture: Texture, index: number): void {
    const data = texture.getImage();
    if (!data) return;
    const name = texture.getName() || texture.getURI().split('/').pop() || `image_${index + 1}`;
    const image = readImage(name, data, this.fileName, this.blobs);
    if (!image) return this.repairs.leftOut('image-unreadable', `the image “${name}” is no PNG, JPEG or WebP`);
    this.kit.images[image.id] = image;
    this.images.set(texture, image.id);
  }

  private slotOf = (texture: Texture | null, info: TextureInfo | null): TextureSlot | null => {
    const image = texture && this.images.get(texture);
    return image && info ? { image, wrapS: info.getWrapS(), wrapT: info.getWrapT(), ...readTextureTransform(info) } : null;
  };

  private takeMaterial(material: GltfMaterial, index: number): void {
    const unit = (value: number) => (Number.isFinite(value) ? Math.min(1, Math.max(0, value)) : 1);
    const made = newMaterial({
      name: cutText(material.getName() || `material_${index + 1}`, 200),
      baseColor: material.getBaseColorFactor().map(unit) as [number, number, number, number],
      baseColorTexture: this.slotOf(material.getBaseColorTexture(), material.getBaseColorTextureInfo()),
      metallic: unit(material.getMetallicFactor()),
      roughness: unit(material.getRoughnessFactor()),
      metallicRoughnessTexture: this.slotOf(material.getMetallicRoughnessTexture(), material.getMetallicRoughnessTextureInfo()),
      normalTexture: this.slotOf(material.getNormalTexture(), material.getNormalTextureInfo()),
      normalScale: material.getNormalScale(),
      occlusionTexture: this.slotOf(material.getOcclusionTexture(), material.getOcclusionTextureInfo()),
      emissive: material.getEmissiveFactor().map(unit) as Vec3,
      emissiveTexture: this.slotOf(material.getEmissiveTexture(), material.getEmissiveTextureInfo()),
      alphaMode: material.getAlphaMode(),
      alphaCutoff: Math.max(0, material.getAlphaCutoff()),
      doubleSided: material.getDoubleSided(),
    });
    const extensions = readMaterialExtensions(material, this.slotOf);
    if (extensions) made.extensions = extensions;
    this.kit.materials[made.id] = made;
    this.materials.set(material, made.id);
  }

  /** Parents before children, without recursion: a file may nest as deep as it likes. */
  private takeNodes(roots: Node[]): void {
    const stack = roots.map((node, order) => ({ node, parent: null as Id | null, order, path: '' })).reverse();
    while (stack.length > 0) {
      const { node, parent, order, path } = stack.pop()!;
      const name = cutText(node.getName() || `part_${this.partOf.size + 1}`, 200);
      const from = `${path}${name}`.slice(-4000);
      const { below: _, ...said } = nodeExtrasIn(node.getExtras()) ?? {};
      const part = newPart({ name, parent, order, from, mesh: this.meshOf(node), ...this.placementOf(node, name), ...said });
      this.kit.parts[part.id] = part;
      this.partOf.set(node, part.id);
      if (node.getCamera()) this.repairs.leftOut('camera', `the camera on “${name}”`, 'note', name);
      if (node.getExtension('KHR_lights_punctual')) this.repairs.leftOut('light', `the light on “${name}”`, 'note', name);
      const children = node.listChildren();
      for (let i = children.length - 1; i >= 0; i--) stack.push({ node: children[i], parent: part.id, order: i, path: `${from}/` });
    }
  }

  /**
   * Skinned parts that stand at the top only because the standard wants it hang where they did, as the file says where it was written
   * here.
   */
  private hangSkinned(nodes: Node[]): void {
    for (const node of nodes) {
      const part = this.partOf.get(node);
      const below = nodeExtrasIn(node.getExtras())?.below;
      const parent = below && nodes[below.node] && this.partOf.get(nodes[below.node]);
      if (!part || !below || !parent || Math.hypot(...below.rotation) < 0.5 || subtreeOf(this.kit, part).has(parent)) continue;
      const { order, translation, rotation, scale } = below;
      Object.assign(this.kit.parts[part], { parent, order, translation, rotation: normalizeQuat(rotation), scale });
    }
  }

  private placementOf(node: Node, name: string): Pick<Kit['parts'][string], 'translation' | 'rotation' | 'scale'> {
    const translation = [...node.getTranslation()] as Vec3;
    const rotation = node.getRotation();
    const scale = [...node.getScale()] as Vec3;
    if (![...translation, ...rotation, ...scale].every(Number.isFinite)) {
      this.repairs.count('placement-not-finite', name);
      return { translation: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] };
    }
    if (Math.abs(Math.hypot(...rotation) - 1) > 1e-3) this.repairs.count('rotation-normalised', name);
    return { translation, rotation: normalizeQuat(rotation), scale };
  }

  private meshOf(node: Node): Id | null {
    const source = node.getMesh();
    if (!source) return null;
    const known = this.meshes.get(source);
    if (known !== undefined) return known;
    const made: Mesh = { id: newId(), name: cutText(source.getName(), 200), primitives: [] };
    const { primitives } = made;
    source.listPrimitives().forEach((primitive, i) => {
      const given = primitive.getMaterial();
      const material = given ? this.materials.get(given)! : null;
      const where = `mesh “${source.getName()}”, primitive ${i}`;
      const context = {
        fileName: this.fileName,
        where,
        meshName: source.getName() || node.getName(),
        blobs: this.blobs,
        repairs: this.repairs,
        pending: this.pending,
      };
      if (primitive.getMode() < 4) {
        const stroke = readStroke(primitive, material, context);
        if (stroke) made.strokes = [...(made.strokes ?? []), stroke];
      } else {
        const triangles = readPrimitive(primitive, material, context);
        if (triangles) primitives.push(triangles);
      }
    });
    const targets = primitives[0]?.targets?.length ?? 0;
    if (primitives.some((primitive) => (primitive.targets?.length ?? 0) !== targets))
      throw invalid(this.fileName, `mesh “${source.getName()}”`, 'its primitives have different morph targets');
    if (targets > 0) made.targets = this.targetsOf(source, targets);
    const shown = primitives.length > 0 || made.strokes !== undefined;
    if (shown) this.kit.meshes[made.id] = made;
    this.meshes.set(source, shown ? made.id : null);
    return this.meshes.get(source)!;
  }

  private targetsOf(source: GltfMesh, count: number): Mesh['targets'] {
    const names = (source.getExtras() as { targetNames?: unknown }).targetNames;
    const weights = source.getWeights();
    return Array.from({ length: count }, (_, i) => ({
      name: cutText(Array.isArray(names) && typeof names[i] === 'string' ? names[i] : `target_${i + 1}`, 200),
      weight: Number.isFinite(weights[i]) ? weights[i] : 0,
    }));
  }

  private takeSkin(skin: GltfSkin, nodes: Node[]): void {
    const users = nodes.filter((node) => node.getSkin() === skin && this.partOf.has(node));
    if (users.length === 0) return;
    const joints = skin.listJoints().map((joint) => this.partOf.get(joint));
    if (joints.length === 0 || joints.some((joint) => joint === undefined))
      return this.repairs.leftOut(
        'skin-joints',
        `the skin “${skin.getName()}”, because ${joints.length === 0 ? 'it has no joints' : 'some of its joints are not in the scene'}`,
      );
    const binds = skin.getInverseBindMatrices();
    if (binds && binds.getCount() < joints.length)
      throw invalid(
        this.fileName,
        `skin “${skin.getName()}”`,
        `it has ${binds.getCount()} inverse bind matrices for ${joints.length} joints`,
      );
    const matrices = new Float32Array(16 * joints.length);
    joints.forEach((_, i) => matrices.set(binds ? binds.getElement(i, []) : [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], 16 * i));
    if (!matrices.every(Number.isFinite)) throw invalid(this.fileName, `skin “${skin.getName()}”`, 'an inverse bind matrix is no number');
    const id = newId();
    this.kit.skins[id] = {
      id,
      name: cutText(skin.getName(), 200),
      joints: joints as Id[],
      inverseBindMatrices: putArray(this.blobs, matrices, 16),
    };
    for (const node of users) {
      const part = this.kit.parts[this.partOf.get(node)!];
      part.skin = id;
      this.checkJointNumbers(part.mesh, joints.length);
    }
  }

  private checkJointNumbers(mesh: Id | null, joints: number): void {
    for (const primitive of mesh === null ? [] : this.kit.meshes[mesh].primitives) {
      for (const [semantic, accessor] of Object.entries(primitive.attributes)) {
        if (!semantic.startsWith('JOINTS')) continue;
        if (readArray<Uint16Array>(this.blobs, accessor).some((number) => number >= joints))
          throw new IntakeError(
            'index-range',
            `“${this.fileName}” names a joint that its skin does not have (mesh “${this.kit.meshes[mesh!].name}”). Export it again.`,
            semantic,
          );
      }
    }
  }

  private nameExtensions(used: unknown): void {
    for (const name of new Set(Array.isArray(used) ? used.map(String) : []))
      if (!TAKEN_IN.has(name)) this.repairs.leftOut('extension', `what the extension ${name.slice(0, 80)} says`, 'note');
  }
}
