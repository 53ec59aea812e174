import { ImageUtils } from '@gltf-transform/core';

/** Pixels along a side that are taken in. */
export const MAX_IMAGE_SIDE = 16_384;

export interface ImageHeader {
  mediaType: string;
  /** Pixels. */
  width: number;
  height: number;
}

/** What an image's first bytes say; null where it is no PNG, JPEG or WebP of any size. The contents count, not the name. */
export function imageHeader(bytes: Uint8Array): ImageHeader | null {
  const mediaType = mediaTypeOf(bytes);
  if (!mediaType) return null;
  try {
    const size = ImageUtils.getSize(bytes, mediaType);
    return size && size[0] > 0 && size[1] > 0 ? { mediaType, width: size[0], height: size[1] } : null;
  } catch {
    return null;
  }
}

function mediaTypeOf(bytes: Uint8Array): string | null {
  if (bytes[0] === 0x89 && bytes[1] === 0x50 && bytes[2] === 0x4e && bytes[3] === 0x47) return 'image/png';
  if (bytes[0] === 0xff && bytes[1] === 0xd8) return 'image/jpeg';
  const ascii = (from: number) => String.fromCharCode(...bytes.subarray(from, from + 4));
  if (ascii(0) === 'RIFF' && ascii(8) === 'WEBP') return 'image/webp';
  return null;
}
