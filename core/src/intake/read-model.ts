import type { Blobs, Kit } from '../document';
import { looksLikeBvh, readBvh } from './bvh-reader';
import { looksLikeCollada, readCollada } from './collada-reader';
import { ALONE, type Companions } from './companions';
import { readGltf } from './gltf-reader';
import { notKnown } from './intake-error';
import { looksLikeObj, readObj } from './obj-reader';
import { looksLikePly, readPly } from './ply-reader';
import { looksLikeStl, readStl } from './stl-reader';

/**
 * Reads a model of any known format into a kit; the contents say which, not the name.
 *
 * @param beside Other files that it may name (buffers, materials, textures).
 * @throws {IntakeError} where the file is refused
 */
export async function readModel(bytes: Uint8Array, fileName: string, blobs: Blobs, beside: Companions = ALONE): Promise<Kit> {
  if (bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46)
    return (await readGltf(bytes, fileName, blobs, beside)).kit;
  if (looksLikePly(bytes)) return readPly(bytes, fileName, blobs);
  if (looksLikeCollada(bytes)) return readCollada(bytes, fileName, blobs, beside);
  if (looksLikeBvh(bytes)) return readBvh(bytes, fileName, blobs);
  if (looksLikeStl(bytes, fileName)) return readStl(bytes, fileName, blobs);
  if (looksLikeObj(bytes, fileName)) return readObj(bytes, fileName, blobs, beside);
  if (bytes.length === 0) throw notKnown(fileName);
  return (await readGltf(bytes, fileName, blobs, beside)).kit;
}
