import * as THREE from 'three';
import type { Bounds } from '@itchkit/core/geometry';
import type { Tokens } from '../theme/tokens';
import { makeLabel } from './label';
import { niceStep } from '../nice-step';

/** Metres; a little more than a person with an arm up. */
const SMALL = 2.4;

export interface GroundOptions {
  bounds: Bounds;
  /** Side of the target's tile, metres. */
  tileMetres: number;
  /** The platform's unit: its length in metres, and its sign. */
  unit: { metres: number; short: string };
  /** What the platform calls forward, such as `+y`. */
  forward: string;
  person: boolean;
  tokens: Tokens;
}

/** Paper ground with the tile grid, the chart border ticked in the platform's unit, the arrow to forward, the paper person. */
export function buildGround(options: GroundOptions): THREE.Group {
  const { bounds, tileMetres, unit, tokens } = options;
  const group = new THREE.Group();
  const y = Math.min(0, bounds.min[1]) - 0.002;
  const margin = Math.max(tileMetres * 0.5, 0.1 * Math.max(bounds.max[0] - bounds.min[0], bounds.max[2] - bounds.min[2]));
  const step = niceStep(Math.max(bounds.max[0] - bounds.min[0], bounds.max[2] - bounds.min[2]) / unit.metres, 12) * unit.metres;
  const floor = (value: number) => Math.floor(value / step - 1e-9) * step;
  const ceil = (value: number) => Math.ceil(value / step + 1e-9) * step;
  const [x0, x1, z0, z1] = [
    floor(bounds.min[0] - margin),
    ceil(bounds.max[0] + margin),
    floor(bounds.min[2] - margin),
    ceil(bounds.max[2] + margin),
  ];
  const width = step * 0.14;

  group.add(grid(x0, x1, z0, z1, y, tileMetres, tokens));
  group.add(border(x0, x1, z0, z1, y, step, width, tokens));
  const every = Math.max(1, Math.round((x1 - x0) / step / 6));
  const label = (value: number) => `${Number((value / unit.metres).toPrecision(6))}`;
  for (let i = 0, x = x0; x <= x1 + 1e-9; i++, x = x0 + i * step)
    if (Math.round(x / step) % every === 0)
      place(group, makeLabel(label(x), tokens.inkSoft, tokens.paper, 13, true), x, y, z1 + width * 3.4);
  for (let i = 0, z = z0; z <= z1 + 1e-9; i++, z = z0 + i * step)
    if (Math.round(z / step) % every === 0)
      place(group, makeLabel(label(z), tokens.inkSoft, tokens.paper, 13, true), x1 + width * 3.4, y, z);
  place(group, makeLabel(unit.short, tokens.ink, tokens.paper, 14, true), x1 + width * 3.4, y, z1 + width * 3.4);
  group.add(northArrow(x0 - width * 5, y, (z0 + z1) / 2, step, options.forward, tokens));
  // Beside something smaller than itself the person stands behind, so as not to hide it.
  const behind = bounds.max[1] - bounds.min[1] < SMALL && bounds.max[0] - bounds.min[0] < SMALL;
  if (options.person) {
    const at = new THREE.Vector3(x0 + step * 0.6, Math.min(0, bounds.min[1]), behind ? z0 + step * 0.6 : z1 - step * 0.6);
    group.add(paperPerson(at.x, at.y, at.z, tokens));
    group.userData.person = new THREE.Box3(
      at.clone().sub(REACH),
      at
        .clone()
        .add(REACH)
        .setY(at.y + HEAD),
    );
  }
  return group;
}

/** From the middle of the paper person to its sides, and from its feet to above its label, metres. */
const REACH = new THREE.Vector3(0.32, 0, 0.32);
const HEAD = 2.05;

/** Where the paper person of a ground stands; null where it does not. */
export const personOf = (ground: THREE.Group | null): THREE.Box3 | null => (ground?.userData.person as THREE.Box3 | undefined) ?? null;

function place(group: THREE.Group, object: THREE.Object3D, x: number, y: number, z: number): void {
  object.position.set(x, y, z);
  group.add(object);
}

function grid(x0: number, x1: number, z0: number, z1: number, y: number, tile: number, tokens: Tokens): THREE.Object3D {
  const points: number[] = [];
  const spacing = Math.max(tile, niceStep(Math.max(x1 - x0, z1 - z0), 200));
  for (let x = Math.ceil(x0 / spacing) * spacing; x <= x1 + 1e-9; x += spacing) points.push(x, y, z0, x, y, z1);
  for (let z = Math.ceil(z0 / spacing) * spacing; z <= z1 + 1e-9; z += spacing) points.push(x0, y, z, x1, y, z);
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
  return new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color: tokens.line }));
}

