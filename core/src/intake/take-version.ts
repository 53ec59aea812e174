import Joi from 'joi';
import {
  checkKit,
  defineOperation,
  idSchema,
  KitError,
  newId,
  nextOrder,
  slotsOf,
  partsInOrder,
  SECTION_LIST,
  type Blobs,
  type Id,
  type Kit,
  type Material,
  type Mesh,
  type Parked,
  type Part,
  type Primitive,
  type Skin,
  type Vec3,
} from '../document';
import {
  composeMatrix,
  conformKit,
  decomposeMatrix,
  invertMatrix,
  keepPlaceBelow,
  multiplyMatrices,
  readBindMatrices,
  restWorlds,
  takeOutParts,
  transferWeights,
  transformMesh,
  writeBindMatrices,
  type Mat3,
  type Mat4,
} from '../geometry';
import { changeOfSource } from './settle-source';
import { IDENTITY, isIdentity, VersionMoves } from './part-movement';
import { baseOfParts, sourcePath } from './source-paths';

/** Places that are skewed by more than this are none of a part's, as a share. */
const SKEWED = 1e-5;

/** A new version can't be taken as it is. */
export class VersionError extends KitError {
  constructor(message: string) {
    super('version', message);
  }
}

/** A reading of a kit's source in the space that the kit's own source was settled in; one that states its space keeps that. */
export function inSpaceOf(kit: Kit, reading: Kit, blobs: Blobs): Kit {
  const copy = structuredClone(reading);
  if (!kit.source || !copy.source || copy.source.notes.some((note) => note.code === 'space-stated')) return copy;
  conformKit(copy, changeOfSource(copy.source.space, kit.source.space), blobs);
  copy.source.space = kit.source.space;
  copy.source.settled = kit.source.settled;
  return copy;
}

interface VersionArgs {
  /** The new version as read, in the kit's space (`inSpaceOf`). */
  next: Kit;
  /** The kit's source as it was read, in the same space; null where it is not kept. */
  base: Kit | null;
  /** Part of the kit by part of the new version; null makes a new part. */
  matches: Record<Id, Id | null>;
}

/**
 * Takes in a new version of the kit's source. Matched parts keep name, role, pivot, place in the tree, rig, clips and
 * bindings, and get the new mesh where the new file has it; what was done to the whole since (moved, turned, sized) is done
 * to it too. New parts are added, gone ones removed; tracks and bindings of those are parked.
 */
export const takeVersion = defineOperation<VersionArgs>({
  id: 'intake.take-version',
  title: (_, { next }) => `Take in “${next?.source?.fileName ?? 'a new version'}”`,
  args: Joi.object({
    next: Joi.object().required(),
    base: Joi.object().allow(null).required(),
    matches: Joi.object().pattern(idSchema, idSchema.allow(null)).required(),
  }),
  change(kit, { next, base, matches }, blobs) {
    checkKit(next);
    if (base) checkKit(base);
    new VersionMerge(kit, next, base, matches, blobs).merge();
  },
});

class VersionMerge {
  /** Where parts of the kit stood before. */
  private readonly was: Map<Id, Mat4>;
  private readonly worlds: Map<Id, Mat4>;
  private readonly nextWorlds: Map<Id, Mat4>;
  private readonly baseOf: Map<Id, Part>;
  private readonly moves: VersionMoves;
  /** The kit's part for each part of the new version. */
  private readonly partFor = new Map<Id, Id>();
  private readonly materials = new Map<Id, Id>();
  private readonly meshes = new Map<string, Id>();
  /** Parts that went elsewhere as a whole. */
  private readonly gone = new Set<Id>();

  constructor(
    private readonly kit: Kit,
    private readonly next: Kit,
    private readonly base: Kit | null,
    matches: Record<Id, Id | null>,
    private readonly blobs: Blobs,
  ) {
    this.was = restWorlds(kit);
    this.worlds = new Map(this.was);
    this.nextWorlds = restWorlds(next);
    this.baseOf = base ? baseOfParts(kit, base) : new Map();
    const taken = new Set<Id>();
    for (const [id, part] of Object.entries(matches)) {
      if (part === null) continue;
      if (!next.parts[id] || !kit.parts[part])
        throw new VersionError('A match names a part that is not there any more. Compare the new version again.');
      if (taken.has(part))
        throw new VersionError(`Two parts of the new version are matched to “${kit.parts[part].name}”. Match each part once.`);
      taken.add(part);
      this.partFor.set(id, part);
    }
    this.moves = new VersionMoves(kit, base, next, this.partFor, blobs);
  }

