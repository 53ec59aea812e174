import { Document, WebIO } from '@gltf-transform/core';
import { pieceNode } from './pieces';
import { box, move } from './solid';
import { hidePng } from './textures';

/** A sixteenth of a metre: what Cubbin counts in. */
const NOTCH = 0.0625;

type Corners = [from: [number, number, number], to: [number, number, number]];

/** The ray in boxes, by lower and upper corner in sixteenths of a metre; what lies to the left is there on the right too. */
const BOXES: Record<string, Corners> = {
  trunk: [
    [-3, 0, -4],
    [3, 3, 5],
  ],
  head: [
    [-2, 0, 5],
    [2, 3, 8],
  ],
  tail: [
    [-1, 1, -8],
    [1, 2, -4],
  ],
  tail_mid: [
    [-1, 1, -12],
    [1, 2, -8],
  ],
  tail_end: [
    [-1, 1, -15],
    [1, 2, -12],
  ],
};
const SIDE_BOXES: Record<string, Corners> = {
  fin_root: [
    [3, 1, -3],
    [7, 2, 4],
  ],
  fin_mid: [
    [7, 1, -2],
    [11, 2, 3],
  ],
  fin_tip: [
    [11, 1, -1],
    [15, 2, 2],
  ],
  fan: [
    [1, 1, -15],
    [5, 2, -12],
  ],
};

/** Every box by the joint that is to hold it. */
export function rayBoxes(left: string, right: string): [joint: string, corners: Corners][] {
  const mirrored = ([[ax, ay, az], [bx, by, bz]]: Corners): Corners => [
    [-bx, ay, az],
    [-ax, by, bz],
  ];
  return [
    ...Object.entries(BOXES),
    ...Object.entries(SIDE_BOXES).flatMap(([name, corners]): [string, Corners][] => [
      [left + name, corners],
      [right + name, mirrored(corners)],
    ]),
  ];
}

/** The ray's GLB: boxes below an origin, each with a material of its own kind, nothing to move them by. */
export async function buildLanternRayGlb(): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tallow Point drawing office';
  const buffer = document.createBuffer();
  const scene = document.createScene('Lantern ray');
  document.getRoot().setDefaultScene(scene);
  const hide = document.createTexture('hide').setImage(hidePng(64)).setMimeType('image/png');
  const materials = { hide: document.createMaterial('ray hide').setBaseColorTexture(hide).setRoughnessFactor(0.7).setMetallicFactor(0) };
  const children = rayBoxes('l_', 'r_').map(([name, [from, to]]) => {
    const size = from.map((value, axis) => (to[axis] - value) * NOTCH);
    const middle = from.map((value, axis) => ((value + to[axis]) / 2) * NOTCH) as [number, number, number];
    return { name: `${name}_box`, paint: 'hide', solid: move(box(size[0], size[1], size[2]), middle) };
  });
  scene.addChild(pieceNode(document, buffer, { name: 'origin', children }, materials, 1));
  return new WebIO().writeBinary(document);
}
