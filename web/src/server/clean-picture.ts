import sharp from 'sharp';
import { KitError } from '@itchkit/core/document';

/** Pixels on a side that a picture on the shelf may have. */
const MOST_PIXELS = 1024;

/**
 * A PNG decoded and written anew, so that nothing is kept of what came but its pixels.
 *
 * @throws {KitError} where it is none, or larger than 1024 pixels on a side
 */
export async function cleanPicture(bytes: Uint8Array): Promise<Uint8Array> {
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS ** 2, failOn: 'warning' });
    const { format, width, height } = await picture.metadata();
    if (format === 'png' && width <= MOST_PIXELS && height <= MOST_PIXELS) return new Uint8Array(await picture.png().toBuffer());
  } catch {
    // What can't be decoded is no picture.
  }
  throw new KitError('request', `A picture of a kit has to be a PNG of at most ${MOST_PIXELS} × ${MOST_PIXELS} pixels.`);
}