  merge(): void {
    const before = new Set(Object.keys(this.kit.parts));
    const fromSource = new Set([...before].filter((id) => sourcePath(this.kit, this.kit.parts[id]) !== undefined));
    this.takeMaterials();
    this.moveParts();
    const order = partsInOrder(this.next);
    for (const one of order) if (!this.partFor.has(one.id)) this.addPart(one);
    for (const one of order) this.takeMesh(one, before.has(this.partFor.get(one.id)!));
    this.removeGone(fromSource);
    this.dropUnused();
    if (this.next.source) this.kit.source = structuredClone(this.next.source);
  }

  /** By name: ours stays where it was changed since it was read, otherwise the new one comes in under its id. */
  private takeMaterials(): void {
    const { kit, next, base } = this;
    for (const material of Object.values(next.materials)) {
      const ours = Object.values(kit.materials).find((one) => one.name === material.name);
      const before = base && Object.values(base.materials).find((one) => one.name === material.name);
      const untouched = !ours || !before || sayOf(kit, ours) === sayOf(base, before);
      const id = ours?.id ?? newId();
      this.materials.set(material.id, id);
      if (ours && !untouched) continue;
      kit.materials[id] = { ...withImages(material, (image) => this.takeImage(image)), id };
    }
  }

  private takeImage(id: Id): Id {
    const image = this.next.images[id];
    const known = Object.values(this.kit.images).find((one) => one.blob === image.blob);
    if (known) return known.id;
    const made = newId();
    this.kit.images[made] = { ...image, id: made };
    return made;
  }

  /** Hangs a part that the kit did not have below its parent's counterpart, where the new file has it. */
  private addPart(one: Part): void {
    const { kit } = this;
    const parent = one.parent === null ? null : this.partFor.get(one.parent)!;
    const above = parent === null ? IDENTITY : this.worldOf(parent);
    const world = multiplyMatrices(this.moves.editOf(parent), this.nextWorlds.get(one.id)!);
    const inverse = invertMatrix(above);
    const { translation, rotation, scale } = decomposeMatrix(inverse ? multiplyMatrices(inverse, world) : world);
    const id = newId();
    kit.parts[id] = {
      ...structuredClone(one),
      id,
      parent,
      order: nextOrder(kit, parent),
      translation,
      rotation,
      scale,
      mesh: null,
      skin: null,
    };
    this.partFor.set(one.id, id);
    this.worlds.set(id, inverse ? multiplyMatrices(above, multiplyMatrices(inverse, world)) : world);
  }

  private worldOf(id: Id): Mat4 {
    return this.worlds.get(id)!;
  }

  private takeMesh(one: Part, matched: boolean): void {
    const { kit, next } = this;
    const part = kit.parts[this.partFor.get(one.id)!];
    if (matched) {
      const lastName = (path: string | undefined) => path?.slice(path.lastIndexOf('/') + 1);
      // A name that nobody has touched goes along with the file.
      if (lastName(part.from) === part.name) part.name = one.name;
    }
    if (one.from !== undefined) part.from = one.from;
    if (one.mesh === null) {
      if (matched && (this.baseOf.get(part.id)?.mesh ?? null) !== null) Object.assign(part, { mesh: null, skin: null });
      return;
    }
    if (matched && this.keepOwnMesh(one, part)) return;
    const fresh = this.withMaterials(next.meshes[one.mesh]);
    const edit = this.moves.editOf(part.id);
    const oldMesh = part.mesh === null ? null : kit.meshes[part.mesh];
    if (part.skin !== null && oldMesh) {
      const to = multiplyMatrices(
        invertMatrix(this.bindSpace(kit, part, this.worlds)) ?? IDENTITY,
        multiplyMatrices(edit, this.bindSpace(next, one, this.nextWorlds)),
      );
      part.mesh = this.put(reweigh(oldMesh, moved(fresh, to, this.blobs), this.blobs), null);
    } else if (one.skin !== null) {
      part.skin = this.takeSkin(one.skin, edit);
      part.mesh = this.put(fresh, one.mesh);
    } else {
      const inverse = invertMatrix(this.worldOf(part.id));
      if (!inverse)
        throw new VersionError(`“${part.name}” is flattened to nothing, so its new mesh can't be placed. Give it another size first.`);
      const to = multiplyMatrices(inverse, multiplyMatrices(edit, this.nextWorlds.get(one.id)!));
      part.mesh = this.put(moved(fresh, to, this.blobs), `${one.mesh}/${[...to].map((value) => value.toFixed(6)).join()}`);
    }
  }

