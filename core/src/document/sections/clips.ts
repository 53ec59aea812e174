import Joi from 'joi';
import type { Accessor } from '../blobs';
import type { Kit } from '../kit';
import { accessorSchema, idSchema, maybeIdSchema, nameSchema, recordSchema, rowsSchema, type SchemaOf } from '../schemas';
import type { Id, Table } from '../values';
import { count } from '../wording';
import { compareRecords, said, same } from './compare';
import { nothing, type Conforming, type Refuse, type References, type Section } from './section';

/** Penner's families of easings, each in three ways (d3-ease). */
export const EASING_FAMILIES = ['sine', 'quad', 'cubic', 'back', 'bounce', 'elastic'] as const;
/** At which side of a stretch an easing is slow: its start, its end, or both. */
export const EASING_WAYS = ['in', 'out', 'both'] as const;
export type EasingFamily = (typeof EASING_FAMILIES)[number];
export type EasingWay = (typeof EASING_WAYS)[number];
/** How a key moves on to the next one. `bounce` is `bounce-out` by its older name. */
export type Easing = 'hold' | 'straight' | 'curve' | 'bounce' | `${EasingFamily}-${EasingWay}`;
/** Ways to get from a key to the next: held, straight, a curve, or a family with a way such as `sine-in`. */
export const EASINGS: readonly Easing[] = [
  'hold',
  'straight',
  'curve',
  'bounce',
  ...EASING_FAMILIES.flatMap((family) => EASING_WAYS.map((way): Easing => `${family}-${way}`)),
];

export interface Key {
  /** Seconds from the clip's start. */
  time: number;
  value: number;
  easing: Easing;
  /** Tangents of a curve into and out of the key, value a second; where absent they are chosen so that it never overshoots. */
  slopeIn?: number;
  slopeOut?: number;
}

/** What a track of keys moves: offset (metres), turn (degrees), size (a factor), shown (0 or 1), weight (a share). */
export const KEY_PROPERTIES = ['offset', 'turn', 'size', 'shown', 'weight'] as const;
export type KeyProperty = (typeof KEY_PROPERTIES)[number];

/**
 * Sparse keys of one number, relative to rest: metres in the parent's axes, degrees about an own axis, a factor; whether the part and what
 * is below it is shown (from 0.5 on it is); or the weight of a morph target, as it is.
 */
export interface KeyTrack {
  kind: 'keys';
  id: Id;
  part: Id;
  property: KeyProperty;
  /** 0 for `shown`; the number of the morph target for `weight`. */
  axis: number;
  /** Ascending in time, no two at the same time. */
  keys: Key[];
}

/**
 * Dense motion, relative to rest: `offset` (3), `rotation` (unit quaternion after rest, 4), `size` (3); or `weights`, one a morph target,
 * as they are.
 */
export interface SampleTrack {
  kind: 'samples';
  id: Id;
  part: Id;
  property: 'offset' | 'rotation' | 'size' | 'weights';
  /** `curve` is glTF's CUBICSPLINE: in-tangent, value, out-tangent a key. */
  interpolation: 'hold' | 'straight' | 'curve';
  times: Accessor;
  values: Accessor;
}

/** One number by an expression of time, in the unit of a key track (see `formula`). */
export interface FormulaTrack {
  kind: 'formula';
  id: Id;
  part: Id;
  property: Exclude<KeyProperty, 'shown'>;
  axis: number;
  source: string;
  /** What its value is multiplied by, so that another unit or direction leaves the expression as it was written. */
  gain: number;
}

export type Track = KeyTrack | SampleTrack | FormulaTrack;

/** What a clip can say at a time. */
export const CUE_KINDS = ['sound', 'effect', 'message'] as const;
export type CueKind = (typeof CUE_KINDS)[number];

/** Something that a clip says at a time. */
export interface Cue {
  id: Id;
  /** Seconds. */
  time: number;
  kind: CueKind;
  /** Of the sound or the effect; of a message the text. */
  name: string;
  /** Where it comes from; null for the kit as a whole. */
  part: Id | null;
}

/** Colours of named times, by token. */
export const FLAG_COLOURS = ['sea', 'signal', 'good', 'note'] as const;

/** A time on the ruler by a name. */
export interface Flag {
  id: Id;
  time: number;
  name: string;
  colour: (typeof FLAG_COLOURS)[number];
}

/** A clip that runs all the time with the others. */
export interface Overlay {
  /** Whether the others have their way where both move something, or this one. */
  place: 'under' | 'over';
  /** Whether it comes to what the others do, or takes its place. */
  mode: 'add' | 'replace';
  /** The parts it moves; null for all it has tracks for. */
  parts: Id[] | null;
}

