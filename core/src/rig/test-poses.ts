import type { Axis, Blobs, Id, Kit, Vec3 } from '../document';
import { flattenParts, Poser, posedVertices, restWorlds, transformPoint } from '../geometry';
import { crossings } from './crossings';
import { enclosedVolume } from './pose-figures';
import { headOf, jointsInOrder, tailOf } from './rig-tree';
import { surfaceOf } from './skin-field';

/** Turns of joints about the axes of the world, degrees: what a pose is, whatever the joints' own axes are. */
export interface TestPose {
  id: string;
  title: string;
  turns: { joint: Id; axis: Axis; degrees: number }[];
}

export interface PoseFigures {
  /** Of the skinned parts, as a share of that at rest. */
  volume: number;
  /** Pairs of triangles that run through one another and do not at rest. */
  crossings: number;
  /** Joints in whose surroundings most of them are, the first the most. */
  at: Id[];
  /** Edges of the triangles that run through one another (2000 at most), as posed: 6 numbers an edge, world, metres. */
  outline: Float32Array;
}

/** More triangles that cross are counted, and not drawn. */
const MOST_OUTLINED = 2000;

/** How far a joint is bent, either way, degrees, by what its name says; 45 where it says nothing. */
const LIMITS: [RegExp, number][] = [
  [/head|neck|spine|chest|trunk|hips/i, 30],
  [/forearm|elbow|shin|knee|calf|lower|_2|mid/i, 80],
  [/upper_?arm|thigh/i, 60],
  [/shoulder|clavicle/i, 20],
];

function limitOf(name: string): number {
  return LIMITS.find(([pattern]) => pattern.test(name))?.[1] ?? 45;
}

/** How far a joint bends either way, degrees: as a person said, or by its name. */
export function bendOf(kit: Kit, joint: Id): number {
  const { bendDegrees, name } = kit.parts[joint];
  return bendDegrees ?? limitOf(name);
}

/**
 * Each joint that holds something bent to its limits one by one: forward and back about the side axis, and to the side about the axis
 * across itself.
 *
 * @param joints Those to be bent; all of the kit where left out.
 */
export function bendPoses(kit: Kit, joints: readonly Id[] = jointsInOrder(kit)): TestPose[] {
  const worlds = restWorlds(kit);
  const all = new Set(joints);
  return joints.flatMap((id): TestPose[] => {
    const tail = tailOf(kit, id, all, worlds);
    const head = headOf(worlds, id);
    // A joint that places the whole bends nothing.
    if (kit.parts[id].parent === null || !all.has(kit.parts[id].parent!)) return [];
    const way = tail ? tail.map((value, axis) => Math.abs(value - head[axis])) : [0, 1, 0];
    const along = way.indexOf(Math.max(...way)) as Axis;
    const across = ([0, 1, 2] as Axis[]).filter((axis) => axis !== along);
    const { name } = kit.parts[id];
    const degrees = bendOf(kit, id);
    return across.flatMap((axis) =>
      [degrees, -degrees].map((by) => ({
        id: `${id}/${axis}/${by}`,
        title: `${name} ${by > 0 ? '+' : '−'}${degrees}° about ${'xyz'[axis]}`,
        turns: [{ joint: id, axis, degrees: by }],
      })),
    );
  });
}

/** Joints by the words of their names, with their side. */
function byWords(kit: Kit, joints: readonly Id[]): (pattern: RegExp, sign?: 1 | -1) => Id[] {
  const worlds = restWorlds(kit);
  return (pattern, sign) =>
    joints.filter(
      (id) => pattern.test(kit.parts[id].name) && (sign === undefined || Math.sign(Math.round(headOf(worlds, id)[0] * 1000)) === sign),
    );
}

/** Poses of the whole body: reach, crouch, twist; those for which there are joints by name. */
export function wholePoses(kit: Kit, joints: readonly Id[] = jointsInOrder(kit)): TestPose[] {
  const find = byWords(kit, joints);
  const turn = (ids: Id[], axis: Axis, degrees: number) => ids.map((joint) => ({ joint, axis, degrees }));
  const arms = ([1, -1] as const).flatMap((sign) => turn(find(/upper_?arm/i, sign), 2, sign * 75));
  const reach = [
    ...arms,
    ...turn(find(/^(spine|chest)/i), 0, -8),
    ...turn(find(/fin_root|wing/i, 1), 2, 40),
    ...turn(find(/fin_root|wing/i, -1), 2, -40),
  ];
  const crouch = [
    ...turn(find(/thigh|hind_upper/i), 0, -70),
    ...turn(find(/shin|hind_lower/i), 0, 100),
    ...turn(find(/foot/i), 0, -30),
    ...turn(find(/^(spine|chest)/i), 0, 20),
    ...turn(find(/forearm/i), 0, -60),
  ];
  const twist = [
    ...turn(find(/^spine/i), 1, 25),
    ...turn(find(/^chest/i), 1, 25),
    ...turn(find(/^neck/i), 1, -20),
    ...turn(find(/^head/i), 1, -25),
    ...turn(find(/^tail/i), 1, 15),
  ];
  const poses: TestPose[] = [
    { id: 'reach', title: 'Reach', turns: reach },
    { id: 'crouch', title: 'Crouch', turns: crouch },
    { id: 'twist', title: 'Twist', turns: twist },
  ];
  return poses.filter(({ turns }) => turns.length > 0);
}

/**
 * Puts a pose into a poser, and updates it: each turn, about an axis of the world at rest through the joint's head, is done in the joint's
 * own frame.
 * Rest itself is not touched.
 */
