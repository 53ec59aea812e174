import { encode } from 'fast-png';

/** A number from 0 to 1 for a place; always the same for the same place. */
function grain(x: number, y: number): number {
  const value = Math.sin(x * 127.1 + y * 311.7) * 43758.5453;
  return value - Math.floor(value);
}

function paint(size: number, colour: (x: number, y: number) => [number, number, number]): Uint8Array {
  const data = new Uint8Array(size * size * 3);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++)
      data.set(
        colour(x, y).map((value) => Math.max(0, Math.min(255, Math.round(value)))),
        3 * (y * size + x),
      );
  return encode({ width: size, height: size, data, channels: 3, depth: 8 });
}

/** Tarred planks, five to the tile. */
export function planksPng(size: number): Uint8Array {
  return paint(size, (x, y) => {
    const plank = Math.floor((x * 5) / size);
    const seam = ((x * 5) / size) % 1 < 0.06 ? 0.45 : 1;
    const streak = 0.82 + 0.18 * grain(plank * 7 + Math.floor(x / 3), Math.floor(y / 24) + plank);
    return [150 * seam * streak, 112 * seam * streak, 78 * seam * streak];
  });
}

/** Painted iron with rust at the rivets. */
export function ironPng(size: number): Uint8Array {
  return paint(size, (x, y) => {
    const u = ((x * 4) / size) % 1;
    const v = ((y * 4) / size) % 1;
    const rivet = Math.hypot(u - 0.5, v - 0.5) < 0.12;
    const wear = 0.86 + 0.14 * grain(Math.floor(x / 2), Math.floor(y / 2));
    return rivet ? [140 * wear, 84 * wear, 58 * wear] : [62 * wear, 104 * wear, 112 * wear];
  });
}
