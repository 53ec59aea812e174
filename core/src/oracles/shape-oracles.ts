import { all, create } from 'mathjs/number';
import { Triangle, Vector3 } from 'three';
import { callOf, readArray, type Axis, type Id, type Kit, type MemoryBlobs, type Vec3 } from '../document';
import { readFormula } from '../formula';
import { runCall } from '../operations';
import { sweptParts } from '../grounds';
import { mirrorParts, reparentParts, splitByPlane } from '../shape';
import { allowed, furthestOf, type Oracle } from './oracle';
import { plainPose, plainVertices } from './plain-poser';
import type { Random } from './random';
import { randomKit } from './random-kits';

const restOf = (kit: Kit, blobs: MemoryBlobs) => plainVertices(kit, blobs, plainPose(kit, blobs, null, 0));

/** Every part's own tree, for tools that take the topmost of what is chosen. */
function below(kit: Kit, id: Id): Id[] {
  return [id, ...Object.values(kit.parts).flatMap((part) => (part.parent === id ? below(kit, part.id) : []))];
}

const mirroring: Oracle = {
  id: 'mirror-parts',
  about: 'Mirrored copies stand where the mirror shows the parts, or the tool refuses by name',
  against: 'every vertex reflected by hand',
  promised: 2e-3,
  unit: 'mm',
  cases: 60,
  deviation(seed) {
    const { kit, blobs, random } = randomKit(seed, { skins: false });
    const top = random.oneOf(Object.keys(kit.parts));
    const axis = random.whole(0, 2) as Axis;
    const at = random.between(-1, 1);
    const after = allowed(() => runCall(kit, callOf(mirrorParts, { parts: [top], axis, at }), blobs).kit);
    if (!after) return 0;
    const before = restOf(kit, blobs);
    const now = restOf(after, blobs);
    const copies = Object.values(after.parts).filter(({ id }) => !kit.parts[id]);
    const reflected = below(kit, top).flatMap((id) => {
      const points = before.get(id) ?? [];
      return points.map((value, i) => (i % 3 === axis ? 2 * at - value : value));
    });
    return 1000 * setsApart(triples(reflected), triples(copies.flatMap(({ id }) => now.get(id) ?? [])));
  },
};

const triples = (numbers: readonly number[]): Vec3[] =>
  Array.from({ length: numbers.length / 3 }, (_, i) => [numbers[3 * i], numbers[3 * i + 1], numbers[3 * i + 2]]);

/** The greatest way from a point of one list to the nearest of the other, either way; infinite where they are not as many. */
function setsApart(a: readonly Vec3[], b: readonly Vec3[]): number {
  if (a.length !== b.length) return Infinity;
  const oneWay = (from: readonly Vec3[], to: readonly Vec3[]) =>
    Math.max(0, ...from.map((p) => Math.min(...to.map((q) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])))));
  return Math.max(oneWay(a, b), oneWay(b, a));
}

/** The corners of every triangle of a part's mesh, in its own axes. */
function trianglesOf(kit: Kit, blobs: MemoryBlobs, id: Id): Triangle[] {
  return kit.meshes[kit.parts[id].mesh!].primitives.flatMap(({ attributes, indices }) => {
    const positions = readArray<Float32Array>(blobs, attributes.POSITION);
    const corner = (v: number) => new Vector3().fromArray(positions, 3 * v);
    const list = readArray<Uint32Array>(blobs, indices);
    return Array.from(
      { length: list.length / 3 },
      (_, t) => new Triangle(corner(list[3 * t]), corner(list[3 * t + 1]), corner(list[3 * t + 2])),
    );
  });
}

const areaOf = (triangles: readonly Triangle[]) => triangles.reduce((sum, triangle) => sum + triangle.getArea(), 0);

const cutting: Oracle = {
  id: 'plane-cut',
  about: 'A cut along a plane loses no surface, and each half lies on its side: areas by share, and how far beyond, metres',
  against: 'areas and heights of three.js’s triangles',
  promised: 1e-5,
  unit: 'share',
  cases: 60,
  deviation(seed) {
    const { kit, blobs, random } = randomKit(seed, { skins: false });
    const shown = Object.values(kit.parts).filter(({ mesh }) => mesh !== null);
    if (shown.length === 0) return 0;
    const { id } = random.oneOf(shown);
    const at = random.vector(0.2);
    const normal = random.vector(1);
    const call = callOf(splitByPlane, { part: id, at, normal, id: 'half', name: 'half', place: 'beside', pivot: 'keep' });
    const after = allowed(() => runCall(kit, call, blobs).kit);
    if (!after) return 0;
    const [stays, goes] = [trianglesOf(after, blobs, id), trianglesOf(after, blobs, 'half')];
    const whole = areaOf(trianglesOf(kit, blobs, id));
    const way = new Vector3(...normal).normalize();
    const height = (corner: Vector3) =>
      corner
        .clone()
        .sub(new Vector3(...at))
        .dot(way);
    const heights = (triangles: readonly Triangle[]) => triangles.flatMap(({ a, b, c }) => [a, b, c].map(height));
    const beyond = Math.max(0, ...heights(stays), ...heights(goes).map((value) => -value));
    return Math.max(Math.abs(areaOf(stays) + areaOf(goes) - whole) / whole, beyond);
  },
};

