import { partsInOrder, type Id, type Kit, type Quat, type Vec3 } from '../../document';
import { conjugateQuat, decomposeMatrix, multiplyQuats, quatFromTurn, restWorlds, rotateVector, type Mat4 } from '../../geometry';
import type { LibraryMotion, MotionPose } from './library-motion';
import { rootOf, type JointRoles, type SidedRole } from './motion-role';
import { turnBetween, twoBone } from './two-bone';

/** Legs by their three joints, upper, lower and foot, and which way the knee bends. */
const LEGS: { foot: keyof MotionPose['feet']; joints: [SidedRole, SidedRole, SidedRole]; bends: 1 | -1 }[] = (['l', 'r'] as const).flatMap(
  (side) => [
    {
      foot: `foot_${side}` as const,
      joints: [`thigh_${side}`, `shin_${side}`, `foot_${side}`] as [SidedRole, SidedRole, SidedRole],
      bends: 1 as const,
    },
    {
      foot: `fore_foot_${side}` as const,
      joints: [`fore_upper_${side}`, `fore_lower_${side}`, `fore_foot_${side}`] as [SidedRole, SidedRole, SidedRole],
      bends: 1 as const,
    },
    {
      foot: `hind_foot_${side}` as const,
      joints: [`hind_upper_${side}`, `hind_lower_${side}`, `hind_foot_${side}`] as [SidedRole, SidedRole, SidedRole],
      bends: 1 as const,
    },
  ],
);

/** Roles that a motion moves and a kit does not have. */
export function missingRoles(motion: LibraryMotion, roles: JointRoles): SidedRole[] {
  const pose = motion.pose(0.3);
  const wanted = new Set<SidedRole>([
    ...(Object.keys(pose.turns) as SidedRole[]),
    ...LEGS.filter(({ foot }) => pose.feet[foot]).flatMap(({ joints }) => joints),
  ]);
  return [...wanted].filter((role) => roles[role] === undefined);
}

/** Moments of a cycle at which the reach of legs is looked at. */
const PHASES = 90;

/** A motion's poses as turns of a kit's own joints. */
export class MotionSolver {
  readonly moved: Id[];
  /** Of the hips above the lower of the feet, metres; of a body without legs a third of its span. */
  readonly hipHeight: number;
  private readonly order: Id[];
  private readonly worlds: Map<Id, Mat4>;
  private readonly rest: Map<Id, Quat>;
  private readonly byJoint: Map<Id, SidedRole>;
  private readonly root: Id;
  readonly legs: { foot: keyof MotionPose['feet']; ids: [Id, Id, Id]; bends: number }[];

  constructor(
    private readonly kit: Kit,
    private readonly roles: JointRoles,
    private readonly motion: LibraryMotion,
  ) {
    this.order = partsInOrder(kit).map(({ id }) => id);
    this.worlds = restWorlds(kit);
    this.rest = new Map(this.order.map((id) => [id, decomposeMatrix(this.worlds.get(id)!).rotation]));
    this.byJoint = new Map((Object.entries(roles) as [SidedRole, Id][]).map(([role, id]) => [id, role]));
    this.root = rootOf(roles)!;
    this.legs = LEGS.flatMap(({ foot, joints, bends }) => {
      const ids = joints.map((role) => roles[role]);
      return ids.every((id) => id !== undefined) ? [{ foot, ids: ids as [Id, Id, Id], bends }] : [];
    });
    const at = (id: Id) => this.placeOf(id);
    const feet = this.legs.map(({ ids }) => at(ids[2])[1]);
    const span = Math.max(...this.order.map((id) => at(id)[0])) - Math.min(...this.order.map((id) => at(id)[0]));
    this.hipHeight = feet.length > 0 ? Math.max(1e-3, at(this.root)[1] - Math.min(...feet)) : Math.max(1e-3, span / 3);
    this.moved = this.order.filter((id) => this.byJoint.has(id));
    // As low as the hips have to be for every foot on the ground to be within reach of its leg, whatever the body's proportions.
    for (let i = 0; i < PHASES; i++) this.sink = Math.max(this.sink, this.outOfReach(i / PHASES));
  }

  private sink = 0;

  /** How much lower the root would have to be at a phase, metres. */
  private outOfReach(u: number): number {
    const pose = this.motion.pose(u);
    const h = this.hipHeight;
    return Math.max(
      0,
      ...this.legs.map(({ foot, ids }) => {
        const one = pose.feet[foot];
        if (!one?.planted) return 0;
        const [hip, knee, ankle] = ids.map((id) => this.placeOf(id));
        const length =
          0.998 * (Math.hypot(...knee.map((value, k) => value - hip[k])) + Math.hypot(...ankle.map((value, k) => value - knee[k])));
        const x = ankle[0] + one.at[0] * h - hip[0] - pose.root[0] * h;
        const z = ankle[2] + one.at[2] * h - hip[2] - pose.root[2] * h;
        const tall = hip[1] + pose.root[1] * h - ankle[1] - one.at[1] * h;
        return tall - Math.sqrt(Math.max(0, length * length - x * x - z * z));
      }),
    );
  }

  private placeOf(id: Id): Vec3 {
    const m = this.worlds.get(id)!;
    return [m[12], m[13], m[14]];
  }

