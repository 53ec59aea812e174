import { count } from '../wording';
import type { Check } from '../types';

/** Every image that the file named was there. */
export const texturesMissing: Check = {
  id: 'textures.missing',
  family: 'materials',
  stage: 'intake',
  about: 'Every image that the file named was there',
  run({ kit }) {
    const missing = (kit.source?.notes ?? []).filter((note) => note.code === 'missing-file' || note.code === 'image-unreadable');
    if (missing.length === 0) return [];
    return [
      {
        title: 'Images were missing',
        message: `${count(missing.length, 'image')} of “${kit.source!.fileName}” could not be taken in: ${missing[0].message} Take the file in again with its images beside it.`,
        measured: count(missing.length, 'image'),
        limit: '0',
        parts: [],
      },
    ];
  },
};
