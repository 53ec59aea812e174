import type { Mix } from '../document';
import type { Values } from './rules';

/** Where a mix is: what is passed in for each of its parameters. What is no number is 0. */
export function placeOfMix({ parameters }: Pick<Mix, 'parameters'>, values: Values, out: Float64Array): void {
  for (let i = 0; i < parameters.length; i++) {
    const value = values[parameters[i]];
    out[i] = typeof value === 'number' && Number.isFinite(value) ? value : 0;
  }
}

/** Shares of a mix's clips at a place, in the order of the pegs. They add up to 1, and a peg alone is played at its own place. */
export interface MixShares {
  /** Writes the shares; allocates nothing. @param at One number, or two. */
  at(at: ArrayLike<number>, out: Float64Array): void;
}

/** A mix's places, made ready. */
export function sharesOf({ kind, pegs }: Pick<Mix, 'kind' | 'pegs'>): MixShares {
  const places = pegs.map(({ at }) => at);
  if (kind === 'line') return new LineShares(places.map(([value]) => value));
  return new FieldShares(places as [number, number][], kind === 'around');
}

/** Between the two neighbours of a value by how near they are; beyond the ends the outermost alone. */
class LineShares implements MixShares {
  /** Places in their order, and which peg each is. */
  private readonly sorted: Float64Array;
  private readonly peg: Int32Array;

  constructor(places: number[]) {
    const order = places.map((_, i) => i).sort((a, b) => places[a] - places[b]);
    this.sorted = Float64Array.from(order, (i) => places[i]);
    this.peg = Int32Array.from(order);
  }

  at(at: ArrayLike<number>, out: Float64Array): void {
    const value = at[0];
    const { sorted, peg } = this;
    const last = sorted.length - 1;
    out.fill(0);
    let i = 0;
    while (i < last && sorted[i + 1] <= value) i++;
    if (value <= sorted[0] || i === last) {
      out[peg[value <= sorted[0] ? 0 : last]] = 1;
      return;
    }
    const share = (value - sorted[i]) / (sorted[i + 1] - sorted[i]);
    out[peg[i]] = 1 - share;
    out[peg[i + 1]] = share;
  }
}

/** How much a turn about the middle counts beside how far out a place is. */
const TURNS = 2;

/**
 * Gradient bands (Johansen, Automated Semi-Procedural Animation for Character Locomotion, 2009): seen from each peg, every other one takes
 * of its share the further a place has gone from the one toward the other; what is left of the least is its influence. Round the middle
 * places are compared by how far out they are, as a share of the two pegs' mean, and by the angle. His angle jumps where a place is
 * opposite; ours goes back again there, so that shares are continuous (docs/decisions.md).
 */
class FieldShares implements MixShares {
  private readonly x: Float64Array;
  private readonly y: Float64Array;
  private readonly radius: Float64Array;
  private readonly angle: Float64Array;

  constructor(
    places: readonly (readonly [number, number])[],
    private readonly around: boolean,
  ) {
    this.x = Float64Array.from(places, ([x]) => x);
    this.y = Float64Array.from(places, ([, y]) => y);
    this.radius = Float64Array.from(places, ([x, y]) => Math.hypot(x, y));
    this.angle = Float64Array.from(places, ([x, y]) => Math.atan2(y, x));
  }

  at(at: ArrayLike<number>, out: Float64Array): void {
    const n = this.x.length;
    const px = at[0];
    const py = at[1];
    const radius = Math.sqrt(px * px + py * py);
    const angle = this.around ? Math.atan2(py, px) : 0;
    let sum = 0;
    for (let i = 0; i < n; i++) {
      let least = 1;
      for (let j = 0; j < n && least > 0; j++) {
        if (j === i) continue;
        const toward = this.around ? this.turned(i, j, radius, angle) : this.straight(i, j, px, py);
        if (1 - toward < least) least = 1 - toward;
      }
      out[i] = least > 0 ? least : 0;
      sum += out[i];
    }
    for (let i = 0; i < n; i++) out[i] /= sum;
  }

  /** How far a place has gone from one peg toward another, on a plane. */
  private straight(i: number, j: number, px: number, py: number): number {
    const dx = this.x[j] - this.x[i];
    const dy = this.y[j] - this.y[i];
    return ((px - this.x[i]) * dx + (py - this.y[i]) * dy) / (dx * dx + dy * dy);
  }

  /** The same round the middle. */
  private turned(i: number, j: number, radius: number, angle: number): number {
    const a = this.radius[i];
    const b = this.radius[j];
    // What is in the middle has no direction.
    if (a === 0 || b === 0) return (radius - a) / (b - a);
    const mean = (a + b) / 2;
    const apart = TURNS * aboutNothing(this.angle[j] - this.angle[i]);
    const out = (b - a) / mean;
    const half = apart / TURNS / 2;
    // About the middle between the two as a sine is: it goes back where a place lies behind both.
    const gone = TURNS * (half + Math.asin(Math.sin(angle - this.angle[i] - half)));
    return (((radius - a) / mean) * out + gone * apart) / (out * out + apart * apart);
  }
}

/** An angle as −π to π, radians. */
const aboutNothing = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));
