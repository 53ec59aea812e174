import type { Blobs, Clip, Id, Kit, Mix, Step } from '../document';
import { newPose, resetPose, type FlatParts, type Pose } from '../geometry';
import { compileClip, movedParts, sampleMoment, type CompiledClip } from '../motion';
import { addToSum, beginSum, endSum, poseSum, restMoved, settleTurns, spinsLeft, type PoseSum } from './blend';
import { stepsOf } from './clip-steps';
import type { Values } from './rules';
import { placeOfMix, sharesOf, type MixShares } from './shares';

/** Where a mix is in its course. What goes in step does so by steps; what does not keeps a time of its own. */
export interface MixAt {
  step: number;
  /** How far it is from that step's beginning to its end, 0 to 1. */
  along: number;
  /** Seconds of it that go by in a second. */
  speed: number;
  /** Seconds, one for each clip; used where it keeps to itself. */
  own: Float64Array;
}

/** Why a clip does not go in step with the others: it has no steps, or others follow one another. */
export type OutOfStep = 'no-steps' | 'other-steps';

/** A clip of a mix, made ready. */
interface Mixed {
  compiled: CompiledClip;
  /** Parts whose spins have to be at rest before it is sampled. */
  left: Int32Array;
  /** Until it begins anew, seconds; there and back for what goes back again. */
  period: number;
  back: boolean;
  speed: number;
  /** Where its steps begin, with the end of the last; null where it keeps to its own time. */
  marks: Float64Array | null;
}

/** How a clip's feet come down, in an order that another one can be held against. */
interface Order {
  peg: number;
  marks: readonly Step[];
  period: number;
}

const samePlaces = (order: readonly number[], one: readonly number[], turned: number): boolean =>
  order.every((foot, i) => one[(i + turned) % one.length] === foot);

/** Times of a clip's steps so that they follow one another as the feet of `order` do; null where they do not. */
function inStep(order: readonly number[], { marks, period }: Order): Float64Array | null {
  const n = marks.length;
  if (n === 0 || order.length % n !== 0) return null;
  const feet = marks.map(({ foot }) => foot);
  for (let turned = 0; turned < n; turned++) {
    if (!samePlaces(order, feet, turned)) continue;
    return Float64Array.from({ length: order.length + 1 }, (_, i) => {
      const at = i + turned;
      return marks[at % n].time + period * Math.floor(at / n);
    });
  }
  return null;
}

/** The share of a clip that plays alone. */
const WHOLE = Float64Array.of(1);

/** Plays a mix of one kit's clips. Made once for its parts; afterwards nothing is allocated. */
export class MixPlayer {
  readonly shares: Float64Array;
  /** Clips that do not go in step, by their pegs. */
  readonly outOfStep: { peg: Id; why: OutOfStep }[] = [];
  private readonly mixed: (Mixed | null)[];
  private readonly of: MixShares;
  private readonly at: Float64Array;
  /** One clip's pose; at rest wherever none of them moves anything. */
  private readonly scratch: Pose;
  private readonly sum: PoseSum;
  /** How many steps make a round. */
  private readonly steps: number;

  /**
   * @param loop Whether it goes round; what is played once is not brought into step
   * @param mask How far each part is moved: tracks of those that are not are never sampled. All are, where it is not said
   */
  constructor(
    readonly mix: Pick<Mix, 'kind' | 'parameters' | 'pegs'>,
    kit: Kit,
    private readonly flat: FlatParts,
    blobs: Blobs,
    private readonly loop: boolean,
    mask?: Float64Array,
  ) {
    this.of = sharesOf(mix);
    this.shares = new Float64Array(mix.pegs.length);
    this.at = new Float64Array(2);
    this.scratch = newPose(flat);
    const clips = mix.pegs.map(({ clip }) => (clip === null ? null : (kit.clips[clip] ?? null)));
    this.mixed = clips.map((clip, i) => {
      if (!clip || clip.lengthSeconds <= 0) return null;
      const back = clip.loop === 'ping-pong';
      const period = clip.lengthSeconds * (back ? 2 : 1);
      const tracks = mask ? clip.tracks.filter(({ part }) => (mask[flat.indexOf.get(part) ?? -1] ?? 0) > 0) : clip.tracks;
      return {
        compiled: compileClip({ ...clip, tracks }, flat, blobs),
        period,
        back,
        speed: mix.pegs[i].speed,
        marks: null,
        left: new Int32Array(0),
      };
    });
    this.sum = poseSum(flat, movedParts(this.mixed.flatMap((one) => (one ? [one.compiled] : []))));
    for (const one of this.mixed) if (one) one.left = spinsLeft(this.sum, movedParts([one.compiled]));
    this.steps = this.bringIntoStep(clips, kit, blobs);
    this.setPlace({});
  }

  /** Gives each clip the times of its steps. @returns how many a round has */
  private bringIntoStep(clips: readonly (Clip | null)[], kit: Kit, blobs: Blobs): number {
    const { mixed, loop } = this;
    const orders = mixed.flatMap((one, peg): Order[] =>
      one ? [{ peg, marks: loop ? (this.mix.pegs[peg].steps ?? stepsOf(kit, clips[peg]!, blobs).marks) : [], period: one.period }] : [],
    );
    const leader = orders.reduce<Order | null>((most, one) => (one.marks.length > (most?.marks.length ?? 0) ? one : most), null);
    // Where no foot comes down, rounds are all that can go together.
    if (!leader) {
      for (const { peg, period } of orders) mixed[peg]!.marks = Float64Array.of(0, period);
      return 1;
    }
    const feet = leader.marks.map(({ foot }) => foot);
    for (const one of orders) {
      const marks = inStep(feet, one);
      mixed[one.peg]!.marks = marks;
      if (!marks) this.outOfStep.push({ peg: this.mix.pegs[one.peg].id, why: one.marks.length === 0 ? 'no-steps' : 'other-steps' });
    }
    return feet.length;
  }

