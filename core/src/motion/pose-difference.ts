import type { Blobs, Clip, Id, Kit } from '../document';
import { angleBetweenQuats, flattenParts, Poser, type MeasuredVertices } from '../geometry';
import type { LocalLimits, Tolerance } from './local-limits';
import { compileClip, sampleClip } from './sampler';

/** Where two motions are furthest apart. */
export interface Furthest {
  metres: number;
  degrees: number;
  part: Id | null;
  /** Seconds. */
  time: number;
}

/** Sets a pose at a time, seconds, and works it out. */
export type PoseAt = (time: number) => Poser;

/** The pose of a clip on a kit, at any time. */
export function poseOfClip(kit: Kit, clip: Clip, blobs: Blobs): PoseAt {
  const poser = new Poser(flattenParts(kit));
  const compiled = compileClip(clip, poser.flat, blobs);
  return (time) => {
    poser.reset();
    sampleClip(compiled, time, poser.pose);
    poser.update();
    return poser;
  };
}

/**
 * Measures two motions of the same parts against one another at every measured vertex, and every part's own turn.
 */
export class PoseDifference {
  private readonly a: Float64Array;
  private readonly b: Float64Array;
  readonly furthest: Furthest = { metres: 0, degrees: 0, part: null, time: 0 };
  /** For each part that moves vertices, itself or as a joint, the greatest way that those are off, metres. */
  readonly byMover = new Map<Id, number>();
  /** For each part that differs by its own numbers the greatest share of its limits that they take. */
  readonly ownShare = new Map<Id, number>();
  /** For each part the greatest difference of its own turn, degrees. */
  readonly turnOf = new Map<Id, number>();

  constructor(
    private readonly vertices: MeasuredVertices,
    private readonly first: PoseAt,
    private readonly second: PoseAt,
    private readonly limits?: ReadonlyMap<Id, LocalLimits>,
  ) {
    this.a = new Float64Array(3 * vertices.count);
    this.b = new Float64Array(3 * vertices.count);
  }

  /** Looks at a time; gives the greatest way there, metres. */
  look(time: number): number {
    const [one, other] = [this.first(time), this.second(time)];
    this.vertices.place(one, this.a);
    this.vertices.place(other, this.b);
    const { furthest, byMover } = this;
    let most = 0;
    this.vertices.eachDifference(this.a, this.b, (part, movers, metres) => {
      most = Math.max(most, metres);
      if (metres > furthest.metres) Object.assign(furthest, { metres, part, time });
      if (metres > 0) for (const mover of movers) if (metres > (byMover.get(mover) ?? 0)) byMover.set(mover, metres);
    });
    for (let p = 0; p < one.flat.ids.length; p++) this.lookAtOwn(one, other, p);
    return most;
  }

  private lookAtOwn(one: Poser, other: Poser, p: number): void {
    const id = one.flat.ids[p];
    const degrees = angleAt(one.rotation, other.rotation, 4 * p);
    if (degrees > 0) {
      if (degrees > (this.turnOf.get(id) ?? 0)) this.turnOf.set(id, degrees);
      this.furthest.degrees = Math.max(this.furthest.degrees, degrees);
    }
    const limits = this.limits?.get(id);
    if (!limits) return;
    let share = degrees / limits.degrees;
    for (let c = 3 * p; c < 3 * p + 3; c++) {
      share = Math.max(share, Math.abs(one.translation[c] - other.translation[c]) / limits.metres);
      share = Math.max(share, Math.abs(one.scale[c] - other.scale[c]) / limits.size);
    }
    const { weightsAt } = one.flat;
    for (let c = weightsAt[p]; c < weightsAt[p + 1]; c++)
      share = Math.max(share, Math.abs(one.pose.weights[c] - other.pose.weights[c]) / (limits.weights[c - weightsAt[p]] ?? 1));
    if (share > (this.ownShare.get(id) ?? 0)) this.ownShare.set(id, share);
  }
}

/** Degrees between two turns of lists of them; 0 where they are the same numbers. */
function angleAt(a: Float64Array, b: Float64Array, at: number): number {
  if (a[at] === b[at] && a[at + 1] === b[at + 1] && a[at + 2] === b[at + 2] && a[at + 3] === b[at + 3]) return 0;
  return angleBetweenQuats([a[at], a[at + 1], a[at + 2], a[at + 3]], [b[at], b[at + 1], b[at + 2], b[at + 3]]);
}

/** Times between neighbours of a sorted list, at three places of each way; none where they stand closer than `least`. */
export function timesBetween(sorted: readonly number[], least: number): number[] {
  const out: number[] = [];
  for (let i = 0; i + 1 < sorted.length; i++) {
    const span = sorted[i + 1] - sorted[i];
    if (span > least) for (const u of [0.26, 0.5, 0.74]) out.push(sorted[i] + u * span);
  }
  return out;
}

/** Along a chain a part counts whose own numbers are off by this share of those that are furthest off. */
const COUNTS = 0.3;

/**
 * Which of these parts are to come nearer, and how many times the tolerance is taken by the worst vertex that each moves, itself or by what
 * hangs below it, or by its own turn: along the chain of a vertex those that are off by most of their limits.
 *
 * @param most Of the tolerance that may be taken.
 */
export function tooFarOff(
  kit: Kit,
  { byMover, ownShare, turnOf }: PoseDifference,
  parts: Iterable<Id>,
  { metres, degrees }: Tolerance,
  most = 1,
): Map<Id, number> {
  const asked = new Set(parts);
  const out = new Map<Id, number>();
  const blame = (id: Id, off: number) => out.set(id, Math.max(out.get(id) ?? 0, off));
  for (const [id, off] of turnOf) if (asked.has(id) && off > most * degrees) blame(id, off / degrees);
  for (const [mover, off] of byMover) {
    if (off <= most * metres) continue;
    const chain: Id[] = [];
    for (let id: Id | null = mover; id !== null; id = kit.parts[id].parent) if (asked.has(id) && ownShare.has(id)) chain.push(id);
    const furthest = Math.max(...chain.map((id) => ownShare.get(id)!));
    for (const id of chain) if (ownShare.get(id)! >= COUNTS * furthest) blame(id, off / metres);
  }
  return out;
}
