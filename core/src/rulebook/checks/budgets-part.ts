import { meshCounts, type Counts } from '../../geometry';
import type { Check } from '../types';
import { count } from '../wording';
import { budget } from './budget';
import { simplifyMend } from './simplify-mend';

/** Triangles or vertices of each single part. */
function partBudget(what: keyof Counts): Check {
  return budget({
    id: `budgets.part-${what}`,
    stage: 'shape',
    about: `${what === 'triangles' ? 'Triangles' : 'Vertices'} of each single part`,
    unit: what,
    title: `Part with too many ${what}`,
    what: what === 'triangles' ? 'One part draws' : 'One part has',
    measure({ kit, parts }, limit) {
      const over = parts
        .map((part) => ({ part, figure: meshCounts(kit, part.mesh)[what] }))
        .filter(({ figure }) => figure > limit)
        .sort((a, b) => b.figure - a.figure);
      const [heaviest] = over;
      if (!heaviest) return [];
      const more =
        over.length === 1
          ? `It is “${heaviest.part.name}”.`
          : `It is “${heaviest.part.name}”; ${count(over.length - 1, 'further part has', 'further parts have')} too many.`;
      // One after the other: a mend settles the heaviest.
      const mend = what === 'triangles' ? simplifyMend([heaviest.part], heaviest.figure, limit) : undefined;
      return { value: heaviest.figure, more, parts: over.map(({ part }) => part.id), mend };
    },
  });
}

/** Holds each part's triangles against the platform's budget. */
export const budgetsPartTriangles = partBudget('triangles');
/** Holds each part's vertices against the platform's budget. */
export const budgetsPartVertices = partBudget('vertices');
