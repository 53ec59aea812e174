import { Document, WebIO, type Material } from '@gltf-transform/core';
import { pieceNode, type Piece } from './pieces';
import { BOOM_TIP, CRANE, ROPE_LENGTH, STAYS } from './sluice-crane-places';
import { tideGate, trolleyOnRails } from './sluice-crane-works';
import { bar, box, cylinder, girder, join, lathe, move, ring, turn, type Solid } from './solid';
import { ironPng, planksPng } from './textures';

/** A file's numbers are this many to the metre: the crane was drawn in centimetres. */
const PER_METRE = 100;

/** The crane as a person would have drawn it: everything in place, every pivot at the origin of the scene. */
function pieces(detail: number): Piece[] {
  const at = (solid: Solid, ...place: number[]) => move(solid, place as [number, number, number]);
  const [ax, , az] = CRANE.axis;
  const [hx, hy, hz] = CRANE.hinge;
  const [tx, ty, tz] = BOOM_TIP;
  const [wx, wy, wz] = CRANE.wheel;
  const [gx, , gz] = CRANE.gate;
  const pitched = (solid: Solid) => at(turn(solid, 0, -CRANE.boomPitchDegrees), hx, hy, hz);
  const wheelPart = (solid: Solid) => at(turn(solid, 2, 90), wx, wy, wz);
  const few = Math.max(6, Math.round(detail / 3));

  const hoist: Piece = {
    name: 'Hoist Rope',
    paint: 'iron',
    solid: bar([tx, ty - 0.2, tz], [tx, ty - 0.2 - ROPE_LENGTH, tz], 0.03, few),
  };
  const hook: Piece = {
    name: 'Hook-Block',
    paint: 'brass',
    solid: join(at(turn(cylinder(0.22, 0.16, detail), 2, 90), tx + 0.08, ty - 2.55, tz), at(box(0.1, 0.5, 0.34), tx, ty - 2.55, tz)),
    children: [{ name: 'hook', paint: 'iron', solid: at(turn(ring(0.13, 0.21, 0.08, detail), 0, 90), tx, ty - 3, tz - 0.04) }],
  };
  const boom: Piece = {
    name: 'Boom',
    paint: 'iron',
    solid: pitched(girder(0.7, 0.6, CRANE.boomLength, 10, few)),
    children: [
      { name: 'Boom Sheave', paint: 'brass', solid: at(turn(ring(0.08, 0.3, 0.12, detail), 2, 90), tx + 0.06, ty, tz) },
      {
        name: 'Lamp',
        paint: 'lamp',
        solid: at(
          lathe(
            [
              [0, 0],
              [0.14, 0.08],
              [0.14, 0.26],
              [0, 0.36],
            ],
            few,
          ),
          tx,
          ty + 0.3,
          tz - 0.3,
        ),
        nudge: [0, -0.0000002, 0],
      },
      { name: 'Boom Stay', paint: 'iron', solid: bar([...STAYS.boomPin], [...STAYS.joint], 0.045, few) },
      hoist,
      hook,
    ],
  };
  const turntable: Piece = {
    name: 'drv_turntable',
    paint: 'iron',
    solid: at(
      lathe(
        [
          [0, 0],
          [1.3, 0],
          [1.3, 0.2],
          [1.15, 0.3],
          [0, 0.3],
        ],
        2 * detail,
      ),
      ax,
      0.8,
      az,
    ),
    children: [
      { name: 'Cabin', paint: 'planks', solid: at(box(1.5, 1.5, 1.5), ax, 1.85, az - 0.2), scale: [2, 2, 2] },
      { name: 'Cabin Roof', paint: 'iron', solid: at(box(1.8, 0.12, 1.8), ax, 2.66, az - 0.2), nudge: [0.5999998, 0, 0] },
      { name: 'cabin_window', paint: 'lamp', solid: at(box(0.9, 0.6, 0.04), ax, 2.05, az + 0.57) },
      { name: 'Counterweight', paint: 'iron', solid: at(box(1.6, 0.7, 0.8), ax, 1.5, az - 1.35), flatTriangles: 6 },
      { name: 'Mast L', paint: 'iron', solid: bar([ax - 0.6, 2.6, az - 0.7], [ax - 0.1, 4.6, az - 0.5], 0.08, few) },
      { name: 'Mast R', paint: 'iron', solid: bar([ax + 0.6, 2.6, az - 0.7], [ax + 0.1, 4.6, az - 0.5], 0.08, few) },
      { name: 'Mast Stay', paint: 'brass', solid: bar([...STAYS.mastPin], [...STAYS.joint], 0.04, few) },
      {
        name: 'winch_drum',
        paint: 'brass',
        solid: at(
          turn(
            join(cylinder(0.3, 1, detail), at(cylinder(0.42, 0.06, detail), 0, -0.06, 0), at(cylinder(0.42, 0.06, detail), 0, 1, 0)),
            2,
            90,
          ),
          ax + 0.5,
          1.5,
          az + 0.95,
        ),
      },
      {
        name: 'seat_operator',
        paint: 'planks',
        solid: join(at(box(0.5, 0.08, 0.5), ax, 1.6, az - 0.1), at(box(0.5, 0.5, 0.08), ax, 1.9, az - 0.34)),
      },
      boom,
    ],
  };
  const gate: Piece = {
    name: 'Tide Gate',
    paint: 'iron',
    solid: join(at(box(0.4, 4.2, 0.5), gx - 1.6, 2.1, gz), at(box(0.4, 4.2, 0.5), gx + 1.6, 2.1, gz), at(box(3.6, 0.4, 0.6), gx, 4.3, gz)),
    children: [
      {
        name: 'Gate Leaf',
        paint: 'planks',
        solid: at(box(2.8, 2.6, 0.16), gx, 1.3, gz),
        withoutNormals: true,
        children: [
          {
            name: 'Gate Rack',
            paint: 'brass',
            solid: join(...Array.from({ length: 18 }, (_, i) => at(box(0.14, 0.06, 0.12), gx, 0.4 + 0.12 * i, gz + 0.16))),
          },
          { name: 'gate_rib', paint: 'iron', solid: join(...[0.5, 1.3, 2.1].map((y) => at(box(2.7, 0.12, 0.1), gx, y, gz - 0.13))) },
        ],
      },
      tideGate(1),
      tideGate(-1),
      {
        name: 'gate_pinion',
        paint: 'brass',
        solid: at(
          turn(
            join(
              ring(0.06, 0.22, 0.14, detail),
              ...Array.from({ length: 12 }, (_, i) => turn(at(box(0.06, 0.14, 0.09), 0, 0.07, 0.25), 1, 30 * i)),
            ),
            2,
            90,
          ),
          gx + 0.07,
          3.2,
          gz + 0.42,
        ),
      },
      {
        name: 'Lamp',
        paint: 'lamp',
        solid: at(
          lathe(
            [
              [0, 0],
              [0.14, 0.08],
              [0.14, 0.26],
              [0, 0.36],
            ],
            few,
          ),
          gx,
          4.5,
          gz,
        ),
      },
    ],
  };
  const wheel: Piece = {
    name: 'Pump Wheel',
    paint: 'iron',
    solid: wheelPart(at(join(ring(1.05, 1.2, 0.5, 2 * detail), ring(0.1, 0.24, 0.7, detail)), 0, -0.25, 0)),
    scale: [0.5, 0.5, 0.5],
    children: [
      {
        name: 'wheel_spokes',
        paint: 'planks',
        solid: wheelPart(join(...Array.from({ length: 8 }, (_, i) => turn(at(box(0.1, 0.12, 0.95), 0, 0, 0.62), 1, 45 * i)))),
      },
      {
        name: 'wheel_paddles',
        paint: 'planks',
        solid: wheelPart(join(...Array.from({ length: 16 }, (_, i) => turn(at(box(0.06, 0.7, 0.34), 0, 0, 1.3), 1, 22.5 * i)))),
      },
    ],
  };
  const pump: Piece = {
    name: 'Pump House',
    paint: 'planks',
    solid: join(at(box(1.4, 2.6, 2.4), wx - 1.4, 1.3, wz), at(box(1.7, 0.14, 2.8), wx - 1.4, 2.66, wz)),
    children: [
      { name: 'pump_axle', paint: 'iron', solid: bar([wx - 0.8, wy, wz], [wx + 0.5, wy, wz], 0.1, detail) },
      {
        name: 'Pump Pipe',
        paint: 'brass',
        solid: join(
          bar([wx - 1.4, 0.2, wz + 1.2], [wx - 1.4, 0.2, wz + 2.4], 0.18, detail),
          bar([wx - 1.4, 0.2, wz + 2.4], [wx - 1.4, 1.2, wz + 2.4], 0.18, detail),
        ),
      },
      wheel,
    ],
  };
  const quay: Piece = {
    name: 'Quay Plinth',
    paint: 'planks',
    solid: at(box(3.6, 0.8, 3.6), ax, 0.4, az),
    children: [
      {
        name: 'Bollard',
        paint: 'iron',
        solid: at(
          lathe(
            [
              [0, 0],
              [0.2, 0],
              [0.16, 0.3],
              [0.26, 0.36],
              [0.26, 0.44],
              [0, 0.48],
            ],
            detail,
          ),
          ax + 1.4,
          0.8,
          az + 1.4,
        ),
      },
      {
        name: 'Ladder',
        paint: 'iron',
        solid: join(
          ...[0.15, 0.35, 0.55].map((y) => at(box(0.5, 0.04, 0.06), ax - 1.2, y, az + 1.86)),
          at(box(0.05, 0.75, 0.06), ax - 1.43, 0.4, az + 1.86),
          at(box(0.05, 0.75, 0.06), ax - 0.97, 0.4, az + 1.86),
        ),
      },
      { name: 'mrk_waterline', paint: 'lamp', solid: at(box(3.62, 0.02, 3.62), ax, 0.25, az) },
      ...trolleyOnRails(few),
      turntable,
    ],
  };
  return [quay, gate, pump];
}

