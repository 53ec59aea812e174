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

/** A watchman's coat: front in the left half, back in the right; buttons down the front, a pale face, dark boots. */
export function coatPng(size: number): Uint8Array {
  return paint(size, (x, y) => {
    const [u, v] = [((x / size) * 2) % 1, 1 - y / size];
    const weave = 0.9 + 0.1 * grain(Math.floor(x / 2), Math.floor(y / 2));
    const front = x < size / 2;
    if (v > 0.955) return [38 * weave, 48 * weave, 62 * weave];
    if (v > 0.86) return front ? [214 * weave, 172 * weave, 140 * weave] : [84 * weave, 62 * weave, 48 * weave];
    if (v < 0.1) return [46 * weave, 38 * weave, 34 * weave];
    if (v < 0.47) return [62 * weave, 66 * weave, 78 * weave];
    if (front && Math.abs(u - 0.5) < 0.012 && (v * 18) % 1 < 0.4) return [210, 170, 80];
    if (Math.abs(v - 0.52) < 0.012) return [70 * weave, 46 * weave, 32 * weave];
    return [40 * weave, 70 * weave, 84 * weave];
  });
}

/** A ray's hide: lit spots in rows over slate. */
export function hidePng(size: number): Uint8Array {
  return paint(size, (x, y) => {
    const shade = 0.85 + 0.15 * grain(Math.floor(x / 3), Math.floor(y / 3));
    const spot = Math.hypot((((x * 12) / size) % 1) - 0.5, (((y * 12) / size) % 1) - 0.5) < 0.16;
    return spot ? [240, 196, 96] : [58 * shade, 74 * shade, 96 * shade];
  });
}
