import { ImageUtils } from '@gltf-transform/core';
import { newId, type Blobs, type Image } from '../document';
import { IntakeError } from './intake-error';

/** Pixels along a side. */
const MAX_SIDE = 16_384;

function mediaTypeOf(bytes: Uint8Array): string | null {
  if (bytes[0] === 0x89 && bytes[1] === 0x50 && bytes[2] === 0x4e && bytes[3] === 0x47) return 'image/png';
  if (bytes[0] === 0xff && bytes[1] === 0xd8) return 'image/jpeg';
  const ascii = (from: number) => String.fromCharCode(...bytes.subarray(from, from + 4));
  if (ascii(0) === 'RIFF' && ascii(8) === 'WEBP') return 'image/webp';
  return null;
}

/**
 * An image as a kit keeps it, its size read from its header. Null where it is no PNG, JPEG or WebP; the contents say which.
 *
 * @throws {IntakeError} where a side is longer than can be taken in
 */
export function readImage(name: string, bytes: Uint8Array, fileName: string, blobs: Blobs): Image | null {
  const mediaType = mediaTypeOf(bytes);
  if (!mediaType) return null;
  let size: ArrayLike<number> | null;
  try {
    size = ImageUtils.getSize(bytes, mediaType);
  } catch {
    size = null;
  }
  if (!size || !(size[0] > 0) || !(size[1] > 0)) return null;
  if (size[0] > MAX_SIDE || size[1] > MAX_SIDE) {
    throw new IntakeError(
      'too-large',
      `“${fileName}” was refused: its image “${name}” is ${size[0]} × ${size[1]} pixels, and sides up to ${MAX_SIDE.toLocaleString('en')} are taken in. Make it smaller.`,
      name,
    );
  }
  return { id: newId(), name: name.slice(0, 200), mediaType, blob: blobs.put(bytes.slice()), bytes: bytes.length, width: size[0], height: size[1] };
}
