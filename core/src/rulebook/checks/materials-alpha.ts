import { shownMaterials } from './shown-materials';

const WORDS = { OPAQUE: 'opaque', MASK: 'cut out', BLEND: 'blended' };

import type { Check, Said } from '../types';

/** Materials are see-through only in ways that the platform draws. */
export const materialsAlpha: Check = {
  id: 'materials.alpha',
  family: 'materials',
  stage: 'shape',
  about: 'Materials are see-through only in ways that the platform draws',
  needs: ({ materials }) => (materials?.alphaModes ? null : 'kinds of transparency (materials.alphaModes)'),
  run(context) {
    const allowed = context.rulebook.materials!.alphaModes!;
    return [...shownMaterials(context)].flatMap(([id, parts]): Said[] => {
      const { name, alphaMode } = context.kit.materials[id];
      if (allowed.includes(alphaMode)) return [];
      return [
        {
          key: id,
          title: 'Transparency is not drawn',
          message: `“${name}” is ${WORDS[alphaMode]}; ${context.rulebook.title} draws ${allowed.map((mode) => WORDS[mode]).join(' and ')} materials.`,
          measured: WORDS[alphaMode],
          limit: allowed.map((mode) => WORDS[mode]).join(', '),
          parts,
          mend: {
            title: `Make it ${WORDS[allowed[0]]}`,
            safe: false,
            call: { operation: 'shape.set-material', args: { material: id, alphaMode: allowed[0] } },
            changes: [`${name}: ${WORDS[alphaMode]} → ${WORDS[allowed[0]]}`],
          },
        },
      ];
    });
  },
};
