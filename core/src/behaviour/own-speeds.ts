import type { Blobs, Kit, Mix, Peg } from '../document';
import { stepsOf, type ClipSteps } from './clip-steps';
import type { ParameterRule } from './rules';

/** Which of a mix's parameters say how fast the body goes, and which way; null for each that does not. */
export function waysOf({ parameters }: Pick<Mix, 'parameters'>, rules: readonly ParameterRule[]): ('ahead' | 'left' | null)[] {
  return parameters.map((name) => {
    const rule = rules.find((one) => one.name === name);
    return rule?.kind === 'number' ? (rule.moves ?? null) : null;
  });
}

/** How a clip of a mix goes by its own feet; undefined where it plays none. */
function stepsOfPeg(kit: Kit, { clip: id }: Pick<Peg, 'clip'>, blobs: Blobs): ClipSteps | undefined {
  const clip = id === null ? undefined : kit.clips[id];
  return clip && stepsOf(kit, clip, blobs);
}

const playedAt = ({ speed }: Pick<ClipSteps, 'speed'>, times: number): [left: number, ahead: number] | null =>
  speed && [speed[0] * times, speed[1] * times];

/** How fast a clip of a mix goes by itself, as it is played there: metres a second to its left and ahead; null where that is not known. */
export function ownSpeed(kit: Kit, peg: Pick<Peg, 'clip' | 'speed'>, blobs: Blobs): [left: number, ahead: number] | null {
  const steps = stepsOfPeg(kit, peg, blobs);
  return steps ? playedAt(steps, peg.speed) : null;
}

/**
 * Where a clip of a mix would have its place by the speed of its own feet; null where no parameter says how fast the body goes, or its
 * feet do not step. What is no speed stays.
 */
export function ownPlace(kit: Kit, mix: Mix, peg: Peg, blobs: Blobs, rules: readonly ParameterRule[]): number[] | null {
  const ways = waysOf(mix, rules);
  if (ways.every((way) => way === null)) return null;
  const steps = stepsOfPeg(kit, peg, blobs);
  const speed = steps && steps.marks.length > 0 ? playedAt(steps, peg.speed) : null;
  return speed && peg.at.map((value, i) => (ways[i] === null ? value : speed[ways[i] === 'left' ? 0 : 1]));
}
