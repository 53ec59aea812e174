import type { Blobs, Clip, Id, Kit, Quat, Vec3 } from '../../document';
import {
  conjugateQuat,
  flattenParts,
  invertMatrix,
  multiplyQuats,
  Poser,
  quatFromTurn,
  reachOf,
  rotateVector,
  type FlatParts,
  type Mat4,
} from '../../geometry';
import { fineFrames, type Samples } from '../frames';
import { compileClip, sampleClip } from '../sampler';
import { quatInMirror } from '../tools/mirrored-keys';
import { allowance } from '../tools/thin-tracks';
import { worldTurns } from '../world-turns';
import { MotionFitError, type FitChoices } from './fit-choices';
import { legsOf, looksAt, placeIn, stepTo, type Leg } from './legs';
import { rolesOf, rootOf, type JointRoles } from './motion-role';
import { LOOKS, middleOf, shiftsOnto, type Planted } from './planted-feet';
import { writeOffsets, writeTurns } from './write-samples';

/** What a vertex, and what a turn may be off by. */
const WITHIN = { metres: 0.0012, degrees: 0.16 };
/** Legs whose feet are where they are to be within this are left as they are, metres. */
const UNMOVED = 1e-4;

/** A clip's moments as turns and offsets after rest, to be changed and written back. */
export class MovingBody {
  readonly legs: Leg[];
  private readonly roles: JointRoles;
  private readonly flat: FlatParts;
  private readonly poser: Poser;
  private readonly samples: Samples;
  private readonly times: number[];
  private readonly spins: Quat[][];
  private readonly offsets: Vec3[][];
  private readonly sizes: Float64Array[];
  private readonly restTurns: Quat[];
  private readonly restPlaces: Map<Id, Vec3>;
  private readonly turned = new Set<Id>();
  private readonly moved = new Set<Id>();

  constructor(
    private readonly kit: Kit,
    private readonly clip: Clip,
    blobs: Blobs,
  ) {
    this.roles = rolesOf(kit);
    this.legs = legsOf(kit, this.roles);
    this.flat = flattenParts(kit);
    this.poser = new Poser(this.flat);
    this.restTurns = worldTurns(this.poser);
    this.restPlaces = new Map(this.flat.ids.map((id) => [id, placeIn(this.poser, id)]));
    this.samples = fineFrames(0, clip.lengthSeconds, clip.rate, { perSecond: LOOKS });
    this.times = this.samples.times;
    const compiled = compileClip(clip, this.flat, blobs);
    const { poser, flat } = this;
    const moments = this.times.map((time) => {
      poser.reset();
      sampleClip(compiled, time, poser.pose);
      poser.update();
      return {
        spins: flat.ids.map((_, p) => multiplyQuats(conjugateQuat(quatAt(flat.rotation, p)), quatAt(poser.rotation, p))),
        offsets: flat.ids.map((_, p): Vec3 => [poser.pose.offset[3 * p], poser.pose.offset[3 * p + 1], poser.pose.offset[3 * p + 2]]),
        size: poser.pose.size.slice(),
      };
    });
    this.spins = moments.map(({ spins }) => spins);
    this.offsets = moments.map(({ offsets }) => offsets);
    this.sizes = moments.map(({ size }) => size);
  }

  /** Left for right across the plane x = 0: what a part does, its twin does in the mirror. */
  mirror(twins: ReadonlyMap<Id, Id>): void {
    const { flat, restTurns } = this;
    const twin = flat.ids.map((id) => flat.indexOf.get(twins.get(id) ?? id)!);
    const tracked = (properties: readonly string[]) =>
      new Set(this.clip.tracks.filter(({ property }) => properties.includes(property)).map(({ part }) => flat.indexOf.get(part)));
    const [turning, moving] = [tracked(['turn', 'rotation']), tracked(['offset'])];
    const restAbove = (p: number): Quat => (flat.parent[p] < 0 ? [0, 0, 0, 1] : restTurns[flat.parent[p]]);
    this.times.forEach((_, i) => {
      this.load(i);
      const before = worldTurns(this.poser);
      const after: Quat[] = [];
      const [spins, offsets, size] = [[...this.spins[i]], [...this.offsets[i]], this.sizes[i].slice()];
      flat.ids.forEach((id, p) => {
        const above: Quat = flat.parent[p] < 0 ? [0, 0, 0, 1] : after[flat.parent[p]];
        const rest = quatAt(flat.rotation, p);
        const q = twin[p];
        const free = turning.has(q);
        after[p] = free
          ? multiplyQuats(quatInMirror(multiplyQuats(before[q], conjugateQuat(restTurns[q])), 0), restTurns[p])
          : multiplyQuats(above, rest);
        if (free || turning.has(p)) {
          spins[p] = multiplyQuats(conjugateQuat(rest), multiplyQuats(conjugateQuat(above), after[p]));
          this.turned.add(id);
        }
        if (moving.has(q) || moving.has(p)) {
          const [x, y, z] = rotateVector(restAbove(q), this.offsets[i][q]);
          offsets[p] = rotateVector(conjugateQuat(restAbove(p)), [-x, y, z]);
          this.moved.add(id);
        }
        size.set(this.sizes[i].subarray(3 * q, 3 * q + 3), 3 * p);
      });
      [this.spins[i], this.offsets[i], this.sizes[i]] = [spins, offsets, size];
    });
  }