export function strikePose(kit: Kit, poser: Poser, pose: TestPose): void {
  poser.reset();
  const rest = restRotations(kit);
  for (const { joint, axis, degrees } of pose.turns) {
    const index = poser.flat.indexOf.get(joint);
    if (index === undefined) continue;
    // Own = R⁻¹ · turn · R, R the joint's rotation in the world at rest.
    const [x, y, z, w] = rest.get(joint)!;
    const v: Vec3 = [0, 0, 0];
    v[axis] = 1;
    // v turned by the inverse of R.
    const t = [2 * (-y * v[2] + z * v[1]), 2 * (-z * v[0] + x * v[2]), 2 * (-x * v[1] + y * v[0])];
    const own = [
      v[0] + w * t[0] + (-y * t[2] + z * t[1]),
      v[1] + w * t[1] + (-z * t[0] + x * t[2]),
      v[2] + w * t[2] + (-x * t[1] + y * t[0]),
    ];
    const half = (degrees * Math.PI) / 360;
    poser.pose.spin.set([own[0] * Math.sin(half), own[1] * Math.sin(half), own[2] * Math.sin(half), Math.cos(half)], 4 * index);
  }
  poser.update();
}

const rotations = new WeakMap<Kit['parts'], Map<Id, number[]>>();

function restRotations(kit: Kit): Map<Id, number[]> {
  let known = rotations.get(kit.parts);
  if (!known) {
    const all = new Map<Id, number[]>();
    const visit = (id: Id): number[] => {
      const done = all.get(id);
      if (done) return done;
      const part = kit.parts[id];
      const [x, y, z, w] = part.rotation;
      const above = part.parent === null ? [0, 0, 0, 1] : visit(part.parent);
      const [a, b, c, d] = above;
      const product = [
        a * w + d * x + b * z - c * y,
        b * w + d * y + c * x - a * z,
        c * w + d * z + a * y - b * x,
        d * w - a * x - b * y - c * z,
      ];
      all.set(id, product);
      return product;
    };
    Object.keys(kit.parts).forEach(visit);
    rotations.set(kit.parts, (known = all));
  }
  return known;
}

/** Measures poses of the skinned parts of a kit. The first ask works out what is the same for all. */
export class PoseMeter {
  private readonly parts: Id[];
  private readonly indices: Uint32Array;
  private readonly restVolume: number;
  private readonly restCrossings: ReadonlySet<number>;
  private readonly poser: Poser;
  private readonly joints: Id[];
  private readonly middle: Vec3;

  constructor(
    private readonly kit: Kit,
    private readonly blobs: Blobs,
  ) {
    this.parts = Object.values(kit.parts)
      .filter((part) => part.skin !== null && part.mesh !== null)
      .map((part) => part.id);
    this.joints = jointsInOrder(kit);
    this.poser = new Poser(flattenParts(kit));
    const surface = surfaceOf(kit, this.parts, blobs);
    this.indices = surface.indices;
    const sums = [0, 0, 0];
    for (let i = 0; i < surface.positions.length; i++) sums[i % 3] += surface.positions[i];
    this.middle = sums.map((sum) => sum / (surface.positions.length / 3)) as Vec3;
    this.restVolume = enclosedVolume(surface.positions, this.indices, this.middle);
    this.restCrossings = new Set(crossings(surface.positions, this.indices).map(pairKey));
  }

  measure(pose: TestPose): PoseFigures {
    strikePose(this.kit, this.poser, pose);
    const positions = this.parts.map((id) => {
      const all = posedVertices(this.kit, this.blobs, this.kit.parts[id], (other) => this.poser.worldOf(other));
      const count = this.kit.meshes[this.kit.parts[id].mesh!].primitives.reduce(
        (sum, primitive) => sum + primitive.attributes.POSITION.count,
        0,
      );
      return all.subarray(0, 3 * count);
    });
    const all = new Float32Array(positions.reduce((sum, one) => sum + one.length, 0));
    let at = 0;
    for (const one of positions) {
      all.set(one, at);
      at += one.length;
    }
    const found = crossings(all, this.indices).filter((pair) => !this.restCrossings.has(pairKey(pair)));
    return {
      volume: this.restVolume === 0 ? 1 : enclosedVolume(all, this.indices, this.middle) / this.restVolume,
      crossings: found.length,
      at: this.nearestJoints(all, found),
      outline: this.outlineOf(all, new Set(found.flat())),
    };
  }

  private outlineOf(positions: Float32Array, crossed: ReadonlySet<number>): Float32Array {
    const triangles = [...crossed].slice(0, MOST_OUTLINED);
    const out = new Float32Array(18 * triangles.length);
    triangles.forEach((triangle, i) => {
      for (let side = 0; side < 3; side++)
        [side, (side + 1) % 3].forEach((corner, end) => {
          const vertex = 3 * this.indices[3 * triangle + corner];
          out.set(positions.subarray(vertex, vertex + 3), 18 * i + 6 * side + 3 * end);
        });
    });
    return out;
  }

  private nearestJoints(positions: Float32Array, pairs: readonly [number, number][]): Id[] {
    const counts = new Map<Id, number>();
    for (const [triangle] of pairs.slice(0, 500)) {
      const corner = 3 * this.indices[3 * triangle];
      let best: Id | null = null;
      let least = Infinity;
      for (const id of this.joints) {
        const head = transformPoint(this.poser.worldOf(id), [0, 0, 0]);
        const off = Math.hypot(head[0] - positions[corner], head[1] - positions[corner + 1], head[2] - positions[corner + 2]);
        if (off < least) [least, best] = [off, id];
      }
      if (best !== null) counts.set(best, (counts.get(best) ?? 0) + 1);
    }
    return [...counts].sort((a, b) => b[1] - a[1]).map(([id]) => id);
  }
}

const pairKey = ([a, b]: [number, number]) => a * 2 ** 26 + b;
