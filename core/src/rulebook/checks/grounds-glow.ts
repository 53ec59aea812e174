import type { Check, Said } from '../types';
import { needsGrounds } from './grounds-shared';

/** What shines by night has a material that the platform lights, and the material is there. */
export const groundsGlow: Check = {
  id: 'grounds.glow',
  family: 'grounds',
  stage: 'wiring',
  about: 'What shines by night has a material that is there, and that the platform lights',
  needs: needsGrounds,
  run({ kit, rulebook }) {
    const lit = rulebook.grounds!.glow;
    const names = new Set(Object.values(kit.materials).map(({ name }) => name));
    return (kit.grounds?.glows ?? []).flatMap(({ material, colour }): Said[] => {
      const gone = !names.has(material);
      if (!gone && (!lit || lit.includes(material))) return [];
      return [
        {
          key: material,
          title: gone ? 'Shines, and is not there' : 'Stays dark',
          message: gone
            ? `“${material}” is said to shine by night, and there is no such material.`
            : `“${material}” is said to shine by night, and the platform lights ${(lit ?? []).map((name) => `“${name}”`).join(', ')} alone.`,
          measured: material,
          limit: (lit ?? []).join(', '),
          parts: [],
          mend: {
            title: 'Let it be dark',
            safe: true,
            call: { operation: 'grounds.set-glow', args: { material, factor: null, colour: [...colour] } },
          },
        },
      ];
    });
  },
};
