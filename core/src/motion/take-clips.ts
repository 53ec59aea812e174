import Joi from 'joi';
import {
  checkKit,
  defineOperation,
  idSchema,
  idsSchema,
  KitError,
  newId,
  putArray,
  readArray,
  scaleTrack,
  type Blobs,
  type Clip,
  type Id,
  type Kit,
  type Quat,
  type SampleTrack,
  type Track,
  type Vec3,
} from '../document';
import {
  applyMat3,
  conjugateQuat,
  flattenParts,
  invertMat3,
  invertMatrix,
  largestStretch,
  linearPart,
  multiplyQuats,
  normalizeQuat,
  Poser,
  restWorlds,
  rotateVector,
  transformPoint,
  type Mat4,
} from '../geometry';
import { compileClip, sampleClip } from './sampler';
import { trackTimes } from './track-times';
import { worldTurns } from './world-turns';

/** Rests that differ by less are the same, as a quaternion and as a share. */
const SAME = 1e-4;

interface TakeClipsArgs {
  /** Another kit: its clips and its skeleton; its meshes are not looked at but for their morph targets' number. */
  source: Kit;
  clips: Id[];
  /** Part of this kit by part of the other; null leaves its motion out. */
  pairs: Record<Id, Id | null>;
  /** Factor for what moves by metres: 1 takes it as it is. */
  scale: number;
  /** What the clips are to be here, where that is not left open: by their ids there. */
  as?: Record<Id, { id: Id; name: string }>;
}

/**
 * Takes clips of another kit onto this one's parts. Where a part stands at rest as it does in the other kit, below a parent that goes along
 * with that one's, tracks come over as they are; otherwise the motion is taken relative to rest in the world: what turns a part of the
 * other kit away from its rest turns ours away from its own (algorithms: retargeting), sampled at every key and every frame.
 */
export const takeClips = defineOperation<TakeClipsArgs>({
  id: 'motion.take-clips',
  title: (_, { source, clips }) =>
    clips.length === 1
      ? `Take clip “${source?.clips?.[clips[0]]?.name ?? ''}” from “${source?.name ?? ''}”`
      : `Take ${clips.length} clips from “${source?.name ?? ''}”`,
  args: Joi.object({
    source: Joi.object().required(),
    clips: idsSchema.required(),
    pairs: Joi.object().pattern(idSchema, idSchema.allow(null)).required(),
    scale: Joi.number().positive().max(1000).required(),
    as: Joi.object().pattern(idSchema, Joi.object({ id: idSchema.required(), name: Joi.string().min(1).max(200).required() })),
  }),
  change(kit, { source, clips, pairs, scale, as }, blobs) {
    checkKit(source);
    for (const part of Object.values(pairs))
      if (part !== null && !kit.parts[part])
        throw new KitError('part-missing', 'A part that was chosen for a motion is no longer in the kit. Look at the table again.', part);
    const taken = new Set(Object.values(kit.clips).map((clip) => clip.name));
    let order = Math.max(-1, ...Object.values(kit.clips).map((clip) => clip.order));
    for (const id of clips) {
      const clip = source.clips[id];
      if (!clip) throw new KitError('clip-missing', 'A clip that was chosen is not in that file. Look at the list again.', id);
      const made = as?.[id]?.id ?? newId();
      const wanted = as?.[id]?.name ?? clip.name;
      let name = wanted;
      for (let n = 2; taken.has(name); n++) name = `${wanted} ${n}`;
      taken.add(name);
      kit.clips[made] = {
        ...onOurParts(clip, pairs),
        id: made,
        name,
        order: ++order,
        tracks: carryTracks(kit, source, clip, pairs, scale, blobs),
      };
    }
  },
});

/** A clip whose cues and overlay name our parts: a cue of a part that has none here comes from the kit as a whole. */
function onOurParts(clip: Clip, pairs: Record<Id, Id | null>): Clip {
  const ours = (part: Id | null) => (part === null ? null : (pairs[part] ?? null));
  const out: Clip = { ...clip };
  if (clip.cues) out.cues = clip.cues.map((cue) => ({ ...cue, part: ours(cue.part) }));
  if (clip.overlay?.parts)
    out.overlay = { ...clip.overlay, parts: [...new Set(clip.overlay.parts.map(ours))].filter((part) => part !== null) };
  return out;
}

function carryTracks(kit: Kit, source: Kit, clip: Clip, pairs: Record<Id, Id | null>, scale: number, blobs: Blobs): Track[] {
  const direct: Track[] = [];
  const plain = plainlyTaken(kit, source, clip, pairs);
  for (const track of clip.tracks) {
    const part = pairs[track.part] ?? null;
    if (part === null) continue;
    if (track.property === 'shown') direct.push({ ...track, id: newId(), part });
    else if (track.property === 'weights' || track.property === 'weight') {
      const targets = kit.parts[part].mesh === null ? 0 : (kit.meshes[kit.parts[part].mesh].targets?.length ?? 0);
      if (track.kind === 'samples' ? track.values.size === targets : track.axis < targets) direct.push({ ...track, id: newId(), part });
    } else if (plain.has(track.part)) direct.push(scaled({ ...track, id: newId(), part }, scale * plain.get(track.part)!, blobs));
  }
  return [...direct, ...carryWorld(kit, source, clip, new Set(plain.keys()), pairs, scale, blobs)];
}

