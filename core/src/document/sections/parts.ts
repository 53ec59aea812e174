import Joi from 'joi';
import { idSchema, maybeIdSchema, nameSchema, quatSchema, recordSchema, vec3Schema } from '../schemas';
import { pathOf, partsInOrder } from '../tree';
import { TURN_ORDERS, type Id, type Quat, type Table, type TurnOrder, type Vec3 } from '../values';
import { trianglesOf } from './meshes';
import { compareRecords, said, same } from './compare';
import { allGoesIn, nothing, type Section } from './section';

/** What a part is for. */
export const ROLES = ['base', 'seat', 'driven', 'joint', 'mount', 'shell', 'marker'] as const;
export type Role = (typeof ROLES)[number];

/** A node of the kit as people see it. Its origin is its pivot. */
export interface Part {
  id: Id;
  name: string;
  role: Role | null;
  parent: Id | null;
  /** Place among its siblings, ascending. */
  order: number;
  /** Rest translation in the parent's axes, metres. */
  translation: Vec3;
  rotation: Quat;
  scale: Vec3;
  turnOrder: TurnOrder;
  mesh: Id | null;
  skin: Id | null;
  /** Hidden on the bench only; a hidden part is packaged all the same. */
  hidden: boolean;
  /** Of a joint without a child to reach to: where it ends, in its own axes, metres. Absent where nobody said so. */
  tail?: Vec3;
  /** Of a joint: how far it can bend either way, degrees, as test poses do. Absent where nobody said so; then its name tells. */
  bendDegrees?: number;
  /** Its path in the file it came from; absent on parts made here. It survives renaming, so that a new version finds it. */
  from?: string;
}

/** In the order of the model's nodes. */
interface PackedPart {
  node: number;
  name: string;
  path: string;
  role: Role | null;
  turnOrder: TurnOrder;
  triangles: number;
}

declare module '../kit' {
  interface Kit {
    parts: Table<Part>;
  }
  interface ManifestSections {
    parts: PackedPart[];
  }
}

/** The tree of parts: place, turn and size at rest relative to the parent, and what each holds. */
export const partsSection: Section<'parts'> = {
  kind: 'table',
  merges: 'fields',
  ...recordSchema<Part>({
    id: idSchema.required(),
    name: nameSchema.required(),
    role: Joi.valid(...ROLES, null).required(),
    parent: maybeIdSchema.required(),
    order: Joi.number().required(),
    translation: vec3Schema.required(),
    rotation: quatSchema.required(),
    scale: vec3Schema.required(),
    turnOrder: Joi.valid(...TURN_ORDERS).required(),
    mesh: maybeIdSchema.required(),
    skin: maybeIdSchema.required(),
    hidden: Joi.boolean().required(),
    tail: vec3Schema,
    bendDegrees: Joi.number().greater(0).max(180),
    from: Joi.string().allow('').max(4000),
  }),
  sound(part, refuse) {
    const length = Math.hypot(...part.rotation);
    if (Math.abs(length - 1) > 1e-3) refuse(`the rotation of “${part.name}” is no unit quaternion`, `parts.${part.id}.rotation`);
  },
  references(part, { kit, need, refuse, hung }) {
    const where = `parts.${part.id}`;
    need(kit.parts, part.parent, `${where}.parent`);
    need(kit.meshes, part.mesh, `${where}.mesh`);
    need(kit.skins, part.skin, `${where}.skin`);
    const way = new Set<Id>();
    for (let up: Id | null = part.id; up !== null && !hung.has(up); up = kit.parts[up].parent) {
      need(kit.parts, up, `${where}.parent`);
      if (way.has(up)) refuse('a part hangs below itself', `${where}.parent`);
      way.add(up);
    }
    way.forEach((id) => hung.add(id));
  },
  blobs: nothing,
  without(kit, { gone }) {
    for (const id of gone) delete kit.parts[id];
  },
  joined: nothing,
  moved(kit, id, move) {
    const part = kit.parts[id];
    if (part.tail) part.tail = move(part.tail);
  },
  conform(kit, to) {
    for (const part of Object.values(kit.parts)) {
      part.translation = to.place(part.translation);
      if (part.tail) part.tail = to.place(part.tail);
      part.rotation = to.rotation(part.rotation);
      part.scale = to.size(part.scale);
      part.turnOrder = to.turnOrder(part.turnOrder);
    }
  },
  compare(before, after) {
    return compareRecords(
      before.parts,
      after.parts,
      (part) => pathOf(after.parts[part.id] === part ? after : before, part.id),
      (a, b) => {
        const [m, n] = [trianglesOf(before, a.mesh), trianglesOf(after, b.mesh)];
        return [
          ...said(a.name, b.name, `renamed from “${a.name}”`),
          ...said(a.parent, b.parent, 'hung elsewhere'),
          ...said(a.role, b.role, b.role ? `role ${b.role}` : 'no role'),
          ...said([a.translation, a.rotation, a.scale], [b.translation, b.rotation, b.scale], 'placed elsewhere'),
          ...said(m, n, `${m.toLocaleString('en')} → ${n.toLocaleString('en')} triangles`),
          ...(m === n && !same(a.mesh && before.meshes[a.mesh].primitives, b.mesh && after.meshes[b.mesh].primitives)
            ? ['another mesh']
            : []),
        ];
      },
    );
  },
  pack: {
    model: true,
    manifest: {
      schema: Joi.array()
        .items(
          Joi.object({
            node: Joi.number().integer().required(),
            name: Joi.string().allow('').required(),
            path: Joi.string().allow('').required(),
            role: Joi.valid(...ROLES, null).required(),
            turnOrder: Joi.valid(...TURN_ORDERS).required(),
            triangles: Joi.number().required(),
          }),
        )
        .required(),
      write: (kit, { roleOf }) =>
        partsInOrder(kit).map((part, node) => ({
          node,
          name: part.name,
          path: pathOf(kit, part.id),
          role: roleOf(part),
          turnOrder: part.turnOrder,
          triangles: trianglesOf(kit, part.mesh),
        })),
      read(said, kit, { partAt }) {
        for (const { node, path, role, turnOrder } of said) Object.assign(kit.parts[partAt(node, path)], { role, turnOrder });
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: { from: 'file' },
};
