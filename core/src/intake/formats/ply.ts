import { looksLikePly, readPly } from '../ply-reader';
import { PLAIN, type Format } from './format';

/** Polygon file format, text and both orders of bytes. */
export const ply: Format = {
  ...PLAIN,
  id: 'ply',
  short: 'PLY',
  title: 'PLY',
  endings: ['ply'],
  numbered: true,
  isOne: looksLikePly,
  read: readPly,
};
