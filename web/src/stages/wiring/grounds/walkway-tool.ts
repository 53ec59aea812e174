import type { Footprint, Id, Vec3, Walkway } from '@itchkit/core/document';
import { sightAt, type BenchTool, type ToolPoint } from '../../../bench/bench-tool';
import { sideMiddles } from './grounds-marks';
import type { GroundsUi } from './grounds-state';

/** Pixels within which a knot or a handle is taken hold of. */
const REACH = 12;
/** What is steeper than this is a wall: a knot is not put onto it. */
const FLAT = 0.7;

/** What the tool works on, and what it does. */
export interface WayWork {
  walkway: Walkway | undefined;
  footprint: Footprint | null;
  ui: GroundsUi;
  set(change: Partial<GroundsUi>): void;
  put(at: Vec3, joined: Id | null): void;
  move(knot: Id, at: Vec3): void;
  tiles(footprint: Pick<Footprint, 'low' | 'high'>): void;
}

/** Where the line of sight meets a level plane; null where it runs along or away from it. */
export function onLevel(at: Pick<ToolPoint, 'camera' | 'place'>, y: number): Vec3 | null {
  const { from, direction } = sightAt(at);
  const way = (y - from[1]) / direction[1];
  return way > 0 && Number.isFinite(way) ? [from[0] + way * direction[0], y, from[2] + way * direction[2]] : null;
}

/** What can be walked on under the pointer: a level surface, else the ground. */
const walkedAt = (at: ToolPoint, otherwise: number): Vec3 | null =>
  at.hit && at.hit.normal[1] > FLAT ? at.hit.point : onLevel(at, otherwise);

/** Chooses and drags knots, puts them where that is asked for, and draws the tiles larger or smaller by the middles of their sides. */
export function walkwayTool(work: () => WayWork): BenchTool {
  let held: { knot: Id; from: Vec3; moved: boolean } | { side: number } | null = null;
  const knotAt = (at: ToolPoint) => {
    const near = (work().walkway?.knots ?? []).map((knot) => ({ knot, far: at.pixelsTo(knot.at) })).filter(({ far }) => far <= REACH);
    return near.sort((a, b) => a.far - b.far)[0]?.knot;
  };
  return {
    quiet: true,
    down(at) {
      const { ui, set, footprint, put } = work();
      const knot = knotAt(at);
      if (knot) {
        held = { knot: knot.id, from: knot.at, moved: false };
        const others = at.shift ? ui.knots.filter((id) => id !== knot.id) : [];
        set({ knots: [...others, knot.id] });
        return true;
      }
      if (ui.putting) {
        const there = walkedAt(at, 0);
        if (!there) return false;
        put(there, ui.knots.at(-1) ?? null);
        held = null;
        return true;
      }
      const side = footprint ? sideMiddles(footprint).findIndex((middle) => at.pixelsTo(middle) <= REACH) : -1;
      if (side < 0) return false;
      held = { side };
      return true;
    },
    move(at) {
      const { set, footprint } = work();
      if (!held) return;
      if ('knot' in held) {
        const there = walkedAt(at, held.from[1]);
        if (there) {
          held.moved = true;
          set({ dragged: { knot: held.knot, at: there } });
        }
        return;
      }
      const there = onLevel(at, 0);
      if (!there || !footprint) return;
      const [low, high]: Vec3[] = [[...footprint.low], [...footprint.high]];
      const axis = held.side < 2 ? 0 : 2;
      if (held.side % 2 === 0) low[axis] = Math.min(there[axis], high[axis] - 1e-3);
      else high[axis] = Math.max(there[axis], low[axis] + 1e-3);
      set({ tiles: { low, high } });
    },
    up() {
      const { ui, set, move, tiles } = work();
      if (held && 'knot' in held && held.moved && ui.dragged) move(held.knot, ui.dragged.at);
      if (held && 'side' in held && ui.tiles) tiles(ui.tiles);
      held = null;
      set({ dragged: null, tiles: null });
    },
  };
}