  /**
   * Where the file has the same mesh as before, perhaps elsewhere or with another pivot, the kit's own stays with all that was
   * mended on it, and only goes along with the movement. False where the mesh is another one.
   */
  private keepOwnMesh(one: Part, part: Part): boolean {
    const { kit, blobs } = this;
    const movement = part.mesh === null ? null : this.moves.sameMeshMoved(one.id);
    if (!movement) return false;
    if (this.gone.has(part.id)) return true;
    if (isIdentity(movement)) return true;
    const edit = this.moves.editOf(part.id);
    const [world, inverse, back] = [this.was.get(part.id)!, invertMatrix(this.worldOf(part.id)), invertMatrix(edit)];
    if (part.skin !== null || !inverse || !back) return false;
    const to = [edit, movement, back, world].reduce(multiplyMatrices, inverse);
    part.mesh = this.put(moved(kit.meshes[part.mesh!], to, blobs), null);
    return true;
  }

  /**
   * Parts that the new file has elsewhere, and that are otherwise as they were, go where it has them, pivot and all. What hangs below goes
   * along as far as the file has it so.
   */
  private moveParts(): void {
    const { kit } = this;
    const wanted = new Map<Id, Mat4>();
    for (const [next, part] of this.partFor) {
      const to = this.moves.whereTo(next);
      if (to) this.gone.add(part);
      if (this.baseOf.has(part)) wanted.set(part, to ?? this.worldOf(part));
    }
    if (this.gone.size === 0) return;
    for (const { id, parent } of partsInOrder(kit)) {
      const above = parent === null ? IDENTITY : this.worldOf(parent);
      const part = kit.parts[id];
      const own = ownMatrix(part);
      const inverse = invertMatrix(above);
      const to = wanted.get(id);
      if (to && inverse) {
        const local = multiplyMatrices(inverse, to);
        const { translation, rotation, scale, shear } = decomposeMatrix(local);
        // Where it would be skewed it stays as it hangs, and its mesh alone goes.
        if (shear > SKEWED) this.gone.delete(id);
        else if (!isIdentity(multiplyMatrices(invertMatrix(own) ?? IDENTITY, local))) Object.assign(part, { translation, rotation, scale });
      }
      this.worlds.set(id, multiplyMatrices(above, ownMatrix(part)));
    }
  }

  /** Meshes that were shared in the file and end up the same stay shared. */
  private put(mesh: Mesh, key: string | null): Id {
    const known = key === null ? undefined : this.meshes.get(key);
    if (known) return known;
    const id = newId();
    this.kit.meshes[id] = { ...mesh, id };
    if (key !== null) this.meshes.set(key, id);
    return id;
  }

  private withMaterials(mesh: Mesh): Mesh {
    const own = <T extends { material: Id | null }>(one: T): T => ({
      ...one,
      material: one.material === null ? null : this.materials.get(one.material)!,
    });
    const made: Mesh = { ...mesh, primitives: mesh.primitives.map(own) };
    if (mesh.strokes) made.strokes = mesh.strokes.map(own);
    return made;
  }

  /** Where a mesh's own numbers lie in the world at rest: under its joints where it is skinned. */
  private bindSpace(of: Kit, part: Part, worlds: Map<Id, Mat4>): Mat4 {
    if (part.skin === null) return worlds.get(part.id)!;
    const skin = of.skins[part.skin];
    return multiplyMatrices(worlds.get(skin.joints[0])!, readBindMatrices(skin, this.blobs)[0]);
  }

  /** A skin of the new file on the kit's joints: B' = J'⁻¹ · edit · J · B, so that every vertex stands where the file has it. */
  private takeSkin(id: Id, edit: Mat4): Id {
    const source = this.next.skins[id];
    const binds = readBindMatrices(source, this.blobs);
    const matrices = source.joints.map((joint, i) => {
      const inverse = invertMatrix(this.worldOf(this.partFor.get(joint)!)) ?? IDENTITY;
      return multiplyMatrices(inverse, multiplyMatrices(edit, multiplyMatrices(this.nextWorlds.get(joint)!, binds[i])));
    });
    const made: Skin = {
      id: newId(),
      name: source.name,
      joints: source.joints.map((joint) => this.partFor.get(joint)!),
      inverseBindMatrices: writeBindMatrices(matrices, this.blobs),
    };
    this.kit.skins[made.id] = made;
    return made.id;
  }

