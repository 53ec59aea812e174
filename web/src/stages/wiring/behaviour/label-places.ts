/** Where the words of a mark stand: from the mark, pixels, and which end of them is there. */
export interface LabelPlace {
  dx: number;
  dy: number;
  anchor: 'start' | 'middle' | 'end';
}

interface Mark {
  x: number;
  y: number;
  name: string;
}

interface Frame {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Of letters of 11 pixels. */
const LETTER = 6;
const [UP, DOWN] = [9, 3];
/** Half of a mark, pixels. */
const HALF = 8;

/** Below at first, then above, beside it, and further off in the same order. */
const PLACES: readonly LabelPlace[] = [
  { dx: 0, dy: 20, anchor: 'middle' },
  { dx: 0, dy: -11, anchor: 'middle' },
  { dx: 11, dy: 4, anchor: 'start' },
  { dx: -11, dy: 4, anchor: 'end' },
  { dx: 0, dy: 32, anchor: 'middle' },
  { dx: 0, dy: -23, anchor: 'middle' },
  { dx: 11, dy: 16, anchor: 'start' },
  { dx: -11, dy: 16, anchor: 'end' },
  { dx: 11, dy: -8, anchor: 'start' },
  { dx: -11, dy: -8, anchor: 'end' },
];

const BEFORE = { start: 0, middle: 0.5, end: 1 } as const;

/** The room that words take at a place. */
export function frameOf({ x, y, name }: Mark, { dx, dy, anchor }: LabelPlace): Frame {
  const width = LETTER * name.length;
  const left = x + dx - width * BEFORE[anchor];
  return { left, right: left + width, top: y + dy - UP, bottom: y + dy + DOWN };
}

/** How much two frames have in common, square pixels. */
export const shared = (a: Frame, b: Frame): number =>
  Math.max(0, Math.min(a.right, b.right) - Math.max(a.left, b.left)) * Math.max(0, Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top));

const area = ({ left, right, top, bottom }: Frame) => (right - left) * (bottom - top);

/**
 * Places for the words of marks on a picture, one after the other, where they cover the least of other words, marks, and what is beyond the
 * picture; the first such place of each.
 *
 * @param size Of the picture, pixels.
 */
export function labelPlaces(marks: readonly Mark[], size: { width: number; height: number }): LabelPlace[] {
  const knots = marks.map(({ x, y }): Frame => ({ left: x - HALF, right: x + HALF, top: y - HALF, bottom: y + HALF }));
  const picture: Frame = { left: 0, top: 0, right: size.width, bottom: size.height };
  const written: Frame[] = [];
  return marks.map((mark, i) => {
    const costOf = (place: LabelPlace) => {
      const frame = frameOf(mark, place);
      const others = [...written, ...knots.filter((_, k) => k !== i)];
      return others.reduce((sum, other) => sum + shared(frame, other), area(frame) - shared(frame, picture));
    };
    let best = PLACES[0];
    let least = costOf(best);
    for (const place of PLACES) {
      const cost = costOf(place);
      if (cost < least - 1e-9) [best, least] = [place, cost];
    }
    written.push(frameOf(mark, best));
    return best;
  });
}
