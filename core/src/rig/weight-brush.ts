import type { Id } from '../document';
import { mirrorPlaces } from './mirror-places';
import type { SkinField } from './skin-field';
import { settleRow } from './weight-tools';
import { surfaceRings, type Rings } from './surface-rings';

/** What a stroke does to weights. */
export const BRUSH_MODES = ['add', 'take', 'smooth', 'set'] as const;
export type BrushMode = (typeof BRUSH_MODES)[number];

export interface BrushSettings {
  joint: Id;
  mode: BrushMode;
  /** Metres. */
  radius: number;
  /** 0 to 1: how much a stamp in the middle of the brush gives or takes; with `set`, the weight itself. */
  strength: number;
  /** Whether the twin place on the other side of x = 0 is brushed along, for the twin joint. */
  symmetric: boolean;
  /** Joints whose share stays. */
  locked: readonly Id[];
}

/**
 * Brushes weights: each stamp changes the places within its radius, by the smooth bump (1 − (r/R)²)², and settles the other joints' shares
 * so that every row adds up to 1. Places are kept in a grid of cells, so that a stamp looks at those near it alone.
 */
export class WeightBrush {
  private readonly rings: Rings;
  private readonly cells: Map<number, number[]>;
  private readonly cell: number;
  private readonly mirror: Int32Array;

  /**
   * @param twins Which joint's column is whose on the other side; itself where it has none.
   * @param standing Where the places stand as they are seen, in a pose; at rest where left out.
   * @param like A brush over the very same surface, standing alike: what it has sorted is used again.
   */
  constructor(
    readonly field: SkinField,
    private readonly twins: ArrayLike<number>,
    private readonly standing: Float32Array = field.points,
    like: WeightBrush | null = null,
  ) {
    if (like) {
      this.rings = like.rings;
      this.cells = like.cells;
      this.cell = like.cell;
      this.mirror = like.mirror;
      return;
    }
    this.cells = new Map();
    const { corners } = field;
    const points = standing;
    this.rings = surfaceRings(corners, points.length / 3);
    let extent = 1e-6;
    for (const value of points) extent = Math.max(extent, Math.abs(value));
    this.cell = extent / 40;
    for (let p = 0; p < points.length / 3; p++) {
      const key = this.key(
        Math.floor(points[3 * p] / this.cell),
        Math.floor(points[3 * p + 1] / this.cell),
        Math.floor(points[3 * p + 2] / this.cell),
      );
      const list = this.cells.get(key);
      if (list) list.push(p);
      else this.cells.set(key, [p]);
    }
    this.mirror = mirrorPlaces(field.points, 0, 0, 5e-3 * extent);
  }

  private key(x: number, y: number, z: number): number {
    return (x + 512) * 1_048_576 + (y + 512) * 1024 + (z + 512);
  }

  /**
   * One stamp about a point of the world.
   *
   * @param facing A unit vector towards the eye: only places in reach whose stamp it is are changed when `normals` turn towards it; null
   * goes through.
   * @param normals Unit normals of the places, 3 numbers each.
   * @returns the places that changed
   */
  stamp(
    x: number,
    y: number,
    z: number,
    settings: BrushSettings,
    facing: ArrayLike<number> | null = null,
    normals: ArrayLike<number> | null = null,
  ): number[] {
    const column = this.field.joints.indexOf(settings.joint);
    if (column < 0) return [];
    const locked =
      settings.locked.length === 0 ? null : Uint8Array.from(this.field.joints, (joint) => (settings.locked.includes(joint) ? 1 : 0));
    if (locked?.[column]) return [];
    const changed: number[] = [];
    for (const p of this.near(x, y, z, settings.radius)) {
      if (facing && normals && normals[3 * p] * facing[0] + normals[3 * p + 1] * facing[1] + normals[3 * p + 2] * facing[2] <= 0) continue;
      const square = this.squareTo(p, x, y, z) / settings.radius ** 2;
      if (square >= 1) continue;
      const amount = (1 - square) ** 2;
      this.touch(p, column, amount, settings, locked, changed);
      const twin = settings.symmetric ? this.mirror[p] : -1;
      // A joint of the middle holds both sides: a twin that the stamp reaches itself is not changed twice.
      if (twin < 0 || twin === p || (this.twins[column] === column && this.squareTo(twin, x, y, z) < settings.radius ** 2)) continue;
      this.touch(twin, this.twins[column], amount, settings, locked, changed);
    }
    return changed;
  }

  private squareTo(p: number, x: number, y: number, z: number): number {
    const points = this.standing;
    return (points[3 * p] - x) ** 2 + (points[3 * p + 1] - y) ** 2 + (points[3 * p + 2] - z) ** 2;
  }

  private near(x: number, y: number, z: number, radius: number): number[] {
    const low = [x, y, z].map((value) => Math.floor((value - radius) / this.cell));
    const high = [x, y, z].map((value) => Math.floor((value + radius) / this.cell));
    const found: number[] = [];
    if ((high[0] - low[0] + 1) * (high[1] - low[1] + 1) * (high[2] - low[2] + 1) > this.cells.size)
      for (const list of this.cells.values()) found.push(...list);
    else
      for (let i = low[0]; i <= high[0]; i++)
        for (let j = low[1]; j <= high[1]; j++)
          for (let k = low[2]; k <= high[2]; k++) for (const p of this.cells.get(this.key(i, j, k)) ?? []) found.push(p);
    return found;
  }

  private touch(
    p: number,
    column: number,
    amount: number,
    { mode, strength }: BrushSettings,
    locked: Uint8Array | null,
    changed: number[],
  ): void {
    const { rows, joints } = this.field;
    const width = joints.length;
    const at = p * width;
    const was = rows[at + column];
    let fixed = 0;
    if (locked) for (let j = 0; j < width; j++) if (locked[j] && j !== column) fixed += rows[at + j];
    const most = Math.max(0, 1 - fixed);
    if (mode === 'smooth') {
      const { at: begins, neighbours } = this.rings;
      const degree = begins[p + 1] - begins[p];
      if (degree === 0) return;
      for (let j = 0; j < width; j++) {
        if (locked?.[j]) continue;
        let sum = 0;
        for (let i = begins[p]; i < begins[p + 1]; i++) sum += rows[neighbours[i] * width + j];
        rows[at + j] += strength * amount * (sum / degree - rows[at + j]);
      }
      settleRow(rows, at, width, locked);
    } else {
      const by = { add: strength * amount, take: -strength * amount, set: amount * (strength - was) }[mode];
      const wanted = was + by;
      rows[at + column] = Math.min(most, Math.max(0, wanted));
      let others = 0;
      for (let j = 0; j < width; j++) if (j !== column && !locked?.[j]) others += rows[at + j];
      // What nothing else holds can't be let go of.
      if (others < 1e-9) rows[at + column] = most;
      settleRow(rows, at, width, locked, column);
    }
    changed.push(p);
  }
}
