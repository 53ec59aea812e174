import Joi from 'joi';
import { quatSchema, vec3Schema } from './schemas';
import { packedClip, packedClipSchema, type Clip, type PackedClip } from './sections/clips';
import { ROLES, type Part } from './sections/parts';
import { TURN_ORDERS, type Id } from './values';

/**
 * What glTF has no place for, under the name `itchkit` in the `extras` of nodes and animations (glTF 2.0, 3.1): it goes out with a kit
 * that is written as GLB and comes back with it. Other programs keep it or drop it; a file without it is read all the same.
 */
export const EXTRAS = 'itchkit';

/** Of a node: only what is not as it is where nothing is said. */
export interface NodeExtras {
  role?: NonNullable<Part['role']>;
  turnOrder?: Part['turnOrder'];
  tail?: Part['tail'];
  bendDegrees?: number;
  /**
   * A skinned part stands at the top of the scene, as the standard wants it: the node that it hangs below, its place there and its
   * placement.
   */
  below?: { node: number; order: number } & Pick<Part, 'translation' | 'rotation' | 'scale'>;
}

/** Of an animation: what the manifest of a package says of a clip, and its place among them. */
export type AnimationExtras = Omit<PackedClip, 'name'> & {
  order: number;
  /** It moves nothing, and its one channel is there because the standard wants one. */
  still?: true;
};

const nodeSchema = Joi.object({
  role: Joi.valid(...ROLES),
  turnOrder: Joi.valid(...TURN_ORDERS),
  tail: vec3Schema,
  bendDegrees: Joi.number().greater(0).max(180),
  below: Joi.object({
    node: Joi.number().integer().min(0).required(),
    order: Joi.number().required(),
    translation: vec3Schema.required(),
    rotation: quatSchema.required(),
    scale: vec3Schema.required(),
  }),
});
const animationSchema = packedClipSchema
  .fork('name', (name) => name.forbidden())
  .keys({
    order: Joi.number().required(),
    still: Joi.valid(true),
    seconds: Joi.number().min(0).max(3600).required(),
    rate: Joi.number().min(1).max(240).required(),
  });

/** What a file says in its extras, where it is what we write; undefined for anything else. */
function saidIn<T>(extras: object, schema: Joi.Schema): T | undefined {
  const said = (extras as Record<string, unknown>)[EXTRAS];
  return said !== undefined && schema.validate(said, { convert: false }).error === undefined ? (said as T) : undefined;
}

/** What a node's `extras` say of its part, or undefined where nothing of ours is there or it does not fit. */
export const nodeExtrasIn = (extras: object): NodeExtras | undefined => saidIn(extras, nodeSchema);
/** What an animation's `extras` say of its clip (rate, order, loop), or undefined where nothing of ours is there. */
export const animationExtrasIn = (extras: object): AnimationExtras | undefined => saidIn(extras, animationSchema);

/** What to write into a node's extras; null where there is nothing to say. */
export function nodeExtras(part: Part, nodeOf: (part: Id) => number): NodeExtras | null {
  const out: NodeExtras = {};
  if (part.role !== null) out.role = part.role;
  if (part.turnOrder !== 'xyz') out.turnOrder = part.turnOrder;
  if (part.tail) out.tail = part.tail;
  if (part.bendDegrees !== undefined) out.bendDegrees = part.bendDegrees;
  const { skin, parent, order, translation, rotation, scale } = part;
  if (skin !== null && parent !== null) out.below = { node: nodeOf(parent), order, translation, rotation, scale };
  return Object.keys(out).length > 0 ? out : null;
}

/** What to write into an animation's extras. @param still Whether it moves nothing. */
export function animationExtras(clip: Clip, nodeOf: (part: Id) => number, still: boolean): AnimationExtras {
  const { name: _, ...said } = packedClip(clip, nodeOf);
  return { ...said, order: clip.order, ...(still ? { still } : {}) };
}
