import { slotsOf } from '../../document';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';
import type { Check } from '../types';

/** What shows a texture has UVs for it. */
export const uvPresent: Check = {
  id: 'uv.present',
  family: 'uv',
  stage: 'shape',
  about: 'What shows a texture has UVs for it',
  run({ kit, parts }) {
    const wrong = parts.filter(
      (part) =>
        part.mesh !== null &&
        kit.meshes[part.mesh].primitives.some(
          ({ material, attributes }) =>
            material !== null && slotsOf(kit.materials[material]).some(({ texCoord }) => !attributes[`TEXCOORD_${texCoord}`]),
        ),
    );
    if (wrong.length === 0) return [];
    return [
      {
        title: 'Textured without UVs',
        message: `${count(wrong.length, 'part shows a texture and has', 'parts show a texture and have')} no UVs for it: ${nameList(namesOf(wrong))}.`,
        measured: count(wrong.length, 'part'),
        limit: '0',
        parts: idsOf(wrong),
      },
    ];
  },
};
