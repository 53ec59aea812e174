import Joi from 'joi';
import { KitError } from './errors';
import { idSchema, quatSchema, vec3Schema } from './operation';
import { slotsOf } from './slots-of';
import {
  CALLOUT_POINTS,
  COUPLING_KINDS,
  CUE_KINDS,
  EASINGS,
  FLAG_COLOURS,
  KEY_PROPERTIES,
  KIT_FORMAT,
  LOOP_MODES,
  OUTSIDES,
  ROLES,
  SIGNED_AXES,
  TURN_ORDERS,
  type Id,
  type Kit,
} from './types';

/** Characters of a formula. */
export const MOST_FORMULA = 400;

const name = Joi.string().allow('').max(200);
const sha = Joi.string().pattern(/^[0-9a-f]{64}$/);
const count = Joi.number().integer().min(0);
const unit = Joi.number().min(0).max(1);
const id = idSchema;
const maybeId = idSchema.allow(null);

const rows = (most: number) =>
  Joi.object({
    blob: sha.required(),
    type: Joi.valid('f32', 'u8', 'u16', 'u32').required(),
    size: count.min(1).max(most).required(),
    count: count.required(),
  });
/** Up to a matrix a row. */
const accessor = rows(16);
/** A row of a dense track may hold a weight for each of as many morph targets as a mesh has. */
const trackValues = rows(10_000);
const pair = Joi.array().items(Joi.number().required()).length(2);
const fullSlot = Joi.object({
  image: id.required(),
  texCoord: count.max(7).required(),
  wrapS: count.required(),
  wrapT: count.required(),
  transform: Joi.object({ offset: pair.required(), rotation: Joi.number().required(), scale: pair.required() }),
});
const slot = fullSlot.allow(null);
const materialExtension = Joi.object({
  factors: Joi.object()
    .pattern(Joi.string().max(60), Joi.alternatives(Joi.number(), Joi.array().items(Joi.number()).max(16)))
    .required(),
  textures: Joi.object().pattern(Joi.string().max(60), fullSlot).required(),
});

const part = Joi.object({
  id: id.required(),
  name: name.required(),
  role: Joi.valid(...ROLES, null).required(),
  parent: maybeId.required(),
  order: Joi.number().required(),
  translation: vec3Schema.required(),
  rotation: quatSchema.required(),
  scale: vec3Schema.required(),
  turnOrder: Joi.valid(...TURN_ORDERS).required(),
  mesh: maybeId.required(),
  skin: maybeId.required(),
  hidden: Joi.boolean().required(),
  tail: vec3Schema,
  bendDegrees: Joi.number().greater(0).max(180),
  from: Joi.string().allow('').max(4000),
});

const primitives = Joi.array().items(
  Joi.object({
    material: maybeId.required(),
    attributes: Joi.object()
      .pattern(/^[A-Z]+(_\d+)?$/, accessor)
      .required(),
    indices: accessor.required(),
    targets: Joi.array().items(Joi.object().pattern(Joi.valid('POSITION', 'NORMAL', 'TANGENT'), accessor)),
  }),
);

const mesh = Joi.object({
  id: id.required(),
  name: name.required(),
  primitives: primitives.required(),
  levels: Joi.array().items(
    Joi.object({ name: name.required(), errorMm: Joi.number().min(0).required(), primitives: primitives.required() }),
  ),
  strokes: Joi.array().items(
    Joi.object({
      mode: Joi.valid('points', 'lines').required(),
      material: maybeId.required(),
      attributes: Joi.object()
        .pattern(/^[A-Z]+(_\d+)?$/, accessor)
        .required(),
      indices: accessor.required(),
    }),
  ),
  targets: Joi.array().items(Joi.object({ name: name.required(), weight: Joi.number().required() })),
});

