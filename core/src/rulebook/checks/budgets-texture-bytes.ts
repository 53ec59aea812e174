import { nameList } from '../wording';
import { shownImages } from './shown-images';
import { budget, bytesText } from './budget';

/** Memory that the images take when unpacked, four bytes a pixel and a third for the smaller copies. */
export const budgetsTextureBytes = budget({
  id: 'budgets.texture-bytes',
  stage: 'shape',
  about: 'Memory that the images take when unpacked, four bytes a pixel and a third for the smaller copies',
  unit: 'bytes',
  title: 'Textures take too much memory',
  what: 'Unpacked, the textures take',
  show: bytesText,
  measure: (context) => {
    const images = [...shownImages(context).keys()].map((id) => context.kit.images[id]);
    const size = (image: (typeof images)[number]) => (image.width * image.height * 16) / 3;
    const top = images.sort((a, b) => size(b) - size(a)).slice(0, 3);
    return {
      value: images.reduce((sum, image) => sum + size(image), 0),
      more: `The largest are ${nameList(top.map((image) => image.name))}.`,
    };
  },
});
