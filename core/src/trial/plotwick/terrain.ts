import type { Footprint, Id, Vec3 } from '../../document';
import { tileMiddles, tilesAcross } from '../../grounds';
import type { Plot } from './plot';

/** What a plot is put down on: level ground, or a made-up hillside that rises by steps of the platform, tile by tile. */
export const GROUNDS = ['level', 'hillside'] as const;
export type Ground = (typeof GROUNDS)[number];

/** How a thing is put down: turned by so many quarters, on which ground. */
export interface Placing {
  quarters: number;
  ground: Ground;
}

/** Where it stands then: how high the tiles under it are, and which edges nobody comes to. In metres. */
export interface Placed {
  /** Height of the plot: that of the highest tile under it. */
  level: number;
  /** Tiles under the plot that are lower, with how much of a plinth shows there. Middles in the axes of the thing. */
  plinth: { middle: Vec3; height: number }[];
  closed: Id[];
  /** Tiles about the plot, with how much higher than it they are. Middles in the axes of the thing. */
  around: { middle: Vec3; height: number }[];
}

/** Of a plot of more tiles the ground is not worked out. */
const MOST_TILES = 10_000;
/** How many tiles about a plot are told of. */
const MARGIN = 2;
/** How many steps a hillside rises a tile to the side, and ahead. */
const RISE = [0.5, 0.25] as const;

const heightAt = (ground: Ground, x: number, z: number, tile: number, step: number): number =>
  ground === 'level' ? 0 : step * Math.floor(RISE[0] * Math.floor(x / tile) + RISE[1] * Math.floor(z / tile));

/** A place turned by quarters about the middle of the ground, as seen from above counter-clockwise. */
export function turnedBy(quarters: number, x: number, z: number): [number, number] {
  const n = ((quarters % 4) + 4) % 4;
  return n === 0 ? [x, z] : turnedBy(n - 1, z, -x);
}

/**
 * Puts a plot down. Tiles that lie lower than it are seen as a plinth; an edge knot beside which the ground is more than a visitor's step
 * higher or lower is closed.
 *
 * @param tile Side of a tile, metres.
 */
export function putDown({ kit, perMetre, rules, edges, knots }: Plot, { quarters, ground }: Placing, tile: number): Placed {
  const footprint = kit.grounds?.footprint;
  if (!footprint) return { level: 0, plinth: [], closed: [], around: [] };
  const side = tile * perMetre;
  const high = (x: number, z: number) => {
    const [tx, tz] = turnedBy(quarters, x, z);
    return heightAt(ground, tx / perMetre, tz / perMetre, tile, rules.heightStep);
  };
  const [across, deep] = tilesAcross(footprint, side);
  // No plot is that large: its ground is not worked out tile by tile.
  if (!(across * deep <= MOST_TILES)) return { level: 0, plinth: [], closed: [], around: [] };
  const tiles = tileMiddles(footprint, side).map((middle) => ({ middle, height: high(middle[0], middle[2]) }));
  const level = Math.max(...tiles.map(({ height }) => height));
  const wide = MARGIN * side;
  const all = tileMiddles(
    { low: footprint.low.map((value) => value - wide) as Vec3, high: footprint.high.map((value) => value + wide) as Vec3, holes: [] },
    side,
  );
  const isOutside = ([x, , z]: Vec3) => x < footprint.low[0] || x > footprint.high[0] || z < footprint.low[2] || z > footprint.high[2];
  return {
    level,
    around: all.filter(isOutside).map((middle) => ({ middle, height: high(middle[0], middle[2]) - level })),
    plinth: tiles.filter(({ height }) => height < level).map(({ middle, height }) => ({ middle, height: level - height })),
    closed: edges.filter((id) => {
      const [x, z] = justOutside(footprint, knots.get(id)!, side);
      return Math.abs(high(x, z) - level) > rules.visitor.step;
    }),
  };
}

/** The middle of the tile beyond the rim that a place is nearest to. */
function justOutside({ low, high }: Footprint, [x, , z]: Vec3, side: number): [number, number] {
  const half = side / 2;
  const rims: [number, [number, number]][] = [
    [x - low[0], [low[0] - half, z]],
    [high[0] - x, [high[0] + half, z]],
    [z - low[2], [x, low[2] - half]],
    [high[2] - z, [x, high[2] + half]],
  ];
  return rims.reduce((best, one) => (one[0] < best[0] ? one : best))[1];
}
