/** Triangles about an axis: what of a turning part is looked at. */
export interface TurnedTriangles {
  /** Nine numbers a triangle, its corners one after the other: two across the axis, then along it; metres, from the pivot. */
  corners: Float64Array;
  /** 1 for each triangle of a closed surface, whose inside is solid. */
  solid: Uint8Array;
  /**
   * The colour at a place of a triangle as OKLab, written to `out`; false where nothing is there (cut out of its material).
   *
   * @param b Share of the second corner
   * @param c Share of the third
   */
  colourAt(triangle: number, b: number, c: number, out: Float64Array): boolean;
}

/** A grid over the half-plane beside an axis. */
export interface HalfGrid {
  columns: number;
  rows: number;
  /** Of a cell, metres. */
  width: number;
  height: number;
  /** Along the axis, where the first row begins, metres. */
  from: number;
}

/** What one half-plane meets: 0 nothing, 1 the inside of a solid, 2 a surface, a cell; and the colour of surfaces. */
export interface HalfCut {
  cells: Uint8Array;
  /** OKLab, three a cell. */
  colours: Float64Array;
}

/**
 * Whole planes through the axis, two half-planes each. A prime: parts repeat about an axis by small numbers, and planes that fall on all of
 * their arms alike would count the same error for each.
 */
const PLANES = 181;
/** How many half-planes are looked at. */
export const HALF_PLANES = 2 * PLANES;
/** Cells from the axis to the rim. */
const ACROSS = 128;
/** The longer side of long parts is not divided finer than this. */
const MOST_ROWS = 128;

/** A grid that reaches just to the rim and to both ends; null where there is nothing off the axis. */
export function gridOver(corners: Float64Array): HalfGrid | null {
  let radius = 0;
  let [from, to] = [Infinity, -Infinity];
  for (let i = 0; i < corners.length; i += 3) {
    radius = Math.max(radius, Math.hypot(corners[i], corners[i + 1]));
    from = Math.min(from, corners[i + 2]);
    to = Math.max(to, corners[i + 2]);
  }
  if (!(radius > 0) || !Number.isFinite(to - from)) return null;
  const width = radius / ACROSS;
  const long = Math.max(to - from, width);
  const rows = Math.min(MOST_ROWS, Math.max(1, Math.ceil(long / width)));
  return { columns: ACROSS, rows, width, height: long / rows, from: (from + to - long) / 2 };
}

/**
 * Cuts turned triangles with planes through the axis, and calls `each` with what every half-plane meets; the arrays are used again.
 *
 * A triangle meets a plane in a line, whose cells are followed one by one (Amanatides & Woo 1987). Between lines of closed surfaces a cell
 * is solid where its middle is wound about (non-zero rule), row by row; a row that does not close, because a surface is cracked, is left.
 */
export function cutAround(triangles: TurnedTriangles, grid: HalfGrid, each: (half: HalfCut) => void): void {
  const cutter = new Cutter(triangles, grid);
  const { starts, list } = trianglesByPlane(triangles.corners);
  for (let plane = 0; plane < PLANES; plane++) {
    cutter.begin(((plane + 0.5) * Math.PI) / PLANES);
    for (let i = starts[plane]; i < starts[plane + 1]; i++) cutter.cut(list[i]);
    cutter.fill();
    cutter.halves.forEach(each);
  }
}