const material = Joi.object({
  id: id.required(),
  name: name.required(),
  baseColor: Joi.array().items(unit).length(4).required(),
  baseColorTexture: slot.required(),
  metallic: unit.required(),
  roughness: unit.required(),
  metallicRoughnessTexture: slot.required(),
  normalTexture: slot.required(),
  normalScale: Joi.number().required(),
  occlusionTexture: slot.required(),
  emissive: Joi.array().items(unit).length(3).required(),
  emissiveTexture: slot.required(),
  alphaMode: Joi.valid('OPAQUE', 'MASK', 'BLEND').required(),
  alphaCutoff: Joi.number().min(0).required(),
  doubleSided: Joi.boolean().required(),
  extensions: Joi.object().pattern(Joi.string().max(80), materialExtension),
});

const image = Joi.object({
  id: id.required(),
  name: name.required(),
  mediaType: Joi.string().max(60).required(),
  blob: sha.required(),
  bytes: count.required(),
  width: count.required(),
  height: count.required(),
});
const skin = Joi.object({
  id: id.required(),
  name: name.required(),
  joints: Joi.array().items(id).required(),
  inverseBindMatrices: accessor.required(),
});

export const keySchema = Joi.object({
  time: Joi.number().min(0).required(),
  value: Joi.number().required(),
  easing: Joi.valid(...EASINGS).required(),
  slopeIn: Joi.number(),
  slopeOut: Joi.number(),
});
/** Of a property with its axis: three for what has axes, any morph target. */
const axisOf = Joi.when('property', {
  is: 'weight',
  then: Joi.number().integer().min(0).max(65535),
  otherwise: Joi.valid(0, 1, 2),
}).required();
const formula = Joi.object({
  kind: Joi.valid('formula').required(),
  id: id.required(),
  part: id.required(),
  property: Joi.valid(...KEY_PROPERTIES.filter((one) => one !== 'shown')).required(),
  axis: axisOf,
  source: Joi.string().min(1).max(MOST_FORMULA).required(),
  gain: Joi.number().required(),
});
const track = Joi.alternatives().conditional('.kind', {
  switch: [
    { is: 'formula', then: formula },
    {
      is: 'keys',
      then: Joi.object({
        kind: Joi.valid('keys').required(),
        id: id.required(),
        part: id.required(),
        property: Joi.valid(...KEY_PROPERTIES).required(),
        axis: axisOf,
        keys: Joi.array().items(keySchema).required(),
      }),
    },
  ],
  otherwise: Joi.object({
    kind: Joi.valid('samples').required(),
    id: id.required(),
    part: id.required(),
    property: Joi.valid('offset', 'rotation', 'size', 'weights').required(),
    interpolation: Joi.valid('hold', 'straight', 'curve').required(),
    times: accessor.required(),
    values: trackValues.required(),
  }),
});
export const overlaySchema = Joi.object({
  place: Joi.valid('under', 'over').required(),
  mode: Joi.valid('add', 'replace').required(),
  parts: Joi.array().items(id).allow(null).required(),
});
export const cueSchema = Joi.object({
  id: id.required(),
  time: Joi.number().min(0).required(),
  kind: Joi.valid(...CUE_KINDS).required(),
  name: Joi.string().min(1).max(200).required(),
  part: id.allow(null).required(),
});
export const flagSchema = Joi.object({
  id: id.required(),
  time: Joi.number().min(0).required(),
  name: Joi.string().min(1).max(80).required(),
  colour: Joi.valid(...FLAG_COLOURS).required(),
});
export const constantsSchema = Joi.object()
  .pattern(
    Joi.string()
      .pattern(/^[A-Za-z][A-Za-z0-9_]*$/)
      .max(40),
    Joi.number(),
  )
  .max(50);
const clip = Joi.object({
  id: id.required(),
  name: name.required(),
  order: Joi.number().required(),
  lengthSeconds: Joi.number().min(0).max(3600).required(),
  rate: Joi.number().min(1).max(240).required(),
  loop: Joi.valid(...LOOP_MODES).required(),
  tracks: Joi.array().items(track).required(),
  group: Joi.string().min(1).max(120),
  overlay: overlaySchema,
  cues: Joi.array().items(cueSchema).max(10_000),
  flags: Joi.array().items(flagSchema).max(1000),
  constants: constantsSchema,
});

