import { shownImages } from './shown-images';
import type { Check, Said } from '../types';

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
          mend:
            image.mediaType === 'image/jpeg' && allowed.includes('image/png')
              ? { title: 'Make it a PNG', safe: true, call: { operation: 'shape.resize-image', args: { image: id, width: image.width, height: image.height } } }
              : undefined,
        },
      ];
    });
  },
};
