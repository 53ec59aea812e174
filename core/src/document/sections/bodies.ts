import Joi from 'joi';
import { idSchema, nameSchema, type SchemaOf } from '../schemas';
import type { Id } from '../values';
import { compareRecords, said } from './compare';
import { allGoesIn, nothing, STAYS, type Section } from './section';

/** Parts that are held together and move as one. Its axes are those of its first part. */
export interface Body {
  id: Id;
  name: string;
  parts: Id[];
  /** Whether it stands still, whatever moves. */
  anchored: boolean;
}

interface PackedBody {
  name: string;
  anchored: boolean;
  nodes: number[];
}

declare module '../kit' {
  interface Kit {
    /** Of a rigid assembly; absent where the kit is none. */
    bodies?: Body[];
  }
  interface ManifestSections {
    bodies?: PackedBody[];
  }
}

const body = Joi.object({
  id: idSchema.required(),
  name: nameSchema.required(),
  parts: Joi.array().items(idSchema).min(1).required(),
  anchored: Joi.boolean().required(),
} satisfies SchemaOf<Body>);

/** Parts that stay together as bodies of an assembly, and which of them is held. */
export const bodiesSection: Section<'bodies'> = {
  kind: 'optional',
  merges: 'fields',
  schema: Joi.array().items(body),
  fields: [],
  sound(list, refuse) {
    const taken = new Set<Id>();
    for (const { id, parts } of list)
      for (const part of parts) {
        if (taken.has(part)) refuse('a part that belongs to two bodies', `bodies.${id}.parts`);
        taken.add(part);
      }
  },
  references(list, { kit, need }) {
    for (const { id, parts } of list) for (const part of parts) need(kit.parts, part, `bodies.${id}.parts`);
  },
  blobs: nothing,
  /** Those without parts go; couplings see to themselves before (they come first in the list of sections). */
  without(kit, { gone }) {
    if (!kit.bodies?.some(({ parts }) => parts.some((part) => gone.has(part)))) return;
    const left = kit.bodies
      .map((one) => ({ ...one, parts: one.parts.filter((part) => !gone.has(part)) }))
      .filter(({ parts }) => parts.length > 0);
    if (left.length > 0) kit.bodies = left;
    else delete kit.bodies;
  },
  joined: nothing,
  moved: nothing,
  conform: nothing,
  compare: (before, after) =>
    compareRecords(
      before.bodies ?? [],
      after.bodies ?? [],
      ({ name }) => `Body “${name}”`,
      (a, b) => [
        ...said(a.name, b.name, `renamed from “${a.name}”`),
        ...said(a.parts, b.parts, 'of other parts'),
        ...said(a.anchored, b.anchored, b.anchored ? 'anchored' : 'no longer anchored'),
      ],
    ),
  pack: {
    model: false,
    manifest: {
      schema: Joi.array().items(
        Joi.object({
          name: Joi.string().allow('').required(),
          anchored: Joi.boolean().required(),
          nodes: Joi.array().items(Joi.number().integer()).required(),
        } satisfies SchemaOf<PackedBody>),
      ),
      write: (kit, { nodeOf }) => kit.bodies?.map(({ name, anchored, parts }) => ({ name, anchored, nodes: parts.map(nodeOf) })),
      read(list, kit, { partAt }) {
        kit.bodies = list.map(({ name, anchored, nodes }, i) => ({
          id: `body${i}`,
          name,
          anchored,
          parts: nodes.map((node) => partAt(node, name)),
        }));
      },
    },
    leftOut: allGoesIn,
  },
  newVersion: STAYS,
};
