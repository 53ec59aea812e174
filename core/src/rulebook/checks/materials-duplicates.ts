import { duplicatesOf } from '../../shape';
import type { Check } from '../types';
import { count, nameList } from '../wording';

/** No two materials or images are alike in all but their names. */
export const materialsDuplicates: Check = {
  id: 'materials.duplicates',
  family: 'materials',
  stage: 'shape',
  about: 'No two materials or images are alike in all but their names',
  run({ kit }) {
    const { images, materials } = duplicatesOf(kit);
    const names = [...[...materials.keys()].map((id) => kit.materials[id].name), ...[...images.keys()].map((id) => kit.images[id].name)];
    if (names.length === 0) return [];
    return [
      {
        title: 'The same twice',
        message: `${nameList(names)} ${names.length === 1 ? 'equals another one' : 'equal others'} in all but the name.`,
        measured: count(names.length, 'duplicate'),
        limit: '0',
        parts: [],
        mend: { title: `Merge ${count(names.length, 'duplicate')}`, safe: true, call: { operation: 'shape.merge-duplicates', args: {} } },
      },
    ];
  },
};
