import { clipsInOrder, newId, type Blobs, type Clip, type Cue, type GroundsState, type Id, type Kit } from '../document';
import { statePlays, type StatePlay } from '../grounds';
import { poseOfClip } from '../motion';
import type { Rulebook } from '../rulebook';
import { denseTracks } from './as-played';
import { bakeClip, type BakedKeys, type BakeOptions } from './bake';

/** Keys of all parts that move, being written one after the other. */
class Timeline {
  /** Seconds so far. */
  time = 0;
  readonly cues: Cue[] = [];
  private readonly keys: Map<Id, Growing & { times: number[] }>;

  constructor(
    private readonly kit: Kit,
    parts: Iterable<Id>,
  ) {
    this.keys = new Map([...parts].map((id) => [id, { times: [], ...growing() }]));
  }

  /** One key of a part, at a time of the whole. */
  put(id: Id, time: number, { translation, rotation, scale, weights }: Growing): void {
    const keys = this.keys.get(id)!;
    keys.times.push(time);
    keys.translation.push(...translation);
    keys.rotation.push(...rotation);
    keys.scale.push(...scale);
    keys.weights.push(...weights);
  }

  baked(moves: ReadonlyMap<Id, BakedKeys['moves']>): BakedKeys[] {
    return [...this.keys].map(([part, { times, translation, rotation, scale, weights }]) => ({
      part,
      times,
      translation: Float64Array.from(translation),
      rotation: Float64Array.from(rotation),
      scale: Float64Array.from(scale),
      weights: Float64Array.from(weights),
      moves: moves.get(part)!,
    }));
  }

  /** Everything as a clip has it at a time, or as it is at rest. */
  hold(clip: Clip | null, seconds: number, blobs: Blobs): void {
    const poser = poseOfClip(this.kit, clip ?? STILL, blobs)(clip ? seconds : 0);
    for (const id of this.keys.keys()) {
      const at = poser.flat.indexOf.get(id)!;
      this.put(id, this.time, {
        translation: [...poser.translation.subarray(3 * at, 3 * at + 3)],
        rotation: [...poser.rotation.subarray(4 * at, 4 * at + 4)],
        scale: [...poser.scale.subarray(3 * at, 3 * at + 3)],
        weights: [...poser.weightsOf(id)],
      });
    }
  }
}

interface Growing {
  translation: number[];
  rotation: number[];
  scale: number[];
  weights: number[];
}

const growing = (): Growing => ({ translation: [], rotation: [], scale: [], weights: [] });
const STILL: Clip = { id: 'still', name: '', lengthSeconds: 1, rate: 1, loop: 'hold', order: 0, tracks: [] };
/** Keys nearer to an end than this are the end, seconds. */
const NEAR_END = 1e-4;

/** Writes what a clip does from one of its times to another, and goes on to its end. */
function playSpan(timeline: Timeline, { clip, from, to }: StatePlay, baked: readonly BakedKeys[], blobs: Blobs): void {
  const begin = timeline.time;
  timeline.hold(clip, from, blobs);
  if (!clip) return;
  for (const { part, times, translation, rotation, scale, weights } of baked) {
    const each = weights.length / times.length;
    times.forEach((time, i) => {
      if (time < from + NEAR_END || time > to - NEAR_END) return;
      timeline.put(part, begin + time - from, {
        translation: [...translation.subarray(3 * i, 3 * i + 3)],
        rotation: [...rotation.subarray(4 * i, 4 * i + 4)],
        scale: [...scale.subarray(3 * i, 3 * i + 3)],
        weights: [...weights.subarray(each * i, each * i + each)],
      });
    });
  }
  for (const cue of clip.cues ?? [])
    if (cue.time >= from && cue.time <= to) timeline.cues.push({ ...cue, id: newId(), time: begin + cue.time - from });
  timeline.time = begin + to - from;
  if (to > from) timeline.hold(clip, to, blobs);
}

/**
 * A kit with the one clip that a platform of states plays: what it does in each of them, one after the other, with a stretch in between
 * where one goes over into the next; and its states as stretches of that clip. Straight keys within the tolerance. Clips that no state
 * plays are left out. A kit that needs none of this is given back with its clips as they are.
 */
export function onOneTimeline(kit: Kit, rulebook: Rulebook, blobs: Blobs, bake: BakeOptions): Kit {
  const { grounds } = rulebook;
  if (!grounds) return kit;
  const plays = statePlays(kit, grounds);
  const played = new Set(plays.flatMap(({ clip }) => clip ?? []));
  const others = Object.fromEntries(Object.entries(kit.clips).filter(([, clip]) => clip.overlay));
  if (played.size === 0) return { ...kit, clips: others };
  const alone = [...played];
  if (alone.length === 1 && plays.every(({ over }) => over === 0))
    return Object.keys(others).length + 1 === Object.keys(kit.clips).length
      ? kit
      : { ...kit, clips: { ...others, [alone[0].id]: alone[0] } };

  const bakedOf = new Map(alone.map((clip) => [clip, bakeClip(kit, clip, blobs, bake)]));
  const moves = new Map<Id, BakedKeys['moves']>();
  for (const { part, moves: own } of [...bakedOf.values()].flat()) {
    const had = moves.get(part);
    moves.set(
      part,
      had ? (Object.fromEntries(Object.entries(own).map(([k, v]) => [k, v || had[k as keyof typeof had]])) as typeof own) : own,
    );
  }
  const rate = rulebook.motion?.rate ?? alone[0].rate;
  const timeline = new Timeline(kit, moves.keys());
  const id = newId();
  const [home] = plays;
  const states = plays.map((play, i): GroundsState => {
    let begin = timeline.time;
    if (i > 0) {
      // A frame that no state plays parts them.
      timeline.time += 1 / rate;
      begin = timeline.time;
      if (play.over > 0) {
        timeline.hold(home.clip, home.to, blobs);
        timeline.time += play.over;
      }
    }
    playSpan(timeline, play, (play.clip && bakedOf.get(play.clip)) ?? [], blobs);
    if (timeline.time === begin) {
      timeline.time += 1 / rate;
      timeline.hold(play.clip, play.to, blobs);
    }
    if (i > 0 && home.over > 0) {
      timeline.time += home.over;
      timeline.hold(home.clip, home.from, blobs);
    }
    return { state: play.rule.name, clip: id, from: begin, to: timeline.time, over: 0 };
  });
  const baked = timeline.baked(moves);
  const clip: Clip = {
    id,
    name: 'states',
    lengthSeconds: timeline.time,
    rate,
    loop: 'hold',
    order: 0,
    tracks: baked.flatMap((keys) => denseTracks(kit, keys, blobs)),
    ...(timeline.cues.length > 0 && { cues: timeline.cues }),
  };
  return { ...kit, clips: { ...others, [id]: clip }, grounds: { ...kit.grounds!, states } };
}

/** Clips that no state of a platform plays: they go into no package. */
export function clipsLeftOut(kit: Kit, rulebook: Rulebook): Clip[] {
  if (!rulebook.grounds) return [];
  const played = new Set(statePlays(kit, rulebook.grounds).map(({ clip }) => clip?.id));
  return clipsInOrder(kit).filter(({ id, overlay }) => !played.has(id) && !overlay);
}
