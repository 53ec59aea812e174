import { roleOf } from '../naming';
import type { Check } from '../types';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';

/** No part is there for nothing: without a mesh, a role, anything below it, motion or a skin that follows it. */
export const hierarchyEmpty: Check = {
  id: 'hierarchy.empty-parts',
  family: 'hierarchy',
  stage: 'shape',
  about: 'No part is there for nothing: without a mesh, a role, anything below it, motion or a skin that follows it',
  run({ kit, parts, rulebook, childrenOf }) {
    const needed = new Set<string>([
      ...Object.values(kit.skins).flatMap((skin) => skin.joints),
      ...Object.values(kit.bindings).map((binding) => binding.part),
      ...Object.values(kit.clips).flatMap((clip) => clip.tracks.map((track) => track.part)),
    ]);
    const wrong = parts.filter(
      (part) => part.mesh === null && !needed.has(part.id) && roleOf(rulebook, part) === null && childrenOf(part.id).length === 0,
    );
    if (wrong.length === 0) return [];
    return [
      {
        title: 'Parts with nothing in them',
        message: `${count(wrong.length, 'part carries', 'parts carry')} nothing: ${nameList(namesOf(wrong))}.`,
        measured: count(wrong.length, 'part'),
        limit: '0',
        parts: idsOf(wrong),
        mend: {
          title: `Delete ${count(wrong.length, 'empty part')}`,
          safe: true,
          call: { operation: 'shape.remove-parts', args: { parts: idsOf(wrong) } },
        },
      },
    ];
  },
};
