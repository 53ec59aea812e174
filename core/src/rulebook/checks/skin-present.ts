import type { Check } from '../types';

/** Some part is skinned to a skeleton. */
export const skinPresent: Check = {
  id: 'skin.present',
  family: 'skin',
  stage: 'rig',
  about: 'Some part is skinned to a skeleton',
  run({ parts }) {
    if (parts.some((part) => part.skin !== null)) return [];
    return [{ title: 'No skin', message: 'No part follows joints; the platform bends a body by its skeleton.', measured: '0 skinned parts', limit: '1 or more', parts: [] }];
  },
};
