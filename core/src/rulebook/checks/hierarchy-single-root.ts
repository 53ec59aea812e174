import { freeName } from '../../document';
import type { CheckContext, Check, Mend } from '../types';
import { count, nameList } from '../wording';
import { idsOf, namesOf } from './parts-of-rule';

/** The mend that hangs all roots below one base. */
export function gatherMend({ parts, rulebook }: CheckContext): Mend {
  const name = freeName(rulebook.naming.root, new Set(namesOf(parts)));
  return { title: `Gather everything below “${name}”`, safe: true, call: { operation: 'shape.gather-under-root', args: { name } } };
}

/** Everything hangs below one part. */
export const hierarchySingleRoot: Check = {
  id: 'hierarchy.single-root',
  family: 'hierarchy',
  stage: 'shape',
  about: 'Everything hangs below one part',
  run(context) {
    const roots = context.childrenOf(null);
    if (roots.length === 1) return [];
    if (roots.length === 0)
      return [
        {
          title: 'No parts',
          message: 'The kit has no parts, so there is nothing to load.',
          measured: '0 parts',
          limit: '1 root',
          parts: [],
        },
      ];
    return [
      {
        title: 'More than one root',
        message: `${count(roots.length, 'part hangs', 'parts hang')} at the top: ${nameList(namesOf(roots))}.`,
        measured: count(roots.length, 'root'),
        limit: '1 root',
        parts: idsOf(roots),
        mend: gatherMend(context),
      },
    ];
  },
};