/** Bars in turn ink and paper between two ink lines, as around a sea chart. */
function border(x0: number, x1: number, z0: number, z1: number, y: number, step: number, width: number, tokens: Tokens): THREE.Object3D {
  const group = new THREE.Group();
  // All bars of a colour are drawn as one: a draw each would be most of what a frame costs.
  const bars = { dark: [] as number[], light: [] as number[] };
  const bar = (xa: number, za: number, xb: number, zb: number, of: number[]) =>
    of.push(...[xa, y, za, xb, y, za, xb, y, zb], ...[xa, y, za, xb, y, zb, xa, y, zb]);
  const columns = Math.round((x1 - x0) / step);
  const rows = Math.round((z1 - z0) / step);
  for (let i = 0; i < columns; i++) {
    for (const [z, outward] of [
      [z0, -1],
      [z1, 1],
    ] as const)
      bar(x0 + i * step, z, x0 + (i + 1) * step, z + outward * width, i % 2 === 0 ? bars.dark : bars.light);
  }
  for (let i = 0; i < rows; i++) {
    for (const [x, outward] of [
      [x0, -1],
      [x1, 1],
    ] as const)
      bar(x, z0 + i * step, x + outward * width, z0 + (i + 1) * step, i % 2 === 0 ? bars.dark : bars.light);
  }
  for (const [points, color] of [
    [bars.dark, tokens.ink],
    [bars.light, tokens.card],
  ] as const) {
    const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
    group.add(new THREE.Mesh(geometry, new THREE.MeshBasicMaterial({ color, side: THREE.DoubleSide })));
  }
  const outline = [x0 - width, x1 + width, z0 - width, z1 + width];
  const corners = [
    [outline[0], outline[2]],
    [outline[1], outline[2]],
    [outline[1], outline[3]],
    [outline[0], outline[3]],
    [outline[0], outline[2]],
  ];
  const points = corners.map(([x, z]) => new THREE.Vector3(x, y, z));
  group.add(new THREE.Line(new THREE.BufferGeometry().setFromPoints(points), new THREE.LineBasicMaterial({ color: tokens.ink })));
  return group;
}

function northArrow(x: number, y: number, z: number, step: number, forward: string, tokens: Tokens): THREE.Object3D {
  const group = new THREE.Group();
  const half = (points: [number, number][], colour: string) => {
    const shape = new THREE.Shape(points.map(([a, b]) => new THREE.Vector2(a, b)));
    const mesh = new THREE.Mesh(new THREE.ShapeGeometry(shape), new THREE.MeshBasicMaterial({ color: colour, side: THREE.DoubleSide }));
    mesh.rotation.x = Math.PI / 2;
    return mesh;
  };
  const size = step * 0.55;
  group.add(
    half(
      [
        [0, size],
        [size * 0.36, -size],
        [0, -size * 0.55],
      ],
      tokens.ink,
    ),
  );
  group.add(
    half(
      [
        [0, size],
        [-size * 0.36, -size],
        [0, -size * 0.55],
      ],
      tokens.inkSoft,
    ),
  );
  const label = makeLabel(`forward ${forward}`, tokens.ink, tokens.paper, 13, true);
  label.position.set(0, 0, size * 1.7);
  group.add(label);
  group.position.set(x, y, z);
  return group;
}

/** Half outline of a standing person, metres: [half width, height], feet to crown. */
const OUTLINE: [number, number][] = [
  [0.1, 0],
  [0.13, 0.04],
  [0.11, 0.45],
  [0.15, 0.86],
  [0.17, 0.98],
  [0.25, 0.8],
  [0.29, 0.82],
  [0.25, 1.1],
  [0.23, 1.36],
  [0.19, 1.44],
  [0.06, 1.48],
  [0.06, 1.53],
  [0.1, 1.58],
  [0.11, 1.65],
  [0.08, 1.72],
  [0, 1.75],
];

function paperPerson(x: number, y: number, z: number, tokens: Tokens): THREE.Object3D {
  const right = OUTLINE.map(([w, h]) => new THREE.Vector2(w, h));
  const left = OUTLINE.toReversed().map(([w, h]) => new THREE.Vector2(-w, h));
  const shape = new THREE.Shape([
    new THREE.Vector2(0.02, 0),
    ...right,
    ...left.slice(1),
    new THREE.Vector2(-0.02, 0),
    new THREE.Vector2(-0.02, 0.8),
    new THREE.Vector2(0.02, 0.8),
  ]);
  const group = new THREE.Group();
  group.add(new THREE.Mesh(new THREE.ShapeGeometry(shape), new THREE.MeshBasicMaterial({ color: tokens.card, side: THREE.DoubleSide })));
  const edge = shape.getPoints().map((point) => new THREE.Vector3(point.x, point.y, 0.003));
  group.add(
    new THREE.Line(new THREE.BufferGeometry().setFromPoints([...edge, edge[0]]), new THREE.LineBasicMaterial({ color: tokens.ink })),
  );
  const label = makeLabel('1.75 m', tokens.inkSoft, tokens.paper, 13, true);
  label.position.set(0, 1.95, 0);
  group.add(label);
  group.position.set(x, y, z);
  // Turned to face the view from the front left, where the bench opens.
  group.rotation.y = 0.6;
  return group;
}
