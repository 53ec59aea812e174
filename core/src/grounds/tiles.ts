import type { Footprint, Vec3 } from '../document';
import { isEmptyBounds, type Bounds } from '../geometry';

/** A hair over the line of a tile is that line, by rounding alone, metres. */
export const NEAR_LINE = 1e-4;

/** From one line to another such that all between two values lies within: the lines are whole tiles apart, from `phase` on. */
function linesAbout(min: number, max: number, tile: number, phase: number): [number, number] {
  const low = tile * Math.floor((min + NEAR_LINE - phase) / tile) + phase;
  const high = tile * Math.ceil((max - NEAR_LINE - phase) / tile) + phase;
  // What is thinner than a hair stands on a tile all the same.
  return [low + 0, Math.max(high, low + tile) + 0];
}

/**
 * The whole tiles that some bounds take, rounded outward. The thing's origin lies on a line of the grid or in the middle of a tile, for
 * each axis whichever takes fewer tiles.
 *
 * @param tile The side of a tile, metres.
 */
export function footprintOf(bounds: Bounds, tile: number): Footprint | null {
  if (isEmptyBounds(bounds)) return null;
  const low: Vec3 = [0, 0, 0];
  const high: Vec3 = [0, 0, 0];
  for (const axis of [0, 2]) {
    const [lines, middles] = [0, tile / 2].map((phase) => linesAbout(bounds.min[axis], bounds.max[axis], tile, phase));
    [low[axis], high[axis]] = middles[1] - middles[0] < lines[1] - lines[0] - NEAR_LINE ? middles : lines;
  }
  return { low, high, holes: [] };
}

/** How many tiles a footprint has to the side and ahead. */
export const tilesAcross = ({ low, high }: Footprint, tile: number): [number, number] => [
  Math.round((high[0] - low[0]) / tile),
  Math.round((high[2] - low[2]) / tile),
];

/** Middles of all tiles of a footprint, row by row. */
export function tileMiddles(footprint: Footprint, tile: number): Vec3[] {
  const [across, deep] = tilesAcross(footprint, tile);
  const { low } = footprint;
  return Array.from({ length: across * deep }, (_, i): Vec3 => [
    low[0] + tile * ((i % across) + 0.5),
    0,
    low[2] + tile * (Math.floor(i / across) + 0.5),
  ]);
}

/** Whether a place lies within a tile with this middle. */
const isIn = (middle: ArrayLike<number>, x: number, z: number, tile: number): boolean =>
  Math.abs(middle[0] - x) <= tile / 2 && Math.abs(middle[2] - z) <= tile / 2;

/** The hole that a place lies in, by its number; −1 where it lies in none. */
export const holeAt = ({ holes }: Footprint, x: number, z: number, tile: number): number =>
  holes.findIndex((middle) => isIn(middle, x, z, tile));

/** A footprint's lines put onto the grid of another tile, outward, so that nothing that was in it is out of it. Its holes go. */
export const onGrid = ({ low, high }: Footprint, tile: number): Footprint =>
  footprintOf({ min: [...low] as Vec3, max: [...high] as Vec3 }, tile)!;

const isWhole = (value: number): boolean => Math.abs(value - Math.round(value)) < NEAR_LINE;

/** Whether a footprint is whole tiles, and its origin on a line or in the middle of one. */
export const isOnGrid = ({ low, high }: Footprint, tile: number): boolean =>
  [0, 2].every((axis) => isWhole((2 * low[axis]) / tile) && isWhole((high[axis] - low[axis]) / tile));

/** How far beyond a footprint some bounds reach, metres; below 0 where they are within. */
export const beyond = ({ low, high }: Footprint, { min, max }: Bounds): number =>
  Math.max(low[0] - min[0], low[2] - min[2], max[0] - high[0], max[2] - high[2]);
