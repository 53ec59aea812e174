import { slotsOf } from '../../document';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';
import type { Check } from '../types';

/** Meshes have no more UV sets than the platform reads. */
export const uvChannels: Check = {
  id: 'uv.channels',
  family: 'uv',
  stage: 'shape',
  about: 'Meshes have no more UV sets than the platform reads',
  limit: 'UV sets',
  run({ kit, parts }, rule) {
    const wrong = parts.filter(
      (part) => part.mesh !== null && kit.meshes[part.mesh].primitives.some(({ attributes }) => attributes[`TEXCOORD_${rule.limit!}`]),
    );
    if (wrong.length === 0) return [];
    const read = Math.max(-1, ...Object.values(kit.materials).flatMap((material) => slotsOf(material).map(({ texCoord }) => texCoord)));
    return [
      {
        title: 'More UV sets than are read',
        message: `${count(wrong.length, 'part has', 'parts have')} more than ${count(rule.limit!, 'UV set')}: ${nameList(namesOf(wrong))}.`,
        measured: count(wrong.length, 'part'),
        limit: count(rule.limit!, 'set'),
        parts: idsOf(wrong),
        mend:
          read < rule.limit!
            ? {
                title: `Drop the further sets of ${count(wrong.length, 'part')}`,
                safe: true,
                call: { operation: 'shape.drop-uv-sets', args: { parts: idsOf(wrong), keep: rule.limit! } },
              }
            : undefined,
      },
    ];
  },
};
