import type { Check } from '../types';
import { count } from '../wording';
import { idsOf } from './parts-of-rule';

/** Parts are held together as bodies. */
export const assemblyPresent: Check = {
  id: 'assembly.present',
  family: 'assembly',
  stage: 'rig',
  about: 'Parts are held together as bodies',
  run({ kit, parts, rulebook }) {
    if ((kit.bodies ?? []).length > 0) return [];
    const shown = parts.filter((part) => part.mesh !== null);
    if (shown.length === 0) return [];
    return [
      {
        title: 'No bodies',
        message: `${rulebook.title} moves bodies, and ${count(shown.length, 'part')} ${shown.length === 1 ? 'is' : 'are'} in none.`,
        measured: '0 bodies',
        limit: '1 or more',
        parts: [],
        mend: {
          title: 'Hold together what touches',
          safe: false,
          call: { operation: 'rig.gather-bodies', args: { parts: idsOf(shown), by: 'touch' } },
          changes: ['Parts whose surfaces touch become one body; the first is anchored'],
        },
      },
    ];
  },
};
