import { callOf, newId, type Call, type Id, type Kit, type Mix, type Peg } from '../document';
import { adjustMotion, AS_IT_IS, duplicateClip } from '../motion';
import { addPeg } from './mix-operations';
import { waysOf } from './own-speeds';
import type { ParameterRule } from './rules';

/** Where the mirror image of a clip of a mix has its place; null where it lies in the mirror, or no value is a speed to a side. */
export function mirroredPlace(mix: Mix, { at }: Pick<Peg, 'at'>, rules: readonly ParameterRule[]): number[] | null {
  const side = waysOf(mix, rules).indexOf('left');
  return side < 0 || at[side] === 0 ? null : at.map((value, i) => (i === side ? -value : value));
}

/** Clips of a mix whose mirror image has its place free. */
export function unmirrored(mix: Mix, rules: readonly ParameterRule[]): { peg: Peg; at: number[] }[] {
  return mix.pegs.flatMap((peg) => {
    const at = mirroredPlace(mix, peg, rules);
    const taken = at && mix.pegs.some((other) => other.at.every((value, i) => value === at[i]));
    return at && !taken ? [{ peg, at }] : [];
  });
}

/**
 * The calls that bring the other side of a mix: each clip that has none there is copied, left for right, and mixed in at the mirrored
 * place, as fast as it is. A clip that is mixed in several times is copied once.
 *
 * @param nameOf What the mirror image of a clip is to be called
 */
export function mirrorCalls(
  kit: Kit,
  mix: Mix,
  rules: readonly ParameterRule[],
  nameOf: (name: string, taken: Set<string>) => string,
): Call[] {
  const copies = new Map<Id, Id>();
  const taken = new Set(Object.values(kit.clips).map(({ name }) => name));
  return unmirrored(mix, rules).flatMap(({ peg, at }) => {
    const clip = peg.clip === null ? undefined : kit.clips[peg.clip];
    const calls: Call[] = [];
    if (clip && !copies.has(clip.id)) {
      const [id, name] = [newId(), nameOf(clip.name, taken)];
      taken.add(name);
      copies.set(clip.id, id);
      calls.push(
        callOf(duplicateClip, { clip: clip.id, id, name }),
        callOf(adjustMotion, { clip: id, choices: { ...AS_IT_IS, mirrored: true }, pinned: false, planted: null }),
      );
    }
    return [...calls, callOf(addPeg, { mix: mix.id, clip: clip ? copies.get(clip.id)! : null, at, speed: peg.speed })];
  });
}
