import { freeName, type Id, type Part } from '../../document';
import type { CheckContext, Check, Mend } from '../types';
import { count, nameList } from '../wording';
import { idsOf, namesOf, withRoles } from './parts-of-rule';

/** Whether anything moves a part, in a clip or by a variable, or its own mesh follows joints. */
function moves({ kit }: CheckContext, id: Id): boolean {
  return (
    kit.parts[id].skin !== null ||
    Object.values(kit.clips).some(({ tracks }) => tracks.some(({ part }) => part === id)) ||
    Object.values(kit.bindings).some(({ part }) => part === id)
  );
}

/**
 * The base that there is already, if it can come to the top and to the origin without anything moving: neither it nor what it hangs below
 * is moved or scaled unevenly. That at the top comes before others, and one of the platform's own name before others.
 */
function baseThereIs(context: CheckContext): Part | undefined {
  const { kit, parts, rulebook } = context;
  const evenly = ({ scale }: Part) => scale.every((value) => value === scale[0] && value !== 0);
  const isFree = (part: Part) => {
    for (let one: Part | null = part; one; one = one.parent === null ? null : kit.parts[one.parent])
      if (!evenly(one) || moves(context, one.id)) return false;
    return true;
  };
  const rank = (part: Part) => (part.parent === null ? 0 : 2) + (part.name === rulebook.naming.root ? 0 : 1);
  return withRoles(parts, rulebook, ['base'])
    .filter(isFree)
    .sort((a, b) => rank(a) - rank(b))[0];
}

/** The mend that hangs all roots below one base: that which there is, or a new one. */
export function gatherMend(context: CheckContext): Mend {
  const { parts, rulebook } = context;
  const base = baseThereIs(context);
  const name = base?.name ?? freeName(rulebook.naming.root, new Set(namesOf(parts)));
  return {
    title: `Gather everything below “${name}”`,
    safe: true,
    call: { operation: 'shape.gather-under-root', args: base ? { name, base: base.id } : { name } },
  };
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
