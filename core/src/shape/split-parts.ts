import Joi from 'joi';
import {
  defineOperation,
  freeName,
  idSchema,
  KitError,
  newId,
  newPart,
  nextOrder,
  partOf,
  putNewPart,
  putArray,
  readArray,
  type Blobs,
  type Id,
  type Kit,
  type Mesh,
  type Part,
  type Vec3,
} from '../document';
import { cutMesh, dropUnused, loosePieces, markRuns, meshPlaces, wholeMesh, type Runs } from '../geometry';
import { boundsAnchor, movePivotBy } from './move-pivot';

/** Where pieces get their pivots. */
export const PIVOTS = ['keep', 'middle', 'bottom'] as const;
/** Where a new part's pivot stands: where that of the old one does, or at the middle or the bottom of its own bounds. */
export type NewPivot = (typeof PIVOTS)[number];
/** Where pieces hang: below the part, or beside it. */
export const HANGS = ['below', 'beside'] as const;
/** Whether a new part hangs below the old one or beside it. */
export type NewPlace = (typeof HANGS)[number];

export interface SplitChoice {
  place: NewPlace;
  pivot: NewPivot;
}

const choice = { place: Joi.valid(...HANGS).required(), pivot: Joi.valid(...PIVOTS).required() };

/** A part that can't be split, and why. */
export class NotSplitError extends KitError {
  constructor(name: string, why: string) {
    super('not-split', `“${name}” is not split: ${why}.`, name);
  }
}

/**
 * Takes some faces of a part into a new part. Weights, UVs, normals, materials and morph targets go along; nothing moves, at rest or in any
 * clip.
 *
 * @param faces Runs of the mesh's triangles, counted through its primitives.
 */
export const splitFaces = defineOperation<{ part: Id; faces: Runs; id?: Id; name: string } & SplitChoice>({
  id: 'shape.split-faces',
  title: (kit, { part, name }) => `Split “${name}” from “${kit.parts[part]?.name}”`,
  args: Joi.object({
    part: idSchema.required(),
    faces: Joi.array()
      .items(Joi.array().ordered(Joi.number().integer().min(0).required(), Joi.number().integer().min(1).required()))
      .min(1)
      .required(),
    id: idSchema,
    name: Joi.string().trim().min(1).max(200).required(),
    ...choice,
  }),
  change(kit, { part: id, faces, id: fresh = newId(), name, ...how }, blobs) {
    const mesh = meshOf(kit, id);
    const marks = markRuns(faces, wholeMesh(mesh, blobs).starts.at(-1)!);
    splitOff(kit, id, [{ id: fresh, name, marks }], how, blobs);
  },
});

/** Makes a part of each loose piece; the largest one, by triangles, stays the part that it was. */
export const splitLoose = defineOperation<{ part: Id } & SplitChoice>({
  id: 'shape.split-loose',
  title: (kit, { part }) => `Split “${kit.parts[part]?.name}” into its loose pieces`,
  args: Joi.object({ part: idSchema.required(), ...choice }),
  change(kit, { part: id, ...how }, blobs) {
    const mesh = meshOf(kit, id);
    const { pieceOf, pieces } = loosePieces(meshPlaces(mesh, blobs));
    if (pieces > MOST_PIECES)
      throw new NotSplitError(
        kit.parts[id].name,
        `it falls into ${pieces.toLocaleString('en')} pieces, and ${MOST_PIECES.toLocaleString('en')} parts is the most that is made at once. Weld it first`,
      );
    splitByNumber(kit, id, pieceOf, pieces, () => kit.parts[id].name, how, blobs);
  },
});

/** How many pieces a part may fall into. */
export const MOST_PIECES = 2000;