  /** Says what is passed in: the shares are those of that place. */
  setPlace(values: Values): void {
    placeOfMix(this.mix, values, this.at);
    this.of.at(this.at, this.shares);
  }

  /** Whether it plays anything at all. */
  get plays(): boolean {
    return this.mixed.some((one) => one !== null);
  }

  /** How long a round takes with these shares, seconds; 0 where nothing is played. */
  get seconds(): number {
    let sum = 0;
    let all = 0;
    for (let i = 0; i < this.mixed.length; i++) {
      const one = this.mixed[i];
      if (!one || this.shares[i] === 0) continue;
      // A round of what goes in step is that of all its steps, which may be several of its own.
      const round = one.marks ? one.marks[this.steps] - one.marks[0] : one.period;
      sum += (this.shares[i] * round) / one.speed;
      all += this.shares[i];
    }
    return all > 0 ? sum / all : 0;
  }

  /** The beginning: where the clip with the greatest share begins. @param speed Seconds of it that go by in a second */
  start(speed = 1): MixAt {
    const at: MixAt = { step: 0, along: 0, speed, own: new Float64Array(this.mixed.length) };
    let lead = -1;
    for (let i = 0; i < this.mixed.length; i++) if (this.mixed[i]?.marks && (lead < 0 || this.shares[i] > this.shares[lead])) lead = i;
    const marks = lead < 0 ? null : this.mixed[lead]!.marks!;
    if (!marks) return at;
    const { period } = this.mixed[lead]!;
    // Steps begin with the first mark: the clip's own beginning lies before it, that is at the end of a round.
    const beginning = Math.ceil(marks[0] / period - 1e-9) * period;
    while (at.step < this.steps - 1 && marks[at.step + 1] <= beginning) at.step++;
    at.along = (beginning - marks[at.step]) / (marks[at.step + 1] - marks[at.step]);
    return at;
  }

  /** Goes on by so many seconds, at its speed. */
  advance(at: MixAt, seconds: number): void {
    for (let i = 0; i < this.mixed.length; i++) {
      const one = this.mixed[i];
      if (one && !one.marks) at.own[i] += seconds * at.speed * one.speed;
    }
    let left = seconds * at.speed;
    // Steps that take no time are passed; a round that takes none has nothing that goes in step.
    for (let passed = 0; left > 0 && passed <= this.steps;) {
      const whole = this.stepSeconds(at.step);
      passed = whole > 0 ? 0 : passed + 1;
      const rest = (1 - at.along) * whole;
      if (left < rest) {
        at.along += left / whole;
        return;
      }
      left -= rest;
      if (at.step + 1 < this.steps) {
        at.step++;
        at.along = 0;
      } else if (this.loop) {
        at.step = 0;
        at.along = 0;
      } else {
        at.along = 1;
        return;
      }
    }
  }

  private stepSeconds(step: number): number {
    let sum = 0;
    let all = 0;
    for (let i = 0; i < this.mixed.length; i++) {
      const one = this.mixed[i];
      if (!one?.marks || this.shares[i] === 0) continue;
      sum += (this.shares[i] * (one.marks[step + 1] - one.marks[step])) / one.speed;
      all += this.shares[i];
    }
    return all > 0 ? sum / all : 0;
  }

  /** Where one of its clips is, seconds within the clip. */
  clipTime(at: MixAt, peg: number): number {
    const one = this.mixed[peg];
    if (!one) return 0;
    this.goTo(at, peg, one);
    return one.compiled.moment[0];
  }

  /** Sets the moment of one of its clips. */
  private goTo(at: MixAt, peg: number, { marks, period, back, compiled }: Mixed): void {
    let time = marks ? marks[at.step] + at.along * (marks[at.step + 1] - marks[at.step]) : at.own[peg];
    if (this.loop) time = time > period ? time % period : time;
    else if (time > period) time = period;
    compiled.moment[0] = back && time > period / 2 ? period - time : time;
  }

  /** The settled pose: clips by their shares, relative to rest. Spins of the kit's parts only. */
  sample(at: MixAt, out: Pose): void {
    resetPose(this.flat, out);
    let alone = -1;
    for (let i = 0; i < this.shares.length; i++) if (this.shares[i] > 1 - 1e-12) alone = i;
    if (alone >= 0) {
      this.sampleOne(at, alone, out, WHOLE, 0);
      return;
    }
    const { sum, scratch } = this;
    beginSum(sum, out);
    // Offsets add up wherever they are sampled.
    const own = scratch.offset;
    scratch.offset = out.offset;
    for (let i = 0; i < this.shares.length; i++) {
      if (this.shares[i] === 0) continue;
      restMoved(sum, scratch, this.mixed[i]?.left ?? sum.moved.spin);
      this.sampleOne(at, i, scratch, this.shares, i);
      addToSum(sum, out, scratch, this.shares, i);
    }
    scratch.offset = own;
    endSum(sum, out);
  }

  /** A clip's settled pose, of one at rest; of its offsets the share that stands at a place of an array. */
  private sampleOne(at: MixAt, peg: number, pose: Pose, shares: Float64Array, share: number): void {
    const one = this.mixed[peg];
    if (!one) return;
    this.goTo(at, peg, one);
    one.compiled.moment[1] = shares[share];
    sampleMoment(one.compiled, pose);
    settleTurns(this.flat, pose, this.sum.moved.turn);
  }
}
