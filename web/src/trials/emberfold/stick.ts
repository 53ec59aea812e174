/** How fast a body turns while it is told to, degrees a second. */
export const TURNS = 120;
/** A stick that is moved by less than this share of its way is at rest: none comes back to its middle to the hair. */
const AT_REST = 0.15;

/** A stick’s place: to the right and up, −1 to 1 each. */
export interface Stick {
  x: number;
  y: number;
}

const AWAY: Stick = { x: 0, y: 0 };

/** Beyond the middle where it counts as at rest from 0 on, so that it begins softly. */
function beyondRest(value: number): number {
  const far = (Math.min(1, Math.abs(value)) - AT_REST) / (1 - AT_REST);
  return far <= 0 ? 0 : Math.sign(value) * far;
}

/**
 * What a stick asks of a body: up as fast as it goes ahead, down backwards, aside to turn.
 *
 * @param range The slowest (below 0 backwards) and fastest that it goes ahead; null where the platform has no such value.
 * @returns metres a second, and degrees a second to its left
 */
export function wishOfStick({ x, y }: Stick, range: { min: number; max: number } | null): { ahead: number; turning: number } {
  const [aside, on] = [beyondRest(x), beyondRest(y)];
  const most = on >= 0 ? (range?.max ?? 0) : -(range?.min ?? 0);
  const ahead = Math.round(Math.max(0, most) * on * 10) / 10 + 0;
  return { ahead: Math.min(range?.max ?? 0, Math.max(range?.min ?? 0, ahead)), turning: Math.round(-TURNS * aside) + 0 };
}

/** Where a pointer is on a square field, from its middle. @param size Of the square, in the pointer’s pixels. */
export const stickAt = (right: number, down: number, size: number): Stick => ({ x: (2 * right) / size - 1, y: 1 - (2 * down) / size });

/** The first pad that is there and its left stick; at the middle where there is none. */
export function stickOfPads(pads: readonly (Pick<Gamepad, 'axes' | 'connected'> | null)[]): Stick {
  const pad = pads.find((one) => one?.connected && one.axes.length >= 2);
  // Its second axis goes down.
  return pad ? { x: pad.axes[0], y: -pad.axes[1] } : AWAY;
}
