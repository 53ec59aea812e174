import { readArray, type Blobs, type Id, type Kit, type Part } from '../document';
import { fitPoints, invertMatrix, multiplyMatrices, posedVertices, restWorlds, transformPoint, type Mat4 } from '../geometry';
import { baseOfParts } from './source-paths';

/** Moves nothing. */
export const IDENTITY: Mat4 = Float64Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
/** A pivot nearer than this to where it was has not been moved, metres. */
const SAME_PLACE = 1e-4;
/** A movement whose scale is nearer than this to 1 leaves the size as it is. */
const SAME_SIZE = 1e-4;

/** Places in the world of every corner of every triangle, in order: they stay the same where vertices are split or joined. */
function cornersOf(kit: Kit, part: Part, worlds: Map<Id, Mat4>, blobs: Blobs): Float64Array {
  const points = posedVertices(kit, blobs, part, (id) => worlds.get(id)!);
  const lists = kit.meshes[part.mesh!].primitives.map((primitive) => ({
    indices: readArray<Uint32Array>(blobs, primitive.indices),
    vertices: primitive.attributes.POSITION.count,
  }));
  const out = new Float64Array(3 * lists.reduce((sum, one) => sum + one.indices.length, 0));
  let at = 0;
  let first = 0;
  for (const { indices, vertices } of lists) {
    for (const index of indices) {
      out.set(points.subarray(3 * (first + index), 3 * (first + index) + 3), at);
      at += 3;
    }
    first += vertices;
  }
  return out;
}

/** Nearer to nothing than 32-bit numbers tell apart, for a model of some metres. */
export function isIdentity(m: Mat4): boolean {
  return m.every((value, i) => Math.abs(value - IDENTITY[i]) < 1e-6);
}

/** Whether two parts of two files show the same triangles with the same normals, UVs and materials, wherever their points are. */
function sameButPlaces(a: Kit, one: Part, b: Kit, other: Part): boolean {
  if (one.mesh === null || other.mesh === null || (one.skin === null) !== (other.skin === null)) return false;
  const say = (kit: Kit, mesh: Id) =>
    JSON.stringify(
      kit.meshes[mesh].primitives.map(({ attributes, indices, material, targets }) => [
        indices.blob,
        material === null ? null : kit.materials[material].name,
        Object.keys(attributes)
          .sort()
          .map((semantic) => [semantic, semantic === 'POSITION' ? attributes[semantic].count : attributes[semantic].blob]),
        targets ?? null,
      ]),
    );
  return say(a, one.mesh) === say(b, other.mesh);
}

/** What a new version of a source moved, and what was done to its parts in the kit since the old one was read: movements of the world. */
export class VersionMoves {
  private readonly worlds: Map<Id, Mat4>;
  private readonly nextWorlds: Map<Id, Mat4>;
  private readonly baseWorlds: Map<Id, Mat4>;
  private readonly baseOf: Map<Id, Part>;
  private readonly edits = new Map<Id, Mat4>();
  private readonly joints: Set<Id>;
  /** Movements by the new version's part; each is asked for several times, and poses every corner. */
  private readonly fits = new Map<Id, Mat4 | null>();

  /**
   * @param base The source as it was read, in the same space; null where it is not kept.
   * @param partFor The kit's part by that of the new version.
   */
  constructor(
    private readonly kit: Kit,
    private readonly base: Kit | null,
    private readonly next: Kit,
    private readonly partFor: ReadonlyMap<Id, Id>,
    private readonly blobs: Blobs,
  ) {
    this.worlds = restWorlds(kit);
    this.nextWorlds = restWorlds(next);
    this.baseWorlds = base ? restWorlds(base) : new Map();
    this.baseOf = base ? baseOfParts(kit, base) : new Map();
    this.joints = new Set(Object.values(kit.skins).flatMap(({ joints }) => joints));
    this.findEdits();
  }

  /** What was done to each matched part since it was read: from the corners of its old mesh then and now. */
  private findEdits(): void {
    if (!this.base) return;
    for (const part of this.partFor.values()) {
      const before = this.baseOf.get(part);
      if (!before || before.mesh === null || this.kit.parts[part].mesh === null) continue;
      const edit = fitPoints(
        cornersOf(this.base, before, this.baseWorlds, this.blobs),
        cornersOf(this.kit, this.kit.parts[part], this.worlds, this.blobs),
      );
      if (edit) this.edits.set(part, edit);
    }
  }

