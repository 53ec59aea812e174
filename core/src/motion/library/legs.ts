import type { Id, Kit, Quat, Vec3 } from '../../document';
import { conjugateQuat, dot, multiplyQuats, type Poser, rotateVector, subtract } from '../../geometry';
import { worldTurn } from '../world-turns';
import { rolesOf, type JointRoles } from './motion-role';
import { turnBetween, twoBone } from './two-bone';

/** Upper, lower and foot; each hangs below the one before. */
export type Leg = [Id, Id, Id];

/** Legs by what their joints are for. */
export function legsOf(kit: Kit, roles: JointRoles = rolesOf(kit)): Leg[] {
  return (['l', 'r'] as const).flatMap((side) =>
    (
      [
        [`thigh_${side}`, `shin_${side}`, `foot_${side}`],
        [`fore_upper_${side}`, `fore_lower_${side}`, `fore_foot_${side}`],
        [`hind_upper_${side}`, `hind_lower_${side}`, `hind_foot_${side}`],
      ] as const
    ).flatMap((names): Leg[] => {
      const [a, b, c] = names.map((name) => roles[name]);
      return a !== undefined && b !== undefined && c !== undefined && kit.parts[b].parent === a && kit.parts[c].parent === b
        ? [[a, b, c]]
        : [];
    }),
  );
}

/** Where a joint is at a moment, how it is turned, and how its parent is; in the world. */
export interface Look {
  at: Vec3;
  turn: Quat;
  above: Quat;
  /** How its parent is turned away from rest. */
  carried: Quat;
}

/** Where a part stands in a pose, world, metres. */
export function placeIn(poser: Poser, part: Id): Vec3 {
  const world = poser.worldOf(part);
  return [world[12], world[13], world[14]];
}

/** @param rest World turns at rest. */
export function looksAt(kit: Kit, poser: Poser, leg: readonly Id[], rest: ReadonlyMap<Id, Quat>): Look[] {
  return leg.map((part) => {
    const { parent } = kit.parts[part];
    const above = worldTurn(poser, parent);
    return {
      at: placeIn(poser, part),
      turn: worldTurn(poser, part),
      above,
      carried: parent === null ? above : multiplyQuats(above, conjugateQuat(rest.get(parent)!)),
    };
  });
}

/** Turns after rest of a leg's three joints with its foot moved by so much, metres in the world; the foot lies as it lay. */
export function stepTo(kit: Kit, [upper, lower, foot]: readonly Id[], [a, b, c]: Look[], shift: Vec3): Quat[] {
  const [first, second] = [subtract(b.at, a.at), subtract(c.at, b.at)];
  const straight = subtract(c.at, a.at);
  const target = c.at.map((value, k) => value + shift[k]) as Vec3;
  const [upperLength, lowerLength] = [Math.hypot(...first), Math.hypot(...second)];
  // The knee goes on bending the way it does; by how much it bends further, it does so forward, as the hips see it.
  const along = dot(first, straight) / (dot(straight, straight) || 1);
  const bend = first.map((value, k) => value - along * straight[k]) as Vec3;
  const reach = Math.min(Math.hypot(...subtract(target, a.at)), upperLength + lowerLength);
  const knee = (upperLength ** 2 - lowerLength ** 2 + reach ** 2) / (2 * reach || 1);
  const before = Math.hypot(...bend);
  const kept = Math.min(1, before / (Math.sqrt(Math.max(0, upperLength ** 2 - knee ** 2)) || 1e-9));
  const forward = rotateVector(a.carried, [0, 0, 1]);
  const pole = bend.map((value, k) => (before > 0 ? (kept * value) / before : 0) + (1 - kept) * forward[k]) as Vec3;
  const { middle, end } = twoBone(a.at, target, upperLength, lowerLength, pole);
  const turnA = multiplyQuats(turnBetween(first, pole, subtract(middle, a.at), pole), a.turn);
  const turnB = multiplyQuats(turnBetween(second, pole, subtract(end, middle), pole), b.turn);
  const spin = (id: Id, above: Quat, turn: Quat) =>
    multiplyQuats(conjugateQuat(kit.parts[id].rotation), multiplyQuats(conjugateQuat(above), turn));
  return [spin(upper, a.above, turnA), spin(lower, turnA, turnB), spin(foot, turnB, c.turn)];
}
