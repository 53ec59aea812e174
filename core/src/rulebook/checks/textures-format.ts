import { shownImages } from './shown-images';
import type { Image } from '../../document';
import type { Check, Mend, Said } from '../types';

/** Images are of kinds that the platform reads. */
export const texturesFormat: Check = {
  id: 'textures.format',
  family: 'materials',
  stage: 'shape',
  about: 'Images are of kinds that the platform reads',
  needs: ({ materials }) => (materials?.formats ? null : 'kinds of images (materials.formats)'),
  run(context) {
    const allowed = context.rulebook.materials!.formats!;
    return [...shownImages(context)].flatMap(([id, parts]): Said[] => {
      const image = context.kit.images[id];
      if (allowed.includes(image.mediaType)) return [];
      return [
        {
          key: id,
          title: 'Image of another kind',
          message: `“${image.name}” is ${image.mediaType.replace('image/', '').toUpperCase()}; ${context.rulebook.title} reads ${allowed.map((type) => type.replace('image/', '').toUpperCase()).join(' and ')}.`,
          measured: image.mediaType,
          limit: allowed.join(', '),
          parts: [...parts],
          mend: mendOf(image, allowed),
        },
      ];
    });
  },
};

/** PNG and JPEG can be read and written here; to JPEG, what is see-through is lost. */
function mendOf({ id, name, mediaType }: Image, allowed: string[]): Mend | undefined {
  const to = ['image/png', 'image/jpeg'].find((one) => allowed.includes(one));
  if (to === undefined || !['image/png', 'image/jpeg'].includes(mediaType)) return undefined;
  const call = { operation: 'shape.convert-image', args: { image: id, mediaType: to } };
  return to === 'image/png'
    ? { title: 'Make it a PNG', safe: true, call }
    : { title: 'Make it a JPEG', safe: false, call, changes: [`${name}: written as JPEG, without what is see-through`] };
}