/** What comes after a clip's end: nothing, its start, its way back, or its last pose. */
export const LOOP_MODES = ['once', 'loop', 'ping-pong', 'hold'] as const;
/** `once` shows rest again after the end; `hold` stays on the last pose. */
export type LoopMode = (typeof LOOP_MODES)[number];

export interface Clip {
  id: Id;
  name: string;
  order: number;
  lengthSeconds: number;
  /** Frames a second. */
  rate: number;
  loop: LoopMode;
  tracks: Track[];
  /** All of these are absent where there is nothing to say. */
  group?: string;
  overlay?: Overlay;
  cues?: Cue[];
  flags?: Flag[];
  /** Named numbers that formulas of this clip may use. */
  constants?: Record<string, number>;
}

/** What the manifest says of a clip: what files of motion have no place for, too. Its parts are nodes. */
export interface PackedClip {
  name: string;
  seconds: number;
  rate: number;
  loop: LoopMode;
  group?: string;
  /** Runs along with the others. */
  overlay?: { place: Overlay['place']; mode: Overlay['mode']; nodes: number[] | null };
  cues?: { time: number; kind: CueKind; name: string; node: number | null }[];
  flags?: { time: number; name: string }[];
}

declare module '../kit' {
  interface Kit {
    clips: Table<Clip>;
  }
  interface ManifestSections {
    clips: PackedClip[];
  }
}

/** Characters of a formula. */
export const MOST_FORMULA = 400;

/** A key: time (seconds), value in its property's unit, easing to the next key, and slopes in units a second. */
export const keySchema = Joi.object({
  time: Joi.number().min(0).required(),
  value: Joi.number().required(),
  easing: Joi.valid(...EASINGS).required(),
  slopeIn: Joi.number(),
  slopeOut: Joi.number(),
} satisfies SchemaOf<Key>);
/** Of a property with its axis: three for what has axes, any morph target. */
const axisOf = Joi.when('property', {
  is: 'weight',
  then: Joi.number().integer().min(0).max(65535),
  otherwise: Joi.valid(0, 1, 2),
}).required();
const ofTrack = { id: idSchema.required(), part: idSchema.required() };
const formula = Joi.object({
  ...ofTrack,
  kind: Joi.valid('formula').required(),
  property: Joi.valid(...KEY_PROPERTIES.filter((one) => one !== 'shown')).required(),
  axis: axisOf,
  source: Joi.string().min(1).max(MOST_FORMULA).required(),
  gain: Joi.number().required(),
} satisfies SchemaOf<FormulaTrack>);
const keys = Joi.object({
  ...ofTrack,
  kind: Joi.valid('keys').required(),
  property: Joi.valid(...KEY_PROPERTIES).required(),
  axis: axisOf,
  keys: Joi.array().items(keySchema).required(),
} satisfies SchemaOf<KeyTrack>);
const samples = Joi.object({
  ...ofTrack,
  kind: Joi.valid('samples').required(),
  property: Joi.valid('offset', 'rotation', 'size', 'weights').required(),
  interpolation: Joi.valid('hold', 'straight', 'curve').required(),
  times: accessorSchema.required(),
  // A row may hold a weight for each of as many morph targets as a mesh has.
  values: rowsSchema(10_000).required(),
} satisfies SchemaOf<SampleTrack>);
/** A track of one of the three kinds: keys, dense samples, or a formula. */
export const trackSchema = Joi.alternatives().conditional('.kind', {
  switch: [
    { is: 'formula', then: formula },
    { is: 'keys', then: keys },
  ],
  otherwise: samples,
});
/** How a clip runs beside another: below or above it, adding or in its place. */
export const overlaySchema = Joi.object({
  place: Joi.valid('under', 'over').required(),
  mode: Joi.valid('add', 'replace').required(),
  parts: Joi.array().items(idSchema).allow(null).required(),
} satisfies SchemaOf<Overlay>);
/** A sound, effect or message at a time, seconds. */
export const cueSchema = Joi.object({
  id: idSchema.required(),
  time: Joi.number().min(0).required(),
  kind: Joi.valid(...CUE_KINDS).required(),
  name: Joi.string().min(1).max(200).required(),
  part: maybeIdSchema.required(),
} satisfies SchemaOf<Cue>);
/** A named time of a clip, seconds. */
export const flagSchema = Joi.object({
  id: idSchema.required(),
  time: Joi.number().min(0).required(),
  name: Joi.string().min(1).max(80).required(),
  colour: Joi.valid(...FLAG_COLOURS).required(),
} satisfies SchemaOf<Flag>);
const constant = Joi.string()
  .pattern(/^[A-Za-z][A-Za-z0-9_]*$/)
  .max(40);
/** Named numbers of a clip's formulas, at most 50. */
export const constantsSchema = Joi.object().pattern(constant, Joi.number()).max(50);