export const bindingRowSchema = Joi.object({
  value: Joi.number().required(),
  offset: vec3Schema.required(),
  turn: vec3Schema.required(),
  size: vec3Schema.required(),
});
const binding = Joi.object({
  id: id.required(),
  variable: Joi.string().allow('').max(120).required(),
  index: count.allow(null).required(),
  part: id.required(),
  rows: Joi.array().items(bindingRowSchema).max(2000).required(),
  outside: Joi.valid(...OUTSIDES).required(),
});

const parkedBase = { id: id.required(), partName: name.required() };
const parked = Joi.alternatives().conditional('.kind', {
  is: 'track',
  then: Joi.object({ ...parkedBase, kind: Joi.valid('track').required(), clip: id.required(), track: track.required() }),
  otherwise: Joi.object({ ...parkedBase, kind: Joi.valid('binding').required(), binding: binding.required() }),
});

export const spaceSchema = Joi.object({
  metresPerUnit: Joi.number().positive().required(),
  up: Joi.valid(...SIGNED_AXES).required(),
  forward: Joi.valid(...SIGNED_AXES).required(),
  handedness: Joi.valid('right', 'left').required(),
});

const source = Joi.object({
  fileName: Joi.string().allow('').max(400).required(),
  format: Joi.string().max(20).required(),
  bytes: count.required(),
  sha: sha.required(),
  generator: Joi.string().allow('').max(400).allow(null).required(),
  space: spaceSchema.required(),
  settled: Joi.boolean().required(),
  notes: Joi.array()
    .items(
      Joi.object({
        grade: Joi.valid('note', 'warn').required(),
        code: Joi.string().required(),
        message: Joi.string().required(),
        part: Joi.string().allow('', null).required(),
      }),
    )
    .required(),
  counts: Joi.object().pattern(Joi.string(), count).required(),
}).allow(null);

export const calloutSchema = Joi.object({
  id: id.required(),
  kind: Joi.valid(...Object.keys(CALLOUT_POINTS)).required(),
  points: Joi.array()
    .items(Joi.object({ part: id.required(), at: vec3Schema.required() }))
    .when('kind', { is: 'distance', then: Joi.array().length(2), otherwise: Joi.array().length(3) })
    .required(),
});

const body = Joi.object({
  id: id.required(),
  name: name.required(),
  parts: Joi.array().items(id).min(1).required(),
  anchored: Joi.boolean().required(),
});
export const couplingSchema = Joi.object({
  id: id.required(),
  name: name.required(),
  kind: Joi.valid(...COUPLING_KINDS).required(),
  from: id.required(),
  to: id.invalid(Joi.ref('from')).required(),
  at: vec3Schema.required(),
  axis: vec3Schema.required(),
  min: Joi.number().allow(null).required(),
  max: Joi.number().allow(null).required(),
});

const table = (value: Joi.Schema) => Joi.object().pattern(idSchema, value).required();

const kitSchema = Joi.object({
  format: Joi.valid(KIT_FORMAT).required(),
  name: Joi.string().min(1).max(200).required(),
  targets: Joi.array()
    .items(Joi.object({ rulebook: Joi.string().max(64).required(), version: Joi.string().max(20).required() }))
    .required(),
  source: source.required(),
  parts: table(part),
  meshes: table(mesh),
  materials: table(material),
  images: table(image),
  skins: table(skin),
  clips: table(clip),
  bindings: table(binding),
  parked: Joi.array().items(parked),
  asides: Joi.array().items(
    Joi.object({
      rulebook: Joi.string().max(64).required(),
      finding: Joi.string().max(400).required(),
      reason: Joi.string().min(1).max(1000).required(),
    }),
  ),
  callouts: Joi.array().items(calloutSchema),
  bodies: Joi.array().items(body),
  couplings: Joi.array().items(couplingSchema),
  motionRoles: Joi.object().pattern(Joi.string().max(64), Joi.string().allow(null)),
}).required();

export class KitFormatError extends KitError {
  constructor(format: unknown) {
    super(
      'kit-format',
      `This kit says it is “${String(format)}”; this version reads “${KIT_FORMAT}”. Open it with the version that wrote it.`,
      'format',
    );
  }
}

