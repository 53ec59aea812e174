import type { Check } from '../types';
import { nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';

/** Parts hang no deeper than the platform follows. */
export const hierarchyDepth: Check = {
  id: 'hierarchy.depth',
  family: 'hierarchy',
  stage: 'shape',
  about: 'Parts hang no deeper than the platform follows',
  limit: 'levels, the root being the first',
  run({ parts, kit }, rule) {
    const depth = new Map<string, number>();
    for (const part of parts) depth.set(part.id, part.parent === null ? 1 : depth.get(part.parent)! + 1);
    const wrong = parts.filter((part) => depth.get(part.id)! > rule.limit!);
    if (wrong.length === 0) return [];
    const deepest = Math.max(...wrong.map((part) => depth.get(part.id)!));
    return [
      {
        title: 'Hangs too deep',
        message: `${nameList(namesOf(wrong))} ${wrong.length === 1 ? 'hangs' : 'hang'} up to ${deepest} levels deep in “${kit.name}”.`,
        measured: `${deepest} levels`,
        limit: `${rule.limit} levels`,
        share: deepest / rule.limit!,
        parts: idsOf(wrong),
      },
    ];
  },
};