/** Which triangles each plane may meet, one list after the other; those that it does not meet may be among them. */
function trianglesByPlane(corners: Float64Array): { starts: Uint32Array; list: Uint32Array } {
  const total = corners.length / 9;
  const first = new Int32Array(total);
  const many = new Int32Array(total);
  const starts = new Uint32Array(PLANES + 1);
  for (let t = 0; t < total; t++) {
    const angle = [0, 1, 2].map((k) => Math.atan2(corners[9 * t + 3 * k + 1], corners[9 * t + 3 * k]));
    const ways = angle.map(
      (value, k) => angle[(k + 1) % 3] - value - 2 * Math.PI * Math.round((angle[(k + 1) % 3] - value) / (2 * Math.PI)),
    );
    // The ways from corner to corner come to nothing, but about a triangle through which the axis goes.
    const round = Math.abs(ways[0] + ways[1] + ways[2]) > 1 || ways.some((way) => Math.abs(way) > 3.1);
    const reached = [0, ways[0], ways[0] + ways[1]];
    const [low, high] = [angle[0] + Math.min(...reached), angle[0] + Math.max(...reached)];
    first[t] = round ? 0 : Math.floor((low / Math.PI) * PLANES - 0.5) - 1;
    many[t] = round ? PLANES : Math.min(PLANES, Math.ceil((high / Math.PI) * PLANES - 0.5) + 2 - first[t]);
    for (let i = 0; i < many[t]; i++) starts[planeOf(first[t] + i) + 1]++;
  }
  for (let plane = 0; plane < PLANES; plane++) starts[plane + 1] += starts[plane];
  const list = new Uint32Array(starts[PLANES]);
  const at = starts.slice();
  for (let t = 0; t < total; t++) for (let i = 0; i < many[t]; i++) list[at[planeOf(first[t] + i)]++] = t;
  return { starts, list };
}

const planeOf = (n: number) => ((n % PLANES) + PLANES) % PLANES;

/** Cuts triangles with one plane after the other. */
class Cutter {
  /** The half in front of the axis, and the one behind it. */
  readonly halves: [HalfCut, HalfCut];
  /** How windings change from a cell to the next, a row after the other over both halves. */
  private readonly winding: Int32Array;
  private readonly off = new Float64Array(3);
  private readonly along = new Float64Array(3);
  /** Both ends of a line: away from the axis, along it, shares of the second and the third corner. */
  private readonly ends = new Float64Array(8);
  private readonly colour = new Float64Array(3);
  private cos = 1;
  private sin = 0;

  constructor(
    private readonly triangles: TurnedTriangles,
    private readonly grid: HalfGrid,
  ) {
    const { columns, rows } = grid;
    const half = () => ({ cells: new Uint8Array(columns * rows), colours: new Float64Array(3 * columns * rows) });
    this.halves = [half(), half()];
    this.winding = new Int32Array(rows * (2 * columns + 1));
  }

  begin(angle: number): void {
    this.cos = Math.cos(angle);
    this.sin = Math.sin(angle);
    for (const { cells } of this.halves) cells.fill(0);
    this.winding.fill(0);
  }

  cut(triangle: number): void {
    const { off, along, ends, cos, sin } = this;
    const { corners, solid } = this.triangles;
    const at = 9 * triangle;
    for (let k = 0; k < 3; k++) off[k] = cos * corners[at + 3 * k + 1] - sin * corners[at + 3 * k];
    // A corner on the plane counts as behind it, for every triangle alike: what is closed is cut in closed lines.
    const front = off[0] > 0;
    if (front === off[1] > 0 && front === off[2] > 0) return;
    for (let k = 0; k < 3; k++) along[k] = cos * corners[at + 3 * k] + sin * corners[at + 3 * k + 1];
    for (let k = 0; k < 3; k++) {
      const next = k === 2 ? 0 : k + 1;
      if (off[k] > 0 === off[next] > 0) continue;
      const share = off[k] / (off[k] - off[next]);
      const end = off[next] > 0 ? 0 : 4;
      const low = corners[at + 3 * k + 2];
      ends[end] = along[k] + share * (along[next] - along[k]);
      ends[end + 1] = low + share * (corners[at + 3 * next + 2] - low);
      ends[end + 2] = (k === 1 ? 1 - share : 0) + (next === 1 ? share : 0);
      ends[end + 3] = (k === 2 ? 1 - share : 0) + (next === 2 ? share : 0);
    }
    this.follow(triangle);
    if (solid[triangle]) this.wind();
  }

