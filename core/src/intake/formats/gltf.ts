import { strFromU8 } from 'fflate';
import { readGltf } from '../gltf-reader';
import { PICTURES, PLAIN, type Format } from './format';

/** glTF 2.0 as JSON, with its buffers and pictures inside or beside it. */
export const gltf: Format = {
  ...PLAIN,
  id: 'gltf',
  short: 'glTF',
  title: 'glTF 2.0',
  endings: ['gltf'],
  clips: true,
  beside: ['bin', ...PICTURES],
  says: true,
  isOne: (bytes) => /^[\uFEFF\s]*\{/.test(strFromU8(bytes.subarray(0, 400))),
  read: async (bytes, fileName, blobs, beside) => (await readGltf(bytes, fileName, blobs, beside)).kit,
};
