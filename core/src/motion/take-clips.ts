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
  conjugateQuat,
  decomposeMatrix,
  flattenParts,
  multiplyQuats,
  normalizeQuat,
  Poser,
  restWorlds,
  rotateVector,
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
 * Takes clips of another kit onto this one's parts. Where a part and its parent stand at rest as they do in the other kit,
 * tracks come over as they are; otherwise the motion is taken relative to rest in the world: what turns a part of the other
 * kit away from its rest turns ours away from its own (algorithms: retargeting), sampled at every key and every frame.
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
  const [ours, theirs] = [restWorlds(kit), restWorlds(source)];
  const direct: Track[] = [];
  const turned = new Map<Id, Track[]>();
  for (const track of clip.tracks) {
    const part = pairs[track.part] ?? null;
    if (part === null) continue;
    if (track.property === 'shown') direct.push({ ...track, id: newId(), part });
    else if (track.property === 'weights' || track.property === 'weight') {
      const targets = kit.parts[part].mesh === null ? 0 : (kit.meshes[kit.parts[part].mesh].targets?.length ?? 0);
      if (track.kind === 'samples' ? track.values.size === targets : track.axis < targets) direct.push({ ...track, id: newId(), part });
    } else if (standsAlike(kit, source, part, track.part, ours, theirs)) direct.push(scaled({ ...track, id: newId(), part }, scale, blobs));
    else turned.set(track.part, [...(turned.get(track.part) ?? []), track]);
  }
  return turned.size === 0
    ? direct
    : [...direct, ...carryWorld(kit, source, { ...clip, tracks: clip.tracks }, [...turned.keys()], pairs, scale, blobs)];
}

/** Whether own and parent's turn in the world, and so every track's axes, are the same in both kits. */
function standsAlike(kit: Kit, source: Kit, ours: Id, theirs: Id, ourWorlds: Map<Id, Mat4>, theirWorlds: Map<Id, Mat4>): boolean {
  const turn = (worlds: Map<Id, Mat4>, id: Id | null): Quat => (id === null ? [0, 0, 0, 1] : decomposeMatrix(worlds.get(id)!).rotation);
  const alike = (a: Quat, b: Quat) => 1 - Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3]) < SAME * SAME;
  const [part, other] = [kit.parts[ours], source.parts[theirs]];
  return (
    part.turnOrder === other.turnOrder &&
    alike(turn(ourWorlds, ours), turn(theirWorlds, theirs)) &&
    alike(turn(ourWorlds, part.parent), turn(theirWorlds, other.parent))
  );
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

/** Motion relative to rest in the world, for the parts named, as dense tracks. */
function carryWorld(
  kit: Kit,
  source: Kit,
  clip: Clip,
  movers: Id[],
  pairs: Record<Id, Id | null>,
  scale: number,
  blobs: Blobs,
): SampleTrack[] {
  const there = new Poser(flattenParts(source));
  const here = flattenParts(kit);
  const compiled = compileClip(clip, there.flat, blobs);
  const restThere = worldTurns(there);
  const restHere = worldTurns(new Poser(here));
  const sourceOf = new Map<Id, Id>(movers.map((id) => [pairs[id]!, id]));
  const times = sampleTimes(clip, blobs);
  const out = new Map<Id, { rotation: Float32Array; offset: Float32Array; size: Float32Array }>();
  for (const part of sourceOf.keys())
    out.set(part, {
      rotation: new Float32Array(4 * times.length),
      offset: new Float32Array(3 * times.length),
      size: new Float32Array(3 * times.length),
    });
  const now: Quat[] = new Array<Quat>(here.ids.length);
  times.forEach((time, i) => {
    there.reset();
    sampleClip(compiled, time, there.pose);
    there.update();
    const turns = worldTurns(there);
    for (let p = 0; p < here.ids.length; p++) {
      const above: Quat = here.parent[p] < 0 ? [0, 0, 0, 1] : now[here.parent[p]];
      const restLocal: Quat = [here.rotation[4 * p], here.rotation[4 * p + 1], here.rotation[4 * p + 2], here.rotation[4 * p + 3]];
      const from = sourceOf.get(here.ids[p]);
      if (from === undefined) {
        now[p] = normalizeQuat(multiplyQuats(above, restLocal));
        continue;
      }
      const s = there.flat.indexOf.get(from)!;
      const turnedBy = multiplyQuats(turns[s], conjugateQuat(restThere[s]));
      now[p] = normalizeQuat(multiplyQuats(turnedBy, restHere[p]));
      const track = out.get(here.ids[p])!;
      track.rotation.set(multiplyQuats(conjugateQuat(restLocal), multiplyQuats(conjugateQuat(above), now[p])), 4 * i);
      // An offset is given in the parent's axes: out of those of the other kit's parent at rest, into those of ours.
      const own: Vec3 = [there.pose.offset[3 * s], there.pose.offset[3 * s + 1], there.pose.offset[3 * s + 2]];
      const parentThere: Quat = there.flat.parent[s] < 0 ? [0, 0, 0, 1] : restThere[there.flat.parent[s]];
      const parentHere: Quat = here.parent[p] < 0 ? [0, 0, 0, 1] : restHere[here.parent[p]];
      track.offset.set(
        rotateVector(conjugateQuat(parentHere), rotateVector(parentThere, own)).map((value) => value * scale),
        3 * i,
      );
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

const AT_REST = { rotation: [0, 0, 0, 1], size: [1, 1, 1], offset: [0, 0, 0] };

function moves(property: keyof typeof AT_REST, values: Float32Array): boolean {
  const rest = AT_REST[property];
  return values.some((value, i) => Math.abs(value - rest[i % rest.length]) > 1e-6);
}

/** Every frame, and every key. */
function sampleTimes(clip: Clip, blobs: Blobs): number[] {
  const times = new Set<number>();
  for (let frame = 0; frame <= clip.lengthSeconds * clip.rate + 1e-6; frame++) times.add(Math.fround(frame / clip.rate));
  for (const track of clip.tracks) {
    const keys = trackTimes(track, blobs);
    for (const time of keys) if (time <= clip.lengthSeconds + 1e-6) times.add(Math.fround(time));
  }
  const sorted = [...times].sort((a, b) => a - b);
  return sorted.filter((time, i) => i === 0 || time - sorted[i - 1] > 1e-5);
}
