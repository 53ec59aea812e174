import * as THREE from 'three';
import {
  readArray,
  slotsOf,
  type Accessor,
  type Blobs,
  type Glow,
  type Id,
  type Image,
  type Kit,
  type Material,
  type Primitive,
  type Stroke,
  type TextureSlot,
} from '@itchkit/core/document';
import { readBindMatrices, type Poser } from '@itchkit/core/geometry';
import { SlotTextures } from './slot-textures';

type Geometry = THREE.BufferGeometry;

/** How materials look otherwise than they are, by their names: how they shine, and as what they are painted (#rrggbb). */
export interface MaterialLook {
  glows: readonly Glow[];
  paints: Readonly<Record<string, string>>;
}

/**
 * A kit as three.js objects, kept in step with the document: what did not change is not built again.
 * Placement comes from core's Poser alone; three.js only draws.
 */
export class KitScene {
  readonly root = new THREE.Group();
  /** Called when a texture has arrived and the picture changed. */
  onChange: () => void = () => undefined;

  private readonly groups = new Map<Id, THREE.Group>();
  private readonly built = new Map<Id, { key: unknown[]; objects: THREE.Mesh[]; strokes: THREE.Object3D[] }>();
  private readonly geometries = new Map<Primitive | Stroke, Geometry>();
  private readonly materials = new Map<Id, { source: Material; images: Record<Id, Image>; made: THREE.MeshStandardMaterial }>();
  private readonly textures = new SlotTextures(() => this.onChange());
  private readonly plain = new THREE.MeshStandardMaterial({ color: 0xb9b2a4, roughness: 0.9 });
  private readonly plainFlat = new THREE.MeshStandardMaterial({ color: 0xb9b2a4, roughness: 0.9, flatShading: true });

  update(kit: Kit, blobs: Blobs): void {
    for (const [id, group] of this.groups) {
      if (kit.parts[id]) continue;
      group.removeFromParent();
      this.dropMeshes(id);
      this.groups.delete(id);
    }
    for (const part of Object.values(kit.parts)) {
      let group = this.groups.get(part.id);
      if (!group) {
        group = new THREE.Group();
        group.userData.part = part.id;
        this.groups.set(part.id, group);
      }
    }
    for (const part of Object.values(kit.parts)) {
      const group = this.groups.get(part.id)!;
      const parent = part.parent === null ? this.root : this.groups.get(part.parent)!;
      if (group.parent !== parent) parent.add(group);
      this.buildMeshes(kit, blobs, part.id);
      for (const object of this.drawn(part.id)) object.visible = !part.hidden;
    }
    this.dropUnused(kit);
  }

  /** What no part and no material shows any more leaves the graphics memory. */
  private dropUnused(kit: Kit): void {
    for (const [key, { source, made }] of this.materials) {
      if (kit.materials[source.id]) continue;
      made.dispose();
      this.materials.delete(key);
    }
    this.textures.keep([...this.materials.values()].flatMap(({ made }) => texturesOf(made)));
    const used = new Set(
      Object.values(kit.meshes).flatMap((mesh): (Primitive | Stroke)[] => [...mesh.primitives, ...(mesh.strokes ?? [])]),
    );
    for (const [primitive, geometry] of this.geometries) {
      if (used.has(primitive)) continue;
      geometry.dispose();
      this.geometries.delete(primitive);
    }
  }

  /** Puts every part where the poser has it. */
  place(poser: Poser): void {
    const { flat, translation, rotation, scale } = poser;
    for (let i = 0; i < flat.ids.length; i++) {
      const group = this.groups.get(flat.ids[i]);
      if (!group) continue;
      group.position.fromArray(translation, 3 * i);
      group.quaternion.fromArray(rotation, 4 * i);
      group.scale.fromArray(scale, 3 * i);
      const weights = poser.weightsOf(flat.ids[i]);
      if (weights.length > 0) for (const object of this.meshesOf(flat.ids[i])) object.morphTargetInfluences = Array.from(weights);
    }
    this.root.updateMatrixWorld(true);
  }

  groupOf(id: Id): THREE.Group | undefined {
    return this.groups.get(id);
  }

  meshesOf(id: Id): THREE.Mesh[] {
    return this.built.get(id)?.objects ?? [];
  }

  allMeshes(): THREE.Mesh[] {
    return [...this.built.values()].flatMap((one) => one.objects);
  }

