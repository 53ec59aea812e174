import type { Blobs, Kit } from '../document';
import { leverKey } from '../formula';
import { flattenParts, Poser } from '../geometry';
import type { Variable } from '../rulebook';
import { dutyAt, type Duty } from './duties';
import type { Lever } from './lever';
import { orderOf, withOrdersFollowed } from './orders';
import { poseKit, REST } from './pose-kit';

/** Whether a matrix leaves nothing of what it places. */
const isFlat = (world: ArrayLike<number>): boolean => [0, 1, 2, 4, 5, 6, 8, 9, 10].every((at) => world[at] === 0);

/** What a duty does with a package. */
export interface Played {
  /**
   * Seconds, the world matrix (16 numbers, column-major, the package’s axes and unit) of each part, by name, and which are not shown: those
   * are of no size.
   */
  frames: { time: number; parts: Record<string, number[]>; hidden: string[] }[];
  /** Lines that move nothing there, and why. */
  refused: { variable: string; why: string }[];
}

/**
 * Plays a duty on a package’s kit: where every part is at each time.
 *
 * @param rate Frames a second
 * @param platform Variables of the platform, of which orders move others
 */
export function playDuty(
  kit: Kit,
  blobs: Blobs,
  levers: readonly Lever[],
  asked: Duty,
  rate: number,
  platform: readonly Variable[],
): Played {
  const duty = withOrdersFollowed(asked, platform);
  const followed = new Set(levers.map(({ key }) => key));
  const refused = duty.lines.flatMap((line) => {
    const key = leverKey(line.variable, line.index);
    const lever = levers.find((one) => one.key === key);
    // An order moves what follows where it stands.
    const order = orderOf(platform, line.variable, line.index);
    if (!lever && order && followed.has(order.position.key)) return [];
    if (!lever) return [{ variable: key, why: 'nothing of the package follows it' }];
    const beyond = line.points.find(({ value }) => value < lever.variable.min || value > lever.variable.max);
    return beyond
      ? [{ variable: key, why: `${beyond.value} at ${beyond.time} s is beyond its range, ${lever.variable.min} to ${lever.variable.max}` }]
      : [];
  });
  const poser = new Poser(flattenParts(kit));
  const variables = levers.map(({ variable }) => variable);
  const frames = Array.from({ length: Math.floor(duty.seconds * rate + 1e-9) + 1 }, (_, i) => {
    const time = i / rate;
    const values = dutyAt(duty, time);
    for (const { variable } of refused) delete values[variable];
    poseKit(poser, kit, blobs, { ...REST, levers: values }, variables);
    const parts = Object.fromEntries(poser.flat.ids.map((id) => [kit.parts[id].name, [...poser.worldOf(id)]]));
    const hidden = poser.flat.ids.filter((id) => isFlat(poser.worldOf(id))).map((id) => kit.parts[id].name);
    return { time, parts, hidden };
  });
  return { frames, refused };
}
