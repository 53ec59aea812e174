import Joi from 'joi';
import { defineOperation, idSchema, newId, partsInOrder, type Blobs, type Id, type Kit, type KeyTrack, type Quat, type Vec3 } from '../../document';
import { conjugateQuat, decomposeMatrix, multiplyQuats, quatFromTurn, reachOf, restWorlds, rotateVector, turnNearest, type Mat4 } from '../../geometry';
import { allowance } from '../tools/thin-tracks';
import { curveKeys } from '../tools/fit-keys';
import { BODY_MOTIONS } from './body-motions';
import { CREATURE_MOTIONS } from './creature-motions';
import { MotionFitError } from './fit-choices';
import type { LibraryMotion, MotionPose } from './library-motion';
import { rolesOf, rootOf, type JointRoles, type SidedRole } from './motion-role';
import type { Planted } from './planted-feet';
import { turnBetween, twoBone } from './two-bone';

/** Legs by their three joints, upper, lower and foot, and which way the knee bends. */
const LEGS: { foot: keyof MotionPose['feet']; joints: [SidedRole, SidedRole, SidedRole]; bends: 1 | -1 }[] = (['l', 'r'] as const).flatMap((side) => [
  { foot: `foot_${side}` as const, joints: [`thigh_${side}`, `shin_${side}`, `foot_${side}`] as [SidedRole, SidedRole, SidedRole], bends: 1 as const },
  { foot: `fore_foot_${side}` as const, joints: [`fore_upper_${side}`, `fore_lower_${side}`, `fore_foot_${side}`] as [SidedRole, SidedRole, SidedRole], bends: 1 as const },
  { foot: `hind_foot_${side}` as const, joints: [`hind_upper_${side}`, `hind_lower_${side}`, `hind_foot_${side}`] as [SidedRole, SidedRole, SidedRole], bends: 1 as const },
]);

const libraryMotion = (id: string): LibraryMotion | undefined => [...BODY_MOTIONS, ...CREATURE_MOTIONS].find((motion) => motion.id === id);

/** Roles that a motion moves and a kit does not have. */
export function missingRoles(motion: LibraryMotion, roles: JointRoles): SidedRole[] {
  const pose = motion.pose(0.3);
  const wanted = new Set<SidedRole>([...(Object.keys(pose.turns) as SidedRole[]), ...LEGS.filter(({ foot }) => pose.feet[foot]).flatMap(({ joints }) => joints)]);
  return [...wanted].filter((role) => roles[role] === undefined);
}

/**
 * Puts a motion of the library on a kit's skeleton, as a new clip of plain keys: turns relative to rest in the world, each on top of its parent's;
 * the root's moves in heights of its hips; and legs solved as two bones, so that a planted foot stays on its place (to the tolerance of the keys).
 */
export const putMotion = defineOperation<{ motion: string; clip: Id; name: string; rate: number }>({
  id: 'motion.put',
  title: (_, { motion, name }) => `Put “${libraryMotion(motion)?.title ?? motion}” on the skeleton as “${name}”`,
  args: Joi.object({
    motion: Joi.string().required(),
    clip: idSchema.required(),
    name: Joi.string().min(1).max(200).required(),
    rate: Joi.number().min(1).max(240).required(),
  }),
  change(kit, { motion: id, clip, name, rate }, blobs) {
    const motion = libraryMotion(id);
    if (!motion) throw new MotionFitError(`There is no motion “${id}” in the library. Choose another one.`);
    const roles = rolesOf(kit);
    if (rootOf(roles) === undefined)
      throw new MotionFitError(`No joint of this kit is known to be the ${motion.skeleton === 'fins' ? 'trunk' : 'hips'}. Say which one is, or name it so, or fit a skeleton first.`);
    const order = Math.max(-1, ...Object.values(kit.clips).map((one) => one.order)) + 1;
    kit.clips[clip] = { id: clip, name, order, lengthSeconds: motion.seconds, rate, loop: motion.loop, tracks: motionTracks(kit, motion, roles, blobs) };
  },
});

/** When and how high the feet of a motion stand on a body, as it says itself. */
export function plantedIn(motion: LibraryMotion, kit: Kit): Planted[] {
  const solver = new MotionSolver(kit, rolesOf(kit), motion);
  const count = sampleCount(motion);
  return solver.legs.flatMap(({ foot, ids }) => {
    const out: Planted[] = [];
    let open: Planted | null = null;
    for (let i = 0; i <= count; i++) {
      const pose = motion.pose(i / count).feet[foot];
      const time = (motion.seconds * i) / count;
      if (!pose?.planted) open = null;
      else if (open) open.to = time;
      else out.push((open = { foot: ids[2], from: time, to: time, lift: pose.at[1] * solver.hipHeight }));
    }
    return out.filter(({ from, to }) => to > from);
  });
}

/** Samples a second. */
const SAMPLES = 120;
/** Moments of a cycle at which the reach of legs is looked at. */
const PHASES = 90;

const sampleCount = ({ seconds }: LibraryMotion) => Math.max(30, Math.round(SAMPLES * seconds));

function motionTracks(kit: Kit, motion: LibraryMotion, roles: JointRoles, blobs: Blobs): KeyTrack[] {
  const solver = new MotionSolver(kit, roles, motion);
  const count = sampleCount(motion);
  const times = Array.from({ length: count + 1 }, (_, i) => (motion.seconds * i) / count);
  const frames = times.map((_, i) => solver.at(i / count));
  const root = rootOf(roles)!;
  const tracks: KeyTrack[] = [];
  const add = (part: Id, property: 'offset' | 'turn', axis: number, values: number[], within: number) => {
    if (values.every((value) => Math.abs(value) < 1e-6)) return;
    tracks.push({ kind: 'keys', id: newId(), part, property, axis, keys: curveKeys(times, values, within) });
  };
  const height = solver.hipHeight;
  for (const axis of [0, 1, 2])
    add(
      root,
      'offset',
      axis,
      frames.map(({ offset }) => offset[axis]),
      0.001 * height,
    );
  for (const id of solver.moved) {
    const { turnOrder } = kit.parts[id];
    let near: Vec3 = [0, 0, 0];
    const turns = frames.map(({ spins }) => (near = turnNearest(spins.get(id)!, turnOrder, near)));
    const within = allowance('turn', reachOf(kit, blobs, id) || height / 2, { metres: 0.0012 * height, degrees: 0.2 });
    for (const axis of [0, 1, 2])
      add(
        id,
        'turn',
        axis,
        turns.map((turn) => turn[axis]),
        within,
      );
  }
  return tracks;
}

/** A motion's poses as turns of a kit's own joints. */
class MotionSolver {
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
        const length = 0.998 * (Math.hypot(...knee.map((value, k) => value - hip[k])) + Math.hypot(...ankle.map((value, k) => value - knee[k])));
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
      const lever = rotateVector(carried, this.placeOf(id).map((value, k) => value - (above === null ? 0 : this.placeOf(above)[k])) as Vec3);
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
