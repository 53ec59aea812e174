import { looksLikeBvh, readBvh } from '../bvh-reader';
import { PLAIN, type Format } from './format';

/** Biovision hierarchy: joints and one motion of them. */
export const bvh: Format = {
  ...PLAIN,
  id: 'bvh',
  short: 'BVH',
  title: 'BVH',
  endings: ['bvh'],
  holds: 'motion',
  clips: true,
  isOne: looksLikeBvh,
  read: readBvh,
};
