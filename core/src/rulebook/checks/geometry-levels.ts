import { meshCounts } from '../../geometry';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';
import type { Check } from '../types';

/** Parts of many triangles have the levels of detail that the platform shows from afar. */
export const geometryLevels: Check = {
  id: 'geometry.levels',
  family: 'geometry',
  stage: 'shape',
  about: 'Parts of many triangles have the levels of detail that the platform shows from afar',
  limit: 'triangles that a part may have without',
  needs: ({ levels }) => (levels?.length ? null : 'the levels of detail (levels)'),
  run({ kit, rulebook, parts }, rule) {
    const asked = rulebook.levels!;
    const without = parts.filter((part) => {
      if (part.mesh === null || meshCounts(kit, part.mesh).triangles <= rule.limit!) return false;
      const has = new Set((kit.meshes[part.mesh].levels ?? []).map(({ name }) => name));
      return asked.some(({ name }) => !has.has(name));
    });
    if (without.length === 0) return [];
    return [
      {
        title: 'No levels of detail',
        message: `${count(without.length, 'part has', 'parts have')} no shape for ${nameList(asked.map(({ name }) => name))}: ${nameList(namesOf(without))}.`,
        measured: count(without.length, 'part'),
        limit: asked.map(({ name, share }) => `${name} of ${Math.round(100 * share)} %`).join(', '),
        parts: idsOf(without),
        mend: {
          title: `Make ${asked.length === 1 ? 'it' : 'them'}`,
          safe: false,
          call: {
            operation: 'shape.make-levels',
            args: { parts: idsOf(without), levels: asked.map(({ name, share }) => ({ name, share })) },
          },
          changes: asked.map(
            ({ name, share }) =>
              `${name}: ${Math.round(100 * share)} % of the triangles, kept beside the parts; they look the same near by`,
          ),
        },
      },
    ];
  },
};
