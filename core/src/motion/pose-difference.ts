import type { Id, Quat } from '../document';
import { angleBetweenQuats, type MeasuredVertices, type Poser } from '../geometry';

/** Where two motions are furthest apart. */
export interface Furthest {
  metres: number;
  degrees: number;
  part: Id | null;
  /** Seconds. */
  time: number;
}

/** Sets a pose at a time, seconds, and works it out. */
export type PoseAt = (time: number) => Poser;

/**
 * Measures two motions of the same parts against one another at every measured vertex, and every part's own turn.
 */
export class PoseDifference {
  private readonly a: Float64Array;
  private readonly b: Float64Array;
  readonly furthest: Furthest = { metres: 0, degrees: 0, part: null, time: 0 };
  /** For each part that moves vertices, itself or as a joint, the greatest way that those are off, metres. */
  readonly byMover = new Map<Id, number>();
  /** For each part the greatest difference of its own turn, degrees. */
  readonly turnOf = new Map<Id, number>();

  constructor(
    private readonly vertices: MeasuredVertices,
    private readonly first: PoseAt,
    private readonly second: PoseAt,
  ) {
    this.a = new Float64Array(3 * vertices.count);
    this.b = new Float64Array(3 * vertices.count);
  }

  /** Looks at a time; gives the greatest way there, metres. */
  look(time: number): number {
    const [one, other] = [this.first(time), this.second(time)];
    this.vertices.place(one, this.a);
    this.vertices.place(other, this.b);
    const { furthest, byMover, turnOf } = this;
    let most = 0;
    this.vertices.eachDifference(this.a, this.b, (part, movers, metres) => {
      most = Math.max(most, metres);
      if (metres > furthest.metres) Object.assign(furthest, { metres, part, time });
      if (metres > 0) for (const mover of movers) if (metres > (byMover.get(mover) ?? 0)) byMover.set(mover, metres);
    });
    one.flat.ids.forEach((id, p) => {
      let same = true;
      for (let c = 4 * p; c < 4 * p + 4; c++) if (one.rotation[c] !== other.rotation[c]) same = false;
      if (same) return;
      const turn = ({ rotation }: Poser): Quat => [rotation[4 * p], rotation[4 * p + 1], rotation[4 * p + 2], rotation[4 * p + 3]];
      const degrees = angleBetweenQuats(turn(one), turn(other));
      if (degrees > (turnOf.get(id) ?? 0)) turnOf.set(id, degrees);
      furthest.degrees = Math.max(furthest.degrees, degrees);
    });
    return most;
  }
}

/** Times between neighbours of a sorted list, at a quarter, a half and three quarters of each; none where they stand closer than `least`. */
export function timesBetween(sorted: readonly number[], least: number): number[] {
  const out: number[] = [];
  for (let i = 0; i + 1 < sorted.length; i++) {
    const span = sorted[i + 1] - sorted[i];
    if (span > least) for (const u of [0.26, 0.5, 0.74]) out.push(sorted[i] + u * span);
  }
  return out;
}
