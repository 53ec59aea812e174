import Joi from 'joi';
import type { Kit } from '../kit';
import { idSchema, nameSchema, vec3Schema, type SchemaOf } from '../schemas';
import type { Id, Vec3 } from '../values';
import { compareRecords, said } from './compare';
import { allGoesIn, nothing, STAYS, type Move, type Section } from './section';

/** What lets one body move against another. */
export const COUPLING_KINDS = ['hinge', 'slider', 'ball'] as const;
export type CouplingKind = (typeof COUPLING_KINDS)[number];

/** What lets one body move against another: about a line, along it, or about a point. */
export interface Coupling {
  id: Id;
  name: string;
  kind: CouplingKind;
  /** The body that holds, and the one that is held. */
  from: Id;
  to: Id;
  /** In the axes of the holding body, metres. */
  at: Vec3;
  /** Unit vector in those axes: of the hinge, of the slide, or of the middle of the ball's cone. */
  axis: Vec3;
  /** Degrees, metres for a slider, from where the bodies stand at rest; null where nothing stops it. A ball has a greatest swing alone. */
  min: number | null;
  max: number | null;
}

/** Bodies by their place in the manifest's list of them. */
interface PackedCoupling extends Omit<Coupling, 'id' | 'from' | 'to'> {
  from: number;
  to: number;
}

declare module '../kit' {
  interface Kit {
    /** Absent where nothing is coupled. */
    couplings?: Coupling[];
  }
  interface ManifestSections {
    couplings?: PackedCoupling[];
  }
}

const ofCoupling = {
  name: nameSchema.required(),
  kind: Joi.valid(...COUPLING_KINDS).required(),
  at: vec3Schema.required(),
  axis: vec3Schema.required(),
  min: Joi.number().allow(null).required(),
  max: Joi.number().allow(null).required(),
};
/** A coupling: two bodies, place and axis in the axes of the one that holds, and limits in degrees or metres. */
export const couplingSchema = Joi.object({
  ...ofCoupling,
  id: idSchema.required(),
  from: idSchema.required(),
  to: idSchema.invalid(Joi.ref('from')).required(),
} satisfies SchemaOf<Coupling>);

/** The part whose axes a body has. */
const leadOf = (kit: Kit, body: Id): Id | undefined => kit.bodies?.find(({ id }) => id === body)?.parts[0];

/** Takes a place with its direction elsewhere. A direction that is flattened to nothing stays. Writes to the draft. */
function movePlace(coupling: Coupling, move: Move): void {
  const [at, end] = [move(coupling.at), move(coupling.at.map((value, axis) => value + coupling.axis[axis]) as Vec3)];
  const along = end.map((value, axis) => value - at[axis]);
  const length = Math.hypot(...along);
  coupling.at = at;
  if (length > 1e-12) coupling.axis = along.map((value) => value / length + 0) as Vec3;
}

/** How the bodies of an assembly are coupled. */
export const couplingsSection: Section<'couplings'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array().items(couplingSchema),
  fields: [],
  sound: nothing,
  references(list, { kit, need }) {
    const bodies = Object.fromEntries((kit.bodies ?? []).map((body) => [body.id, body]));
    for (const { id, from, to } of list) for (const end of [from, to]) need(bodies, end, `couplings.${id}`);
  },
  blobs: nothing,
  /** They keep their place in the world where the first part of the body that holds goes; without one of their bodies they go. */
  without(kit, { gone, between }) {
    if (!kit.couplings) return;
    const left = new Map((kit.bodies ?? []).map(({ id, parts }) => [id, parts.filter((part) => !gone.has(part))]));
    const kept = kit.couplings.filter(({ from, to }) => [from, to].every((body) => (left.get(body)?.length ?? 0) > 0));
    for (const coupling of kept) {
      const [before, after] = [leadOf(kit, coupling.from)!, left.get(coupling.from)![0]];
      if (before !== after) movePlace(coupling, between(before, after));
    }
    if (kept.length === 0) delete kit.couplings;
    else if (kept.length < kit.couplings.length) kit.couplings = kept;
  },
  joined: nothing,
  moved(kit, part, move) {
    for (const coupling of kit.couplings ?? []) if (leadOf(kit, coupling.from) === part) movePlace(coupling, move);
  },
  conform(kit, to) {
    const limit = (value: number | null, by: number) => (value === null ? null : value * by + 0);
    for (const coupling of kit.couplings ?? []) {
      const { kind, min, max } = coupling;
      movePlace(coupling, to.place);
      // Slides are lengths; turns go the other way round in a mirrored space.
      if (kind === 'slider') Object.assign(coupling, { min: limit(min, to.scale), max: limit(max, to.scale) });
      else if (kind === 'hinge' && to.mirrored) Object.assign(coupling, { min: limit(max, -1), max: limit(min, -1) });
    }
  },
  compare: (before, after) =>
    compareRecords(
      before.couplings ?? [],
      after.couplings ?? [],
      ({ kind, name }) => `${kind[0].toUpperCase()}${kind.slice(1)} “${name}”`,
      (a, b) => [
        ...said(a.name, b.name, `renamed from “${a.name}”`),
        ...said([a.at, a.axis], [b.at, b.axis], 'placed elsewhere'),
        ...said([a.min, a.max], [b.min, b.max], 'other limits'),
      ],
    ),
  pack: {
    model: false,
    manifest: {
      schema: Joi.array().items(
        Joi.object({
          ...ofCoupling,
          from: Joi.number().integer().required(),
          to: Joi.number().integer().required(),
        } satisfies SchemaOf<PackedCoupling>),
      ),
      write(kit) {
        const place = (body: Id) => kit.bodies!.findIndex(({ id }) => id === body);
        return kit.couplings?.map(({ id: _, from, to, ...coupling }) => ({ ...coupling, from: place(from), to: place(to) }));
      },
      read(list, kit) {
        kit.couplings = list.map((one, i) => ({ ...one, id: `coupling${i}`, from: `body${one.from}`, to: `body${one.to}` }));
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: STAYS,
};
