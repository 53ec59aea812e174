import { freeName, clipsInOrder } from '../../document';
import type { Check, Said } from '../types';

/** No two clips have the same name. */
export const clipsUnique: Check = {
  id: 'clips.unique',
  family: 'clips',
  stage: 'motion',
  about: 'No two clips have the same name',
  run({ kit }) {
    const seen = new Set<string>();
    return clipsInOrder(kit).flatMap((clip): Said[] => {
      const name = clip.name.toLowerCase();
      if (!seen.has(name)) {
        seen.add(name);
        return [];
      }
      const free = freeName(clip.name, {
        has: (one: string) => Object.values(kit.clips).some((other) => other.name.toLowerCase() === one.toLowerCase()),
      } as ReadonlySet<string>);
      return [
        {
          key: clip.id,
          title: 'Two clips of one name',
          message: `A further clip is named “${clip.name}”; only one of them is found.`,
          measured: `“${clip.name}” twice`,
          limit: '1 clip a name',
          parts: [],
          mend: { title: `Name it “${free}”`, safe: true, call: { operation: 'motion.set-clip', args: { clip: clip.id, name: free } } },
        },
      ];
    });
  },
};
