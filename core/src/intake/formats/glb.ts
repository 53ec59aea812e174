import { readGltf } from '../gltf-reader';
import { PLAIN, type Format } from './format';

const MAGIC = [0x67, 0x6c, 0x54, 0x46];

/** Binary glTF 2.0 (section 4.4): metres and axes are the standard's. */
export const glb: Format = {
  ...PLAIN,
  id: 'glb',
  short: 'GLB',
  title: 'GLB (glTF 2.0)',
  endings: ['glb'],
  clips: true,
  says: true,
  isOne: (bytes) => MAGIC.every((byte, i) => bytes[i] === byte),
  read: async (bytes, fileName, blobs, beside) => (await readGltf(bytes, fileName, blobs, beside)).kit,
};
