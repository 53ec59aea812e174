import * as THREE from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { bidirectional } from 'graphology-shortest-path/dijkstra';
import { emptyKit, MemoryBlobs, newPart, putArray, type Kit, type Walkway } from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { buildWalkWorld, findWay, graphOf, sweptParts, type WalkRules } from '@itchkit/core/grounds';
import { compileClip, sampleClip } from '@itchkit/core/motion';
import { checkRulebook } from '@itchkit/core/rulebook';
import { fieldTo, openPlot, Park } from '@itchkit/core/trial';
import plotwick from '@itchkit/rulebooks/plotwick';
import { milliseconds, paired, rowOf, type Benchmark } from './row';

const rulebook = checkRulebook(plotwick);
const RULES: WalkRules = { height: 1.8, radius: 0.25, step: 0.25, slope: 40, drop: 0.5, reach: 1.5 };

/** A part with a sheet of so many squares a side, bulged, over a square of metres. */
function putSheet(kit: Kit, blobs: MemoryBlobs, id: string, side: number, metres: number, height: (x: number, z: number) => number): void {
  const places = new Float32Array(3 * (side + 1) ** 2);
  for (let i = 0; i <= side; i++)
    for (let k = 0; k <= side; k++) {
      const [x, z] = [metres * (i / side - 0.5), metres * (k / side - 0.5)];
      places.set([x, height(x, z), z], 3 * (i + (side + 1) * k));
    }
  const corners = new Uint32Array(6 * side * side);
  for (let i = 0; i < side; i++)
    for (let k = 0; k < side; k++) {
      const at = i + (side + 1) * k;
      corners.set([at, at + side + 1, at + 1, at + 1, at + side + 1, at + side + 2], 6 * (i + side * k));
    }
  kit.meshes[id] = {
    id,
    name: id,
    primitives: [{ attributes: { POSITION: putArray(blobs, places, 3) }, indices: putArray(blobs, corners, 1), material: null }],
  };
  kit.parts[id] = newPart({ id, name: id, mesh: id });
}

export const sweptBounds: Benchmark = {
  row: 'swept-bounds',
  title: 'bounds of 50,000 vertices over 240 frames, against posing each with three.js (half its time)',
  async run() {
    const kit = emptyKit('Swept');
    const blobs = new MemoryBlobs();
    putSheet(kit, blobs, 'wing', 223, 4, (x, z) => Math.sin(x) * Math.cos(z));
    const keys = [0, 400, -100].map((value, i) => ({ time: 5 * i, value, easing: 'curve' as const }));
    kit.clips.turn = {
      id: 'turn',
      name: 'turn',
      lengthSeconds: 10,
      rate: 24,
      loop: 'loop',
      order: 0,
      tracks: [0, 1, 2].map((axis) => ({ kind: 'keys', id: `t${axis}`, part: 'wing', property: 'turn', axis, keys })),
    };
    const [clip] = Object.values(kit.clips);
    const poser = new Poser(flattenParts(kit));
    const compiled = compileClip(clip, poser.flat, blobs);
    const geometry = new THREE.BufferGeometry().setAttribute(
      'position',
      new THREE.BufferAttribute(new Float32Array(blobs.get(kit.meshes.wing.primitives[0].attributes.POSITION.blob).slice().buffer), 3),
    );
    const position = geometry.getAttribute('position');
    let kept = 0;
    const [ours, peer] = await paired(
      3,
      () => milliseconds(async () => void (kept += sweptParts(kit, blobs, [clip]).get('wing')!.bounds.max[0])),
      () =>
        milliseconds(async () => {
          const box = new THREE.Box3();
          const [matrix, point] = [new THREE.Matrix4(), new THREE.Vector3()];
          for (let frame = 0; frame <= 240; frame++) {
            poser.reset();
            sampleClip(compiled, frame / 24, poser.pose);
            poser.update();
            matrix.fromArray(poser.world);
            for (let v = 0; v < position.count; v++) box.expandByPoint(point.fromBufferAttribute(position, v).applyMatrix4(matrix));
          }
          kept += box.max.x;
        }),
    );
    if (!Number.isFinite(kept)) throw new Error('nothing was swept');
    return rowOf('swept-bounds', 'ms', ours, peer, 0.5);
  },
};