/** A clip as the manifest of a package tells it. */
export const packedClipSchema = Joi.object({
  name: Joi.string().allow('').required(),
  seconds: Joi.number().required(),
  rate: Joi.number().required(),
  loop: Joi.valid(...LOOP_MODES).required(),
  group: Joi.string(),
  overlay: Joi.object({
    place: Joi.valid('under', 'over').required(),
    mode: Joi.valid('add', 'replace').required(),
    nodes: Joi.array().items(Joi.number().integer()).allow(null).required(),
  }),
  cues: Joi.array().items(
    Joi.object({
      time: Joi.number().required(),
      kind: Joi.valid(...CUE_KINDS).required(),
      name: Joi.string().required(),
      node: Joi.number().integer().allow(null).required(),
    }),
  ),
  flags: Joi.array().items(Joi.object({ time: Joi.number().required(), name: Joi.string().required() })),
} satisfies SchemaOf<PackedClip>);

/** Whether its keys ascend, no two at one time, and dense values are as many as their times. */
export function checkTrack(track: Track, where: string, refuse: Refuse): void {
  if (track.kind === 'keys') {
    for (let k = 1; k < track.keys.length; k++)
      if (!(track.keys[k].time > track.keys[k - 1].time))
        refuse(`two keys of one track at ${track.keys[k].time} s, or out of order`, where);
  } else if (track.kind === 'samples') {
    const rows = track.times.count * (track.interpolation === 'curve' ? 3 : 1);
    if (track.times.size !== 1 || track.values.count !== rows) refuse(`${track.values.count} values for ${track.times.count} times`, where);
  }
}

/** Blobs of a dense track. */
export function trackBlobs(track: Track, add: (sha: string) => void): void {
  if (track.kind !== 'samples') return;
  add(track.times.blob);
  add(track.values.blob);
}

/** A track of one number with its values times a factor, and so its slopes. */
export function scaleTrack<T extends KeyTrack | FormulaTrack>(track: T, factor: number): T {
  if (track.kind === 'formula') return { ...track, gain: track.gain * factor + 0 };
  return { ...track, keys: track.keys.map((key) => scaleKey(key, factor)) };
}

/** A key with its value and slopes times a factor; its time and easing stay. */
export function scaleKey(key: Key, factor: number): Key {
  const out: Key = { ...key, value: key.value * factor + 0 };
  if (key.slopeIn !== undefined) out.slopeIn = key.slopeIn * factor + 0;
  if (key.slopeOut !== undefined) out.slopeOut = key.slopeOut * factor + 0;
  return out;
}

/** A track in another unit and other axes. */
export function conformTrack(track: Track, to: Conforming): Track {
  if (track.kind === 'samples')
    return track.property === 'weights' ? track : { ...track, values: to.samples(track.values, track.property) };
  if (track.property === 'shown' || track.property === 'weight') return track;
  const { to: axis, sign } = to.axis(track.axis);
  const factors = { offset: to.scale * sign, turn: (to.mirrored ? -1 : 1) * sign, size: 1 };
  return { ...scaleTrack(track, factors[track.property]), axis };
}

/** What clips say of parts: tracks, where cues come from, what overlays move. */
function checkParts(clip: Clip, { kit, need }: References): void {
  const where = `clips.${clip.id}`;
  for (const track of clip.tracks) need(kit.parts, track.part, `${where}.tracks`);
  for (const cue of clip.cues ?? []) need(kit.parts, cue.part, `${where}.cues`);
  for (const part of clip.overlay?.parts ?? []) need(kit.parts, part, `${where}.overlay`);
}

/** Cues and overlays name another part, or none, where `as` gives one. Writes to the draft. */
function renameParts(kit: Kit, names: (part: Id) => boolean, as: Id | null): void {
  for (const clip of Object.values(kit.clips)) {
    if (clip.cues?.some(({ part }) => part !== null && names(part)))
      clip.cues = clip.cues.map((cue) => (cue.part !== null && names(cue.part) ? { ...cue, part: as } : cue));
    const moved = clip.overlay?.parts;
    if (!moved?.some(names)) continue;
    const kept = moved.filter((part) => !names(part));
    clip.overlay = { ...clip.overlay!, parts: as === null || kept.includes(as) ? kept : [...kept, as] };
  }
}

/** What files of motion have no place for. @param nodeOf A part's node in the model. */
export function packedClip(clip: Clip, nodeOf: (part: Id) => number): PackedClip {
  const { name, lengthSeconds, rate, loop, group, overlay, cues, flags } = clip;
  const out: PackedClip = { name, seconds: lengthSeconds, rate, loop };
  if (group !== undefined) out.group = group;
  if (overlay) out.overlay = { place: overlay.place, mode: overlay.mode, nodes: overlay.parts && overlay.parts.map(nodeOf) };
  if (cues)
    out.cues = cues.map((cue) => ({ time: cue.time, kind: cue.kind, name: cue.name, node: cue.part === null ? null : nodeOf(cue.part) }));
  if (flags) out.flags = flags.map((flag) => ({ time: flag.time, name: flag.name }));
  return out;
}

