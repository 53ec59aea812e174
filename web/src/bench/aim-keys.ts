/** Pixels that an arrow moves the sight by; with Shift ten times as far, with Alt a pixel. */
const STEP = 10;

const WAYS: Readonly<Record<string, readonly [x: number, y: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

type Keys = Pick<KeyboardEvent, 'key' | 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'>;

/** What a key does with the sight: moves it by so many pixels, presses, takes hold or lets go. Null where it is no key of the sight. */
export type AimKey = { move: readonly [x: number, y: number] } | 'press' | 'hold' | 'let-go';

/** @param holds Whether something is held: then Escape lets it go, too */
export function aimKeyOf({ key, shiftKey, altKey, ctrlKey, metaKey }: Keys, holds: boolean): AimKey | null {
  const way = WAYS[key];
  if (way && !ctrlKey && !metaKey) {
    const fine = altKey ? 1 : STEP;
    const pixels = shiftKey ? 10 * STEP : fine;
    return { move: [way[0] * pixels, way[1] * pixels] };
  }
  if (key === 'Enter') return holds ? 'let-go' : 'press';
  if (key === ' ') return holds ? 'let-go' : 'hold';
  return key === 'Escape' && holds ? 'let-go' : null;
}
