import type { Part } from '../../document';
import type { Mend } from '../types';

/** Beyond that, what is left of a shape is not what anybody meant: a person decides. */
const MOST_TIMES = 20;

/** Simplifying some parts to a number of triangles in all; none where the way is too far. */
export function simplifyMend(parts: Part[], now: number, triangles: number): Mend | undefined {
  if (triangles < 4 * parts.length || now > MOST_TIMES * triangles) return undefined;
  return {
    title: `Simplify to ${triangles.toLocaleString('en')} triangles`,
    safe: false,
    call: { operation: 'shape.simplify', args: { parts: parts.map(({ id }) => id), goal: { triangles } } },
    changes: [`${now.toLocaleString('en')} → ${triangles.toLocaleString('en')} triangles; borders, seams and weights stay`],
  };
}
