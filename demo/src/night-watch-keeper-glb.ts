import { Document, WebIO } from '@gltf-transform/core';
import { pieceNode } from './pieces';
import { blend, bothSides, egg, limb, meshOf } from './surface-nets';
import { coatPng } from './textures';

/** The keeper in one piece, 1.76 m, arms held a little off the sides; the left half, in metres. */
function keeper() {
  const arm = blend(
    0.05,
    limb([0.17, 1.42, -0.01], 0.062, [0.4, 1.17, -0.02], 0.05),
    limb([0.4, 1.17, -0.02], 0.048, [0.6, 0.95, 0.03], 0.036),
    limb([0.6, 0.95, 0.03], 0.036, [0.69, 0.85, 0.06], 0.04),
  );
  const leg = blend(
    0.04,
    limb([0.1, 0.9, 0], 0.095, [0.115, 0.5, 0.01], 0.066),
    limb([0.115, 0.5, 0.01], 0.064, [0.12, 0.11, -0.02], 0.045),
    limb([0.12, 0.055, -0.035], 0.052, [0.125, 0.045, 0.13], 0.042),
  );
  const trunk = blend(
    0.08,
    egg([0, 1.02, 0], [0.165, 0.17, 0.115]),
    egg([0, 1.27, 0], [0.185, 0.24, 0.125]),
    limb([0, 1.4, -0.01], 0.075, [0, 1.53, 0], 0.055),
  );
  const head = blend(0.04, egg([0, 1.63, 0.015], [0.095, 0.125, 0.11]), egg([0, 1.69, 0], [0.13, 0.03, 0.13]));
  return bothSides(blend(0.05, blend(0.07, trunk, arm), blend(0.05, leg, head)));
}

/** The keeper's GLB: a body and a lantern at the belt, no joints, as the modeller left it. */
export async function buildNightWatchKeeperGlb(step = 0.028): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Tallow Point drawing office';
  const buffer = document.createBuffer();
  const scene = document.createScene('Night-watch keeper');
  document.getRoot().setDefaultScene(scene);
  const coat = document.createTexture('coat').setImage(coatPng(256)).setMimeType('image/png');
  const materials = { coat: document.createMaterial('watch coat').setBaseColorTexture(coat).setRoughnessFactor(0.9).setMetallicFactor(0) };
  const solid = meshOf(keeper(), [-0.78, -0.02, -0.26], [0.78, 1.84, 0.3], step);
  const low = solid.positions.reduce((least, value, i) => (i % 3 === 1 ? Math.min(least, value) : least), Infinity);
  solid.positions = solid.positions.map((value, i) => (i % 3 === 1 ? value - low : value));
  scene.addChild(pieceNode(document, buffer, { name: 'body', solid, paint: 'coat' }, materials, 1));
  return new WebIO().writeBinary(document);
}
