import * as THREE from 'three';

let made: THREE.DataTexture | null = null;

/** A white disc with a soft rim, 32 pixels: points are drawn as beads by it. */
export function roundDot(): THREE.Texture {
  if (made) return made;
  const side = 32;
  const data = new Uint8Array(4 * side * side);
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const off = Math.hypot(x + 0.5 - side / 2, y + 0.5 - side / 2);
      data.set([255, 255, 255, 255 * Math.min(1, Math.max(0, side / 2 - off))], 4 * (x + side * y));
    }
  made = new THREE.DataTexture(data, side, side);
  made.needsUpdate = true;
  return made;
}
