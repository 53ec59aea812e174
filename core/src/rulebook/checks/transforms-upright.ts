import type { Check } from '../types';
import { count, figure, nameList } from '../wording';
import { idsOf, namesOf, partsOfRule } from './parts-of-rule';

/** Parts of the rule's roles stand upright at rest: their own up is the world's. */
export const transformsUpright: Check = {
  id: 'transforms.upright',
  family: 'transforms',
  stage: 'shape',
  about: 'Parts of the rule’s roles stand upright at rest',
  limit: 'degrees',
  run(context, rule) {
    const poser = context.rest();
    const leaning = partsOfRule(context, rule)
      .map((part) => {
        const m = poser.worldOf(part.id);
        return { part, angle: (Math.acos(Math.min(1, Math.max(-1, m[5] / Math.hypot(m[4], m[5], m[6])))) * 180) / Math.PI };
      })
      .filter(({ angle }) => angle > rule.limit!);
    if (leaning.length === 0) return [];
    const wrong = leaning.map(({ part }) => part);
    const most = Math.max(...leaning.map(({ angle }) => angle));
    return [
      {
        title: 'Not upright',
        message: `${count(wrong.length, 'part leans', 'parts lean')} at rest: ${nameList(namesOf(wrong))}.`,
        measured: `${figure(most, 2)}°`,
        limit: `${rule.limit}°`,
        share: rule.limit! > 0 ? most / rule.limit! : undefined,
        parts: idsOf(wrong),
        // Own axes of what joints deform can't be turned.
        ...(wrong.every(({ skin }) => skin === null) && {
          mend: { title: 'Set upright', safe: true, call: { operation: 'grounds.set-upright', args: { seats: idsOf(wrong) } } },
        }),
      },
    ];
  },
};
