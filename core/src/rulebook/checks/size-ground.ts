import { isEmptyBounds, joinBounds } from '../../geometry';
import { figure } from '../wording';
import type { Check } from '../types';

/** The lowest point of the kit stands on the ground. */
export const sizeGround: Check = {
  id: 'size.on-ground',
  family: 'size',
  stage: 'shape',
  about: 'The lowest point of the kit stands on the ground',
  limit: 'millimetres',
  run(context, rule) {
    const all = joinBounds(context.bounds().values());
    if (isEmptyBounds(all) || Math.abs(1000 * all.min[1]) <= rule.limit!) return [];
    const off = all.min[1];
    return [
      {
        title: off > 0 ? 'Floats over the ground' : 'Sinks into the ground',
        message: `The lowest point is ${figure(1000 * Math.abs(off), 1)} mm ${off > 0 ? 'above' : 'below'} the ground.`,
        measured: `${figure(1000 * off, 1)} mm`,
        limit: `${figure(rule.limit!, 1)} mm`,
        parts: [],
        mend: {
          title: 'Set it on the ground',
          safe: false,
          call: { operation: 'shape.set-on-ground', args: { byMetres: -off } },
          changes: [`all of it moves ${off > 0 ? 'down' : 'up'} by ${figure(1000 * Math.abs(off), 1)} mm`],
        },
      },
    ];
  },
};