const hanging: Oracle = {
  id: 'reparent',
  about: 'A part hung below another one moves nothing at rest, or the tool refuses by name',
  against: 'a plain poser',
  promised: 2e-3,
  unit: 'mm',
  cases: 60,
  deviation(seed) {
    const { kit, blobs, random } = randomKit(seed, { skins: false });
    const ids = Object.keys(kit.parts);
    const call = callOf(reparentParts, {
      parts: [random.oneOf(ids)],
      parent: random.chance(0.2) ? null : random.oneOf(ids),
      keep: 'world',
    });
    const after = allowed(() => runCall(kit, call, blobs).kit);
    return after ? 1000 * furthestOf(restOf(kit, blobs), restOf(after, blobs)) : 0;
  },
};

const sweeping: Oracle = {
  id: 'footprint-sweep',
  about: 'Bounds over all frames hold every vertex at every frame, skins and morph targets too, and are no larger',
  against: 'a plain poser at rest and at every frame',
  promised: 2e-3,
  unit: 'mm',
  cases: 30,
  deviation(seed) {
    const { kit, blobs, clip } = randomKit(seed);
    const swept = sweptParts(kit, blobs, Object.values(kit.clips));
    const low = new Map<Id, number[]>();
    const high = new Map<Id, number[]>();
    const grow = (points: ReadonlyMap<Id, readonly number[]>) => {
      for (const [id, numbers] of points)
        for (let i = 0; i < numbers.length; i++) {
          const [least, most] = [low.get(id) ?? [Infinity, Infinity, Infinity], high.get(id) ?? [-Infinity, -Infinity, -Infinity]];
          least[i % 3] = Math.min(least[i % 3], numbers[i]);
          most[i % 3] = Math.max(most[i % 3], numbers[i]);
          low.set(id, least);
          high.set(id, most);
        }
    };
    grow(restOf(kit, blobs));
    const frames = Math.max(1, Math.round(clip.lengthSeconds * clip.rate));
    for (let frame = 0; frame <= frames; frame++)
      grow(plainVertices(kit, blobs, plainPose(kit, blobs, clip, (clip.lengthSeconds * frame) / frames)));
    return (
      1000 *
      Math.max(
        0,
        ...[...swept].map(([id, { bounds }]) =>
          furthestOf(new Map([[0, [...bounds.min, ...bounds.max]]]), new Map([[0, [...low.get(id)!, ...high.get(id)!]]])),
        ),
      )
    );
  },
};

const math = create(all) as unknown as { evaluate: (source: string, scope: object) => number | boolean };

/** An expression of formulas, at most so deep. */
function expression(random: Random, depth: number): string {
  if (depth === 0 || random.chance(0.15)) return random.oneOf(['t', 'u', 'pi', 'e', 'k', random.between(0, 5).toFixed(3)]);
  const one = () => expression(random, depth - 1);
  return random.oneOf([
    () => `(${one()} ${random.oneOf(['+', '-', '*', '/'])} ${one()})`,
    () => `${random.oneOf(['sin', 'cos', 'tanh', 'abs', 'exp', 'floor', 'ceil', 'cbrt', 'atan', 'sign', 'sqrt', 'log'])}(${one()})`,
    () => `${random.oneOf(['min', 'max', 'atan2', 'hypot', 'mod'])}(${one()}, ${one()})`,
    () => `(${one()} ${random.oneOf(['<', '>', '<=', '>='])} ${one()} ? ${one()} : ${one()})`,
    () => `-${one()}`,
    () => `abs(${one()}) ^ ${random.whole(0, 3)}`,
  ])();
}

const formulas: Oracle = {
  id: 'formulas',
  about: 'A formula’s value, by share of it',
  against: 'mathjs’s own evaluation of the same text',
  promised: 1e-9,
  unit: 'share',
  cases: 300,
  deviation(seed) {
    const { random } = randomKit(seed, { skins: false });
    const source = expression(random, 4);
    const k = random.between(-3, 3);
    const formula = readFormula(source, { k });
    let most = 0;
    for (let n = 0; n < 8; n++) {
      const [t, u] = [random.between(0, 4), random.share()];
      const [ours, theirs] = [formula(t, u), Number(math.evaluate(source, { t, u, k }))];
      if (Object.is(ours, theirs) || ours === theirs) continue;
      if (!Number.isFinite(ours) && !Number.isFinite(theirs)) continue;
      most = Math.max(most, Math.abs(ours - theirs) / Math.max(1, Math.abs(theirs)));
    }
    return most;
  },
};

/** What is said of shapes, bounds and formulas. */
export const SHAPE_ORACLES: readonly Oracle[] = [mirroring, cutting, hanging, sweeping, formulas];
