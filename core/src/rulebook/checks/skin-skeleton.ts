import type { Kit } from '../../document';
import { namesIn } from '../../rig';
import type { Check, Mend, Rulebook, Said } from '../types';
import { count, nameList } from '../wording';

const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '');

/** Joints of other names that stand for those that are missing, as they hang among the others. */
function naming(kit: Kit, { title, skeleton }: Rulebook, lost: readonly string[]): { mend?: Mend } {
  const missing = new Set(lost);
  const found = Object.entries(
    namesIn(
      kit,
      skeleton!.map((joint) => ({ ...joint, at: null, rotation: null })),
    ),
  ).filter(([, name]) => missing.has(name));
  if (found.length === 0) return {};
  return {
    mend: {
      title: `Name ${count(found.length, 'joint')} as ${title} does`,
      safe: false,
      call: { operation: 'rig.name-joints', args: { names: Object.fromEntries(found) } },
      changes: found.map(([id, name]) => `${kit.parts[id].name} → ${name}`),
    },
  };
}

/** The joints that the platform moves are there, each below the right one. */
export const skinSkeleton: Check = {
  id: 'skin.skeleton',
  family: 'skin',
  stage: 'rig',
  about: 'The joints that the platform moves are there, each below the right one',
  needs: ({ skeleton }) => (skeleton ? null : 'a skeleton'),
  run({ kit, parts, rulebook }) {
    const byName = new Map(parts.map((part) => [part.name, part]));
    const lost: string[] = [];
    const found = rulebook.skeleton!.flatMap(({ name, parent, needed }): Said[] => {
      const joint = byName.get(name);
      if (!joint) {
        if (!needed) return [];
        const near = parts.find((part) => plain(part.name) === plain(name) && !rulebook.skeleton!.some((one) => one.name === part.name));
        if (!near) {
          lost.push(name);
          return [];
        }
        return [
          {
            key: name,
            title: `Joint “${name}” is missing`,
            message: `${rulebook.title} moves a joint “${name}”${parent === null ? '' : ` below “${parent}”`}, and the kit has none.`,
            measured: `“${near.name}”`,
            limit: `“${name}”`,
            parts: [near.id],
            mend: {
              title: `Rename “${near.name}” to “${name}”`,
              safe: true,
              call: { operation: 'shape.rename', args: { names: { [near.id]: name } } },
            },
          },
        ];
      }
      const above = parent === null ? undefined : byName.get(parent);
      if (parent === null || !above || joint.parent === above.id) return [];
      const has = joint.parent === null ? 'at the top' : `below “${kit.parts[joint.parent].name}”`;
      return [
        {
          key: name,
          title: `Joint “${name}” hangs elsewhere`,
          message: `“${name}” hangs ${has}; ${rulebook.title} moves it below “${parent}”.`,
          measured: has,
          limit: `below “${parent}”`,
          parts: [joint.id],
          mend: {
            title: `Hang it below “${parent}”`,
            safe: false,
            call: { operation: 'shape.reparent', args: { parts: [joint.id], parent: above.id, keep: 'world' } },
            changes: [`${name}: ${has} → below ${parent}; it stays where it stands at rest`],
          },
        },
      ];
    });
    if (lost.length === 0) return found;
    const missing: Said = {
      key: 'missing',
      title: lost.length === 1 ? `Joint “${lost[0]}” is missing` : 'Joints are missing',
      message: `${rulebook.title} moves ${count(rulebook.skeleton!.length, 'joint')}, and the kit has none named ${nameList(lost)}.`,
      measured: count(rulebook.skeleton!.length - lost.length, 'joint'),
      limit: count(rulebook.skeleton!.length, 'joint'),
      parts: [],
      ...naming(kit, rulebook, lost),
    };
    return [missing, ...found];
  },
};