  dispose(): void {
    this.geometries.forEach((geometry) => geometry.dispose());
    this.materials.forEach(({ made }) => made.dispose());
    for (const id of [...this.built.keys()]) this.dropMeshes(id);
    this.textures.keep([]);
    this.plain.dispose();
    this.plainFlat.dispose();
  }

  private drawn(id: Id): THREE.Object3D[] {
    const built = this.built.get(id);
    return built ? [...built.objects, ...built.strokes] : [];
  }

  private dropMeshes(id: Id): void {
    for (const object of this.drawn(id)) {
      object.removeFromParent();
      // A skeleton has a texture of its joints' matrices, strokes a material of their own.
      if (object instanceof THREE.SkinnedMesh) object.skeleton.dispose();
      if (object instanceof THREE.Points || object instanceof THREE.LineSegments) (object.material as THREE.Material).dispose();
    }
    this.built.delete(id);
  }

  private buildMeshes(kit: Kit, blobs: Blobs, id: Id): void {
    const part = kit.parts[id];
    const mesh = part.mesh === null ? null : kit.meshes[part.mesh];
    const skin = part.skin === null ? null : kit.skins[part.skin];
    const materials = mesh
      ? [...mesh.primitives, ...(mesh.strokes ?? [])].map((primitive) =>
          primitive.material === null ? null : kit.materials[primitive.material],
        )
      : [];
    const images = materials.flatMap((material) => (material ? slotsOf(material).map(({ image }) => kit.images[image]) : []));
    const key = [mesh, skin, ...materials, ...images];
    const before = this.built.get(id);
    if (before && before.key.length === key.length && before.key.every((value, i) => value === key[i])) return;
    this.dropMeshes(id);
    const objects = (mesh?.primitives ?? []).map((primitive, index) => {
      const geometry = this.geometryOf(primitive, blobs);
      const flat = !geometry.getAttribute('normal');
      const plain = flat ? this.plainFlat : this.plain;
      const material = primitive.material === null ? plain : this.materialOf(kit, kit.materials[primitive.material], blobs, flat);
      let object: THREE.Mesh;
      if (skin && geometry.getAttribute('skinIndex')) {
        const skinned = new THREE.SkinnedMesh(geometry, material);
        const inverses = readBindMatrices(skin, blobs).map((matrix) => new THREE.Matrix4().fromArray(matrix));
        skinned.bind(
          new THREE.Skeleton(
            skin.joints.map((joint) => this.groups.get(joint) as unknown as THREE.Bone),
            inverses,
          ),
          new THREE.Matrix4(),
        );
        skinned.frustumCulled = false;
        this.root.add(skinned);
        object = skinned;
      } else {
        object = new THREE.Mesh(geometry, material);
        this.groups.get(id)!.add(object);
      }
      object.userData.part = id;
      object.userData.primitive = index;
      // A morph may reach out of the bounds that three.js has worked out for rest.
      if (primitive.targets) object.frustumCulled = false;
      return object;
    });
    const strokes = (mesh?.strokes ?? []).map((stroke) => {
      const object = strokeObject(stroke, this.geometryOf(stroke, blobs), stroke.material === null ? null : kit.materials[stroke.material]);
      this.groups.get(id)!.add(object);
      return object;
    });
    this.built.set(id, { key, objects, strokes });
  }

  private geometryOf(primitive: Primitive | Stroke, blobs: Blobs): Geometry {
    let geometry = this.geometries.get(primitive);
    if (geometry) return geometry;
    geometry = new THREE.BufferGeometry();
    const add = (name: string, accessor: Accessor | undefined) => {
      if (accessor) geometry!.setAttribute(name, new THREE.BufferAttribute(readArray(blobs, accessor), accessor.size));
    };
    add('position', primitive.attributes.POSITION);
    add('normal', primitive.attributes.NORMAL);
    add('uv', primitive.attributes.TEXCOORD_0);
    add('uv1', primitive.attributes.TEXCOORD_1);
    add('tangent', 'mode' in primitive ? undefined : primitive.attributes.TANGENT);
    add('skinIndex', primitive.attributes.JOINTS_0);
    add('skinWeight', primitive.attributes.WEIGHTS_0);
    add('color', 'mode' in primitive ? primitive.attributes.COLOR_0 : undefined);
    if ('targets' in primitive && primitive.targets) addTargets(geometry, primitive.targets, blobs);
    geometry.setIndex(new THREE.BufferAttribute(readArray(blobs, primitive.indices), 1));
    this.geometries.set(primitive, geometry);
    return geometry;
  }