  /** Turns both arms out from the body, about what is forward for what they hang on. @param degrees Each. */
  spreadArms(degrees: number): void {
    const arms = (['upper_arm_l', 'upper_arm_r'] as const).flatMap((role) =>
      this.roles[role] === undefined ? [] : [{ arm: this.roles[role], side: role === 'upper_arm_l' ? 1 : -1 }],
    );
    if (arms.length === 0)
      throw new MotionFitError(
        'No joint of this kit is known to be an upper arm. Say which one is, or name it so, or leave the arms as they are.',
      );
    for (const { arm, side } of arms) {
      const p = this.flat.indexOf.get(arm)!;
      const above = this.flat.parent[p];
      // To the side where it is; one in the middle to the side that it is of.
      const out = quatFromTurn([0, 0, (Math.sign(this.restPlaces.get(arm)![0]) || side) * degrees], 'xyz');
      this.turned.add(arm);
      this.times.forEach((_, i) => {
        this.load(i);
        const turns = worldTurns(this.poser);
        const turnAbove: Quat = above < 0 ? [0, 0, 0, 1] : turns[above];
        const carried = above < 0 ? turnAbove : multiplyQuats(turnAbove, conjugateQuat(this.restTurns[above]));
        const turn = multiplyQuats(carried, multiplyQuats(out, multiplyQuats(conjugateQuat(carried), turns[p])));
        this.spins[i][p] = multiplyQuats(conjugateQuat(quatAt(this.flat.rotation, p)), multiplyQuats(conjugateQuat(turnAbove), turn));
      });
    }
  }

  /**
   * Longer or shorter steps, and hips higher or lower: moves the root, and puts the feet where they are to be then.
   *
   * @param kept Stands whose place is kept. @param stands During which a foot has to reach the ground.
   */
  step({ stride, hipHeight }: FitChoices, kept: readonly Planted[], stands: readonly Planted[]): void {
    const { kit, legs, poser, times, restPlaces } = this;
    const moves = stride !== 1 || hipHeight !== 0;
    const root = rootOf(this.roles);
    if (legs.length === 0 || (moves && root === undefined))
      throw new MotionFitError(
        'Hips and legs of three joints are needed for this, and not all of them are known. Say which they are, or name them so, or leave the steps as they are.',
      );
    const rest = new Map(this.flat.ids.map((id, p) => [id, this.restTurns[p]]));
    const rootAt: Vec3 = root === undefined ? [0, 0, 0] : restPlaces.get(root)!;
    const height = Math.max(1e-3, rootAt[1] - Math.min(...legs.map(([, , foot]) => restPlaces.get(foot)![1])));
    /** Steps longer or shorter, counted from where something is at rest. */
    const strided = (place: Vec3, rest: Vec3): Vec3 => [
      rest[0] + stride * (place[0] - rest[0]),
      place[1],
      rest[2] + stride * (place[2] - rest[2]),
    ];
    const roots: Vec3[] = [];
    const hips: Vec3[][] = legs.map(() => []);
    const feet: Vec3[][] = legs.map(() => []);
    const lengths: number[] = [];
    times.forEach((_, i) => {
      this.load(i);
      const now = root === undefined ? rootAt : placeIn(poser, root);
      roots.push(strided(now, rootAt).map((value, k) => value + (k === 1 ? hipHeight * height : 0) - now[k]) as Vec3);
      legs.forEach(([upper, lower, foot], l) => {
        const [a, b, c] = [upper, lower, foot].map((part) => placeIn(poser, part));
        lengths[l] = far(a, b) + far(b, c);
        hips[l].push(a.map((value, k) => value + roots[i][k]) as Vec3);
        feet[l].push(strided(c, restPlaces.get(foot)!));
      });
    });
    const spansOf = (list: readonly Planted[], foot: Id) =>
      list
        .filter((one) => one.foot === foot)
        .map((one) => ({ lift: one.lift, span: [nearest(times, one.from), nearest(times, one.to)] as [number, number] }));
    legs.forEach(([, , foot], l) => {
      const spans = spansOf(kept, foot);
      const anchors = spans.map(({ span, lift }): Vec3 => {
        const [x, , z] = middleOf(feet[l], span);
        return [x, restPlaces.get(foot)![1] + lift, z];
      });
      const shifts = shiftsOnto(
        feet[l],
        times,
        spans.map(({ span }) => span),
        anchors,
      );
      feet[l] = feet[l].map((place, i) => place.map((value, k) => value + shifts[i][k]) as Vec3);
    });
    // As low as the hips have to be for every foot that stands to be within reach of its leg.
    let sink = 0;
    legs.forEach(([, , foot], l) => {
      for (const { span } of spansOf(stands, foot))
        for (let i = span[0]; i <= span[1]; i++) {
          const [x, y, z] = hips[l][i].map((value, k) => value - feet[l][i][k]);
          sink = Math.max(sink, y - Math.sqrt(Math.max(0, (0.998 * lengths[l]) ** 2 - x * x - z * z)));
        }
    });
    if (root !== undefined && (moves || sink > 0))
      this.moveBy(root, (i) => roots[i].map((value, k) => value - (k === 1 ? sink : 0)) as Vec3);
    times.forEach((_, i) => {
      this.load(i);
      legs.forEach((leg, l) => {
        const looks = looksAt(kit, poser, leg, rest);
        const shift = feet[l][i].map((value, k) => value - looks[2].at[k]) as Vec3;
        stepTo(kit, leg, looks, shift).forEach((spin, k) => (this.spins[i][this.flat.indexOf.get(leg[k])!] = spin));
        if (Math.hypot(...shift) > UNMOVED) leg.forEach((part) => this.turned.add(part));
      });
    });
  }