  /** The edit of a part, or of the nearest one above it that has one, or of any. */
  editOf(part: Id | null): Mat4 {
    for (let up = part; up !== null; up = this.kit.parts[up].parent) {
      const edit = this.edits.get(up);
      if (edit) return edit;
    }
    return this.edits.values().next().value ?? IDENTITY;
  }

  /** How the new file moved a mesh that is otherwise as it was in the old one; null where it is another one. */
  sameMeshMoved(nextPart: Id): Mat4 | null {
    let fit = this.fits.get(nextPart);
    if (fit === undefined) this.fits.set(nextPart, (fit = this.fitOf(nextPart)));
    return fit;
  }

  private fitOf(nextPart: Id): Mat4 | null {
    const [one, before] = [this.next.parts[nextPart], this.baseOf.get(this.partFor.get(nextPart)!)];
    if (!this.base || !before || !sameButPlaces(this.base, before, this.next, one)) return null;
    return fitPoints(cornersOf(this.base, before, this.baseWorlds, this.blobs), cornersOf(this.next, one, this.nextWorlds, this.blobs));
  }

  /** How the new file moved a part that is otherwise as it was: its mesh, or the part itself where it shows none. Null where it did not. */
  private movementOf(nextPart: Id): Mat4 | null {
    const [one, before] = [this.next.parts[nextPart], this.baseOf.get(this.partFor.get(nextPart)!)];
    if (!before) return null;
    if (one.mesh !== null || before.mesh !== null) return this.sameMeshMoved(nextPart);
    const back = invertMatrix(this.baseWorlds.get(before.id)!);
    return back && multiplyMatrices(this.nextWorlds.get(nextPart)!, back);
  }

  /** Whether a part's pivot is where a person put it since the old file was read. */
  pivotIsOwn(part: Id): boolean {
    const before = this.baseOf.get(part);
    if (!before) return true;
    const was = transformPoint(this.editOf(part), [...this.baseWorlds.get(before.id)!.slice(12, 15)] as [number, number, number]);
    const is = this.worlds.get(part)!;
    return Math.hypot(was[0] - is[12], was[1] - is[13], was[2] - is[14]) > SAME_PLACE;
  }

  /** Whether the new file only moved a part: its mesh is as it was, as large as it was, and elsewhere. */
  isMoved(nextPart: Id): boolean {
    const part = this.partFor.get(nextPart);
    if (part === undefined || this.joints.has(part) || this.kit.parts[part].skin !== null) return false;
    const movement = this.movementOf(nextPart);
    if (!movement || isIdentity(movement)) return false;
    return [0, 4, 8].every((column) => Math.abs(Math.hypot(...movement.slice(column, column + 3)) - 1) < SAME_SIZE);
  }

  /** How far the middle of what a part shows went, or its pivot where it shows nothing, metres. */
  metresMoved(nextPart: Id): number {
    const movement = this.movementOf(nextPart) ?? IDENTITY;
    const before = this.baseOf.get(this.partFor.get(nextPart)!);
    if (!this.base || !before) return 0;
    const points =
      before.mesh === null ? this.baseWorlds.get(before.id)!.slice(12, 15) : cornersOf(this.base, before, this.baseWorlds, this.blobs);
    const middle = [0, 1, 2].map((axis) => points.reduce((sum, value, i) => (i % 3 === axis ? sum + value : sum), 0) / (points.length / 3));
    const moved = transformPoint(movement, middle as [number, number, number]);
    return Math.hypot(...moved.map((value, axis) => value - middle[axis]));
  }

  /** Where a part that was only moved stands in the kit, pivot and all, in the world; null where it was not, or its pivot is a person's. */
  whereTo(nextPart: Id): Mat4 | null {
    if (!this.isMoved(nextPart)) return null;
    const part = this.partFor.get(nextPart)!;
    const edit = this.editOf(part);
    const back = invertMatrix(edit);
    if (!back || this.pivotIsOwn(part)) return null;
    return [this.movementOf(nextPart)!, back, this.worlds.get(part)!].reduce(multiplyMatrices, edit);
  }
}