export const wayFinding: Benchmark = {
  row: 'find-way',
  title: 'the way over 4 × 4 tiles of 100,000 triangles, against a tree of them and four plumb rays a column, heights alone (3 times)',
  async run() {
    const kit = emptyKit('Way');
    const blobs = new MemoryBlobs();
    putSheet(kit, blobs, 'hill', 223, 8, (x, z) => 0.3 + 0.25 * Math.sin(1.3 * x) * Math.cos(1.1 * z));
    const footprint = { low: [-4, 0, -4], high: [4, 0, 4], holes: [] } as Parameters<typeof buildWalkWorld>[3];
    const { attributes, indices } = kit.meshes.hill.primitives[0];
    const bytes = (sha: string) => blobs.get(sha).slice().buffer;
    let reached = 0;
    const [ours, peer] = await paired(
      3,
      () =>
        milliseconds(async () => {
          const world = buildWalkWorld(kit, blobs, [], footprint, RULES);
          reached += findWay(world, [{ carrier: 'hill', places: [[0, 0.8, 0]] }]).unreached.length;
        }),
      () =>
        milliseconds(async () => {
          const geometry = new THREE.BufferGeometry().setAttribute(
            'position',
            new THREE.BufferAttribute(new Float32Array(bytes(attributes.POSITION.blob)), 3),
          );
          geometry.setIndex(new THREE.BufferAttribute(new Uint32Array(bytes(indices.blob)), 1));
          const tree = new MeshBVH(geometry);
          const ray = new THREE.Ray(new THREE.Vector3(), new THREE.Vector3(0, -1, 0));
          for (let i = 0; i < 192; i++)
            for (let k = 0; k < 192; k++) {
              ray.origin.set(-4 + (i + 0.5) / 24, 10, -4 + (k + 0.5) / 24);
              if (tree.raycastFirst(ray, THREE.DoubleSide)) reached += 0;
            }
        }),
    );
    if (reached !== 0) throw new Error('no way was found');
    return rowOf('find-way', 'ms', ours, peer, 3);
  },
};

/** A walkway of so many knots a side, uneven, each roped to its neighbours. */
function lattice(side: number): { walkway: Walkway; id: (i: number, k: number) => string } {
  const id = (i: number, k: number) => `${i} ${k}`;
  const walkway: Walkway = { knots: [], ropes: [] };
  for (let i = 0; i < side; i++)
    for (let k = 0; k < side; k++) {
      walkway.knots.push({ id: id(i, k), name: '', at: [i, 0.3 * Math.sin(i * k), k], edge: false, boards: [], leaves: [] });
      for (const [a, b] of [
        [i + 1, k],
        [i, k + 1],
      ])
        if (a < side && b < side)
          walkway.ropes.push({ id: `${id(i, k)}-${id(a, b)}`, from: id(i, k), to: id(a, b), oneWay: false, rail: false });
    }
  return { walkway, id };
}

export const visitorWays: Benchmark = {
  row: 'visitor-ways',
  title: '500 visitors sent over 900 knots by fields that they share, against a search for each of them (a tenth)',
  async run() {
    const side = 30;
    const { walkway, id } = lattice(side);
    const graph = graphOf(walkway);
    const goals = [id(29, 29), id(0, 15), id(15, 3), id(20, 20)];
    const visitors = Array.from({ length: 500 }, (_, n) => ({ from: id((7 * n) % side, (11 * n) % side), to: goals[n % goals.length] }));
    let steps = 0;
    const [ours, peer] = await paired(
      3,
      () =>
        milliseconds(async () => {
          const fields = new Map(goals.map((goal) => [goal, fieldTo(graph, [goal])]));
          for (const { from, to } of visitors)
            for (let at: string | undefined = from; at !== undefined; at = fields.get(to)!.next.get(at)) steps++;
        }),
      () => milliseconds(async () => visitors.forEach(({ from, to }) => (steps += bidirectional(graph, from, to, 'length').length))),
    );
    if (steps === 0) throw new Error('nobody went anywhere');
    return rowOf('visitor-ways', 'ms', ours, peer, 0.1);
  },
};

const [VISITORS, SECONDS] = [500, 10];

export const visitorSteps: Benchmark = {
  row: 'visitor-steps',
  title: `${SECONDS} s of a park in which ${VISITORS} visitors walk over 900 knots, against one search of the way for each of them (a tenth)`,
  async run() {
    const side = 30;
    const { walkway, id } = lattice(side);
    const kit = emptyKit('Park');
    kit.parts.ring = newPart({ id: 'ring', name: 'ring', role: 'base', translation: [15, 0, 15] });
    for (let i = 0; i < 24; i++)
      kit.parts[`seat${i}`] = newPart({
        id: `seat${i}`,
        name: `seat${i}`,
        parent: 'ring',
        role: 'seat',
        order: i,
        translation: [i / 8, 0.4, 0],
      });
    for (const knot of walkway.knots) knot.edge = knot.at[0] === 0;
    const gate = walkway.knots.find((knot) => knot.id === id(28, 28))!;
    Object.assign(gate, { boards: ['ring'], leaves: ['ring'] });
    kit.walkway = walkway;
    const plot = { ...openPlot({ kit, manifest: { space: { metresPerUnit: 1 } } as never }, rulebook), patience: Infinity };
    const graph = graphOf(walkway);
    let steps = 0;
    const [ours, peer] = await paired(
      3,
      async () => {
        const park = new Park(plot, { visitors: VISITORS });
        park.pass(0.7 * VISITORS);
        // All have come, and go their way again from its beginning.
        park.visitors.forEach((visitor, n) => {
          const edge = id(0, (11 * n) % side);
          Object.assign(visitor, { phase: 'walks', knot: edge, at: [...plot.knots.get(edge)!], seat: null });
        });
        return milliseconds(() => Promise.resolve(park.pass(SECONDS)));
      },
      () =>
        milliseconds(async () => {
          for (let n = 0; n < VISITORS; n++) steps += bidirectional(graph, id(0, (11 * n) % side), gate.id, 'length').length;
        }),
    );
    if (steps === 0) throw new Error('nobody went anywhere');
    return rowOf('visitor-steps', 'ms', ours, peer, 0.1);
  },
};
