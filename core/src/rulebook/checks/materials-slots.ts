import { shownMaterials } from './shown-materials';
import type { Check, Said } from '../types';

/** Materials that the platform recolours or lights are there by name. */
export const materialsSlots: Check = {
  id: 'materials.slots',
  family: 'materials',
  stage: 'shape',
  about: 'Materials that the platform recolours or lights are there by name',
  needs: ({ materials }) => (materials?.slots?.some((slot) => slot.needed) ? null : 'materials that are needed (materials.slots)'),
  run(context) {
    const { kit, rulebook } = context;
    const shown = [...shownMaterials(context).keys()].map((id) => kit.materials[id]);
    return rulebook.materials!.slots!.flatMap(({ name, needed, about }): Said[] => {
      if (!needed || shown.some((material) => material.name === name)) return [];
      const near = shown.find(
        (material) => material.name.toLowerCase().replace(/[^a-z0-9]/g, '') === name.toLowerCase().replace(/[^a-z0-9]/g, ''),
      );
      return [
        {
          key: name,
          title: `Material “${name}” is missing`,
          message: `${rulebook.title} asks for a material “${name}”: ${about}`,
          measured: near ? `“${near.name}”` : 'no such material',
          limit: `“${name}”`,
          parts: [],
          mend: near
            ? {
                title: `Rename “${near.name}” to “${name}”`,
                safe: true,
                call: { operation: 'shape.set-material', args: { material: near.id, name } },
              }
            : undefined,
        },
      ];
    });
  },
};
