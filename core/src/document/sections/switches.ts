import Joi from 'joi';
import type { Kit } from '../kit';
import { countSchema, idSchema, type SchemaOf } from '../schemas';
import type { Id } from '../values';
import { ascending } from '../wording';
import { compareRecords, said } from './compare';
import { allGoesIn, nothing, type Section } from './section';

/** Values from one (which counts) up to another (which does not); null where nothing ends it. In the variable's unit. */
export interface Span {
  from: number | null;
  to: number | null;
}

/** A part that is shown while a variable is within one of these spans, and hidden with all below it otherwise. */
export interface Switch {
  id: Id;
  part: Id;
  variable: string;
  /** From 0; null where the variable has no index. */
  index: number | null;
  spans: Span[];
  /** Parts of one name stand for one another: exactly one of them is shown at each value. Empty where it stands alone. */
  among: string;
}

interface PackedSwitch extends Omit<Switch, 'id' | 'part'> {
  node: number;
}

declare module '../kit' {
  interface Kit {
    /** Absent where nothing is switched. */
    switches?: Switch[];
  }
  interface ManifestSections {
    switches?: PackedSwitch[];
  }
}

const spanSchema = Joi.object({
  from: Joi.number().allow(null).required(),
  to: Joi.number().allow(null).required(),
} satisfies SchemaOf<Span>);

const ofSwitch = {
  variable: Joi.string().min(1).max(120).required(),
  index: countSchema.allow(null).required(),
  spans: Joi.array().items(spanSchema).max(200).required(),
  among: Joi.string().allow('').max(120).required(),
};

/** A switch: the part, its variable, and the spans in which it is shown. */
export const switchSchema = Joi.object({ ...ofSwitch, id: idSchema.required(), part: idSchema.required() } satisfies SchemaOf<Switch>);

const titleOf = ({ variable, index }: Switch) => `Switch by ${variable}${index === null ? '' : ` ${index}`}`;

/** Takes the switches of some parts out of a kit, and gives them. Writes to the draft. */
function takeOut(kit: Kit, of: (part: Id) => boolean): Switch[] {
  const gone = (kit.switches ?? []).filter(({ part }) => of(part));
  if (gone.length === 0) return gone;
  const kept = kit.switches!.filter(({ part }) => !of(part));
  if (kept.length > 0) kit.switches = kept;
  else delete kit.switches;
  return gone;
}

/** Which parts are shown at which values. */
export const switchesSection: Section<'switches'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array().items(switchSchema),
  fields: [],
  sound(list, refuse) {
    for (const { id, spans } of list)
      for (const { from, to } of spans)
        if (from !== null && to !== null && !(from < to)) refuse(`is shown from ${from} to ${to}, which is nothing`, `switches.${id}`);
  },
  references(list, { kit, need }) {
    for (const { id, part } of list) need(kit.parts, part, `switches.${id}.part`);
  },
  blobs: nothing,
  without: (kit, { gone }) => void takeOut(kit, (part) => gone.has(part)),
  joined: nothing,
  moved: nothing,
  conform: nothing,
  compare: (before, after) =>
    compareRecords(before.switches ?? [], after.switches ?? [], titleOf, (a, b) => [
      ...said(a.spans, b.spans, 'shown at other values'),
      ...said(a.part, b.part, 'shows another part'),
      ...said(a.among, b.among, `stands for others than “${a.among}”`),
    ]),
  pack: {
    model: false,
    manifest: {
      schema: Joi.array().items(Joi.object({ ...ofSwitch, node: Joi.number().integer().required() } satisfies SchemaOf<PackedSwitch>)),
      write: (kit, { nodeOf }) =>
        kit.switches
          ?.map(({ id: _, part, ...one }) => ({ ...one, node: nodeOf(part) }))
          .sort((a, b) => a.node - b.node || ascending(a.variable, b.variable) || (a.index ?? -1) - (b.index ?? -1)),
      read(list, kit, { partAt }) {
        kit.switches = list.map(({ node, ...one }, i) => ({ ...one, id: `switch${i}`, part: partAt(node, one.variable) }));
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: {
    from: 'kit',
    park: (kit, part) => takeOut(kit, (one) => one === part).map((one) => ({ kind: 'switch' as const, switch: one })),
  },
};
