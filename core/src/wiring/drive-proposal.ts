import type { Axis, Id, Kit } from '../document';
import { leverKey } from '../formula';
import { SIDE_WAYS, type Probed } from './directions';
import { evenShares, type DriveStop } from './chain-drive';

/** About which axis of the kit a variable turns what follows it, and whether the right-handed way where it rises; x where nothing says. */
export function axisOfVariable({ direction }: Pick<Probed, 'direction'>): { axis: Axis; sign: 1 | -1 } {
  if (!direction || !('from' in direction)) return { axis: 0, sign: 1 };
  const way = SIDE_WAYS[direction.from];
  const axis = way.findIndex((value) => value !== 0) as Axis;
  // Seen from a side, counter-clockwise is the right-handed way about the axis towards it.
  const sign = Math.sign(way[axis]) * (direction.goes === 'clockwise' ? -1 : 1);
  return { axis, sign: sign < 0 ? -1 : 1 };
}

/** A drive’s ends, where the variable counts degrees: turned by as much as it says. */
export function endStops(variable: Probed): DriveStop[] {
  const { min, max, neutral } = variable;
  const { sign } = axisOfVariable(variable);
  return [min, max].filter((value) => value !== neutral).map((value) => ({ value, degrees: sign * (value - neutral) }));
}

/** Parts of a choice in the order in which they carry one another: those nearest to the root first. */
export function inChainOrder(kit: Kit, parts: readonly Id[]): Id[] {
  const depth = (id: Id): number => {
    let levels = 0;
    for (let above = kit.parts[id].parent; above !== null; above = kit.parts[above].parent) levels++;
    return levels;
  };
  return [...parts].sort((a, b) => depth(a) - depth(b));
}

/** Shares of a turn that the parts have by their tables as they are; even ones where not all of them follow the variable. */
export function sharesOfTables(kit: Kit, parts: readonly Id[], variable: string, index: number | null): number[] {
  const key = leverKey(variable, index);
  const most = parts.map((part) => {
    const binding = Object.values(kit.bindings).find((one) => one.part === part && leverKey(one.variable, one.index) === key);
    return Math.max(0, ...(binding?.rows ?? []).flatMap(({ turn }) => turn.map(Math.abs)));
  });
  const sum = most.reduce((a, b) => a + b, 0);
  return most.every((one) => one > 0) ? most.map((one) => one / sum) : evenShares(parts.length);
}

/** Shares with one of them set: the others make up the rest, as they stood to one another. */
export function withShare(shares: readonly number[], at: number, share: number): number[] {
  const rest = shares.reduce((sum, one, i) => (i === at ? sum : sum + one), 0);
  return shares.map((one, i) => (i === at ? share : (one / rest) * (1 - share)));
}
