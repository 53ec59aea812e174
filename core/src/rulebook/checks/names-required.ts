import type { Kit, Part } from '../../document';
import type { Check, Said } from '../types';

/** Whether a part of that name carries another one, at once or through others. */
function hangsBelow(kit: Kit, { parent }: Part, name: string): boolean {
  for (let above = parent; above !== null; above = kit.parts[above].parent) if (kit.parts[above].name === name) return true;
  return false;
}

/** Parts that the platform asks for by name are there, and hang where it looks for them. */
export const namesRequired: Check = {
  id: 'names.required',
  family: 'names',
  stage: 'shape',
  about: 'Parts that the platform asks for by name are there, and hang where it looks for them',
  needs: ({ naming }) => (naming.required?.length ? null : 'a list of required parts'),
  run({ kit, rulebook, parts }) {
    const byName = new Map<string, Part>();
    for (const part of parts) if (!byName.has(part.name)) byName.set(part.name, part);
    return rulebook.naming.required!.flatMap(({ name, under, why }): Said[] => {
      const part = byName.get(name);
      const where = under === null ? 'at the top' : `below “${under}”`;
      if (!part) {
        const near = parts.find((one) => one.name.toLowerCase() === name.toLowerCase());
        return [
          {
            key: name,
            title: `“${name}” is missing`,
            message: `${rulebook.title} asks for a part “${name}” ${where}. ${why}`,
            measured: near ? `“${near.name}”` : 'no such part',
            limit: `“${name}” ${where}`,
            parts: near ? [near.id] : [],
            mend: near
              ? {
                  title: `Rename “${near.name}” to “${name}”`,
                  safe: true,
                  call: { operation: 'shape.rename', args: { names: { [near.id]: name } } },
                }
              : undefined,
          },
        ];
      }
      const parent = part.parent === null ? null : kit.parts[part.parent];
      if (under === null ? parent === null : hangsBelow(kit, part, under)) return [];
      const wanted = under === null ? null : byName.get(under);
      return [
        {
          key: name,
          title: `“${name}” hangs elsewhere`,
          message: `“${name}” hangs ${parent ? `below “${parent.name}”` : 'at the top'}; it is looked for ${where}. ${why}`,
          measured: parent ? `below “${parent.name}”` : 'at the top',
          limit: where,
          parts: [part.id],
          mend:
            wanted !== undefined
              ? {
                  title: `Hang it ${where}`,
                  safe: false,
                  call: { operation: 'shape.reparent', args: { parts: [part.id], parent: wanted?.id ?? null, keep: 'world' } },
                  changes: [`${name}: ${parent?.name ?? 'top'} → ${under ?? 'top'}; it stays where it stands`],
                }
              : undefined,
        },
      ];
    });
  },
};
