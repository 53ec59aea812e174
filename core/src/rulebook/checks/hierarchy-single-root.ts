import { childrenOf, freeName } from '../../document';
import type { CheckContext, Check, Mend } from '../types';
import { count, nameList } from '../wording';

export function gatherMend({ kit, rulebook }: CheckContext): Mend {
  const name = freeName(rulebook.naming.root, new Set(Object.values(kit.parts).map((part) => part.name)));
  return { title: `Gather everything below “${name}”`, safe: true, call: { operation: 'shape.gather-under-root', args: { name } } };
}

/** Everything hangs below one part. */
export const hierarchySingleRoot: Check = {
  id: 'hierarchy.single-root',
  family: 'hierarchy',
  stage: 'shape',
  run(context) {
    const roots = childrenOf(context.kit, null);
    if (roots.length === 1) return [];
    if (roots.length === 0) return [{ title: 'No parts', message: 'The kit has no parts, so there is nothing to load.', measured: '0 parts', limit: '1 root', parts: [] }];
    return [
      {
        title: 'More than one root',
        message: `${count(roots.length, 'part hangs', 'parts hang')} at the top: ${nameList(roots.map((part) => part.name))}.`,
        measured: count(roots.length, 'root'),
        limit: '1 root',
        parts: roots.map((part) => part.id),
        mend: gatherMend(context),
      },
    ];
  },
};
