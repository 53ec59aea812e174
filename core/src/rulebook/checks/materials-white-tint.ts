import { figure } from '../wording';
import { shownMaterials } from './shown-materials';
import type { Check, Said } from '../types';

/** A material with a colour texture is white itself. */
export const materialsWhiteTint: Check = {
  id: 'materials.white-tint',
  family: 'materials',
  stage: 'shape',
  about: 'A material with a colour texture is white itself',
  run(context) {
    return [...shownMaterials(context)].flatMap(([id, parts]): Said[] => {
      const material = context.kit.materials[id];
      if (!material.baseColorTexture || material.baseColor.slice(0, 3).every((value) => value > 0.999)) return [];
      const rgb = material.baseColor
        .slice(0, 3)
        .map((value) => figure(value, 2))
        .join(', ');
      return [
        {
          key: id,
          title: 'Texture is tinted',
          message: `“${material.name}” has a texture and the colour ${rgb} on top of it.`,
          measured: rgb,
          limit: '1, 1, 1',
          parts,
          mend: {
            title: 'Tint to white',
            safe: false,
            call: { operation: 'shape.set-material', args: { material: id, baseColor: [1, 1, 1, material.baseColor[3]] } },
            changes: [`${material.name}: ${rgb} → white; its texture shows as painted`],
          },
        },
      ];
    });
  },
};