/** Writes what was said of a clip into one that was read from a file of motion. @param partAt The part of a node. */
export function tellClip(clip: Clip, said: PackedClip, partAt: (node: number) => Id): void {
  const { seconds, rate, loop, group, overlay, cues, flags } = said;
  Object.assign(clip, { lengthSeconds: seconds, rate, loop });
  if (group !== undefined) clip.group = group;
  if (overlay) clip.overlay = { place: overlay.place, mode: overlay.mode, parts: overlay.nodes && overlay.nodes.map(partAt) };
  if (cues) clip.cues = cues.map(({ node, ...cue }, i) => ({ id: `cue${i}`, ...cue, part: node === null ? null : partAt(node) }));
  if (flags) clip.flags = flags.map((flag, i) => ({ id: `flag${i}`, ...flag, colour: 'sea' }));
}

/** Motion: clips with their tracks, overlays, cues and flags. */
export const clipsSection: Section<'clips'> = {
  kind: 'table',
  merges: 'fields',
  ...recordSchema<Clip>({
    id: idSchema.required(),
    name: nameSchema.required(),
    order: Joi.number().required(),
    lengthSeconds: Joi.number().min(0).max(3600).required(),
    rate: Joi.number().min(1).max(240).required(),
    loop: Joi.valid(...LOOP_MODES).required(),
    tracks: Joi.array().items(trackSchema).required(),
    group: Joi.string().min(1).max(120),
    overlay: overlaySchema,
    cues: Joi.array().items(cueSchema).max(10_000),
    flags: Joi.array().items(flagSchema).max(1000),
    constants: constantsSchema,
  }),
  sound: ({ id, tracks }, refuse) => tracks.forEach((track) => checkTrack(track, `clips.${id}.tracks`, refuse)),
  references: checkParts,
  blobs: (clip, add) => clip.tracks.forEach((track) => trackBlobs(track, add)),
  without(kit, { gone }) {
    for (const clip of Object.values(kit.clips))
      if (clip.tracks.some((track) => gone.has(track.part))) clip.tracks = clip.tracks.filter((track) => !gone.has(track.part));
    renameParts(kit, (part) => gone.has(part), null);
  },
  joined: (kit, from, into) => renameParts(kit, (part) => part === from, into),
  moved: nothing,
  conform(kit, to) {
    for (const clip of Object.values(kit.clips)) clip.tracks = clip.tracks.map((track) => conformTrack(track, to));
  },
  compare: (before, after) =>
    compareRecords(
      before.clips,
      after.clips,
      ({ name }) => `Clip “${name}”`,
      (a, b) => [
        ...said(a.name, b.name, `renamed from “${a.name}”`),
        ...said(a.lengthSeconds, b.lengthSeconds, `${a.lengthSeconds} → ${b.lengthSeconds} s`),
        ...(a.tracks.length === b.tracks.length ? [] : [`${a.tracks.length} → ${count(b.tracks.length, 'track')}`]),
        ...(a.tracks.length === b.tracks.length && !same(a.tracks, b.tracks) ? ['other motion'] : []),
        ...said([a.cues, a.flags], [b.cues, b.flags], 'other cues'),
      ],
    ),
  pack: {
    model: true,
    manifest: {
      schema: Joi.array().items(packedClipSchema).required(),
      write: (kit, { nodeOf }) => clipsInOrder(kit).map((clip) => packedClip(clip, nodeOf)),
      read(list, kit, { partAt }) {
        for (const clip of Object.values(kit.clips)) {
          const entry = list.find((one) => one.name === clip.name);
          if (entry) tellClip(clip, entry, (node) => partAt(node, clip.name));
        }
      },
    },
    leftOut: ({ clips }) =>
      Object.values(clips)
        .filter(({ tracks }) => tracks.length === 0)
        .map(({ name }) => ({ what: `Clip “${name}”`, why: 'it moves nothing' })),
  },
  newVersion: {
    from: 'kit',
    park(kit, part) {
      const parked = [];
      for (const clip of Object.values(kit.clips)) {
        for (const track of clip.tracks) if (track.part === part) parked.push({ kind: 'track' as const, clip: clip.id, track });
        clip.tracks = clip.tracks.filter((track) => track.part !== part);
      }
      return parked;
    },
  },
};

/** Clips in the order in which they are listed. */
export function clipsInOrder(kit: Kit): Clip[] {
  return Object.values(kit.clips).sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
}