/**
 * The crane's GLB as it reaches a modder: drawn in centimetres, with the faults of a hasty export.
 *
 * @param detail Segments of a middling round part.
 */
export async function buildSluiceCraneGlb(detail = 52): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tallow Point drawing office';
  const buffer = document.createBuffer();
  const scene = document.createScene('Sluice crane');
  document.getRoot().setDefaultScene(scene);
  const planks = document.createTexture('planks').setImage(planksPng(256)).setMimeType('image/png');
  const iron = document.createTexture('iron').setImage(ironPng(200)).setMimeType('image/png');
  const materials: Record<string, Material> = {
    planks: document.createMaterial('planks').setBaseColorTexture(planks).setRoughnessFactor(0.9).setMetallicFactor(0),
    iron: document.createMaterial('painted_iron').setBaseColorTexture(iron).setRoughnessFactor(0.6).setMetallicFactor(0.1),
    brass: document.createMaterial('brass').setBaseColorFactor([0.72, 0.52, 0.2, 1]).setRoughnessFactor(0.4).setMetallicFactor(0.5),
    lamp: document
      .createMaterial('lamp_glass')
      .setBaseColorFactor([0.95, 0.82, 0.5, 1])
      .setEmissiveFactor([0.6, 0.42, 0.15])
      .setMetallicFactor(0),
  };

  for (const piece of pieces(detail)) scene.addChild(pieceNode(document, buffer, piece, materials, PER_METRE));
  return new WebIO().writeBinary(document);
}
