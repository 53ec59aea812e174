import Joi from 'joi';
import type { Accessor } from '../blobs';
import type { Kit } from '../kit';
import { accessorSchema, idSchema, maybeIdSchema, nameSchema, recordSchema, type SchemaOf } from '../schemas';
import type { Id, Table } from '../values';
import { alike, allGoesIn, nothing, type Refuse, type Section } from './section';

export interface Primitive {
  material: Id | null;
  /** glTF attribute semantics (POSITION, NORMAL, TANGENT, TEXCOORD_n, COLOR_n, JOINTS_n, WEIGHTS_n). */
  attributes: Record<string, Accessor>;
  /** Triangle list, three u32 a triangle. */
  indices: Accessor;
  /** What each morph target adds to POSITION, NORMAL and TANGENT (3 numbers a vertex); absent where the mesh has none. */
  targets?: Record<string, Accessor>[];
}

/** Points, or single lines: kept, shown and packaged beside the triangles. They count as vertices, and no check of surfaces reads them. */
export interface Stroke {
  mode: 'points' | 'lines';
  material: Id | null;
  /** glTF attribute semantics; no joints and no weights. */
  attributes: Record<string, Accessor>;
  /** One u32 a point, two a line. */
  indices: Accessor;
}

export interface MorphTarget {
  name: string;
  /** At rest. */
  weight: number;
}

/** A simpler shape of a mesh, for a distance. */
export interface MeshLevel {
  /** As the target calls it. */
  name: string;
  /** How far it lies from the mesh, millimetres. */
  errorMm: number;
  primitives: Primitive[];
}

export interface Mesh {
  id: Id;
  name: string;
  primitives: Primitive[];
  /** Absent where there are none. They go when the mesh is changed, and are made again. */
  levels?: MeshLevel[];
  /** Absent where the mesh has none. */
  strokes?: Stroke[];
  /** As many as each primitive's `targets`; absent where there are none. */
  targets?: MorphTarget[];
}

declare module '../kit' {
  interface Kit {
    meshes: Table<Mesh>;
  }
}

/** Triangles of a mesh; 0 for none. */
export function trianglesOf(kit: Kit, mesh: Id | null): number {
  return mesh === null ? 0 : kit.meshes[mesh].primitives.reduce((sum, { indices }) => sum + Math.floor(indices.count / 3), 0);
}

/** Every primitive of a mesh, those of its levels too. */
const primitivesOf = (mesh: Mesh): Primitive[] => [...mesh.primitives, ...(mesh.levels ?? []).flatMap((level) => level.primitives)];

const attributes = Joi.object().pattern(/^[A-Z]+(_\d+)?$/, accessorSchema);
const primitives = Joi.array().items(
  Joi.object({
    material: maybeIdSchema.required(),
    attributes: attributes.required(),
    indices: accessorSchema.required(),
    targets: Joi.array().items(Joi.object().pattern(Joi.valid('POSITION', 'NORMAL', 'TANGENT'), accessorSchema)),
  } satisfies SchemaOf<Primitive>),
);

/** All attributes of one length, and whole triangles, lines or points of them. */
function checkRows({ attributes: rows, indices }: Primitive | Stroke, each: number, where: string, refuse: Refuse): void {
  const vertices = rows.POSITION?.count;
  if (vertices === undefined) return void refuse('a mesh without places of its vertices', where);
  for (const [semantic, accessor] of Object.entries(rows)) {
    if (accessor.count !== vertices) refuse(`${semantic} has ${accessor.count} rows for ${vertices} vertices`, where);
    checkType(semantic, accessor, where, refuse);
  }
  if (indices.count % each !== 0 || indices.size !== 1) refuse(`its corners do not come in groups of ${each}`, where);
  if (indices.type === 'f32') refuse('its corners are no whole numbers', where);
}

/** Numbers a row of each semantic (glTF 2.0, 3.7.2.1). */
const SIZES: Readonly<Record<string, readonly number[]>> = {
  POSITION: [3],
  NORMAL: [3],
  TANGENT: [4],
  TEXCOORD: [2],
  COLOR: [3, 4],
  JOINTS: [4],
  WEIGHTS: [4],
};

function checkType(semantic: string, { type, size }: Accessor, where: string, refuse: Refuse): void {
  const kind = semantic.replace(/_\d+$/, '');
  if (SIZES[kind] && !SIZES[kind].includes(size)) refuse(`${semantic} has ${size} numbers a row`, where);
  if ((kind === 'JOINTS') === (type === 'f32') && kind in SIZES) refuse(`${semantic} can't be of ${type}`, where);
}

/** Meshes of primitives, their arrays in blobs. */
export const meshesSection: Section<'meshes'> = {
  kind: 'table',
  merges: 'records',
  ...recordSchema<Mesh>({
    id: idSchema.required(),
    name: nameSchema.required(),
    primitives: primitives.required(),
    levels: Joi.array().items(
      Joi.object({ name: nameSchema.required(), errorMm: Joi.number().min(0).required(), primitives: primitives.required() }),
    ),
    strokes: Joi.array().items(
      Joi.object({
        mode: Joi.valid('points', 'lines').required(),
        material: maybeIdSchema.required(),
        attributes: attributes.required(),
        indices: accessorSchema.required(),
      } satisfies SchemaOf<Stroke>),
    ),
    targets: Joi.array().items(Joi.object({ name: nameSchema.required(), weight: Joi.number().required() })),
  }),
  sound(mesh, refuse) {
    const where = `meshes.${mesh.id}`;
    for (const primitive of mesh.primitives)
      if ((primitive.targets?.length ?? 0) !== (mesh.targets?.length ?? 0))
        refuse('a mesh whose parts have different morph targets', `${where}.targets`);
    for (const primitive of primitivesOf(mesh)) {
      checkRows(primitive, 3, where, refuse);
      for (const target of primitive.targets ?? [])
        for (const [semantic, { count }] of Object.entries(target))
          if (count !== primitive.attributes.POSITION.count) refuse(`a morph target's ${semantic} has ${count} rows`, `${where}.targets`);
    }
    for (const stroke of mesh.strokes ?? []) checkRows(stroke, stroke.mode === 'lines' ? 2 : 1, where, refuse);
  },
  references(mesh, { kit, need }) {
    for (const { material } of [...primitivesOf(mesh), ...(mesh.strokes ?? [])])
      need(kit.materials, material, `meshes.${mesh.id}.material`);
  },
  blobs(mesh, add) {
    for (const one of [...primitivesOf(mesh), ...(mesh.strokes ?? [])]) {
      for (const accessor of Object.values(one.attributes)) add(accessor.blob);
      add(one.indices.blob);
    }
    for (const { targets } of primitivesOf(mesh))
      for (const target of targets ?? []) for (const accessor of Object.values(target)) add(accessor.blob);
  },
  /** Those that nothing shows any more go. */
  without(kit) {
    const shown = new Set(Object.values(kit.parts).map((part) => part.mesh));
    for (const id of Object.keys(kit.meshes)) if (!shown.has(id)) delete kit.meshes[id];
  },
  joined: nothing,
  moved: nothing,
  conform(kit, to) {
    for (const id of Object.keys(kit.meshes)) kit.meshes[id] = to.mesh(kit.meshes[id]);
  },
  // What is different is said of the parts that show them.
  compare: alike,
  pack: { model: true, manifest: null, leftOut: allGoesIn },
  newVersion: { from: 'file' },
};
