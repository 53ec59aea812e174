import { clipsInOrder, newId, type Blobs, type Clip, type Cue, type GroundsState, type Id, type Kit } from '../document';
import { statePlays, type StatePlay } from '../grounds';
import { poseOfClip } from '../motion';
import type { Rulebook } from '../rulebook';
import { denseTracks } from './as-played';
import { bakeClip, type BakeOptions } from './bake';
import { SAME_TIME } from './bake-part';
import { perProperty, widthOf, type BakedKeys, type BakedValues } from './baked-keys';

/** One key's numbers of a part. */
type KeyValues = { [property in keyof BakedValues]: number[] };

interface WrittenKey {
  time: number;
  values: KeyValues;
  /** Tangents into it and out of it; where there are none it goes straight there, or on. */
  into: KeyValues | null;
  out: KeyValues | null;
}

const valuesAt = (from: BakedValues, baked: BakedKeys, key: number): KeyValues =>
  perProperty((property) => {
    const width = widthOf(baked, property);
    return [...from[property].subarray(width * key, width * (key + 1))];
  });

/** Keys of all parts that move, being written one after the other. */
class Timeline {
  /** Seconds so far. */
  time = 0;
  readonly cues: Cue[] = [];
  private readonly keys: Map<Id, WrittenKey[]>;

  constructor(
    private readonly kit: Kit,
    parts: Iterable<Id>,
  ) {
    this.keys = new Map([...parts].map((id) => [id, []]));
  }

  /** One key of a part, at a time of the whole; its quaternion as the nearer to the one before of the two that say the same. */
  put(id: Id, key: WrittenKey): void {
    const keys = this.keys.get(id)!;
    const last = keys.at(-1)?.values.rotation;
    const turned = last && last.reduce((sum, value, c) => sum + value * key.values.rotation[c], 0) < 0;
    const back = (values: KeyValues) => ({ ...values, rotation: values.rotation.map((value) => -value) });
    keys.push(turned ? { ...key, values: back(key.values), into: key.into && back(key.into), out: key.out && back(key.out) } : key);
  }

  baked(moves: ReadonlyMap<Id, BakedKeys['moves']>): BakedKeys[] {
    return [...this.keys].map(([part, keys]) => {
      const laid = (rows: readonly KeyValues[]): BakedValues =>
        perProperty((property) => Float64Array.from(rows.flatMap((row) => row[property])));
      return {
        part,
        times: keys.map(({ time }) => time),
        ...laid(keys.map(({ values }) => values)),
        curves: {
          into: laid(keys.map((key, i) => key.into ?? slopesBetween(keys[i - 1], key))),
          out: laid(keys.map((key, i) => key.out ?? slopesBetween(key, keys[i + 1]))),
        },
        moves: moves.get(part)!,
      };
    });
  }

  /** Everything as a clip has it at a time, or as it is at rest. @param ids Parts, where not all of them */
  hold(clip: Clip | null, seconds: number, blobs: Blobs, ids: Iterable<Id> = this.keys.keys()): void {
    const poser = poseOfClip(this.kit, clip ?? STILL, blobs)(clip ? seconds : 0);
    for (const id of ids) {
      const at = poser.flat.indexOf.get(id)!;
      const values = {
        translation: [...poser.translation.subarray(3 * at, 3 * at + 3)],
        rotation: [...poser.rotation.subarray(4 * at, 4 * at + 4)],
        scale: [...poser.scale.subarray(3 * at, 3 * at + 3)],
        weights: [...poser.weightsOf(id)],
      };
      this.put(id, { time: this.time, values, into: null, out: null });
    }
  }

  /** Parts that are not among these. */
  others(ids: ReadonlySet<Id>): Id[] {
    return [...this.keys.keys()].filter((id) => !ids.has(id));
  }
}

/** The tangents of a straight way from one key to the next; of none where there is none. */
function slopesBetween(from: WrittenKey | undefined, to: WrittenKey | undefined): KeyValues {
  const own = (from ?? to)!.values;
  return perProperty((property) =>
    own[property].map((_, c) => (from && to ? (to.values[property][c] - from.values[property][c]) / (to.time - from.time) : 0)),
  );
}

const STILL: Clip = { id: 'still', name: '', lengthSeconds: 1, rate: 1, loop: 'hold', order: 0, tracks: [] };

/** Writes what a clip does from one of its times to another, at both of which it has keys, and goes on to its end. */
function playSpan(timeline: Timeline, { clip, from, to }: StatePlay, baked: readonly BakedKeys[], blobs: Blobs): void {
  const begin = timeline.time;
  if (!clip) {
    timeline.hold(clip, from, blobs);
    return;
  }
  for (const keys of baked) {
    const near = keys.times.flatMap((time, key) =>
      time >= from - SAME_TIME && time <= to + SAME_TIME ? [{ time: Math.min(Math.max(time, from), to), key }] : [],
    );
    // Where something jumps at an end, keys may stand nearer to it than a time is told from another: the last of them is there.
    const inside = near.filter(({ time }, i) => i + 1 === near.length || near[i + 1].time > time);
    inside.forEach(({ time, key }, i) =>
      timeline.put(keys.part, {
        time: begin + time - from,
        values: valuesAt(keys, keys, key),
        into: i === 0 || !keys.curves ? null : valuesAt(keys.curves.into, keys, key),
        out: i === inside.length - 1 || !keys.curves ? null : valuesAt(keys.curves.out, keys, key),
      }),
    );
  }
  // What another state's clip moves, and this one does not.
  const rest = timeline.others(new Set(baked.map(({ part }) => part)));
  timeline.hold(clip, from, blobs, rest);
  for (const cue of clip.cues ?? [])
    if (cue.time >= from && cue.time <= to) timeline.cues.push({ ...cue, id: newId(), time: begin + cue.time - from });
  timeline.time = begin + to - from;
  if (to > from) timeline.hold(clip, to, blobs, rest);
}

/**
 * A kit with the one clip that a platform of states plays: what it does in each of them, one after the other, with a stretch in between
 * where one goes over into the next; and its states as stretches of that clip. Curves within the tolerance. Clips that no state
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

  const endsOf = (clip: Clip) => plays.flatMap((play) => (play.clip === clip ? [play.from, play.to] : []));
  const bakedOf = new Map(alone.map((clip) => [clip, bakeClip(kit, clip, blobs, { ...bake, curves: 'always', at: endsOf(clip) })]));
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
