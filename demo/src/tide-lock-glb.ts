import { Document, WebIO, type Material } from '@gltf-transform/core';
import { pieceNode, type Piece } from './pieces';
import { bar, box, join, move, ring, turn, type Solid } from './solid';
import { ironPng, planksPng } from './textures';

/** Where things of the left side stand, metres; those of the right side are mirrored. */
export const LOCK = {
  gateHinge: [3, 0.4, 0] as const,
  /** On the gate, and on the wall: what the strut and the arm turn about. */
  strutHinge: [1.9, 3.15, -0.1] as const,
  armHinge: [3.4, 3.05, -2.2] as const,
  /** Where strut and arm meet. */
  joint: [3.22, 3.1, -0.81] as const,
  pump: [5.4, 1.6, 2.6] as const,
  /** Axle of the gantry's left wheel; the wheel runs on the wall's rail. */
  wheel: [4.2, 3.46, 0] as const,
  wheelRadius: 0.36,
  hook: [0, 3.9, 0] as const,
};

const at = (solid: Solid, ...place: readonly number[]) => move(solid, place as unknown as [number, number, number]);

/** One side: 1 is the left, −1 the right. */
function side(x: 1 | -1): Record<'wall' | 'gate' | 'strut' | 'arm' | 'wheel', Solid> {
  const over = ([px, py, pz]: readonly [number, number, number]) => [x * px, py, pz] as const;
  const { gateHinge, strutHinge, armHinge, joint, wheel, wheelRadius } = LOCK;
  const [gx] = gateHinge;
  return {
    wall: join(at(box(1.6, 2.6, 8), x * 3.8, 1.7, 0), at(box(0.12, 0.1, 8), x * wheel[0], 3.05, 0)),
    gate: join(
      at(box(gx - 0.02, 2.3, 0.16), (x * (gx + 0.02)) / 2, 1.6, 0),
      ...[0.9, 1.6, 2.3].map((y) => at(box(gx - 0.1, 0.14, 0.1), (x * gx) / 2, y, 0.12)),
      at(box(0.2, 0.5, 0.2), x * strutHinge[0], 2.92, strutHinge[2]),
    ),
    strut: bar([...over(strutHinge)], [x * joint[0], strutHinge[1], joint[2]], 0.05, 10),
    arm: bar([...over(armHinge)], [x * joint[0], armHinge[1], joint[2]], 0.06, 10),
    wheel: at(
      turn(
        join(
          ring(wheelRadius - 0.08, wheelRadius, 0.12, 40),
          ring(0.04, 0.1, 0.2, 16),
          ...[0, 1, 2, 3, 4].map((i) => turn(at(box(0.06, 0.06, wheelRadius - 0.1), 0, 0.06, wheelRadius / 2), 1, 72 * i)),
        ),
        2,
        90,
      ),
      x * wheel[0] + 0.06,
      wheel[1],
      wheel[2],
    ),
  };
}

/** The lock as a person would have drawn it: in place, named as Brinework wants it, every pivot at the origin of the scene. */
function pieces(): Piece {
  const [left, right] = [side(1), side(-1)];
  const [px, py, pz] = LOCK.pump;
  const [, wy] = LOCK.wheel;
  const [, hy] = LOCK.hook;
  const upright = (x: number) => at(box(0.2, 1.6, 0.5), x * LOCK.wheel[0] * 1.06, wy + 0.6, 0);
  return {
    name: 'base_lock',
    paint: 'planks',
    solid: join(at(box(14, 0.4, 9), 0, 0.2, 0), left.wall, right.wall),
    children: [
      {
        name: 'drv_gate_left',
        paint: 'planks',
        solid: left.gate,
        children: [{ name: 'drv_strut_left', paint: 'iron', solid: left.strut }],
      },
      {
        name: 'drv_gate_right',
        paint: 'planks',
        solid: right.gate,
        children: [{ name: 'drv_strut_right', paint: 'iron', solid: right.strut }],
      },
      { name: 'drv_arm_left', paint: 'brass', solid: left.arm },
      { name: 'drv_arm_right', paint: 'brass', solid: right.arm },
      {
        name: 'pump_house',
        paint: 'planks',
        solid: at(box(1, 2.4, 2), px + 1.1, 1.6, pz),
        children: [
          { name: 'pump_axle', paint: 'iron', solid: bar([px - 0.4, py, pz], [px + 0.7, py, pz], 0.06, 12) },
          {
            name: 'drv_pump_wheel',
            paint: 'iron',
            solid: at(turn(join(ring(0.85, 0.95, 0.3, 48), ring(0.07, 0.18, 0.4, 16)), 2, 90), px + 0.15, py, pz),
            children: [
              {
                name: 'pump_arms',
                paint: 'planks',
                solid: at(
                  turn(join(...[0, 1, 2, 3, 4, 5].map((i) => turn(at(box(0.08, 0.1, 0.75), 0, 0, 0.5), 1, 60 * i))), 2, 90),
                  px,
                  py,
                  pz,
                ),
              },
            ],
          },
        ],
      },
      {
        name: 'drv_gantry',
        paint: 'iron',
        solid: join(at(box(9.6, 0.3, 0.4), 0, wy + 1.3, 0), upright(1), upright(-1)),
        children: [
          { name: 'drv_wheel_left', paint: 'brass', solid: left.wheel },
          { name: 'drv_wheel_right', paint: 'brass', solid: right.wheel },
          {
            name: 'drv_hook',
            paint: 'brass',
            solid: join(at(box(0.3, 0.4, 0.3), 0, hy - 0.2, 0), bar([0, hy, 0], [0, wy + 1.2, 0], 0.03, 8)),
          },
        ],
      },
      { name: 'lamp_go', paint: 'lamp', solid: at(box(0.2, 0.2, 0.2), 4.3, 3.3, 3.6) },
      { name: 'lamp_wait', paint: 'brass', solid: at(box(0.2, 0.2, 0.2), 4.3, 3.3, 3.6) },
    ],
  };
}

/** The lock's GLB: drawn in metres, with nothing wired. */
export async function buildTideLockGlb(): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tallow Point drawing office';
  const buffer = document.createBuffer();
  const scene = document.createScene('Tide lock');
  document.getRoot().setDefaultScene(scene);
  const picture = (name: string, bytes: Uint8Array) => document.createTexture(name).setImage(bytes).setMimeType('image/png');
  const materials: Record<string, Material> = {
    planks: document
      .createMaterial('planks')
      .setBaseColorTexture(picture('planks', planksPng(256)))
      .setMetallicFactor(0),
    iron: document
      .createMaterial('painted_iron')
      .setBaseColorTexture(picture('iron', ironPng(256)))
      .setMetallicFactor(0.1),
    brass: document.createMaterial('brass').setBaseColorFactor([0.72, 0.52, 0.2, 1]).setRoughnessFactor(0.4).setMetallicFactor(0.5),
    lamp: document
      .createMaterial('lamp_glass')
      .setBaseColorFactor([0.4, 0.85, 0.5, 1])
      .setEmissiveFactor([0.1, 0.5, 0.2])
      .setMetallicFactor(0),
  };
  scene.addChild(pieceNode(document, buffer, pieces(), materials, 1));
  return new WebIO().writeBinary(document);
}
