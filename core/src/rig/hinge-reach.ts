import { subtreeOf, type Blobs, type Id, type Kit, type Vec3 } from '../document';
import { StandingTriangles } from './crossings';
import { surfaceOf, type Surface } from './skin-field';

/** How far a hinge is free to turn from where it rests, degrees, the right-handed way about its line. */
export interface HingeReach {
  /** 0 or less; null where nothing stops it within half a turn. */
  min: number | null;
  /** 0 or more; null where nothing stops it within half a turn. */
  max: number | null;
  /** Which way it opens: where there is more room, and where there is as much, away from what stands. */
  opens: 1 | -1;
}

/** Degrees between two poses that are looked at. */
const STEP = 3;
/** To which degree a stop is found. */
const FINE = 0.5;
/** Nearer to its line than this share of what moves, things grind in every hinge: that stops nothing. */
const GRIND = 0.06;

/**
 * How far parts turn about a line before their surface runs into what else is shown: poses at steps, then by halving. What runs through
 * one another at rest, or close to the line, stops nothing.
 *
 * @param moving Parts that turn, with all below them. @param line Two points of the world, metres.
 * @returns null where nothing moves or nothing stands.
 */
export function hingeReach(kit: Kit, moving: readonly Id[], line: readonly [Vec3, Vec3], blobs: Blobs): HingeReach | null {
  const turning = new Set(moving.flatMap((id) => [...subtreeOf(kit, id)]));
  const shown = Object.values(kit.parts).filter(({ mesh, skin }) => mesh !== null && skin === null);
  const [movers, standers] = [shown.filter(({ id }) => turning.has(id)), shown.filter(({ id }) => !turning.has(id))];
  if (movers.length === 0 || standers.length === 0) return null;
  const [mover, stander] = [movers, standers].map((list) =>
    surfaceOf(
      kit,
      list.map(({ id }) => id),
      blobs,
    ),
  );
  const standing = new StandingTriangles(stander.positions, stander.indices);
  const spared = new Set<number>();
  standing.crossedBy(mover.positions, mover.indices, (t) => (spared.add(t), false));
  const turned = turner(mover.positions, line);
  const off = offLine(line);
  const grinds = GRIND * greatest(mover.positions, off);
  const meets = (degrees: number) =>
    standing.crossedBy(turned(degrees), mover.indices, (t, x, y, z) => !spared.has(t) && off(x, y, z) > grinds);
  const [positive, negative] = [freeUntil(meets, 1), freeUntil(meets, -1)];
  const opens = positive === negative ? awayFrom(stander, turned) : (Math.sign((positive ?? 180) - (negative ?? 180)) as 1 | -1);
  return { min: negative === null ? null : -negative + 0, max: positive, opens };
}

/** Limits within which a hinge moves, degrees. */
export interface HingeLimits {
  min: number;
  max: number;
}

/** A stop within this of rest is where it rests, degrees. */
const AT_REST = 2;
/** How far a hinge goes where nothing stops it, degrees. */
const QUARTER = 90;

/** The limits that a hinge starts with: as far as it is free, or a quarter turn the way it opens where nothing says how far. */
export function hingeLimits(reach: HingeReach | null): HingeLimits {
  const { min = null, max = null, opens = 1 } = reach ?? {};
  if (min === null && max === null) return opens > 0 ? { min: 0, max: QUARTER } : { min: -QUARTER, max: 0 };
  const least = min === null ? -180 : min;
  const most = max === null ? 180 : max;
  return { min: least > -AT_REST ? 0 : least, max: most < AT_REST ? 0 : most };
}

/** Degrees, whole halves of them, until something is met one way; null for half a turn. */
function freeUntil(meets: (degrees: number) => boolean, way: 1 | -1): number | null {
  for (let degrees = STEP; degrees <= 180; degrees += STEP) {
    if (!meets(way * degrees)) continue;
    let [free, met] = [degrees - STEP, degrees];
    while (met - free > FINE / 50) {
      const middle = (free + met) / 2;
      if (meets(way * middle)) met = middle;
      else free = middle;
    }
    return Math.floor(free / FINE) * FINE;
  }
  return null;
}

const lineOf = ([from, to]: readonly [Vec3, Vec3]) => {
  const way = to.map((value, i) => value - from[i]);
  const length = Math.hypot(...way) || 1;
  return { from, way: way.map((value) => value / length) as Vec3 };
};

/** Gives all places turned about a line (Rodrigues), in one array that is written over. */
function turner(positions: Float32Array, line: readonly [Vec3, Vec3]): (degrees: number) => Float32Array {
  const { from, way } = lineOf(line);
  const out = new Float32Array(positions.length);
  return (degrees) => {
    const angle = (degrees * Math.PI) / 180;
    const [sine, cosine] = [Math.sin(angle), Math.cos(angle)];
    for (let v = 0; v < positions.length; v += 3) {
      const [x, y, z] = [positions[v] - from[0], positions[v + 1] - from[1], positions[v + 2] - from[2]];
      const along = (x * way[0] + y * way[1] + z * way[2]) * (1 - cosine);
      out[v] = from[0] + x * cosine + (way[1] * z - way[2] * y) * sine + way[0] * along;
      out[v + 1] = from[1] + y * cosine + (way[2] * x - way[0] * z) * sine + way[1] * along;
      out[v + 2] = from[2] + z * cosine + (way[0] * y - way[1] * x) * sine + way[2] * along;
    }
    return out;
  };
}

/** How far a place is from a line, metres. */
function offLine(line: readonly [Vec3, Vec3]): (x: number, y: number, z: number) => number {
  const { from, way } = lineOf(line);
  return (x, y, z) => {
    const [px, py, pz] = [x - from[0], y - from[1], z - from[2]];
    const along = px * way[0] + py * way[1] + pz * way[2];
    return Math.hypot(px - along * way[0], py - along * way[1], pz - along * way[2]);
  };
}

function greatest(positions: Float32Array, of: (x: number, y: number, z: number) => number): number {
  let most = 0;
  for (let v = 0; v < positions.length; v += 3) most = Math.max(most, of(positions[v], positions[v + 1], positions[v + 2]));
  return most;
}

/** The way in which the middle of what moves leaves the middle of what stands. */
function awayFrom(stander: Surface, turned: (degrees: number) => Float32Array): 1 | -1 {
  const still = middleOf(stander.positions);
  const off = (degrees: number) => Math.hypot(...middleOf(turned(degrees)).map((value, i) => value - still[i]));
  return off(30) >= off(-30) ? 1 : -1;
}

function middleOf(positions: Float32Array): Vec3 {
  const sum: Vec3 = [0, 0, 0];
  for (let i = 0; i < positions.length; i++) sum[i % 3] += positions[i];
  return sum.map((value) => value / (positions.length / 3)) as Vec3;
}
