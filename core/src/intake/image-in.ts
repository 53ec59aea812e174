import { newId, type Blobs, type Image, cutText } from '../document';
import { imageHeader, MAX_IMAGE_SIDE } from '../geometry';
import { IntakeError } from './intake-error';

/**
 * An image as a kit keeps it, its size read from its header. Null where it is no PNG, JPEG or WebP; the contents say which.
 *
 * @throws {IntakeError} where a side is longer than can be taken in
 */
export function readImage(name: string, bytes: Uint8Array, fileName: string, blobs: Blobs): Image | null {
  const header = imageHeader(bytes);
  if (!header) return null;
  const { mediaType, width, height } = header;
  if (width > MAX_IMAGE_SIDE || height > MAX_IMAGE_SIDE) {
    throw new IntakeError(
      'too-large',
      `“${fileName}” was refused: its image “${name}” is ${width} × ${height} pixels, and sides up to ${MAX_IMAGE_SIDE.toLocaleString('en')} are taken in. Make it smaller.`,
      name,
    );
  }
  return { id: newId(), name: cutText(name, 200), mediaType, blob: blobs.put(bytes.slice()), bytes: bytes.length, width, height };
}
