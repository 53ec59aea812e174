import { readArray, type Blobs, type Id, type Kit, type Primitive } from '../document';
import { readBindMatrices } from './transform-mesh';
import type { Poser } from './pose';

/** More vertices of a mesh than these are not all looked at. */
const MOST = 160;
const DIRECTIONS = evenDirections(98);

/** Some vertices of a part, as what moves them. */
interface Batch {
  part: Id;
  /** Own places at rest, 3 numbers a vertex, and what each morph target adds. */
  positions: Float64Array;
  deltas: Float64Array[];
  /** Null where the part itself moves them. */
  skin: { joints: Id[]; binds: Float64Array; at: Uint16Array; weights: Float64Array; each: number } | null;
}

/**
 * The vertices by which motion is measured: of a small mesh all, of a large one those that stand out furthest in 98 directions (for a mesh
 * that one matrix moves, the furthest way between two poses is at a corner of its hull; these come to within 2 % of it) and some between;
 * and the pivot of every part that is not deformed, so that a skeleton alone is measured too.
 */
export class MeasuredVertices {
  private readonly batches: Batch[] = [];
  /** How many there are. */
  readonly count: number;
  /** Which batch a vertex is of, by its first vertex. */
  private readonly starts: number[] = [];

  constructor(kit: Kit, blobs: Blobs, parts: Iterable<Id> = Object.keys(kit.parts)) {
    let count = 0;
    const add = (batch: Batch) => {
      this.starts.push(count);
      count += batch.positions.length / 3;
      this.batches.push(batch);
    };
    for (const id of parts) {
      const part = kit.parts[id];
      // A deformed part follows its joints; where it stands itself means nothing.
      if (part.skin === null) add({ part: id, positions: new Float64Array(3), deltas: [], skin: null });
      if (part.mesh === null) continue;
      const { primitives, strokes = [] } = kit.meshes[part.mesh];
      for (const primitive of primitives) if (primitive.attributes.POSITION) add(batchOf(kit, blobs, id, primitive));
      for (const { attributes } of strokes)
        add({
          part: id,
          positions: chosenRows(Float64Array.from(readArray<Float32Array>(blobs, attributes.POSITION)), null),
          deltas: [],
          skin: null,
        });
    }
    this.count = count;
  }

  /** Writes every vertex's place in a pose that is up to date: world, 3 numbers each. */
  place(poser: Pick<Poser, 'worldOf' | 'weightsOf'>, out: Float64Array): void {
    let at = 0;
    for (const batch of this.batches) {
      const { positions, deltas, skin } = batch;
      const weights = poser.weightsOf(batch.part);
      const world = skin ? null : poser.worldOf(batch.part);
      const joints = skin?.joints.map((joint) => poser.worldOf(joint));
      for (let v = 0; v < positions.length; v += 3, at += 3) {
        let x = positions[v];
        let y = positions[v + 1];
        let z = positions[v + 2];
        for (let t = 0; t < deltas.length; t++) {
          const w = weights[t];
          if (!w) continue;
          x += w * deltas[t][v];
          y += w * deltas[t][v + 1];
          z += w * deltas[t][v + 2];
        }
        if (world) {
          out[at] = world[0] * x + world[4] * y + world[8] * z + world[12];
          out[at + 1] = world[1] * x + world[5] * y + world[9] * z + world[13];
          out[at + 2] = world[2] * x + world[6] * y + world[10] * z + world[14];
        } else this.placeHeld(skin!, joints!, v / 3, x, y, z, out, at);
      }
    }
  }

  private placeHeld(
    { binds, at: which, weights, each }: NonNullable<Batch['skin']>,
    joints: readonly Float64Array[],
    vertex: number,
    x: number,
    y: number,
    z: number,
    out: Float64Array,
    at: number,
  ): void {
    out[at] = out[at + 1] = out[at + 2] = 0;
    for (let k = each * vertex; k < each * (vertex + 1); k++) {
      const w = weights[k];
      if (w === 0) continue;
      const b = 16 * which[k];
      const m = joints[which[k]];
      const px = binds[b] * x + binds[b + 4] * y + binds[b + 8] * z + binds[b + 12];
      const py = binds[b + 1] * x + binds[b + 5] * y + binds[b + 9] * z + binds[b + 13];
      const pz = binds[b + 2] * x + binds[b + 6] * y + binds[b + 10] * z + binds[b + 14];
      out[at] += w * (m[0] * px + m[4] * py + m[8] * pz + m[12]);
      out[at + 1] += w * (m[1] * px + m[5] * py + m[9] * pz + m[13]);
      out[at + 2] += w * (m[2] * px + m[6] * py + m[10] * pz + m[14]);
    }
  }

