import type { Blobs, Clip, Id, Kit, Step } from '../document';
import { flattenParts, Poser, restWorlds } from '../geometry';
import { compileClip, legsOf, sampleClip, type Leg } from '../motion';

/** A foot on the ground, from when to when in seconds; of what goes round, beyond the clip's end where it stands over that. */
export interface Stance {
  /** Number of the leg, as `legsOf` gives them. */
  foot: number;
  from: number;
  to: number;
}

/** How a clip's feet go. */
export interface ClipSteps {
  stances: Stance[];
  /** When feet come down, in their order; none where they do not leave the ground. */
  marks: Step[];
  /**
   * How fast the body would have to go for feet on the ground not to slide, metres a second: to its left (x) and ahead (z). Null where no
   * foot is ever on the ground.
   */
  speed: [left: number, ahead: number] | null;
}

/** A clip is looked at so often a second. */
const LOOKS = 120;
/** A foot is on the ground up to this share of how high it goes, and is never off it where that is less than this share of its leg. */
const NEAR = 0.12;
const FLAT = 0.015;
/** It has left the ground when it goes up to this share: below it a foot that stands only stirs, as those of captured motion do. */
const LEFT = 0.3;

const kept = new WeakMap<Clip, { parts: unknown; steps: ClipSteps }>();

/** How a clip's feet go, as it moves its own kit; worked out once for as long as nothing of it changes. */
export function stepsOf(kit: Kit, clip: Clip, blobs: Blobs): ClipSteps {
  const known = kept.get(clip);
  if (known?.parts === kit.parts) return known.steps;
  const steps = measured(kit, clip, blobs);
  if (Object.isFrozen(clip)) kept.set(clip, { parts: kit.parts, steps });
  return steps;
}

interface FootWay {
  x: Float64Array;
  y: Float64Array;
  z: Float64Array;
}

/** Where each foot is, at times that are as far apart, from the clip's start to its end with both. */
function footWays(kit: Kit, clip: Clip, blobs: Blobs, feet: readonly Id[], count: number): FootWay[] {
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip(clip, poser.flat, blobs);
  const ways = feet.map((): FootWay => ({
    x: new Float64Array(count + 1),
    y: new Float64Array(count + 1),
    z: new Float64Array(count + 1),
  }));
  for (let i = 0; i <= count; i++) {
    poser.reset();
    sampleClip(compiled, (clip.lengthSeconds * i) / count, poser.pose);
    poser.update();
    feet.forEach((foot, f) => {
      const world = poser.worldOf(foot);
      ways[f].x[i] = world[12];
      ways[f].y[i] = world[13];
      ways[f].z[i] = world[14];
    });
  }
  return ways;
}

function measured(kit: Kit, clip: Clip, blobs: Blobs): ClipSteps {
  const legs = legsOf(kit);
  const feet = legs.map(([, , foot]) => foot);
  const rest = restWorlds(kit);
  const count = Math.max(8, Math.round(clip.lengthSeconds * LOOKS));
  if (feet.length === 0 || clip.lengthSeconds <= 0) return { stances: [], marks: [], speed: null };
  const dt = clip.lengthSeconds / count;
  const ways = footWays(kit, clip, blobs, feet, count);
  const loops = clip.loop === 'loop';
  const stances: Stance[] = [];
  const [toLeft, ahead]: [number[], number[]] = [[], []];
  const marks: ClipSteps['marks'] = [];
  ways.forEach((way, foot) => {
    const near = heightAt(way.y, NEAR, FLAT * legLength(rest, legs[foot]));
    const left = heightAt(way.y, LEFT, 0);
    const down = Array.from({ length: count }, (_, i) => way.y[i] <= near);
    for (let i = 0; i < count; i++) {
      if (!down[i] || !down[(i + 1) % count]) continue;
      toLeft.push((way.x[i] - way.x[i + 1]) / dt);
      ahead.push((way.z[i] - way.z[i + 1]) / dt);
    }
    for (const [from, to] of withoutStirring(runsOf(down, loops), way.y, left, loops)) {
      const whole = to - from >= count;
      const begins = whole ? 0 : dt * crossing(way.y, from, -1, near, loops);
      stances.push({ foot, from: begins, to: whole ? clip.lengthSeconds : dt * crossing(way.y, to - 1, 1, near, loops) });
      if (!whole && (loops || from > 0)) marks.push({ foot, time: begins < 0 ? begins + clip.lengthSeconds : begins });
    }
  });
  marks.sort((a, b) => a.time - b.time || a.foot - b.foot);
  if (toLeft.length === 0) return { stances, marks, speed: null };
  const travel = (way: Float64Array) => (way[count] - way[0]) / clip.lengthSeconds;
  const mean = (of: (way: FootWay) => number) => ways.reduce((sum, way) => sum + of(way), 0) / ways.length;
  return { stances, marks, speed: [median(toLeft) + mean(({ x }) => travel(x)), median(ahead) + mean(({ z }) => travel(z))] };
}

