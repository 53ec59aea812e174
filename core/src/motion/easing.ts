import * as ease from 'd3-ease';
import { EASING_FAMILIES, EASING_WAYS, EASINGS, type Easing, type EasingFamily, type EasingWay, type Key } from '../document';

/**
 * Tangents (value a second) for the `curve` keys of a track, so that a smooth curve never leaves the range of two
 * neighbouring keys (Fritsch & Carlson 1980, "Monotone piecewise cubic interpolation").
 *
 * A key's tangent is 0 at an extreme and at the ends; otherwise the weighted harmonic mean of the slopes beside it.
 */
export function monotoneTangents(keys: readonly Key[]): Float64Array {
  const out = new Float64Array(keys.length);
  for (let i = 1; i + 1 < keys.length; i++) {
    const h0 = keys[i].time - keys[i - 1].time;
    const h1 = keys[i + 1].time - keys[i].time;
    const d0 = (keys[i].value - keys[i - 1].value) / h0;
    const d1 = (keys[i + 1].value - keys[i].value) / h1;
    if (d0 * d1 <= 0) continue;
    const w0 = 2 * h1 + h0;
    const w1 = h1 + 2 * h0;
    out[i] = (w0 + w1) / (w0 / d0 + w1 / d1);
  }
  return out;
}

/** Cubic Hermite between two values; tangents are a second, `span` in seconds. */
export function hermite(u: number, from: number, tangentFrom: number, to: number, tangentTo: number, span: number): number {
  const u2 = u * u;
  const u3 = u2 * u;
  return (2 * u3 - 3 * u2 + 1) * from + (u3 - 2 * u2 + u) * span * tangentFrom + (3 * u2 - 2 * u3) * to + (u3 - u2) * span * tangentTo;
}

/** Derivative of a cubic Hermite by time. */
export function hermiteSlope(u: number, from: number, tangentFrom: number, to: number, tangentTo: number, span: number): number {
  return ((6 * u * u - 6 * u) * (from - to)) / span + (3 * u * u - 4 * u + 1) * tangentFrom + (3 * u * u - 2 * u) * tangentTo;
}

type Shape = (u: number) => number;

/** Penner's easings, as d3-ease has them with its defaults (Penner 2001, "Motion, Tweening, and Easing"). */
const PENNER: Record<EasingFamily, Record<EasingWay, Shape>> = {
  sine: { in: ease.easeSinIn, out: ease.easeSinOut, both: ease.easeSinInOut },
  quad: { in: ease.easeQuadIn, out: ease.easeQuadOut, both: ease.easeQuadInOut },
  cubic: { in: ease.easeCubicIn, out: ease.easeCubicOut, both: ease.easeCubicInOut },
  back: { in: ease.easeBackIn, out: ease.easeBackOut, both: ease.easeBackInOut },
  bounce: { in: ease.easeBounceIn, out: ease.easeBounceOut, both: ease.easeBounceInOut },
  elastic: { in: ease.easeElasticIn, out: ease.easeElasticOut, both: ease.easeElasticInOut },
};

const HOLD: Shape = (u) => (u >= 1 ? 1 : 0);
const STRAIGHT: Shape = (u) => u;
/** Of a curve with nothing before and after it. */
const SMOOTH: Shape = (u) => u * u * (3 - 2 * u);

const SHAPES = new Map<Easing, Shape>([
  ['hold', HOLD],
  ['straight', STRAIGHT],
  ['curve', SMOOTH],
  ['bounce', ease.easeBounceOut],
  ...EASING_FAMILIES.flatMap((family) => EASING_WAYS.map((way): [Easing, Shape] => [`${family}-${way}`, PENNER[family][way]])),
]);

/** How far an easing has come after a share of its time: 0 at 0, 1 at 1; a curve as it is between two keys alone. */
export function easingShape(easing: Easing): Shape {
  return SHAPES.get(easing)!;
}

/** For compiled tracks: 0 hold, 1 straight, 2 curve; the others by their place in the list. */
export const EASING_CODES: ReadonlyMap<Easing, number> = new Map(EASINGS.map((easing, code) => [easing, code]));
/** Shapes by the number that stands for an easing in arrays. */
export const SHAPE_OF_CODE: readonly Shape[] = EASINGS.map((easing) => SHAPES.get(easing)!);

/** The easing that goes the same way backwards. A hold stays one: it has no other side. */
export function turnedEasing(easing: Easing): Easing {
  if (easing === 'bounce') return 'bounce-in';
  const [family, way] = easing.split('-') as [EasingFamily, EasingWay | undefined];
  return way === undefined || way === 'both' ? easing : `${family}-${way === 'in' ? 'out' : 'in'}`;
}

const BOUNCES = [4 / 11, 6 / 11, 8 / 11, 9 / 11, 10 / 11];
const EVEN = [0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875];

/** Shares of its time where an easing has a corner, or turns so often that it has to be looked at there. */
export function easingCorners(easing: Easing): readonly number[] {
  if (easing === 'bounce' || easing === 'bounce-out') return BOUNCES;
  if (easing === 'bounce-in') return BOUNCES.map((u) => 1 - u).reverse();
  if (easing === 'bounce-both') return [...BOUNCES.map((u) => (1 - u) / 2).reverse(), 0.5, ...BOUNCES.map((u) => (1 + u) / 2)];
  return easing.startsWith('elastic') || easing.startsWith('back') ? EVEN : [];
}