/**
 * The parts of the other kit whose tracks can be taken as they are, each with the factor for its metres: those that stand at rest as ours
 * does, turned and sized alike, below a parent that goes along with theirs.
 */
function plainlyTaken(kit: Kit, source: Kit, clip: Clip, pairs: Record<Id, Id | null>): Map<Id, number> {
  const [ours, theirs] = [restWorlds(kit), restWorlds(source)];
  const moving = new Set(clip.tracks.filter(({ property }) => !STILL.has(property)).map(({ part }) => part));
  const carried = new Set(Object.values(pairs).filter((part) => part !== null));
  const stands = (of: Kit, part: Id | null, among: ReadonlySet<Id>): boolean =>
    part === null || (!among.has(part) && stands(of, of.parts[part].parent, among));
  const out = new Map<Id, number>();
  for (const [from, to] of Object.entries(pairs)) {
    if (to === null || !source.parts[from]) continue;
    const [part, other] = [kit.parts[to], source.parts[from]];
    const together =
      (other.parent !== null && part.parent !== null && pairs[other.parent] === part.parent) ||
      (stands(source, other.parent, moving) && stands(kit, part.parent, carried));
    const own = sameAxes(ours.get(to)!, theirs.get(from)!);
    const above = sameAxes(
      part.parent === null ? IDENTITY : ours.get(part.parent)!,
      other.parent === null ? IDENTITY : theirs.get(other.parent)!,
    );
    if (together && own !== null && above !== null && part.turnOrder === other.turnOrder) out.set(from, above);
  }
  return out;
}

const STILL: ReadonlySet<string> = new Set(['shown', 'weight', 'weights']);
const IDENTITY = Float64Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);

/** How many times longer a number is in the other axes than in ours, where both point the same way; null where they do not. */
function sameAxes(ours: Mat4, theirs: Mat4): number | null {
  const times = largestStretch(theirs) / largestStretch(ours);
  for (let column = 0; column < 3; column++)
    for (let row = 0; row < 3; row++) {
      const at = 4 * column + row;
      if (!(Math.abs(theirs[at] - times * ours[at]) <= SAME * largestStretch(theirs))) return null;
    }
  return times;
}

function scaled(track: Track, scale: number, blobs: Blobs): Track {
  if (track.property !== 'offset' || scale === 1) return track;
  if (track.kind !== 'samples') return scaleTrack(track, scale);
  return {
    ...track,
    values: putArray(
      blobs,
      readArray<Float32Array>(blobs, track.values).map((value) => value * scale),
      track.values.size,
    ),
  };
}

/**
 * Motion relative to rest in the world, as dense tracks, for all matched parts but those whose tracks were taken as they are. Each turns
 * away from its rest as the other one does. What it is moved by is told from the nearest part above it that is matched, so that the motion
 * of parts in between which have none here is folded in; metres go from those axes at rest into ours.
 */
