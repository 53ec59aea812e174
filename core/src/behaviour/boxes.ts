import type { Condition } from '../document';
import type { ParameterRule, Values } from './rules';

/** Values of one parameter that no condition tells apart, by one of them; and which of these classes conditions take. */
interface Axis {
  samples: (number | string | boolean)[];
  all: bigint;
}

/** Of each parameter that it asks about which classes it takes, as bits; of all others every one. None with no bits. */
export type Box = ReadonlyMap<string, bigint>;

/** There are more combinations of conditions than can be looked at. */
export class TooManyError extends Error {}

/**
 * All that conditions can tell of the values that are passed in: the axis of each number is cut where a condition names one, so that there
 * are finitely many classes, and conditions are boxes over them. Emptiness, overlap and cover are then exact.
 */
export class ValueSpace {
  private readonly axes = new Map<string, Axis>();
  private left = Infinity;

  constructor(
    readonly parameters: readonly ParameterRule[],
    conditions: Iterable<Condition>,
  ) {
    const cuts = new Map<string, number[]>();
    for (const one of conditions)
      if (one.kind === 'range')
        cuts.set(one.parameter, [...(cuts.get(one.parameter) ?? []), ...[one.atLeast, one.below].filter((cut) => cut !== null)]);
    for (const rule of parameters) {
      const samples = samplesOf(rule, cuts.get(rule.name) ?? []);
      this.axes.set(rule.name, { samples, all: (1n << BigInt(samples.length)) - 1n });
    }
  }

  /** Lets so many more boxes be looked at: whether boxes cover one another can take as many as there are combinations of classes. */
  allow(steps: number): void {
    this.left = steps;
  }

  /** @throws {TooManyError} where no more is let */
  spend(steps = 1): void {
    this.left -= steps;
    if (this.left < 0) throw new TooManyError('too many combinations of conditions');
  }

  /** Where all of some conditions hold; null where no values do. What the platform does not pass in never holds. */
  boxOf(when: readonly Condition[]): Box | null {
    const box = new Map<string, bigint>();
    for (const one of when) {
      const axis = this.axes.get(one.parameter);
      if (!axis) return null;
      const bits = axis.samples.reduce<bigint>((sum, sample, i) => (holdsOf(one, sample) ? sum | (1n << BigInt(i)) : sum), 0n);
      const both = (box.get(one.parameter) ?? axis.all) & bits;
      if (both === 0n) return null;
      box.set(one.parameter, both);
    }
    return box;
  }

  /** Whether two boxes have something in common. */
  meet(a: Box, b: Box): boolean {
    this.spend();
    for (const [parameter, bits] of b) {
      const here = a.get(parameter);
      if (here !== undefined && (here & bits) === 0n) return false;
    }
    return true;
  }

  /** What two boxes have in common; null where that is nothing. */
  both(a: Box, b: Box): Box | null {
    if (!this.meet(a, b)) return null;
    const box = new Map(a);
    for (const [parameter, bits] of b) {
      const here = box.get(parameter);
      box.set(parameter, here === undefined ? bits : here & bits);
    }
    return box;
  }

  /** A part of a box that lies in none of some others; null where they cover it. */
  outside(box: Box, others: readonly Box[], from = 0): Box | null {
    for (let i = from; i < others.length; i++) {
      if (!this.meet(box, others[i])) continue;
      for (const piece of this.without(box, others[i])) {
        const found = this.outside(piece, others, i + 1);
        if (found) return found;
      }
      return null;
    }
    return box;
  }

  /** All parts of a box that lie in none of some others, none of them over another. */
  outsides(box: Box, others: readonly Box[]): Box[] {
    return others.reduce<Box[]>((left, other) => left.flatMap((one) => (this.meet(one, other) ? this.without(one, other) : [one])), [box]);
  }

  /** What is left of a box without another that it meets: a piece for each parameter that the other asks about. */
  private without(box: Box, other: Box): Box[] {
    const pieces: Box[] = [];
    const inside = new Map(box);
    for (const [parameter, bits] of other) {
      const here = inside.get(parameter) ?? this.axes.get(parameter)!.all;
      const out = here & ~bits;
      if (out !== 0n) pieces.push(new Map(inside).set(parameter, out));
      inside.set(parameter, here & bits);
    }
    return pieces;
  }

  /** Values that lie in a box: of what it asks about the lowest, of all others what they are at the start. */
  valuesIn(box: Box): Values {
    return Object.fromEntries(
      [...this.axes].map(([name, { samples }]) => {
        const bits = box.get(name);
        return [name, samples[bits === undefined ? 0 : lowestBit(bits)]];
      }),
    );
  }
}

function lowestBit(bits: bigint): number {
  let at = 0;
  while (((bits >> BigInt(at)) & 1n) === 0n) at++;
  return at;
}

/** One value of each class. The first is what a parameter is while nothing is said. */
function samplesOf(rule: ParameterRule, cuts: readonly number[]): (number | string | boolean)[] {
  if (rule.kind === 'signal') return [false, true];
  if (rule.always !== undefined) return [rule.always];
  if (rule.kind === 'yes-no') return ['no', 'yes'];
  if (rule.kind === 'names') return rule.values;
  const { min, max, whole } = rule;
  const starts = [min, ...[...new Set(cuts)].filter((cut) => cut > min && cut <= max).sort((a, b) => a - b)];
  if (!whole) return starts;
  // Between two cuts there may be no whole number.
  return starts.map(Math.ceil).filter((value, i) => value <= max && (i === starts.length - 1 || value < starts[i + 1]));
}

/** Whether a condition holds of the value of its parameter. */
export function holdsOf(one: Condition, value: number | string | boolean | undefined): boolean {
  if (one.kind === 'sent') return value === true;
  if (one.kind === 'among') return typeof value === 'string' && one.values.includes(value);
  return typeof value === 'number' && (one.atLeast === null || value >= one.atLeast) && (one.below === null || value < one.below);
}