/** Makes a part for each material; the one with the most triangles stays the part that it was. */
export const splitByMaterial = defineOperation<{ part: Id } & SplitChoice>({
  id: 'shape.split-material',
  title: (kit, { part }) => `Split “${kit.parts[part]?.name}” by material`,
  args: Joi.object({ part: idSchema.required(), ...choice }),
  change(kit, { part: id, ...how }, blobs) {
    const mesh = meshOf(kit, id);
    const materials = [...new Set(mesh.primitives.map((primitive) => primitive.material))];
    const { starts } = wholeMesh(mesh, blobs);
    const numbers = new Uint32Array(starts.at(-1)!);
    mesh.primitives.forEach((primitive, p) => numbers.fill(materials.indexOf(primitive.material), starts[p], starts[p + 1]));
    const nameOf = (n: number) => `${kit.parts[id].name}_${materials[n] === null ? 'plain' : kit.materials[materials[n]].name}`;
    splitByNumber(kit, id, numbers, materials.length, nameOf, how, blobs);
  },
});

/**
 * Cuts a part along a plane, exactly: triangles that lie across it are divided, with their UVs, normals and weights. The side that the
 * normal points to becomes the new part.
 *
 * @param at A point of the plane, in the part's own axes, metres.
 */
export const splitByPlane = defineOperation<{ part: Id; at: Vec3; normal: Vec3; id?: Id; name: string } & SplitChoice>({
  id: 'shape.split-plane',
  title: (kit, { part }) => `Cut “${kit.parts[part]?.name}” along a plane`,
  args: Joi.object({
    part: idSchema.required(),
    at: Joi.array().items(Joi.number().required()).length(3).required(),
    normal: Joi.array()
      .items(Joi.number().required())
      .length(3)
      .custom((value: number[], helpers) => (Math.hypot(...value) > 1e-9 ? value : helpers.error('any.invalid')))
      .required(),
    id: idSchema,
    name: Joi.string().trim().min(1).max(200).required(),
    ...choice,
  }),
  change(kit, { part: id, at, normal, id: fresh = newId(), name, ...how }, blobs) {
    const { mesh, above } = cutMesh(meshOf(kit, id), at, normal, blobs);
    ownMesh(kit, id, mesh);
    splitOff(kit, id, [{ id: fresh, name, marks: above }], how, blobs);
  },
});

function meshOf(kit: Kit, id: Id): Mesh {
  const part = partOf(kit, id);
  if (part.mesh === null) throw new NotSplitError(part.name, 'it has no mesh');
  return kit.meshes[part.mesh];
}

/** Gives a part a mesh of its own; the old one goes where nothing else shows it. */
function ownMesh(kit: Kit, id: Id, mesh: Mesh): void {
  const part = kit.parts[id];
  const shared = Object.values(kit.parts).some((other) => other.id !== id && other.mesh === part.mesh);
  const own = shared ? newId() : part.mesh!;
  kit.meshes[own] = { ...mesh, id: own };
  part.mesh = own;
}

function splitByNumber(
  kit: Kit,
  id: Id,
  numbers: Uint32Array,
  count: number,
  nameOf: (n: number) => string,
  how: SplitChoice,
  blobs: Blobs,
): void {
  const { name } = kit.parts[id];
  if (count < 2) throw new NotSplitError(name, 'it is of one piece');
  const sizes = new Uint32Array(count);
  for (const n of numbers) sizes[n]++;
  const stays = sizes.indexOf(Math.max(...sizes));
  const lists = new Map<number, Uint32Array>();
  const filled = new Uint32Array(count);
  for (let n = 0; n < count; n++) if (n !== stays) lists.set(n, new Uint32Array(sizes[n]));
  numbers.forEach((n, face) => n !== stays && (lists.get(n)![filled[n]++] = face));
  const taken = new Set(Object.values(kit.parts).map((part) => part.name));
  const made = [...lists].map(([n, faces]) => {
    const free = freeName(nameOf(n), taken);
    taken.add(free);
    return { id: newId(), name: free, faces };
  });
  splitOff(kit, id, made, how, blobs);
}

interface NewPiece {
  id: Id;
  name: string;
  /** One for each triangle that goes along; or their numbers, ascending. */
  marks?: Uint8Array;
  faces?: Uint32Array;
}