  /** Parts of the source that the new version has not. Joints of a skin that stays are kept. */
  private removeGone(fromSource: Set<Id>): void {
    const { kit } = this;
    const kept = new Set(this.partFor.values());
    const joints = new Set(
      Object.values(kit.parts).flatMap((part) =>
        part.skin !== null && (kept.has(part.id) || !fromSource.has(part.id)) ? kit.skins[part.skin].joints : [],
      ),
    );
    const gone = [...fromSource].filter((id) => !kept.has(id) && !joints.has(id));
    const names = new Map(gone.map((id) => [id, kit.parts[id].name]));
    for (const id of gone) this.park(id, names.get(id)!);
    const going = new Set(gone);
    for (const child of Object.values(kit.parts))
      if (child.parent !== null && going.has(child.parent) && !going.has(child.id)) this.liftChild(child, going);
    takeOutParts(kit, going);
  }

  /** Hangs a part below the next one above it that stays, where it is. */
  private liftChild(child: Part, going: ReadonlySet<Id>): void {
    let parent = child.parent;
    while (parent !== null && going.has(parent)) parent = this.kit.parts[parent].parent;
    keepPlaceBelow(this.kit, child.id, parent, this.worlds);
    child.order = nextOrder(this.kit, parent);
  }

  /** What is on a part that goes, and is the kit's own, is kept. */
  private park(id: Id, partName: string): void {
    const parked = SECTION_LIST.flatMap(({ newVersion }) => (newVersion.from === 'kit' ? newVersion.park(this.kit, id) : []));
    if (parked.length > 0)
      this.kit.parked = [...(this.kit.parked ?? []), ...parked.map((one): Parked => ({ id: newId(), partName, ...one }))];
  }

  private dropUnused(): void {
    const { kit } = this;
    const parts = Object.values(kit.parts);
    const meshes = new Set(parts.map((part) => part.mesh));
    for (const id of Object.keys(kit.meshes)) if (!meshes.has(id)) delete kit.meshes[id];
    const skins = new Set(parts.map((part) => part.skin));
    for (const id of Object.keys(kit.skins)) if (!skins.has(id)) delete kit.skins[id];
  }
}

const ownMatrix = ({ translation, rotation, scale }: Part): Mat4 => composeMatrix(translation, rotation, scale);

function moved(mesh: Mesh, m: Mat4, blobs: Blobs): Mesh {
  const linear: Mat3 = [m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]];
  return isIdentity(m) ? mesh : transformMesh(mesh, linear, [m[12], m[13], m[14]] as Vec3, blobs);
}

/** The weights of the old mesh on the new one: row by row where the triangles are the same, else by nearest surface. */
function reweigh(old: Mesh, fresh: Mesh, blobs: Blobs): Mesh {
  const sameTopology =
    old.primitives.length === fresh.primitives.length &&
    old.primitives.every(
      (primitive, i) =>
        primitive.indices.blob === fresh.primitives[i].indices.blob &&
        primitive.attributes.POSITION.count === fresh.primitives[i].attributes.POSITION.count,
    );
  if (!sameTopology) return transferWeights(old, fresh, blobs);
  return {
    ...fresh,
    primitives: fresh.primitives.map((primitive, i): Primitive => {
      const attributes = { ...primitive.attributes };
      for (const semantic of Object.keys(attributes)) if (/^(JOINTS|WEIGHTS)_/.test(semantic)) delete attributes[semantic];
      for (const [semantic, accessor] of Object.entries(old.primitives[i].attributes))
        if (/^(JOINTS|WEIGHTS)_/.test(semantic)) attributes[semantic] = accessor;
      return { ...primitive, attributes };
    }),
  };
}

/** A material with other image ids, in its slots and its extensions'. */
function withImages(material: Material, imageOf: (id: Id) => Id): Material {
  // A draft of immer can't be cloned otherwise.
  const copy = JSON.parse(JSON.stringify(material)) as Material;
  for (const slot of slotsOf(copy)) slot.image = imageOf(slot.image);
  return copy;
}

/** All that a material says, its images by their contents. */
function sayOf(kit: Kit, material: Material): string {
  return JSON.stringify({ ...withImages(material, (id) => kit.images[id].blob), id: '' });
}
