import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';
import type { Check } from '../types';

/** What shows a normal map has tangents for it. */
export const geometryTangents: Check = {
  id: 'geometry.tangents',
  family: 'geometry',
  stage: 'shape',
  about: 'What shows a normal map has tangents for it',
  run({ kit, parts }) {
    const wrong = parts.filter(
      (part) =>
        part.mesh !== null &&
        kit.meshes[part.mesh].primitives.some(
          ({ material, attributes }) => material !== null && kit.materials[material].normalTexture && !attributes.TANGENT,
        ),
    );
    if (wrong.length === 0) return [];
    const mendable = wrong.filter((part) =>
      kit.meshes[part.mesh!].primitives.every(({ material, attributes }) => {
        const slot = material === null ? null : kit.materials[material].normalTexture;
        return !slot || attributes.TANGENT || (attributes.NORMAL && attributes[`TEXCOORD_${slot.texCoord}`]);
      }),
    );
    return [
      {
        title: 'Normal map without tangents',
        message: `${count(wrong.length, 'part shows a normal map and has', 'parts show a normal map and have')} no tangents: ${nameList(namesOf(wrong))}.`,
        measured: count(wrong.length, 'part'),
        limit: '0',
        parts: idsOf(wrong),
        // glTF 2.0, 3.7.2.1: who finds none works out these very ones.
        mend:
          mendable.length > 0
            ? {
                title: `Compute ${mendable.length === 1 ? 'its tangents' : 'their tangents'}`,
                safe: true,
                call: { operation: 'shape.tangents', args: { parts: idsOf(mendable) } },
              }
            : undefined,
      },
    ];
  },
};