function carryWorld(
  kit: Kit,
  source: Kit,
  clip: Clip,
  plain: ReadonlySet<Id>,
  pairs: Record<Id, Id | null>,
  scale: number,
  blobs: Blobs,
): SampleTrack[] {
  const there = new Poser(flattenParts(source));
  const here = new Poser(flattenParts(kit));
  const compiled = compileClip(clip, there.flat, blobs);
  const [restThere, restHere] = [worldTurns(there), worldTurns(here)];
  const [worldThere, linearHere] = [there.world.slice(), here.world.slice()];
  const sourceOf = new Map<Id, Id>(Object.entries(pairs).flatMap(([id, part]) => (part === null || !source.parts[id] ? [] : [[part, id]])));
  if ([...sourceOf.values()].every((id) => plain.has(id))) return [];
  const matched = (id: Id | null): Id | null => (id === null || (pairs[id] ?? null) !== null ? id : matched(source.parts[id].parent));
  const rows = here.flat.ids.map((part, p): Carried => {
    const from = sourceOf.get(part);
    if (from === undefined) return { p, s: -1, above: -1, atRest: [0, 0, 0] };
    const above = matched(source.parts[from].parent);
    const [s, a] = [there.flat.indexOf.get(from)!, above === null ? -1 : there.flat.indexOf.get(above)!];
    return { p, s, above: a, atRest: placeWithin(worldThere, a, s) };
  });
  const times = sampleTimes(clip, blobs);
  const out = new Map<Id, { rotation: Float32Array; offset: Float32Array; size: Float32Array }>();
  for (const [part, from] of sourceOf)
    if (!plain.has(from))
      out.set(part, {
        rotation: new Float32Array(4 * times.length),
        offset: new Float32Array(3 * times.length),
        size: new Float32Array(3 * times.length),
      });
  const now: Quat[] = new Array<Quat>(rows.length);
  times.forEach((time, i) => {
    there.reset();
    sampleClip(compiled, time, there.pose);
    there.update();
    const turns = worldTurns(there);
    const turned = (index: number): Quat => (index < 0 ? [0, 0, 0, 1] : multiplyQuats(turns[index], conjugateQuat(restThere[index])));
    for (const { p, s, above, atRest } of rows) {
      const parent = here.flat.parent[p];
      const nowAbove: Quat = parent < 0 ? [0, 0, 0, 1] : now[parent];
      const restLocal = here.flat.rotation.slice(4 * p, 4 * p + 4);
      const local: Quat = [restLocal[0], restLocal[1], restLocal[2], restLocal[3]];
      now[p] = normalizeQuat(s < 0 ? multiplyQuats(nowAbove, local) : multiplyQuats(turned(s), restHere[p]));
      const track = out.get(here.flat.ids[p]);
      if (!track) continue;
      track.rotation.set(multiplyQuats(conjugateQuat(local), multiplyQuats(conjugateQuat(nowAbove), now[p])), 4 * i);
      const moved = placeWithin(there.world, above, s).map((value, axis) => value - atRest[axis]) as Vec3;
      const wanted = rotateVector(turned(above), linear(worldThere, above, moved)).map((value) => value * scale) as Vec3;
      const parentTurned: Quat = parent < 0 ? [0, 0, 0, 1] : multiplyQuats(nowAbove, conjugateQuat(restHere[parent]));
      track.offset.set(linearInverse(linearHere, parent, rotateVector(conjugateQuat(parentTurned), wanted)), 3 * i);
      track.size.set(there.pose.size.subarray(3 * s, 3 * s + 3), 3 * i);
    }
  });
  const timeBlob = putArray(blobs, Float32Array.from(times), 1);
  return [...out].flatMap(([part, values]) =>
    (['rotation', 'offset', 'size'] as const)
      .filter((property) => moves(property, values[property]))
      .map((property): SampleTrack => ({
        kind: 'samples',
        id: newId(),
        part,
        property,
        interpolation: 'straight',
        times: timeBlob,
        values: putArray(blobs, values[property], property === 'rotation' ? 4 : 3),
      })),
  );
}

/** One of our parts, by number; whose motion it takes, and the nearest matched part above that (−1 for none). */
interface Carried {
  p: number;
  s: number;
  above: number;
  /** Where the other part stands at rest in the axes of the one above it. */
  atRest: Vec3;
}

/** Where a part stands in the axes of another one, or in the world (−1). */
function placeWithin(worlds: Float64Array, axes: number, part: number): Vec3 {
  const at: Vec3 = [worlds[16 * part + 12], worlds[16 * part + 13], worlds[16 * part + 14]];
  const inverse = axes < 0 ? null : invertMatrix(worlds.subarray(16 * axes, 16 * axes + 16));
  return inverse ? transformPoint(inverse, at) : at;
}

/** A vector out of a part's axes into the world, and back. */
function linear(worlds: Float64Array, axes: number, v: Vec3): Vec3 {
  return axes < 0 ? v : applyMat3(linearPart(worlds.subarray(16 * axes, 16 * axes + 16)), v);
}
function linearInverse(worlds: Float64Array, axes: number, v: Vec3): Vec3 {
  const inverse = axes < 0 ? null : invertMat3(linearPart(worlds.subarray(16 * axes, 16 * axes + 16)));
  return inverse ? applyMat3(inverse, v) : v;
}

const AT_REST = { rotation: [0, 0, 0, 1], size: [1, 1, 1], offset: [0, 0, 0] };

function moves(property: keyof typeof AT_REST, values: Float32Array): boolean {
  const rest = AT_REST[property];
  return values.some((value, i) => Math.abs(value - rest[i % rest.length]) > 1e-6);
}

/** A step in motion takes this long, seconds. */
const STEP_SECONDS = 1e-4;

/** Every frame, and every key; where something is held until the next one, the moment before it too. */
function sampleTimes(clip: Clip, blobs: Blobs): number[] {
  const times = new Set<number>();
  const add = (time: number) => time >= 0 && time <= clip.lengthSeconds + 1e-6 && times.add(Math.fround(time));
  for (let frame = 0; frame <= clip.lengthSeconds * clip.rate + 1e-6; frame++) add(frame / clip.rate);
  for (const track of clip.tracks) {
    const held = (i: number) =>
      track.kind === 'keys' ? track.keys[i].easing === 'hold' : track.kind === 'samples' && track.interpolation === 'hold';
    Array.from(trackTimes(track, blobs)).forEach((time, i) => {
      add(time);
      if (i > 0 && held(i - 1)) add(time - STEP_SECONDS);
    });
  }
  const sorted = [...times].sort((a, b) => a - b);
  return sorted.filter((time, i) => i === 0 || time - sorted[i - 1] > 1e-5);
}
