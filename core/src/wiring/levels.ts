import Joi from 'joi';
import {
  childrenOf,
  defineOperation,
  idSchema,
  KitError,
  partOf,
  rowsThrough,
  subtreeOf,
  type BindingRow,
  type Id,
  type Kit,
  type Vec3,
} from '../document';
import { leverKey } from '../formula';
import type { AskedTable } from './evaluate-binding';
import { rowsToTurn } from './table-rows';
import { applyMat3, invertMat3, keepPlaceBelow, linearPart, multiplyMat3, restWorlds, type Mat3 } from '../geometry';

/** A level of a chain, from the ground up. */
export interface Level {
  part: Id;
  /** Bindings that move it; none where it is only carried along. */
  bindings: Id[];
  /** `leverKey` of each. */
  keys: string[];
}

/** What carries a part, from the ground up, and the part itself last. */
export function chainOf(kit: Kit, part: Id): Level[] {
  const chain: Level[] = [];
  for (let at: Id | null = part; at !== null; at = kit.parts[at].parent) {
    const own = Object.values(kit.bindings).filter((binding) => binding.part === at);
    chain.unshift({
      part: at,
      bindings: own.map(({ id }) => id),
      keys: own.map(({ variable, index }) => leverKey(variable, index)),
    });
  }
  return chain;
}

/** A level that can't be moved, and why. */
export class LevelError extends KitError {}

const IDENTITY: Mat3 = [1, 0, 0, 0, 1, 0, 0, 0, 1];
const isIdentity = (m: Mat3) => m.every((value, i) => Math.abs(value - IDENTITY[i]) < 1e-9);

/** Offsets of rows from the axes of one parent into those of another. */
function turnedOffsets(table: AskedTable, between: Mat3): BindingRow[] {
  return rowsThrough(rowsToTurn(table, between), (row) => ({
    ...row,
    offset: applyMat3(between, row.offset).map((value) => Number(value.toFixed(12)) + 0) as Vec3,
  }));
}

/** From the axes of what carries a part now into those of what is to carry it, as both stand at rest. */
function betweenParents(worlds: ReadonlyMap<Id, Float64Array>, from: Id | null, to: Id | null, name: string): Mat3 {
  const axes = (id: Id | null) => (id === null ? IDENTITY : linearPart(worlds.get(id)!));
  const back = invertMat3(axes(to));
  if (!back) throw new LevelError('level-flat', `What is to carry “${name}” has no size along one of its axes. Give it one first.`, name);
  return multiplyMat3(back, axes(from));
}

/**
 * Puts a level of a chain in the place of one that carries it, and that one below it. Every part stays where it is at rest with all that
 * hangs below it; tables go on to move their parts along the same ways of the world.
 *
 * @throws {LevelError} where `above` does not carry the part, or a clip moves one of them along axes that become others
 * @throws {ShearError} where an uneven scale would skew one of them
 */
export const liftLevel = defineOperation<{ part: Id; above: Id }>({
  id: 'wiring.lift-level',
  title: (kit, { part, above }) => `Let “${kit.parts[part]?.name}” carry “${kit.parts[above]?.name}”`,
  args: Joi.object({ part: idSchema.required(), above: idSchema.required() }),
  change(kit, { part: id, above: aboveId }) {
    const part = partOf(kit, id);
    const above = partOf(kit, aboveId);
    if (id === aboveId || !subtreeOf(kit, aboveId).has(id))
      throw new LevelError('level-order', `“${above.name}” does not carry “${part.name}”.`, part.name);
    const worlds = restWorlds(kit);
    const places = new Map<Id, Id | null>([
      [id, above.parent],
      [aboveId, id],
    ]);
    const { order } = above;
    for (const [moved, parent] of places) {
      const { name, parent: before } = kit.parts[moved];
      const between = betweenParents(worlds, before, parent, name);
      if (!isIdentity(between)) {
        const clip = Object.values(kit.clips).find(({ tracks }) =>
          tracks.some((track) => track.part === moved && track.property === 'offset'),
        );
        if (clip)
          throw new LevelError(
            'level-clip',
            `“${clip.name}” moves “${name}” along the axes of what carries it, which would become others. Stop their turn at rest first.`,
            name,
          );
        for (const binding of Object.values(kit.bindings)) if (binding.part === moved) binding.rows = turnedOffsets(binding, between);
      }
    }
    keepPlaceBelow(kit, id, above.parent, worlds);
    keepPlaceBelow(kit, aboveId, id, worlds);
    part.order = order;
    above.order = childrenOf(kit, id).length;
    for (const parent of new Set([part.parent, id])) childrenOf(kit, parent).forEach((child, place) => (kit.parts[child.id].order = place));
    return { parts: [id] };
  },
});
