import { decode as decodePng } from 'fast-png';
import jpeg from 'jpeg-js';
import { KitError } from '../document';

/** A picture of a kind that is only read. */
export class ImageFormatError extends KitError {
  constructor(name: string, mediaType: string) {
    super(
      'image-format',
      `“${name}” is ${mediaType}; only PNG and JPEG pictures are taken apart here. Replace it with one of these.`,
      name,
    );
  }
}

export interface Pixels {
  width: number;
  height: number;
  channels: number;
  /** Row after row from the top, `channels` a pixel. */
  data: Uint8Array | Uint16Array;
}

/** @throws {ImageFormatError} */
export function decodeImage(bytes: Uint8Array, mediaType: string, name: string): Pixels {
  if (mediaType === 'image/png') {
    const png = decodePng(bytes);
    const data = png.data as Uint8Array | Uint16Array;
    if (!png.palette) return { width: png.width, height: png.height, channels: png.channels, data };
    const channels = png.palette[0].length;
    const out = new Uint8Array(png.width * png.height * channels);
    data.forEach((entry, i) => out.set(png.palette![entry], i * channels));
    return { width: png.width, height: png.height, channels, data: out };
  }
  if (mediaType === 'image/jpeg') {
    const { width, height, data } = jpeg.decode(bytes, { useTArray: true, formatAsRGBA: false });
    return { width, height, channels: 3, data };
  }
  throw new ImageFormatError(name, mediaType);
}

/** Each new pixel is the mean of the old ones that it covers, shares of pixels included. */
export function resizePixels(source: Pixels, width: number, height: number): Pixels {
  const rows = resample(source.data, source.width, source.height, source.channels, width);
  const turned = resample(transpose(rows, width, source.height, source.channels), source.height, width, source.channels, height);
  const out = transpose(turned, height, width, source.channels);
  const data = source.data instanceof Uint16Array ? new Uint16Array(out.length) : new Uint8Array(out.length);
  out.forEach((value, i) => (data[i] = Math.round(value)));
  return { width, height, channels: source.channels, data };
}

function resample(data: ArrayLike<number>, width: number, height: number, channels: number, to: number): Float32Array {
  const out = new Float32Array(to * height * channels);
  const step = width / to;
  for (let x = 0; x < to; x++) {
    // Enlarging reads at the pixel's middle, between two old ones; shrinking covers the old pixels under the new one.
    const from = step < 1 ? Math.max(0, (x + 0.5) * step - 0.5) : x * step;
    const end = step < 1 ? Math.min(width, from + 1) : (x + 1) * step;
    for (let sx = Math.floor(from); sx < Math.min(width, Math.ceil(end - 1e-9)); sx++) {
      const share = (Math.min(sx + 1, end) - Math.max(sx, from)) / (end - from);
      for (let y = 0; y < height; y++)
        for (let c = 0; c < channels; c++) out[(y * to + x) * channels + c] += share * data[(y * width + sx) * channels + c];
    }
  }
  return out;
}

function transpose(data: Float32Array, width: number, height: number, channels: number): Float32Array {
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < channels; c++) out[(x * height + y) * channels + c] = data[(y * width + x) * channels + c];
  return out;
}
