import type { Part } from '../../document';
import type { CheckContext } from '../types';

/** The sum of a figure over all parts, and the three that have most of it. */
export function heaviest({ parts }: CheckContext, figureOf: (part: Part) => number): { total: number; top: Part[] } {
  const figures = parts.map((part) => ({ part, figure: figureOf(part) }));
  return {
    total: figures.reduce((sum, { figure }) => sum + figure, 0),
    top: figures
      .sort((a, b) => b.figure - a.figure)
      .slice(0, 3)
      .filter(({ figure }) => figure > 0)
      .map(({ part }) => part),
  };
}
