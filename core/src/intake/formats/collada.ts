import { looksLikeCollada, readCollada } from '../collada-reader';
import { PICTURES, PLAIN, type Format } from './format';

/** COLLADA 1.4 and 1.5; the file says its unit and up axis. */
export const collada: Format = {
  ...PLAIN,
  id: 'dae',
  short: 'COLLADA',
  title: 'COLLADA',
  endings: ['dae'],
  clips: true,
  beside: PICTURES,
  says: true,
  isOne: looksLikeCollada,
  read: readCollada,
};
