import { clipsInOrder, fileSlug, freeName } from '../../document';
import type { Check, Said } from '../types';

/** No two clips have the same name, nor the same file where each is packed into one of its own. */
export const clipsUnique: Check = {
  id: 'clips.unique',
  family: 'clips',
  stage: 'motion',
  about: 'No two clips have the same name',
  run({ kit, rulebook }) {
    const inFiles = rulebook.packaging.some(({ holds, path }) => holds === 'clip' && path.includes('{clip}'));
    const keyOf = inFiles ? fileSlug : (name: string) => name.toLowerCase();
    const all = new Set(Object.values(kit.clips).map(({ name }) => keyOf(name)));
    const seen = new Map<string, string>();
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const key = keyOf(clip.name);
      const first = seen.get(key);
      if (first === undefined) {
        seen.set(key, clip.name);
        return [];
      }
      const free = freeName(clip.name, { has: (one: string) => all.has(keyOf(one)) } as ReadonlySet<string>);
      all.add(keyOf(free));
      const same = first.toLowerCase() === clip.name.toLowerCase();
      return [
        {
          key: clip.id,
          title: same ? 'Two clips of one name' : 'Two clips of one file',
          message: same
            ? `A further clip is named “${clip.name}”; only one of them is found.`
            : `“${clip.name}” and “${first}” would be packed into one file, “${key}”.`,
          measured: same ? `“${clip.name}” twice` : `“${key}” twice`,
          limit: '1 clip a name',
          parts: [],
          mend: { title: `Name it “${free}”`, safe: true, call: { operation: 'motion.set-clip', args: { clip: clip.id, name: free } } },
        },
      ];
    });
  },
};
