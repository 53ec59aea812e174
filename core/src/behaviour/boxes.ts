import type { Condition } from '../document';
import type { ParameterRule, Values } from './rules';

/** Values of one parameter that no condition tells apart, by one of them; and in which words of a box they stand, a bit each. */
interface Axis {
  name: string;
  samples: (number | string | boolean)[];
  from: number;
  to: number;
}

/** Of each parameter which of its classes are taken, as bits. None has an axis without any. */
export type Region = Readonly<Int32Array>;

/** A region that conditions say, with the axes that they ask about: of all others it takes everything. */
export interface Box {
  readonly region: Region;
  readonly asks: readonly Axis[];
}

/** Bits of a word: as many as stay whole numbers without a sign. */
const WORD = 30;

/** There are more combinations of conditions than can be looked at. */
export class TooManyError extends Error {}

/**
 * All that conditions can tell of the values that are passed in: the axis of each number is cut where a condition names one, so that there
 * are finitely many classes, and conditions are boxes over them. Emptiness, overlap and cover are then exact.
 */
export class ValueSpace {
  /** All that there is. */
  readonly everything: Region;
  private readonly axes: Axis[] = [];
  private readonly byName = new Map<string, Axis>();
  private left = Infinity;

  constructor(
    readonly parameters: readonly ParameterRule[],
    conditions: Iterable<Condition>,
  ) {
    const cuts = new Map<string, Set<number>>();
    for (const one of conditions) {
      if (one.kind !== 'range') continue;
      const own = cuts.get(one.parameter) ?? new Set();
      for (const cut of [one.atLeast, one.below]) if (cut !== null) own.add(cut);
      cuts.set(one.parameter, own);
    }
    let words = 0;
    for (const rule of parameters) {
      const samples = samplesOf(rule, cuts.get(rule.name) ?? new Set());
      const axis = { name: rule.name, samples, from: words, to: words + Math.ceil(samples.length / WORD) };
      words = axis.to;
      this.axes.push(axis);
      this.byName.set(rule.name, axis);
    }
    const all = new Int32Array(words);
    for (const { samples, from } of this.axes) samples.forEach((_, i) => setBit(all, from, i));
    this.everything = all;
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
    const region = this.everything.slice();
    const asks = new Set<Axis>();
    for (const one of when) {
      const axis = this.byName.get(one.parameter);
      if (!axis) return null;
      axis.samples.forEach((sample, i) => !holdsOf(one, sample) && clearBit(region, axis.from, i));
      if (isEmpty(region, axis)) return null;
      asks.add(axis);
    }
    return { region, asks: [...asks] };
  }

  /** Whether a region and a box have something in common. */
  meet(a: Region, { region: b, asks }: Box): boolean {
    this.spend();
    for (const { from, to } of asks) {
      let common = 0;
      for (let w = from; w < to; w++) common |= a[w] & b[w];
      if (common === 0) return false;
    }
    return true;
  }

  /** What a region and a box have in common; null where that is nothing. */
  both(a: Region, b: Box): Region | null {
    return this.meet(a, b) ? a.map((bits, w) => bits & b.region[w]) : null;
  }

  /** A part of a region that lies in none of some boxes; null where they cover it. */
  outside(region: Region, boxes: readonly Box[], from = 0): Region | null {
    for (let i = from; i < boxes.length; i++) {
      if (!this.meet(region, boxes[i])) continue;
      for (const piece of this.without(region, boxes[i])) {
        const found = this.outside(piece, boxes, i + 1);
        if (found) return found;
      }
      return null;
    }
    return region;
  }

  /** All parts of a region that lie in none of some boxes, none of them over another. */
  outsides(region: Region, boxes: readonly Box[]): Region[] {
    return boxes.reduce<Region[]>((left, box) => left.flatMap((one) => (this.meet(one, box) ? this.without(one, box) : [one])), [region]);
  }

  /** What is left of a region without a box that it meets: a piece for each parameter that the box asks about. */
  private without(region: Region, box: Box): Region[] {
    const pieces: Region[] = [];
    const inside = region.slice();
    for (const axis of box.asks) {
      const piece = inside.slice();
      for (let w = axis.from; w < axis.to; w++) {
        piece[w] &= ~box.region[w];
        inside[w] &= box.region[w];
      }
      if (!isEmpty(piece, axis)) pieces.push(piece);
    }
    return pieces;
  }

  /** Values that lie in a region: of each parameter the first that it takes. */
  valuesIn(region: Region): Values {
    return Object.fromEntries(this.axes.map(({ name, samples, from }) => [name, samples.find((_, i) => hasBit(region, from, i))!]));
  }
}

const hasBit = (box: Region, from: number, i: number): boolean => (box[from + Math.floor(i / WORD)] & (1 << (i % WORD))) !== 0;
function setBit(box: Int32Array, from: number, i: number): void {
  box[from + Math.floor(i / WORD)] |= 1 << (i % WORD);
}
function clearBit(box: Int32Array, from: number, i: number): void {
  box[from + Math.floor(i / WORD)] &= ~(1 << (i % WORD));
}

function isEmpty(box: Region, { from, to }: Axis): boolean {
  for (let w = from; w < to; w++) if (box[w] !== 0) return false;
  return true;
}

/** One value of each class. The first is what a parameter is while nothing is said. */
function samplesOf(rule: ParameterRule, cuts: ReadonlySet<number>): (number | string | boolean)[] {
  if (rule.kind === 'signal') return [false, true];
  if (rule.always !== undefined) return [rule.always];
  if (rule.kind === 'yes-no') return ['no', 'yes'];
  if (rule.kind === 'names') return rule.values;
  const { min, max, whole } = rule;
  const starts = [min, ...[...cuts].filter((cut) => cut > min && cut <= max).sort((a, b) => a - b)];
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
