import type { Sides } from './types';

/** Words at either end of a name: parted by a sign, or by a capital after a small letter. */
const PARTING = /[_.\-\s]+|(?<=[a-z0-9])(?=[A-Z])/;
const SIDE = /^(left|right|l|r)$/i;

/** Whether a name begins or ends with a sign as its own word: “ball” does not end in “l”. */
function carries(name: string, sign: string, place: Sides['place']): boolean {
  if (name.length <= sign.length) return false;
  const rest = place === 'prefix' ? name.slice(sign.length) : name.slice(0, -sign.length);
  if (place === 'prefix' ? !name.startsWith(sign) : !name.endsWith(sign)) return false;
  const [before, after] = place === 'prefix' ? [sign.at(-1)!, rest[0]] : [rest.at(-1)!, sign[0]];
  return !/[A-Za-z]/.test(before) || !/[A-Za-z]/.test(after) || (/[a-z]/.test(before) && /[A-Z]/.test(after));
}

const known = new WeakMap<Sides, Map<string, string>>();

/**
 * A name with its side written as a platform wants it; the name itself where it tells no side. Sides are words at either end:
 * `Arm_L`, `left-arm`, `arm.R`, `armLeft`, `leftArm`.
 */
export function sidedName(name: string, sides: Sides): string {
  let names = known.get(sides);
  if (!names || names.size > 50_000) known.set(sides, (names = new Map()));
  let result = names.get(name);
  if (result === undefined) names.set(name, (result = workOut(name, sides)));
  return result;
}

function workOut(name: string, { place, left, right }: Sides): string {
  if (carries(name, left, place) || carries(name, right, place)) return name;
  const words = name.split(PARTING).filter((word) => word !== '');
  if (words.length < 2) return name;
  const trimmed = name.replace(/^[_.\-\s]+|[_.\-\s]+$/g, '');
  for (const first of [false, true]) {
    const word = first ? words[0] : words[words.length - 1];
    if (!SIDE.test(word)) continue;
    const rest = (first ? trimmed.slice(word.length) : trimmed.slice(0, -word.length)).replace(/^[_.\-\s]+|[_.\-\s]+$/g, '');
    const sign = word[0].toLowerCase() === 'l' ? left : right;
    return place === 'prefix' ? sign + rest : rest + sign;
  }
  return name;
}
