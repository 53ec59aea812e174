import type { Blobs, Kit, Mix, Peg } from '../document';
import { stepsOf } from './clip-steps';
import type { ParameterRule } from './rules';

/** Which of a mix's parameters say how fast the body goes, and which way; null for each that does not. */
export function waysOf({ parameters }: Pick<Mix, 'parameters'>, rules: readonly ParameterRule[]): ('ahead' | 'left' | null)[] {
  return parameters.map((name) => {
    const rule = rules.find((one) => one.name === name);
    return rule?.kind === 'number' ? (rule.moves ?? null) : null;
  });
}

/** How fast a clip of a mix goes by itself, as it is played there: metres a second to its left and ahead; null where that is not known. */
export function ownSpeed(kit: Kit, peg: Pick<Peg, 'clip' | 'speed'>, blobs: Blobs): [left: number, ahead: number] | null {
  const clip = peg.clip === null ? undefined : kit.clips[peg.clip];
  const speed = clip && stepsOf(kit, clip, blobs).speed;
  return speed ? [speed[0] * peg.speed, speed[1] * peg.speed] : null;
}

/**
 * Where a clip of a mix would have its place by the speed of its own feet; null where no parameter says how fast the body goes, or its
 * feet do not step. What is no speed stays.
 */
export function ownPlace(kit: Kit, mix: Mix, peg: Peg, blobs: Blobs, rules: readonly ParameterRule[]): number[] | null {
  const ways = waysOf(mix, rules);
  const clip = peg.clip === null ? undefined : kit.clips[peg.clip];
  const steps = clip !== undefined && stepsOf(kit, clip, blobs).marks.length > 0;
  const speed = steps && ways.some((way) => way !== null) ? ownSpeed(kit, peg, blobs) : null;
  return speed && peg.at.map((value, i) => (ways[i] === null ? value : speed[ways[i] === 'left' ? 0 : 1]));
}
