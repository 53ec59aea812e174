import { looksLikeObj, readObj } from '../obj-reader';
import { PICTURES, PLAIN, type Format } from './format';

/** Wavefront OBJ, with its materials (MTL) and pictures beside it. */
export const obj: Format = {
  ...PLAIN,
  id: 'obj',
  short: 'OBJ',
  title: 'OBJ',
  endings: ['obj'],
  numbered: true,
  beside: ['mtl', ...PICTURES],
  isOne: looksLikeObj,
  read: readObj,
};