  /** @param flat Faces are shaded flat where a mesh has no normals (glTF 2.0, 3.7.2.1). */
  private materialOf(kit: Kit, source: Material, blobs: Blobs, flat: boolean): THREE.MeshStandardMaterial {
    const key = flat ? `${source.id}/flat` : source.id;
    const known = this.materials.get(key);
    if (known && known.source === source && known.images === kit.images) return known.made;
    known?.made.dispose();
    const made = new THREE.MeshStandardMaterial({
      color: new THREE.Color().setRGB(source.baseColor[0], source.baseColor[1], source.baseColor[2]),
      opacity: source.baseColor[3],
      transparent: source.alphaMode === 'BLEND',
      alphaTest: source.alphaMode === 'MASK' ? source.alphaCutoff : 0,
      metalness: source.metallic,
      roughness: source.roughness,
      emissive: new THREE.Color().setRGB(...source.emissive),
      flatShading: flat,
      side: source.doubleSided ? THREE.DoubleSide : THREE.FrontSide,
    });
    const show = (slot: TextureSlot | null, colour: boolean) => {
      const image = slot && kit.images[slot.image];
      return image ? this.textures.get(slot, image, blobs, colour) : null;
    };
    made.map = show(source.baseColorTexture, true);
    made.emissiveMap = show(source.emissiveTexture, true);
    made.normalMap = show(source.normalTexture, false);
    made.normalScale.setScalar(source.normalScale);
    made.metalnessMap = made.roughnessMap = show(source.metallicRoughnessTexture, false);
    made.aoMap = show(source.occlusionTexture, false);
    this.materials.set(key, { source, images: kit.images, made });
    dressOne(source, made, this.look);
    return made;
  }

  private look: MaterialLook | null = null;

  /** Lets materials shine or be painted otherwise than the kit says; null as it says. */
  dress(look: MaterialLook | null): void {
    this.look = look;
    for (const { source, made } of this.materials.values()) dressOne(source, made, look);
  }
}

/** Points three pixels wide, or single lines; without light, as their material's colour or their vertices' say. */
function strokeObject(stroke: Stroke, geometry: Geometry, material: Material | null): THREE.Object3D {
  const [red, green, blue] = material?.baseColor ?? [0.2, 0.2, 0.2];
  const look = { color: new THREE.Color().setRGB(red, green, blue), vertexColors: stroke.attributes.COLOR_0 !== undefined };
  return stroke.mode === 'points'
    ? new THREE.Points(geometry, new THREE.PointsMaterial({ ...look, size: 3, sizeAttenuation: false }))
    : new THREE.LineSegments(geometry, new THREE.LineBasicMaterial(look));
}

/** Every target gets the attributes that any of them has: three.js wants them all alike. */
function addTargets(geometry: Geometry, targets: NonNullable<Primitive['targets']>, blobs: Blobs): void {
  const count = geometry.getAttribute('position').count;
  geometry.morphTargetsRelative = true;
  for (const [semantic, name] of [
    ['POSITION', 'position'],
    ['NORMAL', 'normal'],
  ]) {
    if (!targets.some((target) => target[semantic])) continue;
    geometry.morphAttributes[name as 'position'] = targets.map(
      (target) =>
        new THREE.BufferAttribute(target[semantic] ? readArray<Float32Array>(blobs, target[semantic]) : new Float32Array(3 * count), 3),
    );
  }
}

const MAPS = ['map', 'emissiveMap', 'normalMap', 'metalnessMap', 'aoMap'] as const;
const texturesOf = (material: THREE.MeshStandardMaterial) => MAPS.flatMap((map) => material[map] ?? []);

function dressOne({ name, baseColor, emissive }: Material, made: THREE.MeshStandardMaterial, look: MaterialLook | null): void {
  const glow = look?.glows.find((one) => one.material === name);
  const paint = look?.paints[name];
  made.emissive.setRGB(...(glow?.colour ?? emissive));
  made.emissiveIntensity = glow?.factor ?? 1;
  if (paint === undefined) made.color.setRGB(baseColor[0], baseColor[1], baseColor[2]);
  // A paint is multiplied with what the material is, as a platform does it.
  else made.color.set(paint).multiply(new THREE.Color().setRGB(baseColor[0], baseColor[1], baseColor[2]));
}
