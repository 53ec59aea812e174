import type { Check, Said } from '../types';
import { figure } from '../wording';
import { needsGrounds } from './grounds-shared';
import { shownMaterials } from './shown-materials';

/** White, but for what is lost on the way into a file. */
const WHITE = 0.999;

/** What an owner paints is white itself: a paint is multiplied with what is there. */
export const materialsPaintedWhite: Check = {
  id: 'materials.painted-white',
  family: 'materials',
  stage: 'shape',
  about: 'What its owner paints is white itself',
  needs: (rulebook) => needsGrounds(rulebook) ?? (rulebook.grounds!.paint ? null : 'materials that an owner paints (grounds.paint)'),
  run(context) {
    const { slots } = context.rulebook.grounds!.paint!;
    return [...shownMaterials(context)].flatMap(([id, parts]): Said[] => {
      const { name, baseColor } = context.kit.materials[id];
      const rgb = baseColor.slice(0, 3);
      if (!slots.includes(name) || rgb.every((value) => value > WHITE)) return [];
      const measured = rgb.map((value) => figure(value, 2)).join(', ');
      return [
        {
          key: id,
          title: 'Paint on a colour',
          message: `“${name}” is ${measured} itself: its owner's paint is multiplied with that, and no paint looks as it was chosen.`,
          measured,
          limit: '1, 1, 1',
          parts,
          mend: {
            title: 'Make it white',
            safe: false,
            call: { operation: 'shape.set-material', args: { material: id, baseColor: [1, 1, 1, baseColor[3]] } },
            changes: [`${name}: ${measured} → white; paints show as they are chosen`],
          },
        },
      ];
    });
  },
};
