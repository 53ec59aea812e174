import * as THREE from 'three';
import type { Space } from '@itchkit/core/document';
import { CANONICAL, changeOfSpace } from '@itchkit/core/geometry';
import type { Tokens } from '../../theme/tokens';
import type { TrialState } from '../../trials/trial-state';

/** From the axes and metres that things are drawn in to those of a package. */
export function intoSpace(space: Space): THREE.Matrix4 {
  const { basis, scale } = changeOfSpace(CANONICAL, space);
  const b = basis.map((value) => value * scale);
  return new THREE.Matrix4().set(b[0], b[3], b[6], 0, b[1], b[4], b[7], 0, b[2], b[5], b[8], 0, 0, 0, 0, 1);
}

/** Half outline of somebody who walks, feet to crown, metres: half width and height. */
const WALKING: [number, number][] = [
  [0.08, 0],
  [0.12, 0.8],
  [0.24, 0.85],
  [0.2, 1.4],
  [0.06, 1.48],
  [0.11, 1.6],
  [0.07, 1.72],
  [0, 1.74],
];

/** Two sheets of paper across one another: a person from every side, of one size, its feet at the origin. */
function paperWalker(): THREE.BufferGeometry {
  const outline = [...WALKING, ...WALKING.toReversed().map(([w, h]): [number, number] => [-w, h])];
  const sheet = new THREE.ShapeGeometry(new THREE.Shape(outline.map(([w, h]) => new THREE.Vector2(w, h))));
  const across = sheet.clone().rotateY(Math.PI / 2);
  const places = [sheet, across].flatMap((one) => Array.from(one.getAttribute('position').array));
  const first = sheet.getAttribute('position').count;
  const corners = [...Array.from(sheet.index!.array), ...Array.from(across.index!.array, (corner) => corner + first)];
  const made = new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(places, 3));
  made.setIndex(corners);
  sheet.dispose();
  across.dispose();
  return made;
}

/** As many people as a park lets in. */
const MOST = 500;

/** Everybody who walks, in one draw, made once: nobody is about yet. In the axes of the package. */
export function makeWalkers(space: Space, tokens: Tokens): THREE.InstancedMesh {
  const people = new THREE.InstancedMesh(
    paperWalker().applyMatrix4(intoSpace(space)),
    new THREE.MeshBasicMaterial({ side: THREE.DoubleSide }),
    MOST,
  );
  // A crowd of one colour would run together.
  const coats = [tokens.ink, tokens.sea, tokens.inkSoft, tokens.note].map((colour) => new THREE.Color(colour));
  for (let i = 0; i < MOST; i++) people.setColorAt(i, coats[i % coats.length]);
  people.frustumCulled = false;
  people.count = 0;
  return people;
}

/** Puts everybody where they are now. */
export function placeWalkers(people: THREE.InstancedMesh, walkers: TrialState['walkers']): void {
  const at = new THREE.Matrix4();
  people.count = Math.min(MOST, walkers.length);
  for (let i = 0; i < people.count; i++) people.setMatrixAt(i, at.makeTranslation(...walkers[i]));
  people.instanceMatrix.needsUpdate = true;
}

/** The ground about a plot, tile by tile: level squares at their heights. In the axes of the package. */
export function terrainMarks(terrain: NonNullable<TrialState['terrain']>, tile: number, space: Space, tokens: Tokens): THREE.Object3D {
  const perMetre = 1 / space.metresPerUnit;
  const half = (tile * perMetre) / 2;
  const places: number[] = [];
  for (const { middle, height } of terrain) {
    const [x, y, z] = [middle[0], height * perMetre, middle[2]];
    const corners = [
      [x - half, z - half],
      [x + half, z - half],
      [x + half, z + half],
      [x - half, z + half],
    ];
    corners.forEach(([cx, cz], i) => {
      const [nx, nz] = corners[(i + 1) % 4];
      // The square, and where it stands above or below the plot the edge of its height.
      places.push(cx, y, cz, nx, y, nz);
      if (height !== 0) places.push(cx, y, cz, cx, 0, cz);
    });
  }
  return new THREE.LineSegments(
    new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(places, 3)),
    new THREE.LineBasicMaterial({ color: tokens.good }),
  );
}
