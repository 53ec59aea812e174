import type { Id } from '../document';
import type { WalkRules } from './rules';

/** Stretches of one column that are filled, lowest first, none touching another. Metres. */
export interface Span {
  low: number;
  high: number;
  /** Whether its top is flat enough to be stood on, and nothing that moves or stands in the way. */
  walkable: boolean;
  /** What fills it at its top: a number of the caller's. */
  cause: number;
}

/** Two stretches nearer than this are one, metres. */
const TOUCH = 1e-3;
/** What lies on the border of a column to within rounding lies in it, metres. */
const HAIR = 1e-9;

/** The cell that a place lies in, of so many; what lies on the far rim is in the last one. */
const cellOf = (at: number, cells: number): number => (at >= cells && at <= cells + 1e-6 ? cells - 1 : Math.floor(at));

/** A rectangle of the ground in square columns, with what fills each of them. */
export class WalkSpans {
  readonly columns: Span[][];

  /** @param low x and z of the corner, metres. @param cell Side of a column, metres. */
  constructor(
    readonly low: readonly [number, number],
    readonly cell: number,
    readonly across: number,
    readonly deep: number,
  ) {
    this.columns = Array.from({ length: across * deep }, () => []);
  }

  /** The column over a place; −1 outside of the rectangle. */
  columnAt(x: number, z: number): number {
    const i = Math.floor((x - this.low[0]) / this.cell);
    const k = Math.floor((z - this.low[1]) / this.cell);
    return i < 0 || k < 0 || i >= this.across || k >= this.deep ? -1 : i + this.across * k;
  }

  /** x and z of the middle of a column. */
  middleOf(column: number): [number, number] {
    return [this.low[0] + this.cell * ((column % this.across) + 0.5), this.low[1] + this.cell * (Math.floor(column / this.across) + 0.5)];
  }

  fill(column: number, low: number, high: number, walkable: boolean, cause: number): void {
    const spans = this.columns[column];
    // What moves fills the same again and again.
    if (!walkable) for (const span of spans) if (span.low <= low && span.high > high + TOUCH) return;
    let first = 0;
    while (first < spans.length && spans[first].high < low - TOUCH) first++;
    let end = first;
    const one: Span = { low, high, walkable, cause };
    for (; end < spans.length && spans[end].low <= high + TOUCH; end++) {
      const other = spans[end];
      // The one on top says what can be stood on; a riser that ends at a tread leaves the tread.
      if (Math.abs(other.high - one.high) <= TOUCH) {
        if (!one.walkable && other.walkable) one.cause = other.cause;
        one.walkable ||= other.walkable;
      } else if (other.high > one.high) {
        one.walkable = other.walkable;
        one.cause = other.cause;
      }
      one.low = Math.min(one.low, other.low);
      one.high = Math.max(one.high, other.high);
    }
    spans.splice(first, end - first, one);
  }

  /**
   * Fills the columns that a triangle goes through, each from the triangle's lowest to its highest place in it: the polygon is cut along
   * the rows, then along the columns (Sutherland & Hodgman 1974), as Mononen's voxel fields are filled.
   *
   * @param corners Nine numbers, metres.
   */
  fillTriangle(corners: ArrayLike<number>, walkable: boolean, cause: number): void {
    const { low, cell, across, deep } = this;
    const [ax, ay, az, bx, by, bz, cx, cy, cz] = corners as number[];
    const bottom = Math.min(ay, by, cy);
    const top = Math.max(ay, by, cy);
    const firstRow = Math.max(0, cellOf((Math.min(az, bz, cz) - low[1]) / cell, deep));
    const lastRow = Math.min(deep - 1, cellOf((Math.max(az, bz, cz) - low[1]) / cell, deep));
    const firstColumn = Math.max(0, cellOf((Math.min(ax, bx, cx) - low[0]) / cell, across));
    const lastColumn = Math.min(across - 1, cellOf((Math.max(ax, bx, cx) - low[0]) / cell, across));
    if (firstRow > lastRow || firstColumn > lastColumn) return;
    if (firstRow === lastRow && firstColumn === lastColumn) return this.fill(firstColumn + across * firstRow, bottom, top, walkable, cause);
    for (let i = 0; i < 9; i++) whole[i] = corners[i];
    for (let k = firstRow; k <= lastRow; k++) {
      const start = low[1] + k * cell;
      const inRow = cut(whole, 9, 2, start, 1, half);
      const inRowBelow = cut(half, inRow, 2, start + cell + HAIR, -1, row);
      if (inRowBelow < 9) continue;
      for (let i = firstColumn; i <= lastColumn; i++) {
        const from = low[0] + i * cell;
        const right = cut(row, inRowBelow, 0, from, 1, half);
        if (right < 9) continue;
        const left = cut(half, right, 0, from + cell + HAIR, -1, piece);
        if (left < 9) continue;
        let least = Infinity;
        let most = -Infinity;
        for (let y = 1; y < left; y += 3) {
          if (piece[y] < least) least = piece[y];
          if (piece[y] > most) most = piece[y];
        }
        this.fill(i + across * k, least, most, walkable, cause);
      }
    }
  }
}

// A triangle that is cut four times has at most seven corners.
const [whole, half, row, piece] = [0, 1, 2, 3].map(() => new Float64Array(3 * 12));

/**
 * Writes what of a polygon lies on one side of a plane across an axis.
 *
 * @param length Numbers of the polygon, three a corner. @param side 1 keeps what is above the value, −1 what is below.
 * @returns how many numbers were written
 */
function cut(polygon: Float64Array, length: number, axis: number, at: number, side: number, out: Float64Array): number {
  let n = 0;
  for (let i = 0; i < length; i += 3) {
    const next = i + 3 === length ? 0 : i + 3;
    const a = side * (polygon[i + axis] - at);
    const b = side * (polygon[next + axis] - at);
    if (a >= 0) {
      out[n++] = polygon[i];
      out[n++] = polygon[i + 1];
      out[n++] = polygon[i + 2];
    }
    if ((a > 0 && b < 0) || (a < 0 && b > 0)) {
      const u = a / (a - b);
      for (let k = 0; k < 3; k++) out[n++] = polygon[i + k] + u * (polygon[next + k] - polygon[i + k]);
    }
  }
  return n;
}

/** What the ground is filled by: parts by their number here, their colliders, and the ground itself. */
export interface Cause {
  part: Id | null;
  kind: 'ground' | 'part' | 'moving' | 'collider';
}

/** Everything that a visitor can stand on or run into, as filled columns. */
export interface WalkWorld {
  spans: WalkSpans;
  causes: Cause[];
  rules: WalkRules;
}
