import { Document, WebIO } from '@gltf-transform/core';
import { pieceNode, type Piece } from './pieces';
import { box, cylinder, join, lathe, move, turn, type Solid } from './solid';
import { ironPng } from './textures';

/** The lid's hinge in the frame's axes (its z is up), metres. */
export const LID_HINGE = [0.25, -0.35, 0.9] as const;

/** In one piece, as it was cast: the shell, its lid and door, the horn and the latch are loose pieces of one mesh. */
function pieces(): Piece[] {
  const at = (solid: Solid, ...place: number[]) => move(solid, place as [number, number, number]);
  const wall = 0.03;
  const shell = join(
    at(box(0.5, wall, 0.7), 0, wall / 2, 0),
    at(box(wall, 0.84, 0.7), -0.235, 0.45, 0),
    at(box(wall, 0.84, 0.7), 0.235, 0.45, 0),
    at(box(0.44, 0.84, wall), 0, 0.45, -0.335),
  );
  const horn = turn(
    lathe(
      [
        [0.05, 0],
        [0.06, 0.1],
        [0.09, 0.2],
        [0.16, 0.3],
        [0.2, 0.32],
        [0.05, 0],
      ],
      180,
    ),
    0,
    90,
  );
  return [
    {
      name: 'Cabinet',
      paint: 'iron',
      solid: join(
        shell,
        at(box(0.5, 0.04, 0.7), 0, 0.9, 0),
        at(box(0.42, 0.8, wall), 0, 0.45, 0.335),
        at(box(0.06, 0.1, 0.03), 0.14, 0.5, 0.37),
      ),
    },
    { name: 'Horn', paint: 'brass', solid: at(horn, 0, 0.6, -0.1), insideOut: true },
    { name: 'Handle', paint: 'brass2', solid: at(cylinder(0.015, 0.12, 60), -0.1, 0.92, 0.2), scale: [0.01, 0.01, 0.01] },
  ];
}

/** The cabinet's GLB, drawn in centimetres. */
export async function buildFoghornCabinetGlb(): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tallow Point drawing office';
  const buffer = document.createBuffer();
  const scene = document.createScene('Foghorn cabinet');
  document.getRoot().setDefaultScene(scene);
  const iron = document.createTexture('iron').setImage(ironPng(180)).setMimeType('image/png');
  const brass = (name: string) =>
    document.createMaterial(name).setBaseColorFactor([0.72, 0.52, 0.2, 1]).setRoughnessFactor(0.4).setMetallicFactor(0.5);
  const materials = {
    iron: document.createMaterial('painted iron').setBaseColorTexture(iron).setRoughnessFactor(0.6).setMetallicFactor(0.1),
    brass: brass('brass'),
    brass2: brass('brass.001'),
  };
  for (const piece of pieces()) scene.addChild(pieceNode(document, buffer, piece, materials, 100));
  return new WebIO().writeBinary(document);
}