  /** Marks every cell that the line from one end to the other passes. */
  private follow(triangle: number): void {
    const { ends, grid } = this;
    const x0 = ends[0] / grid.width;
    const y0 = (ends[1] - grid.from) / grid.height;
    const dx = ends[4] / grid.width - x0;
    const dy = (ends[5] - grid.from) / grid.height - y0;
    let share = 0;
    let nextX = dx === 0 ? Infinity : (dx > 0 ? Math.floor(x0) + 1 - x0 : Math.ceil(x0) - 1 - x0) / dx;
    let nextY = dy === 0 ? Infinity : (dy > 0 ? Math.floor(y0) + 1 - y0 : Math.ceil(y0) - 1 - y0) / dy;
    while (share < 1) {
      const to = Math.min(1, nextX, nextY);
      const middle = (share + to) / 2;
      this.mark(triangle, Math.floor(x0 + middle * dx), Math.floor(y0 + middle * dy), middle);
      share = to;
      if (nextX <= to) nextX += Math.abs(1 / dx);
      if (nextY <= to) nextY += Math.abs(1 / dy);
    }
  }

  /** Marks a cell of the plane; columns count from −`columns` (the half behind) up. What lies on the border counts as inside. */
  private mark(triangle: number, x: number, y: number, share: number): void {
    const { columns, rows } = this.grid;
    const { ends, colour } = this;
    const column = Math.min(columns - 1, Math.max(-columns, x));
    const row = Math.min(rows - 1, Math.max(0, y));
    const b = ends[2] + share * (ends[6] - ends[2]);
    const c = ends[3] + share * (ends[7] - ends[3]);
    if (!this.triangles.colourAt(triangle, b, c, colour)) return;
    const half = this.halves[column < 0 ? 1 : 0];
    const at = row * columns + (column < 0 ? -1 - column : column);
    half.cells[at] = 2;
    for (let i = 0; i < 3; i++) half.colours[3 * at + i] = colour[i];
  }

  /** Notes how the line crosses the middles of rows. */
  private wind(): void {
    const { columns, rows, width, height, from } = this.grid;
    const { ends, winding } = this;
    const x0 = ends[0] / width;
    const y0 = (ends[1] - from) / height;
    const x1 = ends[4] / width;
    const y1 = (ends[5] - from) / height;
    const high = Math.max(y0, y1);
    for (let row = Math.max(0, Math.ceil(Math.min(y0, y1) - 0.5)); row < rows && row + 0.5 < high; row++) {
      const x = x0 + ((row + 0.5 - y0) / (y1 - y0)) * (x1 - x0);
      const column = Math.min(2 * columns, Math.max(0, Math.ceil(x - 0.5) + columns));
      winding[row * (2 * columns + 1) + column] += y1 > y0 ? 1 : -1;
    }
  }

  /** Marks what is wound about as solid; a row whose windings do not end at nothing is left as it is. */
  fill(): void {
    const { columns, rows } = this.grid;
    const { winding, halves } = this;
    const wide = 2 * columns + 1;
    for (let row = 0; row < rows; row++) {
      let sum = 0;
      for (let i = 0; i < wide; i++) sum += winding[row * wide + i];
      if (sum !== 0) continue;
      for (let i = 0; i < 2 * columns; i++) {
        sum += winding[row * wide + i];
        if (sum === 0) continue;
        const { cells } = halves[i < columns ? 1 : 0];
        const at = row * columns + (i < columns ? columns - 1 - i : i - columns);
        if (cells[at] === 0) cells[at] = 1;
      }
    }
  }
}

/** The share of a turn in which something is in each cell, 0 to 1. */
export function coverOf(triangles: TurnedTriangles, grid: HalfGrid): Float64Array {
  const cover = new Float64Array(grid.columns * grid.rows);
  cutAround(triangles, grid, ({ cells }) => {
    for (let i = 0; i < cells.length; i++) if (cells[i] > 0) cover[i]++;
  });
  return cover.map((value) => value / HALF_PLANES);
}
