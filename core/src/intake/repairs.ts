import type { ReadingNote } from '../document';

const SAID: Record<string, { grade: ReadingNote['grade']; say: (count: string, name: string) => string }> = {
  'weights-normalised': { grade: 'warn', say: (n, name) => `Repaired: the weights of ${n} vertices of “${name}” did not sum up to 1.` },
  'not-finite': { grade: 'warn', say: (n, name) => `Dropped: ${n} triangles of “${name}” with a position that is no number.` },
  'rotation-normalised': { grade: 'warn', say: (n, name) => `Repaired: ${n} rotations of “${name}” were no unit quaternions.` },
  'placement-not-finite': {
    grade: 'warn',
    say: (_, name) => `Repaired: “${name}” had a placement that is no number; it is at its parent now.`,
  },
  'normals-computed': { grade: 'note', say: (_, name) => `Computed: the normals of “${name}”.` },
};

/** Gathers what a reader repaired, counted by thing, and what it left out; gives the notes of the reading. */
export class Repairs {
  private readonly counts = new Map<string, { code: string; name: string; count: number }>();
  private readonly others: ReadingNote[] = [];

  count(code: keyof typeof SAID, name: string, count = 1): void {
    if (count <= 0) return;
    const key = `${code}/${name}`;
    const known = this.counts.get(key);
    if (known) known.count += count;
    else this.counts.set(key, { code, name, count });
  }

  leftOut(code: string, what: string, grade: ReadingNote['grade'] = 'warn', part: string | null = null): void {
    this.others.push({ grade, code, message: `Left out: ${what}.`, part });
  }

  notes(): ReadingNote[] {
    const counted = [...this.counts.values()].map(({ code, name, count }): ReadingNote => ({
      grade: SAID[code].grade,
      code,
      message: SAID[code].say(count.toLocaleString('en'), name),
      part: name,
    }));
    return [...counted, ...this.others];
  }
}
