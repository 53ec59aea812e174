import { noiseTarget } from '../../geometry';
import type { Vec3 } from '../../document';
import type { Check, Said } from '../types';
import { figure } from '../wording';
import { partsOfRule } from './parts-of-rule';

const nearest = (value: number, step: number) => Number((Math.round(value / step) * step).toPrecision(12));

/** Parts of the rule's roles are placed in whole steps within their parent. */
export const transformsStep: Check = {
  id: 'transforms.step',
  family: 'transforms',
  stage: 'shape',
  about: 'Parts of the rule’s roles are placed in whole steps within their parent',
  limit: 'metres a step',
  run(context, rule) {
    const step = rule.limit!;
    return partsOfRule(context, rule).flatMap((part): Said[] => {
      const to = part.translation.map((value) => nearest(value, step)) as Vec3;
      const off = Math.max(...part.translation.map((value, axis) => Math.abs(value - to[axis])));
      // What is nearer than that is number noise, which has a check of its own.
      if (part.translation.every((value, axis) => Math.abs(value - to[axis]) <= 1e-4 || noiseTarget(value, step) !== null)) return [];
      return [
        {
          key: part.id,
          title: 'Off the step',
          message: `“${part.name}” is ${figure(off)} m off the ${step} m step.`,
          measured: `${figure(off)} m`,
          limit: `whole steps of ${step} m`,
          parts: [part.id],
          mend: {
            title: 'Move it to the nearest step',
            safe: false,
            call: { operation: 'shape.set-transform', args: { part: part.id, translation: to } },
            changes: [
              `${part.name}: ${part.translation.map((value) => figure(value)).join(', ')} → ${to.map((value) => figure(value)).join(', ')} m`,
            ],
          },
        },
      ];
    });
  },
};
