import { isEmptyBounds, joinBounds, sizeOf } from '../../geometry';
import { figure } from '../wording';
import type { Check } from '../types';

const metres = (values: number[]) => values.map((value) => figure(value, 2)).join(' × ');

/** The kit fits into one of the platform’s size classes. */
export const sizeClass: Check = {
  id: 'size.class',
  family: 'size',
  stage: 'shape',
  about: 'The kit fits into one of the platform’s size classes',
  needs: ({ sizeClasses }) => (sizeClasses?.length ? null : 'size classes'),
  run({ bounds, rulebook }) {
    const all = joinBounds(bounds().values());
    if (isEmptyBounds(all)) return [];
    const size = sizeOf(all);
    const classes = rulebook.sizeClasses!;
    if (classes.some(({ max }) => size.every((value, axis) => value <= max[axis] + 1e-6))) return [];
    const over = (max: number[]) => Math.max(...size.map((value, axis) => value / max[axis]));
    const nearest = classes.reduce((a, b) => (over(b.max) < over(a.max) ? b : a));
    return [
      {
        title: 'Larger than any size class',
        message: `The kit is ${metres(size)} m (to the side, up, forward); the nearest class, “${nearest.name}”, takes ${metres(nearest.max)} m.`,
        measured: `${metres(size)} m`,
        limit: `${metres(nearest.max)} m`,
        share: over(nearest.max),
        parts: [],
      },
    ];
  },
};
