import { addMix, ownSpeed, stepsOf, type ParameterRule } from '@itchkit/core/behaviour';
import { callOf, clipsInOrder, type Blobs, type Call, type Id, type Kit } from '@itchkit/core/document';

/** Numbers that a mix can go by: those that are passed in, and are not always the same. */
export const numbersOf = (parameters: readonly ParameterRule[]) => parameters.flatMap((rule) => (rule.kind === 'number' ? [rule] : []));

/** A name that none of a list has: the word with the first number that is free. */
export function freshName(word: string, list: readonly { name: string }[]): string {
  const names = new Set(list.map(({ name }) => name));
  for (let n = list.length + 1; ; n++) if (!names.has(`${word} ${n}`)) return `${word} ${n}`;
}

/**
 * A mix to begin with: clips that step, each where its own feet go as fast, and what stands at none of it; where nothing steps, all clips
 * that go round, as far apart.
 */
export function beginningMix(kit: Kit, blobs: Blobs, parameters: readonly ParameterRule[], id: Id): Call | null {
  const numbers = numbersOf(parameters);
  const by =
    numbers.find(({ moves, always }) => moves === 'ahead' && always === undefined) ?? numbers.find(({ always }) => always === undefined);
  if (!by) return null;
  const round = clipsInOrder(kit).filter(({ loop, lengthSeconds }) => loop === 'loop' && lengthSeconds > 0);
  const stepping = by.moves === 'ahead' ? round.filter((clip) => stepsOf(kit, clip, blobs).marks.length > 0) : [];
  const places = new Map<number, Id>();
  const put = (at: number, clip: Id) => {
    if (!places.has(at)) places.set(at, clip);
  };
  for (const { id: clip } of stepping) put(Math.round(100 * ownSpeed(kit, { clip, speed: 1 }, blobs)![1]) / 100, clip);
  if (stepping.length > 0) {
    const still = round.find((clip) => !stepping.includes(clip) && /idle|stand/i.test(clip.name));
    if (still) put(0, still.id);
  } else round.slice(0, 8).forEach(({ id: clip }, i, all) => put(by.min + ((by.max - by.min) * i) / Math.max(1, all.length - 1), clip));
  const pegs = [...places].sort(([a], [b]) => a - b).map(([at, clip]) => ({ clip, at: [at], speed: 1 }));
  return callOf(addMix, {
    id,
    name: freshName('Mix', kit.mixes ?? []),
    kind: 'line',
    parameters: [by.name],
    pegs: pegs.length > 0 ? pegs : [{ clip: null, at: [0], speed: 1 }],
  });
}

/** What a new passage is: always taken, gone over in a fifth of a second. */
export const NEW_PASSAGE = { when: [], after: 'any' as const, over: 0.2 };
