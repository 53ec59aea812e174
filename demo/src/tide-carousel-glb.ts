import { Document, WebIO } from '@gltf-transform/core';
import { pieceNode, type Piece } from './pieces';
import { bar, box, cylinder, join, lathe, move, turn, type Solid } from './solid';

/** Where things are, metres: three by three tiles of 2 m about the origin. */
export const CAROUSEL = {
  gondolas: 6,
  /** How far from the mast gondolas hang, how high they hang from, and how far below that somebody sits. */
  radius: 1.6,
  hang: 2.5,
  drop: 1.8,
  deck: 0.2,
} as const;

const within = (solid: Solid): Solid => {
  const most = Math.max(1, ...solid.uvs);
  return { ...solid, uvs: solid.uvs.map((value) => value / most) };
};

/** A gondola as it hangs ahead of the mast: a rod, a bench with a back, turned so that who sits looks outward. */
function gondola(): Solid {
  const { radius, hang, drop } = CAROUSEL;
  const y = hang - drop;
  return join(
    bar([0, y, radius], [0, hang, radius], 0.03, 8),
    move(box(0.6, 0.08, 0.5), [0, y - 0.04, radius]),
    move(box(0.6, 0.5, 0.06), [0, y + 0.21, radius - 0.22]),
  );
}

function pieces(): Piece[] {
  const { gondolas, hang, deck } = CAROUSEL;
  const round = (n: number) => (360 * n) / gondolas;
  const canopy = lathe(
    [
      [0, 0],
      [2.1, 0],
      [1.9, 0.14],
      [0, 0.55],
    ],
    36,
  );
  const arms = Array.from({ length: gondolas }, (_, n) => turn(bar([0, hang, 0.1], [0, hang, CAROUSEL.radius], 0.05, 8), 1, round(n)));
  return [
    { name: 'Deck', paint: 'planks', solid: within(cylinder(2.6, deck, 48)) },
    { name: 'Mast', paint: 'paint', solid: within(move(cylinder(0.14, 3.1, 16), [0, deck, 0])) },
    { name: 'Ring', paint: 'paint', solid: within(join(move(canopy, [0, hang, 0]), ...arms)) },
    ...Array.from({ length: gondolas }, (_, n): Piece => ({
      name: `Gondola ${n + 1}`,
      paint: 'paint',
      solid: within(turn(gondola(), 1, round(n))),
    })),
    { name: 'Lantern', paint: 'glass', solid: within(move(cylinder(0.18, 0.3, 16), [0, 3.3, 0])) },
  ];
}

/** The carousel's GLB as a shipwright draws it, in metres: all of it side by side. */
export async function buildTideCarouselGlb(): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tallow Point drawing office';
  const buffer = document.createBuffer();
  const scene = document.createScene('Tide carousel');
  document.getRoot().setDefaultScene(scene);
  const paint = (name: string, colour: [number, number, number, number]) =>
    document.createMaterial(name).setBaseColorFactor(colour).setRoughnessFactor(0.6).setMetallicFactor(0);
  const materials = {
    planks: paint('deck boards', [0.42, 0.3, 0.2, 1]),
    paint: paint('recolour-1', [1, 1, 1, 1]),
    glass: paint('night-glow', [0.98, 0.9, 0.6, 1]),
  };
  for (const piece of pieces()) scene.addChild(pieceNode(document, buffer, piece, materials, 1));
  return new WebIO().writeBinary(document);
}