function splitOff(kit: Kit, id: Id, pieces: NewPiece[], { place, pivot }: SplitChoice, blobs: Blobs): void {
  const part = partOf(kit, id);
  const mesh = meshOf(kit, id);
  const total = wholeMesh(mesh, blobs).starts.at(-1)!;
  const gone = new Uint8Array(total);
  for (const piece of pieces) {
    piece.faces ??= Uint32Array.from(
      (function* (marks) {
        for (let face = 0; face < total; face++) if (marks[face]) yield face;
      })(piece.marks!),
    );
    for (const face of piece.faces) gone[face] = 1;
    if (piece.faces.length === 0)
      throw new NotSplitError(part.name, pieces.length > 1 ? 'a piece would have no face' : 'no face is chosen, or none lies on that side');
  }
  const left = Uint32Array.from({ length: total }, (_, face) => face).filter((face) => gone[face] === 0);
  if (left.length === 0) throw new NotSplitError(part.name, 'all of its faces are chosen, so nothing would be left of it');
  if (place === 'beside' && pivot !== 'keep' && movesItself(kit, id))
    throw new NotSplitError(
      part.name,
      'it moves by itself, and what stands beside it with another pivot would move otherwise. Keep the pivot, or hang the new part below',
    );
  for (const { id: fresh, name, faces } of pieces) {
    const made = newPart({
      ...copyOfPlace(part, place),
      id: fresh,
      name,
      role: null,
      order: place === 'below' ? nextOrder(kit, id) : nextOrder(kit, part.parent),
    });
    putNewPart(kit, made);
    const meshId = newId();
    kit.meshes[meshId] = { ...facesOf({ ...mesh, strokes: undefined }, faces!, blobs), id: meshId, name };
    made.mesh = meshId;
    copyMotion(kit, id, fresh, place);
    if (pivot !== 'keep' && part.skin === null)
      movePivotBy(kit, fresh, boundsAnchor(kit, fresh, [0, pivot === 'middle' ? 0 : -1, 0], blobs), blobs);
  }
  ownMesh(kit, id, facesOf(mesh, left, blobs));
}

function copyOfPlace(part: Part, place: NewPlace): Partial<Part> {
  const { skin, turnOrder } = part;
  if (place === 'below') return { parent: part.id, skin, turnOrder };
  return { parent: part.parent, translation: [...part.translation], rotation: [...part.rotation], scale: [...part.scale], skin, turnOrder };
}

const movesItself = (kit: Kit, id: Id) =>
  Object.values(kit.clips).some((clip) => clip.tracks.some((track) => track.part === id && track.property !== 'weights')) ||
  Object.values(kit.bindings).some((binding) => binding.part === id);

/** What stands beside moves as the old part does; morph weights go along in any case. */
function copyMotion(kit: Kit, from: Id, to: Id, place: NewPlace): void {
  for (const clip of Object.values(kit.clips)) {
    for (const track of [...clip.tracks])
      if (track.part === from && (place === 'beside' || track.property === 'weights'))
        clip.tracks.push({ ...JSON.parse(JSON.stringify(track)), id: newId(), part: to });
  }
  if (place === 'below') return;
  for (const binding of Object.values(kit.bindings)) {
    if (binding.part !== from) continue;
    const id = newId();
    kit.bindings[id] = { ...(JSON.parse(JSON.stringify(binding)) as typeof binding), id, part: to };
  }
}

/** A mesh of some of its faces, without the vertices that only others use. */
function facesOf(mesh: Mesh, faces: Uint32Array, blobs: Blobs): Mesh {
  const { starts } = wholeMesh(mesh, blobs);
  let at = 0;
  const primitives = mesh.primitives.flatMap((primitive, p) => {
    const first = at;
    while (at < faces.length && faces[at] < starts[p + 1]) at++;
    if (at === first) return [];
    const indices = readArray<Uint32Array>(blobs, primitive.indices);
    const own = new Uint32Array(3 * (at - first));
    for (let i = first; i < at; i++) for (let k = 0; k < 3; k++) own[3 * (i - first) + k] = indices[3 * (faces[i] - starts[p]) + k];
    return [dropUnused({ ...primitive, indices: putArray(blobs, own, 1) }, blobs)];
  });
  const result: Mesh = { ...mesh, primitives };
  if (result.strokes === undefined) delete result.strokes;
  delete result.levels;
  return result;
}
