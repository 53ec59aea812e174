import * as THREE from 'three';
import { cornersOfBox, type Collider, type Footprint, type Vec3, type Walkway } from '@itchkit/core/document';
import { floats, surfaceOf, type TileHeight } from '@itchkit/core/grounds';
import { figure } from '@itchkit/core/rulebook';
import type { Bounds } from '@itchkit/core/geometry';
import { makeLabel } from '../../../bench/label';
import { roundDot } from '../../../bench/round-dot';
import type { Tokens } from '../../../theme/tokens';

const over = { depthTest: false, transparent: true };
/** Lines on the ground lie this far above it, metres: they would flicker in it. */
const ABOVE = 0.006;

const lines = (points: ArrayLike<number>, colour: string, options: Partial<THREE.LineBasicMaterialParameters> = {}): THREE.LineSegments =>
  new THREE.LineSegments(
    new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(Array.from(points), 3)),
    new THREE.LineBasicMaterial({ color: colour, ...options }),
  );

const dots = (points: readonly Vec3[], colour: string, size: number): THREE.Points => {
  const made = new THREE.Points(
    new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(points.flat(), 3)),
    new THREE.PointsMaterial({ color: colour, size, map: roundDot(), sizeAttenuation: false, ...over }),
  );
  made.renderOrder = 19;
  return made;
};

/** The middles of the four sides of a footprint, by which it is drawn larger or smaller: to −x, +x, −z, +z. */
export const sideMiddles = ({ low, high }: Pick<Footprint, 'low' | 'high'>): Vec3[] => {
  const [x, z] = [(low[0] + high[0]) / 2, (low[2] + high[2]) / 2];
  return [
    [low[0], 0, z],
    [high[0], 0, z],
    [x, 0, low[2]],
    [x, 0, high[2]],
  ];
};

/** Tiles as a sheet ruled on the ground, crossed where visitors may cross, with a handle in the middle of each side. */
export function tileMarks(footprint: Footprint, tile: number, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const { low, high } = footprint;
  const points: number[] = [];
  for (let x = low[0]; x <= high[0] + 1e-6; x += tile) points.push(x, ABOVE, low[2], x, ABOVE, high[2]);
  for (let z = low[2]; z <= high[2] + 1e-6; z += tile) points.push(low[0], ABOVE, z, high[0], ABOVE, z);
  group.add(lines(points, tokens.sea));
  const crossed: number[] = [];
  const half = tile / 2;
  for (const [x, , z] of footprint.holes)
    for (const sign of [-1, 1]) crossed.push(x - half, ABOVE, z - sign * half, x + half, ABOVE, z + sign * half);
  if (crossed.length > 0) group.add(lines(crossed, tokens.sea));
  group.add(dots(sideMiddles(footprint), tokens.sea, 11));
  const [across, deep] = [Math.round((high[0] - low[0]) / tile), Math.round((high[2] - low[2]) / tile)];
  const label = makeLabel(`${across} × ${deep}`, tokens.sea, tokens.paper, 15);
  label.position.set(low[0], ABOVE, high[2]);
  group.add(label);
  return group;
}

/** The edges of a box, dashed. */
function dashedBox({ min, max }: Bounds, colour: string): THREE.LineSegments {
  const size = min.map((value, axis) => max[axis] - value);
  const box = new THREE.LineSegments(
    new THREE.EdgesGeometry(new THREE.BoxGeometry(...size)),
    new THREE.LineDashedMaterial({ color: colour, dashSize: 0.08, gapSize: 0.06, transparent: true, opacity: 0.7 }),
  );
  box.position.set(...(min.map((value, axis) => (value + max[axis]) / 2) as Vec3));
  box.computeLineDistances();
  return box;
}

/** Where something comes in all that is played: the edges of its bounds, dashed. */
export function shellMarks(all: Iterable<Bounds>, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  for (const bounds of all) group.add(dashedBox(bounds, tokens.inkSoft));
  return group;
}

/** How high a thing stands on each tile, in metres over its middle; where it does not come down to the ground, what is under it, dashed. */
export function heightMarks(heights: readonly TileHeight[], tile: number, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  for (const one of heights) {
    const { middle, low, high } = one;
    if (high === null) continue;
    const label = makeLabel(`${figure(high, 2)} m`, tokens.sea, tokens.paper, 12);
    label.position.set(middle[0], Math.max(0, high) + ABOVE, middle[2]);
    group.add(label);
    const half = 0.49 * tile;
    if (floats(one))
      group.add(dashedBox({ min: [middle[0] - half, 0, middle[2] - half], max: [middle[0] + half, low!, middle[2] + half] }, tokens.warn));
  }
  return group;
}

