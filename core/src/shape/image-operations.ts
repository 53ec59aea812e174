import { encode as encodePng } from 'fast-png';
import jpeg from 'jpeg-js';
import Joi from 'joi';
import { defineOperation, idSchema, KitError, type Blobs, type Id, type Image, type Kit, type Sha } from '../document';
import { decodeImage, imageHeader, MAX_IMAGE_SIDE, resizePixels, type Pixels } from '../geometry';

function imageOf(kit: Kit, id: Id): Image {
  const image = kit.images[id];
  if (!image) throw new KitError('image-missing', 'That image is no longer in the kit. Choose another one.', id);
  return image;
}

function putPng(image: Image, pixels: Pixels, blobs: Blobs): void {
  const bytes = encodePng({ ...pixels, depth: pixels.data instanceof Uint16Array ? 16 : 8 });
  Object.assign(image, { blob: blobs.put(bytes), mediaType: 'image/png', bytes: bytes.length, width: pixels.width, height: pixels.height });
}

/** An image at another size in pixels, written as PNG. */
export const resizeImage = defineOperation<{ image: Id; width: number; height: number }>({
  id: 'shape.resize-image',
  title: (kit, { image, width, height }) => `Resize “${kit.images[image]?.name}” to ${width} × ${height}`,
  args: Joi.object({
    image: idSchema.required(),
    width: Joi.number().integer().min(1).max(MAX_IMAGE_SIDE).required(),
    height: Joi.number().integer().min(1).max(MAX_IMAGE_SIDE).required(),
  }),
  change(kit, { image: id, width, height }, blobs) {
    const image = imageOf(kit, id);
    putPng(image, resizePixels(decodeImage(blobs.get(image.blob), image.mediaType, image.name), width, height), blobs);
  },
});

/** Kinds of pictures that can be written. */
export const IMAGE_FORMATS = ['image/png', 'image/jpeg'] as const;
export type ImageFormat = (typeof IMAGE_FORMATS)[number];

/** Good enough that nobody sees it, at a fifth of a PNG's bytes. */
const JPEG_QUALITY = 90;

/** An image written in another format; JPEG drops what is see-through. */
export const convertImage = defineOperation<{ image: Id; mediaType: ImageFormat }>({
  id: 'shape.convert-image',
  title: (kit, { image, mediaType }) => `Write “${kit.images[image]?.name}” as ${mediaType === 'image/png' ? 'PNG' : 'JPEG'}`,
  args: Joi.object({ image: idSchema.required(), mediaType: Joi.valid(...IMAGE_FORMATS).required() }),
  change(kit, { image: id, mediaType }, blobs) {
    const image = imageOf(kit, id);
    const pixels = decodeImage(blobs.get(image.blob), image.mediaType, image.name);
    if (mediaType === 'image/png') return putPng(image, pixels, blobs);
    const { data } = jpeg.encode({ width: pixels.width, height: pixels.height, data: rgbaOf(pixels) }, JPEG_QUALITY);
    const bytes = new Uint8Array(data);
    Object.assign(image, { blob: blobs.put(bytes), mediaType, bytes: bytes.length });
  },
});

function rgbaOf({ width, height, channels, data }: Pixels): Uint8Array {
  const out = new Uint8Array(4 * width * height).fill(255);
  const shift = data instanceof Uint16Array ? 8 : 0;
  for (let p = 0; p < width * height; p++) {
    for (let c = 0; c < 3; c++) out[4 * p + c] = data[p * channels + (channels < 3 ? 0 : c)] >> shift;
  }
  return out;
}

/** Bytes that are no picture that can be read. */
export class NotAnImageError extends KitError {
  constructor(name: string) {
    super(
      'not-an-image',
      `“${name}” is no PNG, JPEG or WebP image of up to ${MAX_IMAGE_SIDE.toLocaleString('en')} pixels a side. Choose another file.`,
      name,
    );
  }
}

function headerOf(blob: Sha, name: string, blobs: Blobs): Pick<Image, 'blob' | 'mediaType' | 'bytes' | 'width' | 'height'> {
  const bytes = blobs.get(blob);
  const header = imageHeader(bytes);
  if (!header || Math.max(header.width, header.height) > MAX_IMAGE_SIDE) throw new NotAnImageError(name);
  return { blob, bytes: bytes.length, ...header };
}

/** Puts another picture in an image's place; all materials that show it show the new one. @param blob Name of the new file's bytes. */
export const replaceImage = defineOperation<{ image: Id; name: string; blob: Sha }>({
  id: 'shape.replace-image',
  title: (kit, { image, name }) => `Put “${name}” in the place of “${kit.images[image]?.name}”`,
  args: Joi.object({
    image: idSchema.required(),
    name: Joi.string().min(1).max(200).required(),
    blob: Joi.string().hex().length(64).required(),
  }),
  change(kit, { image: id, name, blob }, blobs) {
    Object.assign(imageOf(kit, id), headerOf(blob, name, blobs), { name });
  },
});

/** Takes a picture into the kit, for materials to show. */
export const addImage = defineOperation<{ id: Id; name: string; blob: Sha }>({
  id: 'shape.add-image',
  title: (_, { name }) => `Take in the image “${name}”`,
  args: Joi.object({
    id: idSchema.required(),
    name: Joi.string().min(1).max(200).required(),
    blob: Joi.string().hex().length(64).required(),
  }),
  change(kit, { id, name, blob }, blobs) {
    kit.images[id] = { id, name, ...headerOf(blob, name, blobs) };
  },
});