export class KitSchemaError extends KitError {
  constructor(message: string, where: string) {
    super('kit-schema', `The kit would not hold together: ${message}. The change was not kept.`, where);
  }
}

/**
 * Checks that a value is a whole kit: every field of its type and every reference to something that is there.
 *
 * @throws {KitFormatError} where it is of another format or version
 * @throws {KitSchemaError} naming the first place that does not fit
 */
export function checkKit(value: unknown): Kit {
  const format = (value as { format?: unknown } | null)?.format;
  if (format !== KIT_FORMAT) throw new KitFormatError(format);
  const { error } = kitSchema.validate(value, { convert: false });
  if (error) throw new KitSchemaError(error.message, error.details[0].path.join('.'));
  const kit = value as Kit;
  checkReferences(kit);
  return kit;
}

function checkReferences(kit: Kit): void {
  const need = (table: Record<Id, unknown>, id: Id | null, where: string) => {
    if (id !== null && !Object.hasOwn(table, id)) throw new KitSchemaError(`${where} points at something that is not in the kit`, where);
  };
  /** Parts known to hang from the top. */
  const rooted = new Set<Id>();
  for (const part of Object.values(kit.parts)) {
    need(kit.parts, part.parent, `parts.${part.id}.parent`);
    need(kit.meshes, part.mesh, `parts.${part.id}.mesh`);
    need(kit.skins, part.skin, `parts.${part.id}.skin`);
    const way = new Set<Id>();
    for (let up: Id | null = part.id; up !== null && !rooted.has(up); up = kit.parts[up].parent) {
      need(kit.parts, up, `parts.${part.id}.parent`);
      if (way.has(up)) throw new KitSchemaError('a part hangs below itself', `parts.${part.id}.parent`);
      way.add(up);
    }
    way.forEach((id) => rooted.add(id));
  }
  for (const one of Object.values(kit.meshes)) {
    for (const primitive of one.primitives) {
      need(kit.materials, primitive.material, `meshes.${one.id}.material`);
      if ((primitive.targets?.length ?? 0) !== (one.targets?.length ?? 0))
        throw new KitSchemaError('a mesh whose parts have different morph targets', `meshes.${one.id}.targets`);
    }
    for (const primitive of (one.levels ?? []).flatMap((level) => level.primitives))
      need(kit.materials, primitive.material, `meshes.${one.id}.levels`);
    for (const stroke of one.strokes ?? []) need(kit.materials, stroke.material, `meshes.${one.id}.material`);
  }
  for (const one of Object.values(kit.skins)) for (const joint of one.joints) need(kit.parts, joint, `skins.${one.id}.joints`);
  for (const one of Object.values(kit.clips)) {
    for (const t of one.tracks) need(kit.parts, t.part, `clips.${one.id}.tracks`);
    for (const cue of one.cues ?? []) need(kit.parts, cue.part, `clips.${one.id}.cues`);
    for (const part of one.overlay?.parts ?? []) need(kit.parts, part, `clips.${one.id}.overlay`);
  }
  for (const one of kit.callouts ?? []) for (const { part } of one.points) need(kit.parts, part, `callouts.${one.id}`);
  const inBodies = new Set<Id>();
  for (const one of kit.bodies ?? [])
    for (const part of one.parts) {
      need(kit.parts, part, `bodies.${one.id}.parts`);
      if (inBodies.has(part)) throw new KitSchemaError('a part that belongs to two bodies', `bodies.${one.id}.parts`);
      inBodies.add(part);
    }
  const bodies = Object.fromEntries((kit.bodies ?? []).map((one) => [one.id, one]));
  for (const one of kit.couplings ?? []) for (const end of [one.from, one.to]) need(bodies, end, `couplings.${one.id}`);
  for (const one of Object.values(kit.bindings)) need(kit.parts, one.part, `bindings.${one.id}.part`);
  for (const one of Object.values(kit.materials)) {
    for (const slot of slotsOf(one)) need(kit.images, slot.image, `materials.${one.id}`);
  }
}
