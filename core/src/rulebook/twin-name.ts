import { sidedName } from './sides';
import type { Sides } from './types';

const PLAIN: Sides[] = [
  { place: 'suffix', left: '_l', right: '_r' },
  { place: 'suffix', left: '_L', right: '_R' },
  { place: 'suffix', left: '.L', right: '.R' },
  { place: 'suffix', left: '_left', right: '_right' },
  { place: 'prefix', left: 'l_', right: 'r_' },
  { place: 'prefix', left: 'left_', right: 'right_' },
  { place: 'suffix', left: 'Left', right: 'Right' },
  { place: 'prefix', left: 'Left', right: 'Right' },
];

/**
 * The name of the part on the other side: its side turned over, as the platform writes sides or else in a common way; the name itself where
 * it tells no side.
 */
export function twinName(name: string, sides?: Sides): string {
  for (const one of sides ? [sides, ...PLAIN] : PLAIN) {
    const own = sides === one ? sidedName(name, one) : name;
    for (const [here, there] of [
      [one.left, one.right],
      [one.right, one.left],
    ]) {
      if (own.length <= here.length) continue;
      if (one.place === 'prefix' && own.startsWith(here)) return there + own.slice(here.length);
      if (one.place === 'suffix' && own.endsWith(here)) return own.slice(0, -here.length) + there;
    }
  }
  return name;
}

/** A name on a side, as the platform writes sides, or else with _l and _r behind. */
export function sidedJointName(name: string, side: 'left' | 'right' | null, sides?: Sides): string {
  if (side === null) return name;
  const { place, left, right } = sides ?? PLAIN[0];
  const mark = side === 'left' ? left : right;
  return place === 'prefix' ? mark + name : name + mark;
}
