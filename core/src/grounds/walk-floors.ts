import type { Vec3 } from '../document';
import type { WalkWorld } from './walk-spans';

/** Nothing leads there. */
export const NONE = -1;

/** Places where a visitor's feet can be: one a column and a level. */
export interface Floors {
  world: WalkWorld;
  /** Column of each place, and how high it is, metres. */
  column: Int32Array;
  height: Float64Array;
  /** How high is what is above it, metres. */
  ceiling: Float64Array;
  /** First place of each column, and one more at the end. */
  first: Int32Array;
  /** Four a place, to −x, +x, −z, +z: what can be stepped onto from it; `NONE` where nothing. */
  next: Int32Array;
  /** How far from what stands in the way, and from a drop that wants a rail, metres; Infinity where none is near. */
  toWall: Float64Array;
  toDrop: Float64Array;
  /** The same from any place beside which it goes down by more than a step, metres. */
  toLedge: Float64Array;
  /** What stands nearest in the way: a cause of the world. */
  wallCause: Int32Array;
}

const STEPS = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
] as const;

/** Where visitors can stand, what they can step onto from there, and how much room they have. */
export function floorsOf(world: WalkWorld): Floors {
  const { spans, rules } = world;
  const column: number[] = [];
  const height: number[] = [];
  const ceiling: number[] = [];
  const first = new Int32Array(spans.columns.length + 1);
  spans.columns.forEach((filled, at) => {
    first[at] = column.length;
    filled.forEach(({ high, walkable }, i) => {
      const above = filled[i + 1]?.low ?? Infinity;
      if (!walkable || above - high < rules.height) return;
      column.push(at);
      height.push(high);
      ceiling.push(above);
    });
  });
  first[spans.columns.length] = column.length;
  const floors: Floors = {
    world,
    column: Int32Array.from(column),
    height: Float64Array.from(height),
    ceiling: Float64Array.from(ceiling),
    first,
    next: new Int32Array(4 * column.length).fill(NONE),
    toWall: new Float64Array(column.length).fill(Infinity),
    toDrop: new Float64Array(column.length).fill(Infinity),
    toLedge: new Float64Array(column.length).fill(Infinity),
    wallCause: new Int32Array(column.length).fill(0),
  };
  const near = nearColumns(world);
  for (let place = 0; place < column.length; place++) {
    joinPlace(floors, place);
    lookAround(floors, place, near);
  }
  return floors;
}

/** The column beside one; `NONE` beyond the rectangle. */
export function columnBeside({ world: { spans } }: Floors, column: number, direction: number): number {
  const [di, dk] = STEPS[direction];
  const i = (column % spans.across) + di;
  const k = Math.floor(column / spans.across) + dk;
  return i < 0 || k < 0 || i >= spans.across || k >= spans.deep ? NONE : i + spans.across * k;
}

function joinPlace(floors: Floors, place: number): void {
  const { world, height, ceiling, first, next, column } = floors;
  const { rules } = world;
  for (let direction = 0; direction < 4; direction++) {
    const beside = columnBeside(floors, column[place], direction);
    if (beside === NONE) continue;
    let best = NONE;
    for (let other = first[beside]; other < first[beside + 1]; other++) {
      const rise = Math.abs(height[other] - height[place]);
      const room = Math.min(ceiling[other], ceiling[place]) - Math.max(height[other], height[place]);
      if (room < rules.height || rise > rules.step + 1e-6) continue;
      if (best === NONE || rise < Math.abs(height[best] - height[place])) best = other;
    }
    next[4 * place + direction] = best;
  }
}

/** A column beside another one: how many to the side and ahead, and how far its nearest border is from the other's middle, metres. */
interface Near {
  di: number;
  dk: number;
  far: number;
}

/** Columns about one, the nearest first, as far as two halves of a person. */
function nearColumns({ spans: { cell }, rules: { radius } }: WalkWorld): Near[] {
  const most = Math.ceil((2 * radius) / cell);
  const all: Near[] = [];
  for (let di = -most; di <= most; di++)
    for (let dk = -most; dk <= most; dk++) {
      const far = cell * Math.hypot(Math.max(0, Math.abs(di) - 0.5), Math.max(0, Math.abs(dk) - 0.5));
      if (far <= 2 * radius && (di !== 0 || dk !== 0)) all.push({ di, dk, far });
    }
  return all.sort((a, b) => a.far - b.far);
}