const EDGES = [
  [0, 1],
  [2, 3],
  [4, 5],
  [6, 7],
  [0, 2],
  [1, 3],
  [4, 6],
  [5, 7],
  [0, 4],
  [1, 5],
  [2, 6],
  [3, 7],
];

/** A collider in its part's axes: its outline, over what it is for. */
export function colliderMarks(collider: Collider, tokens: Tokens): THREE.Object3D {
  if (collider.shape === 'box') {
    const corners = cornersOfBox(collider);
    const points = EDGES.flatMap(([a, b]) => [...corners[a], ...corners[b]]);
    // The two diagonals of each upright side: cross-hatched, as what can't be entered is on a chart.
    for (const [a, b, c, d] of [
      [0, 6, 4, 2],
      [1, 7, 5, 3],
      [0, 3, 1, 2],
      [4, 7, 5, 6],
    ])
      points.push(...corners[a], ...corners[b], ...corners[c], ...corners[d]);
    return lines(points, tokens.warn, { transparent: true, opacity: 0.85 });
  }
  const geometry = new THREE.BufferGeometry().setAttribute(
    'position',
    new THREE.Float32BufferAttribute(Array.from(surfaceOf(collider)), 3),
  );
  return new THREE.LineSegments(
    new THREE.EdgesGeometry(geometry, 1),
    new THREE.LineBasicMaterial({ color: tokens.warn, transparent: true, opacity: 0.7 }),
  );
}

export interface WayLook {
  chosen: readonly string[];
  /** Ropes that can’t be walked. */
  faulty: ReadonlySet<string>;
  /** A knot that is dragged, and where it is meanwhile. */
  dragged: { knot: string; at: Vec3 } | null;
}

/** Knots as bollards, ropes between them: one way with an arrow, a rail beside; what can’t be walked is in the colour of stops. */
export function walkwayMarks({ knots, ropes }: Walkway, { chosen, faulty, dragged }: WayLook, tokens: Tokens): THREE.Group {
  const group = new THREE.Group();
  const place = new Map(knots.map(({ id, at }): [string, Vec3] => [id, dragged?.knot === id ? dragged.at : at]));
  const sound: number[] = [];
  const broken: number[] = [];
  for (const { id, from, to, oneWay, rail } of ropes) {
    const [a, b] = [place.get(from)!, place.get(to)!];
    const into = faulty.has(id) ? broken : sound;
    into.push(...a, ...b);
    const way = new THREE.Vector3(...b).sub(new THREE.Vector3(...a));
    const aside = new THREE.Vector3(-way.z, 0, way.x).normalize();
    const at = (u: number, off: number, up = 0) =>
      new THREE.Vector3(...a)
        .addScaledVector(way, u)
        .addScaledVector(aside, off)
        .setY(a[1] + u * way.y + up);
    if (oneWay)
      for (const off of [-0.12, 0.12]) {
        const back = 0.55 - 0.2 / Math.max(0.4, way.length());
        into.push(...at(0.55, 0).toArray(), ...at(back, off).toArray());
      }
    if (rail) into.push(...at(0, 0.25, 0.9).toArray(), ...at(1, 0.25, 0.9).toArray());
  }
  for (const [points, colour] of [
    [sound, tokens.good],
    [broken, tokens.stop],
  ] as const)
    if (points.length > 0) {
      const made = lines(points, colour, over);
      made.renderOrder = 18;
      group.add(made);
    }
  const isChosen = new Set(chosen);
  const of = (test: (knot: Walkway['knots'][number]) => boolean) => knots.filter(test).map(({ id }) => place.get(id)!);
  const plain = of(({ id, edge, boards }) => !isChosen.has(id) && !edge && boards.length === 0);
  const edges = of(({ id, edge }) => !isChosen.has(id) && edge);
  const boards = of(({ id, edge, boards: list }) => !isChosen.has(id) && !edge && list.length > 0);
  const picked = of(({ id }) => isChosen.has(id));
  for (const [points, colour, size] of [
    [plain, tokens.good, 9],
    [edges, tokens.sea, 13],
    [boards, tokens.note, 13],
    [picked, tokens.signal, 14],
  ] as const)
    if (points.length > 0) group.add(dots(points, colour, size));
  for (const { id, name, boards: list } of knots) {
    const words = name || (list.length > 0 ? 'boards here' : '');
    if (words === '') continue;
    const label = makeLabel(words, tokens.ink, tokens.paper, 13);
    label.position.set(...place.get(id)!);
    label.center.set(0.5, -0.8);
    group.add(label);
  }
  return group;
}