  /** Turns after rest of every moved joint, and the root's offset in its parent's axes, at a phase. */
  at(u: number): { spins: Map<Id, Quat>; offset: Vec3 } {
    const { kit, motion, root } = this;
    const pose = motion.pose(u);
    const h = this.hipHeight;
    const travel = motion.travel * u;
    const move: Vec3 = [pose.root[0] * h, pose.root[1] * h - this.sink, pose.root[2] * h];
    // Worlds of this moment: where each part is, and how it is turned.
    const turns = new Map<Id, Quat>();
    const places = new Map<Id, Vec3>();
    const spins = new Map<Id, Quat>();
    const solved = new Map<Id, Quat>();
    for (const id of this.order) {
      const part = kit.parts[id];
      const above = part.parent;
      const parentTurn: Quat = above === null ? [0, 0, 0, 1] : turns.get(above)!;
      const parentRest: Quat = above === null ? [0, 0, 0, 1] : this.rest.get(above)!;
      // How the parent was turned away from rest, in the world.
      const carried = multiplyQuats(parentTurn, conjugateQuat(parentRest));
      const parentPlace: Vec3 = above === null ? [0, 0, 0] : places.get(above)!;
      const lever = rotateVector(
        carried,
        this.placeOf(id).map((value, k) => value - (above === null ? 0 : this.placeOf(above)[k])) as Vec3,
      );
      let place = parentPlace.map((value, k) => value + lever[k]) as Vec3;
      if (id === root) place = place.map((value, k) => value + move[k]) as Vec3;
      places.set(id, place);
      const role = this.byJoint.get(id);
      let turn = multiplyQuats(carried, this.rest.get(id)!);
      if (role !== undefined) {
        const leg = this.legs.find(({ ids, foot }) => ids[0] === id && pose.feet[foot]);
        if (leg) this.solveLeg(leg, pose, place, carried, solved);
        const own = this.ownTurn(pose, role);
        const world = solved.get(id) ?? multiplyQuats(carried, own);
        turn = multiplyQuats(world, this.rest.get(id)!);
        const local = multiplyQuats(conjugateQuat(parentTurn), turn);
        spins.set(id, multiplyQuats(conjugateQuat(part.rotation), local));
      }
      turns.set(id, turn);
    }
    const parent = kit.parts[root].parent;
    const into = parent === null ? ([0, 0, 0, 1] as Quat) : conjugateQuat(this.rest.get(parent)!);
    return { spins, offset: rotateVector(into, [move[0], move[1], move[2] + travel * h]) };
  }

  private ownTurn(pose: MotionPose, role: SidedRole): Quat {
    const [x, y, z] = pose.turns[role] ?? [0, 0, 0];
    const arm = /^(upper_arm|forearm|hand)_([lr])$/.exec(role);
    if (!arm) return quatFromTurn([x, y, z], 'yxz');
    const hang = quatFromTurn([0, 0, -this.restAngle(arm[2] as 'l' | 'r')], 'xyz');
    if (arm[1] === 'upper_arm') return multiplyQuats(quatFromTurn([x, y, z], 'yxz'), hang);
    // What the arm carries was taken down with it.
    return multiplyQuats(conjugateQuat(hang), multiplyQuats(quatFromTurn([x, y, z], 'yxz'), hang));
  }

  /** How far an arm stands out from straight down at rest, degrees about z. */
  private restAngle(side: 'l' | 'r'): number {
    const [upper, lower] = [this.roles[`upper_arm_${side}`], this.roles[`forearm_${side}`] ?? this.roles[`hand_${side}`]];
    if (upper === undefined || lower === undefined) return 0;
    const [a, b] = [this.placeOf(upper), this.placeOf(lower)];
    return (Math.atan2(b[0] - a[0], a[1] - b[1]) * 180) / Math.PI;
  }

  /** Turns of a leg's joints away from rest, in the world, so that its foot stands where the pose says. */
  private solveLeg(
    { foot, ids: [upper, lower, end], bends }: { foot: keyof MotionPose['feet']; ids: [Id, Id, Id]; bends: number },
    pose: MotionPose,
    hip: Vec3,
    carried: Quat,
    out: Map<Id, Quat>,
  ): void {
    const { at, pitch } = pose.feet[foot]!;
    const h = this.hipHeight;
    const rest = [upper, lower, end].map((id) => this.placeOf(id));
    // The ground goes by underneath: the step counts from the root, which travels.
    const target = rest[2].map((value, k) => value + at[k] * h) as Vec3;
    const direction = (a: Vec3, b: Vec3) => b.map((value, k) => value - a[k]) as Vec3;
    const lengths = [Math.hypot(...direction(rest[0], rest[1])), Math.hypot(...direction(rest[1], rest[2]))];
    const forward: Vec3 = [0, 0, bends];
    const pole = rotateVector(carried, forward);
    const { middle, end: reached } = twoBone(hip, target, lengths[0], lengths[1], pole);
    out.set(upper, turnBetween(direction(rest[0], rest[1]), forward, direction(hip, middle), pole));
    out.set(lower, turnBetween(direction(rest[1], rest[2]), forward, direction(middle, reached), pole));
    out.set(end, quatFromTurn([-pitch, 0, 0], 'xyz'));
  }
}
