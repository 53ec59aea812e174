import type { Id, Part } from '../../document';
import { meshCounts, type Counts } from '../../geometry';
import type { CheckContext } from '../types';

/** How many triangles or vertices all parts draw, and the three that draw most. */
export function heaviest({ kit, once }: CheckContext, what: keyof Counts): { total: number; top: Part[] } {
  const { total, top } = once(`heaviest ${what}`, ({ kit, parts }) => {
    let sum = 0;
    const most: { id: Id; figure: number }[] = [];
    for (const part of parts) {
      const figure = meshCounts(kit, part.mesh)[what];
      sum += figure;
      if (figure === 0 || (most.length === 3 && figure <= most[2].figure)) continue;
      most.push({ id: part.id, figure });
      most.sort((a, b) => b.figure - a.figure);
      most.length = Math.min(3, most.length);
    }
    return { total: sum, top: most.map(({ id }) => id) };
  });
  return { total, top: top.map((id) => kit.parts[id]) };
}