  /** Takes the travel over the ground out, evenly in time: the root ends where it began. */
  stay(): void {
    const root = rootOf(this.roles);
    if (root === undefined)
      throw new MotionFitError(
        'No joint of this kit is known to be the hips or the trunk. Say which it is, or name it so, or let the motion go along.',
      );
    const last = this.times.length - 1;
    const [from, to] = [0, last].map((i) => {
      this.load(i);
      return placeIn(this.poser, root);
    });
    this.moveBy(root, (i) => [(-(to[0] - from[0]) * i) / last, 0, (-(to[2] - from[2]) * i) / last]);
  }

  write(clip: Clip, blobs: Blobs): void {
    const rowsOf = <T>(rows: readonly T[][], part: Id): T[] => rows.map((row) => row[this.flat.indexOf.get(part)!]);
    for (const part of this.turned)
      writeTurns(this.kit, clip, part, this.samples, rowsOf(this.spins, part), allowance('turn', reachOf(this.kit, blobs, part), WITHIN));
    for (const part of this.moved) writeOffsets(clip, part, this.samples, rowsOf(this.offsets, part), WITHIN.metres / 2);
  }

  /** Moves a part, and what is below it, at every moment by so much; metres in the world. */
  private moveBy(part: Id, by: (i: number) => Vec3): void {
    const p = this.flat.indexOf.get(part)!;
    this.moved.add(part);
    this.times.forEach((_, i) => {
      this.load(i);
      const local = this.intoParent(p, by(i));
      this.offsets[i][p] = this.offsets[i][p].map((value, k) => value + local[k]) as Vec3;
    });
  }

  /** A way in the world in the axes of a part's parent, as it is posed. */
  private intoParent(p: number, way: Vec3): Vec3 {
    const above = this.flat.parent[p];
    const inverse =
      above < 0 ? null : invertMatrix(Float64Array.from(this.poser.world.subarray(16 * above, 16 * above + 16)) as unknown as Mat4);
    if (!inverse) return way;
    return [0, 1, 2].map((k) => inverse[k] * way[0] + inverse[4 + k] * way[1] + inverse[8 + k] * way[2]) as Vec3;
  }

  private load(i: number): void {
    const { pose } = this.poser;
    pose.turn.fill(0);
    pose.size.set(this.sizes[i]);
    this.spins[i].forEach((spin, p) => pose.spin.set(spin, 4 * p));
    this.offsets[i].forEach((offset, p) => pose.offset.set(offset, 3 * p));
    this.poser.update();
  }
}

const quatAt = (values: ArrayLike<number>, p: number): Quat => [values[4 * p], values[4 * p + 1], values[4 * p + 2], values[4 * p + 3]];
const far = (a: Vec3, b: Vec3) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** Index of the time that is nearest; times are evenly apart. */
function nearest(times: readonly number[], time: number): number {
  const step = times.length > 1 ? times[1] - times[0] : 1;
  return Math.min(times.length - 1, Math.max(0, Math.round(time / step)));
}