/** From the hip to the foot as a kit stands at rest, metres. */
function legLength(rest: ReadonlyMap<Id, Float64Array>, [hip, , foot]: Leg): number {
  const [a, b] = [rest.get(hip)!, rest.get(foot)!];
  return Math.hypot(a[12] - b[12], a[13] - b[13], a[14] - b[14]);
}

/** The height that is a share of how high a foot goes, metres; above all where it goes no higher than so much. */
function heightAt(height: Float64Array, share: number, flat: number): number {
  const floor = height.reduce((least, y) => Math.min(least, y), Infinity);
  const top = height.reduce((most, y) => Math.max(most, y), -Infinity);
  return top - floor < flat ? Infinity : floor + share * (top - floor);
}

/** Between two looks, when a foot crosses a height: from one that is on the ground on to the next, or back to the one before. */
function crossing(height: Float64Array, look: number, way: 1 | -1, near: number, loops: boolean): number {
  const count = height.length - 1;
  const at = (i: number) => height[loops ? ((i % count) + count) % count : Math.min(count, Math.max(0, i))];
  const [here, there] = [at(look), at(look + way)];
  return there > near ? look + (way * (near - here)) / (there - here) : look;
}

/** Stretches that hold, in looks; of what goes round, one that goes over the end is one, beyond it. */
function runsOf(down: readonly boolean[], loops: boolean): [from: number, to: number][] {
  const count = down.length;
  if (down.every(Boolean)) return [[0, count]];
  const runs: [number, number][] = [];
  for (let i = 0; i < count; i++) {
    if (!down[i]) continue;
    const last = runs[runs.length - 1];
    if (last?.[1] === i) last[1] = i + 1;
    else runs.push([i, i + 1]);
  }
  if (loops && runs.length > 1 && runs[0][0] === 0 && runs[runs.length - 1][1] === count) {
    const [[, end]] = runs.splice(0, 1);
    runs[runs.length - 1][1] = count + end;
  }
  return runs;
}

/** Stretches as one where nothing between them goes above a height; of what goes round the last and the first, too. */
function withoutStirring(
  runs: readonly [number, number][],
  height: Float64Array,
  left: number,
  loops: boolean,
): [from: number, to: number][] {
  const count = height.length - 1;
  const stays = (from: number, to: number) => {
    for (let i = from; i < to; i++) if (height[i % count] > left) return false;
    return true;
  };
  const out: [number, number][] = [];
  for (const [from, to] of runs) {
    const last = out[out.length - 1];
    if (last && stays(last[1], from)) last[1] = to;
    else out.push([from, to]);
  }
  if (loops && out.length > 1 && stays(out[out.length - 1][1], out[0][0] + count)) {
    const [[, to]] = out.splice(0, 1);
    out[out.length - 1][1] = to + count;
  }
  return out;
}

function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

/** The mixes of a kit with the steps of each clip that were found, as a package has them: who plays it need not look for them. */
export function mixesWithSteps(kit: Kit, blobs: Blobs): Kit['mixes'] {
  return kit.mixes?.map((mix) => ({
    ...mix,
    pegs: mix.pegs.map((peg) => {
      const clip = peg.clip === null ? undefined : kit.clips[peg.clip];
      return peg.steps || !clip ? peg : { ...peg, steps: stepsOf(kit, clip, blobs).marks };
    }),
  }));
}