  /**
   * The greatest way between two lists of places, by what moves them: `told` hears each batch's part, the parts that move it (the part
   * itself, and the joints that hold it) and the way, metres.
   */
  eachDifference(a: Float64Array, b: Float64Array, told: (part: Id, movers: readonly Id[], metres: number) => void): void {
    this.batches.forEach((batch, n) => {
      const end = 3 * (this.starts[n] + batch.positions.length / 3);
      let most = 0;
      for (let i = 3 * this.starts[n]; i < end; i += 3) {
        const square = (a[i] - b[i]) ** 2 + (a[i + 1] - b[i + 1]) ** 2 + (a[i + 2] - b[i + 2]) ** 2;
        if (square > most) most = square;
      }
      // A deformed part moves its vertices by its morph targets alone.
      told(batch.part, batch.skin ? [...batch.skin.joints, batch.part] : [batch.part], Math.sqrt(most));
    });
  }

  /**
   * How far the vertices that a part carries stand from its pivot at rest, in its own axes, metres, morph targets at their fullest taken
   * in; what it holds as a joint too.
   */
  ownReaches(): Map<Id, number> {
    const out = new Map<Id, number>();
    const grow = (id: Id, reach: number) => out.set(id, Math.max(out.get(id) ?? 0, reach));
    for (const { part, positions, deltas, skin } of this.batches)
      for (let v = 0; v < positions.length; v += 3) {
        const [x, y, z] = [positions[v], positions[v + 1], positions[v + 2]];
        const more = deltas.reduce((sum, delta) => sum + Math.hypot(delta[v], delta[v + 1], delta[v + 2]), 0);
        if (!skin) grow(part, Math.hypot(x, y, z) + more);
        else
          for (let k = (skin.each * v) / 3; k < skin.each * (v / 3 + 1); k++) {
            if (skin.weights[k] === 0) continue;
            const b = skin.binds.subarray(16 * skin.at[k]);
            const at = [0, 1, 2].map((row) => b[row] * x + b[row + 4] * y + b[row + 8] * z + b[row + 12]);
            grow(skin.joints[skin.at[k]], skin.weights[k] * (Math.hypot(...at) + more * Math.hypot(b[0], b[1], b[2])));
          }
      }
    return out;
  }

  /** The furthest that each morph target of a part moves a vertex at full weight, in the mesh's own axes, metres. */
  targetReaches(part: Id): number[] {
    const out: number[] = [];
    for (const { part: own, deltas } of this.batches)
      if (own === part)
        deltas.forEach((delta, t) => {
          for (let v = 0; v < delta.length; v += 3) out[t] = Math.max(out[t] ?? 0, Math.hypot(delta[v], delta[v + 1], delta[v + 2]));
        });
    return out;
  }
}

function batchOf(kit: Kit, blobs: Blobs, id: Id, primitive: Primitive): Batch {
  const part = kit.parts[id];
  const all = Float64Array.from(readArray<Float32Array>(blobs, primitive.attributes.POSITION));
  const targets = (primitive.targets ?? []).map((target) => (target.POSITION ? readArray<Float32Array>(blobs, target.POSITION) : null));
  const held = part.skin !== null && primitive.attributes.JOINTS_0 !== undefined;
  const sets = held ? weightRows(primitive, blobs) : null;
  const rows = chosen(all, targets, sets);
  const take = (values: ArrayLike<number>) => Float64Array.from(rows.flatMap((v) => [values[3 * v], values[3 * v + 1], values[3 * v + 2]]));
  const deltas = targets.map((target) => (target ? take(target) : new Float64Array(3 * rows.length)));
  if (!sets) return { part: id, positions: take(all), deltas, skin: null };
  const skin = kit.skins[part.skin!];
  const binds = new Float64Array(16 * skin.joints.length);
  readBindMatrices(skin, blobs).forEach((matrix, j) => binds.set(matrix, 16 * j));
  const { each, at, weights } = sets;
  const rowsOf = <T>(values: ArrayLike<number>, kind: { from: (list: number[]) => T }): T =>
    kind.from(rows.flatMap((v) => Array.from({ length: each }, (_, k) => values[each * v + k])));
  return {
    part: id,
    positions: take(all),
    deltas,
    skin: { joints: skin.joints, binds, each, at: rowsOf(at, Uint16Array), weights: rowsOf(weights, Float64Array) },
  };
}

