import { partsInOrder, type Blobs, type Footprint, type Kit, type Vec3 } from '../document';
import { flattenParts, Poser, posedVertices } from '../geometry';
import { NEAR_LINE, tileMiddles } from './tiles';
import { WalkSpans } from './walk-spans';
import { triangleCorners } from './walk-world';

/** What stands over a tile at rest. */
export interface TileHeight {
  middle: Vec3;
  /** The lowest and the highest of it, metres; null where nothing is over the tile. */
  low: number | null;
  high: number | null;
}

/** What is nearer to the ground than this stands on it, metres. */
export const STANDS = 0.01;

/**
 * How high a thing stands on each of its tiles at rest, row by row as `tileMiddles` gives them: triangles cut along the lines of the tiles,
 * so that a long one counts in each tile with what of it is there. Hidden parts count: they are in the package.
 *
 * @param tile The side of a tile, metres.
 */
export function tileHeights(kit: Kit, blobs: Blobs, footprint: Footprint, tile: number): TileHeight[] {
  // What only touches a tile's line from beyond is not over it.
  const within = tile / 2 - NEAR_LINE;
  const tiles = tileMiddles(footprint, tile).map((middle) => ({
    middle,
    spans: new WalkSpans([middle[0] - within, middle[2] - within], 2 * within, 1, 1),
  }));
  const poser = new Poser(flattenParts(kit));
  for (const part of partsInOrder(kit)) {
    if (part.mesh === null) continue;
    const vertices = posedVertices(kit, blobs, part, (id) => poser.worldOf(id), poser.weightsOf(part.id));
    const corners = triangleCorners(kit, blobs, part);
    const triangle = new Float64Array(9);
    for (let t = 0; t + 2 < corners.length; t += 3) {
      for (let k = 0; k < 3; k++) triangle.set(vertices.subarray(3 * corners[t + k], 3 * corners[t + k] + 3), 3 * k);
      for (const { spans } of tiles) spans.fillTriangle(triangle, false, 0);
    }
  }
  return tiles.map(({ middle, spans: { columns } }) => ({
    middle,
    low: columns[0][0]?.low ?? null,
    high: columns[0].at(-1)?.high ?? null,
  }));
}

/** Whether what is over a tile does not come down to the ground: on a slope the terrain is shown under it as a plinth. */
export const floats = ({ low }: TileHeight): boolean => low !== null && low > STANDS;
