import { looksLikeStl, readStl } from '../stl-reader';
import { PLAIN, type Format } from './format';

/** Stereolithography, text and binary. */
export const stl: Format = { ...PLAIN, id: 'stl', short: 'STL', title: 'STL', endings: ['stl'], isOne: looksLikeStl, read: readStl };