interface WeightRows {
  each: number;
  at: Uint16Array;
  weights: Float64Array;
}

/** All weight sets of a primitive side by side, `each` entries a vertex. */
function weightRows({ attributes }: Primitive, blobs: Blobs): WeightRows {
  const count = attributes.POSITION.count;
  let sets = 0;
  while (attributes[`JOINTS_${sets}`] && attributes[`WEIGHTS_${sets}`]) sets++;
  const each = 4 * sets;
  const out: WeightRows = { each, at: new Uint16Array(each * count), weights: new Float64Array(each * count) };
  for (let n = 0; n < sets; n++) {
    const joints = readArray(blobs, attributes[`JOINTS_${n}`]);
    const weights = readArray(blobs, attributes[`WEIGHTS_${n}`]);
    for (let v = 0; v < count; v++)
      for (let k = 0; k < 4; k++) {
        out.at[each * v + 4 * n + k] = joints[4 * v + k];
        out.weights[each * v + 4 * n + k] = weights[4 * v + k];
      }
  }
  return out;
}

/** Which vertices are looked at: those furthest out of each joint's, or of all, at rest and at each target's fullest, and some between. */
function chosen(positions: Float64Array, targets: readonly (ArrayLike<number> | null)[], sets: WeightRows | null): number[] {
  const count = positions.length / 3;
  const all = Array.from({ length: count }, (_, v) => v);
  if (count <= MOST) return all;
  const out = new Set<number>();
  for (let n = 0; n < MOST; n++) out.add(Math.floor((n * count) / MOST));
  const groups = new Map<number, number[]>();
  if (!sets) groups.set(0, all);
  else
    for (const v of all)
      for (let k = sets.each * v; k < sets.each * (v + 1); k++) {
        if (sets.weights[k] <= 0.05) continue;
        const group = groups.get(sets.at[k]);
        if (group) group.push(v);
        else groups.set(sets.at[k], [v]);
      }
  // With many joints each has fewer directions.
  const directions = groups.size > 8 ? DIRECTIONS.slice(0, 26) : DIRECTIONS;
  const shapes = [
    positions,
    ...targets.filter((target) => target !== null).map((target) => positions.map((value, i) => value + target[i])),
  ];
  for (const group of groups.values()) for (const shape of shapes) for (const v of outermost(shape, group, directions)) out.add(v);
  return [...out];
}

function chosenRows(positions: Float64Array, sets: WeightRows | null): Float64Array {
  return Float64Array.from(chosen(positions, [], sets).flatMap((v) => [...positions.subarray(3 * v, 3 * v + 3)]));
}

function outermost(positions: Float64Array, vertices: readonly number[], directions: readonly (readonly number[])[]): number[] {
  const best = directions.map(() => -Infinity);
  const found = directions.map(() => vertices[0]);
  for (const v of vertices) {
    const [x, y, z] = [positions[3 * v], positions[3 * v + 1], positions[3 * v + 2]];
    for (let d = 0; d < directions.length; d++) {
      const way = directions[d][0] * x + directions[d][1] * y + directions[d][2] * z;
      if (way > best[d]) {
        best[d] = way;
        found[d] = v;
      }
    }
  }
  return found;
}

/** Directions spread evenly over a ball (Swinbank & Purser 2006, "Fibonacci grids"). */
function evenDirections(count: number): [number, number, number][] {
  const golden = Math.PI * (3 - Math.sqrt(5));
  // Taken in another order, so that the first of them are spread too.
  const order = Array.from({ length: count }, (_, i) => (i * 37) % count);
  return order.map((i) => {
    const y = 1 - (2 * i + 1) / count;
    const r = Math.sqrt(1 - y * y);
    return [r * Math.cos(golden * i), y, r * Math.sin(golden * i)];
  });
}
