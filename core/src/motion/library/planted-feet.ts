import type { Blobs, Clip, Id, Kit, Vec3 } from '../../document';
import { flattenParts, Poser, restWorlds } from '../../geometry';
import { fineFrames } from '../frames';
import { compileClip, sampleClip } from '../sampler';
import { legsOf, placeIn, type Leg } from './legs';

/** A foot stands while it goes slower than so much of its fastest, within so many metres of its lowest. */
const SLOW = 0.05;
const NEAR = 0.02;
/** A clip is looked at so often a second at least. */
export const LOOKS = 60;

/** Stretches of samples during which a foot stands. */
export function plantedSpans(places: readonly Vec3[], times: readonly number[]): [from: number, to: number][] {
  const speed = places.map((_, i) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(places.length - 1, i + 1)];
    return Math.hypot(...places[b].map((value, k) => value - places[a][k])) / (times[b] - times[a]);
  });
  const peak = Math.max(...speed);
  const floor = Math.min(...places.map(([, y]) => y));
  const spans: [number, number][] = [];
  places.forEach(([, y], i) => {
    if (peak === 0 || speed[i] > SLOW * peak || y > floor + NEAR) return;
    const last = spans[spans.length - 1];
    if (last?.[1] === i - 1) last[1] = i;
    else spans.push([i, i]);
  });
  return spans.filter(([from, to]) => to > from);
}

/** A foot that stands, from when to when in seconds, and how far above its place at rest, metres. */
export interface Planted {
  foot: Id;
  from: number;
  to: number;
  lift: number;
}

/** When the feet of a clip stand, as it moves its own kit. */
export function plantedFeet(kit: Kit, clip: Clip, blobs: Blobs, legs: readonly Leg[] = legsOf(kit)): Planted[] {
  const poser = new Poser(flattenParts(kit));
  const rest = restWorlds(kit);
  const compiled = compileClip(clip, poser.flat, blobs);
  const { times } = fineFrames(0, clip.lengthSeconds, clip.rate, { perSecond: LOOKS });
  const places = new Map<Id, Vec3[]>(legs.map(([, , foot]) => [foot, []]));
  for (const time of times) {
    poser.reset();
    sampleClip(compiled, time, poser.pose);
    poser.update();
    for (const [foot, list] of places) list.push(placeIn(poser, foot));
  }
  return [...places].flatMap(([foot, list]) =>
    plantedSpans(list, times).map((span): Planted => ({
      foot,
      from: times[span[0]],
      to: times[span[1]],
      lift: middleOf(list, span)[1] - rest.get(foot)![13],
    })),
  );
}

/** Seconds over which a foot is let go. */
const BLEND = 0.1;

/** The middle of where a foot is during a stretch of samples. */
export function middleOf(places: readonly Vec3[], [from, to]: readonly [number, number]): Vec3 {
  return [0, 1, 2].map((k) => places.slice(from, to + 1).reduce((sum, place) => sum + place[k], 0) / (to - from + 1)) as Vec3;
}

/** How far each sample's foot is moved: onto its stretch's anchor while it stands, and less and less beside that. */
export function shiftsOnto(
  places: readonly Vec3[],
  times: readonly number[],
  spans: readonly [number, number][],
  anchors: readonly Vec3[],
): Vec3[] {
  const out: Vec3[] = places.map(() => [0, 0, 0]);
  spans.forEach(([from, to], s) => {
    const anchor = anchors[s];
    const inside = (i: number) => spans.some(([a, b]) => i >= a && i <= b);
    places.forEach((place, i) => {
      if (i >= from && i <= to) out[i] = place.map((value, k) => anchor[k] - value) as Vec3;
      else if (!inside(i)) {
        const edge = i < from ? from : to;
        const share = 1 - Math.abs(times[i] - times[edge]) / BLEND;
        if (share <= 0) return;
        const weight = share * share * (3 - 2 * share);
        out[i] = out[i].map((value, k) => value + weight * (anchor[k] - places[edge][k])) as Vec3;
      }
    });
  });
  return out;
}
