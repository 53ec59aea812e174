import { Document, WebIO } from '@gltf-transform/core';
import { pieceNode, type Piece } from './pieces';
import { bar, box, cylinder, join, lathe, move, turn, type Solid } from './solid';
import { planksPng } from './textures';

/** Where things stand, metres: three by two tiles of 2 m about the origin. */
export const HALT = {
  deck: 0.6,
  seat: [0.9, 1.1, 0.45] as const,
  seatStep: [-0.6, 0, 0] as const,
  lamp: [2.7, 0.6, -1.8] as const,
  lampStep: [-0.9, 0, 0] as const,
  step: [0, -0.2, 0.33] as const,
};

/** UVs made as large as the whole fits into the picture once. */
function within(solid: Solid): Solid {
  const most = Math.max(1, ...solid.uvs);
  return { ...solid, uvs: solid.uvs.map((value) => value / most) };
}

/**
 * The halt as a person would have drawn it before giving up on counting: one seat of eight, one lamp of six, one step of three. Names as
 * they came to mind, a car whose pivot stands beside it, a lamp turned on the finest lathe, a bell that is part of the car.
 */
function pieces(): Piece[] {
  const at = (solid: Solid, ...place: number[]) => move(solid, place as [number, number, number]);
  const [sx, sy, sz] = HALT.seat;
  const [lx, ly, lz] = HALT.lamp;
  const seat = join(at(box(0.42, 0.06, 0.4), sx, sy, sz), at(box(0.42, 0.45, 0.06), sx, sy + 0.22, sz + 0.2));
  const lamp = join(
    at(cylinder(0.05, 2, 60), lx, ly, lz),
    at(
      lathe(
        [
          [0, 0],
          [0.16, 0.06],
          [0.2, 0.2],
          [0.16, 0.36],
          [0, 0.42],
        ],
        160,
      ),
      lx,
      ly + 2,
      lz,
    ),
  );
  const car = join(
    at(box(3.4, 0.14, 1.5), 0, 0.95, 0.2),
    at(box(3.4, 0.1, 1.6), 0, 2.9, 0.2),
    ...[-1.6, 1.6].flatMap((x) => [-0.48, 0.88].map((z) => bar([x, 1, z], [x, 2.9, z], 0.05, 12))),
    ...[-1.1, 1.1].flatMap((x) => [-0.4, 0.8].map((z) => at(turn(cylinder(0.2, 0.08, 24), 0, 90), x, 0.82, z))),
    at(
      lathe(
        [
          [0, 0],
          [0.12, 0],
          [0.06, 0.16],
          [0, 0.2],
        ],
        24,
      ),
      1.4,
      2.6,
      0.2,
    ),
  );
  return [
    {
      name: 'Platform',
      paint: 'planks',
      solid: within(join(at(box(6, HALT.deck, 3), 0, HALT.deck / 2, -0.5), at(box(0.1, 1.6, 0.1), -2.8, 1.4, 0.8))),
      flatTriangles: 4,
    },
    { name: 'Step', paint: 'planks', solid: within(at(box(1.6, 0.2, 0.34), -1.6, 0.5, 1.17)), insideOut: true },
    { name: 'Tram Car', paint: 'paint', solid: within(car), nudge: [0.4000002, 0, 0] },
    { name: 'Seat', paint: 'paint', solid: within(seat), scale: [0.5, 0.5, 0.5] },
    { name: 'Lamp', paint: 'glass', solid: within(lamp) },
  ];
}

/** The halt's GLB as it reaches a town builder, in metres. */
export async function buildHillTramHaltGlb(): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tallow Point drawing office';
  const buffer = document.createBuffer();
  const scene = document.createScene('Hill tram halt');
  document.getRoot().setDefaultScene(scene);
  const planks = document.createTexture('planks').setImage(planksPng(256)).setMimeType('image/png');
  const materials = {
    planks: document.createMaterial('planks').setBaseColorTexture(planks).setRoughnessFactor(0.9).setMetallicFactor(0),
    paint: document.createMaterial('Recolour 1').setBaseColorFactor([0.5, 0.12, 0.09, 1]).setRoughnessFactor(0.5).setMetallicFactor(0),
    glass: document
      .createMaterial('lamp glass')
      .setBaseColorFactor([0.95, 0.82, 0.5, 1])
      .setEmissiveFactor([0.6, 0.42, 0.15])
      .setMetallicFactor(0),
  };
  for (const piece of pieces()) scene.addChild(pieceNode(document, buffer, piece, materials, 1));
  return new WebIO().writeBinary(document);
}