/** Finds what stands nearest in the way of a body over a place, and where it goes down nearest to it. */
function lookAround({ world, column, height, toWall, toDrop, toLedge, wallCause }: Floors, place: number, near: readonly Near[]): void {
  const { spans, rules } = world;
  const feet = height[place];
  const [knee, head] = [feet + rules.step + 1e-6, feet + rules.height];
  const [i, k] = [column[place] % spans.across, Math.floor(column[place] / spans.across)];
  for (const { di, dk, far } of near) {
    const [x, z] = [i + di, k + dk];
    // Beyond the plot the ground goes on as it is.
    const outside = x < 0 || z < 0 || x >= spans.across || z >= spans.deep;
    let under = outside ? 0 : -Infinity;
    if (!outside)
      for (const { low, high, cause } of spans.columns[x + spans.across * z]) {
        if (high <= knee) under = Math.max(under, high);
        else if (low < head) {
          // What is filled from below the feet up is no place to fall.
          if (low <= feet) under = feet;
          if (toWall[place] < Infinity) continue;
          toWall[place] = far;
          wallCause[place] = cause;
        }
      }
    if (toDrop[place] === Infinity && feet - under > rules.drop) toDrop[place] = far;
    if (toLedge[place] === Infinity && feet - under > rules.step + 1e-6) toLedge[place] = far;
  }
}

/** What can be stepped onto from a place, the corners too where both ways round them can, with how far it is, metres on the ground. */
export function* neighbours({ next, world }: Floors, place: number): Generator<[number, number]> {
  const { cell } = world.spans;
  for (let direction = 0; direction < 4; direction++) {
    const beside = next[4 * place + direction];
    if (beside !== NONE) yield [beside, cell];
  }
  for (const x of [0, 1])
    for (const z of [2, 3]) {
      const [a, b] = [next[4 * place + x], next[4 * place + z]];
      if (a === NONE || b === NONE) continue;
      const corner = next[4 * a + z];
      if (corner !== NONE && corner === next[4 * b + x]) yield [corner, cell * Math.SQRT2];
    }
}

/** Whether a visitor fits: as far from walls, and from drops, as half a person is wide. */
export const hasRoom = ({ toWall, toDrop, world: { rules } }: Floors, place: number): boolean =>
  toWall[place] >= rules.radius && toDrop[place] >= rules.radius;

/** A place at the rim is looked at a hair within it; what is off the plot stays off it. */
export function ontoPlot({ world: { spans } }: Floors, [x, y, z]: Vec3): Vec3 {
  const hair = spans.cell / 2;
  const within = (value: number, low: number, cells: number) => Math.min(Math.max(value, low + hair), low + cells * spans.cell - hair);
  const near = (value: number, low: number, cells: number) => value >= low - hair && value <= low + cells * spans.cell + hair;
  if (!near(x, spans.low[0], spans.across) || !near(z, spans.low[1], spans.deep)) return [x, y, z];
  return [within(x, spans.low[0], spans.across), y, within(z, spans.low[1], spans.deep)];
}

/** The place under some feet: that of the column whose height is nearest to theirs; `NONE` where none is within this of them. */
export function placeUnder({ world, first, height }: Floors, x: number, y: number, z: number, within: number): number {
  const column = world.spans.columnAt(x, z);
  let best = NONE;
  if (column < 0) return NONE;
  for (let place = first[column]; place < first[column + 1]; place++) {
    const off = Math.abs(height[place] - y);
    if (off <= within && (best === NONE || off < Math.abs(height[best] - y))) best = place;
  }
  return best;
}

/** The lowest and the highest that feet come from the rim of the plot, over steps that can be taken, metres. */
export function reachableHeights({ world, column, height, next }: Floors): [number, number] {
  const { spans, rules } = world;
  const seen = new Uint8Array(column.length);
  const stack: number[] = [];
  const visit = (place: number) => {
    if (place === NONE || seen[place] === 1) return;
    seen[place] = 1;
    stack.push(place);
  };
  const [lastAcross, lastDeep] = [spans.across - 1, spans.deep - 1];
  column.forEach((at, place) => {
    const [i, k] = [at % spans.across, Math.floor(at / spans.across)];
    if ((i === 0 || k === 0 || i === lastAcross || k === lastDeep) && Math.abs(height[place]) <= rules.step) visit(place);
  });
  let [low, high] = [0, 0];
  while (stack.length > 0) {
    const place = stack.pop()!;
    low = Math.min(low, height[place]);
    high = Math.max(high, height[place]);
    for (let direction = 0; direction < 4; direction++) visit(next[4 * place + direction]);
  }
  return [low, high];
}
