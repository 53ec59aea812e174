import { slotsOf } from '../../document';
import type { Check, Said } from '../types';
import { nameList } from '../wording';

const isPower = (n: number) => n > 0 && (n & (n - 1)) === 0;
const nearestPower = (n: number, most: number) => Math.min(2 ** Math.floor(Math.log2(most)), 2 ** Math.max(0, Math.round(Math.log2(n))));

/** Sides of images are powers of two, and no longer than the rule's limit in pixels. */
export const texturesSize: Check = {
  id: 'textures.size',
  family: 'materials',
  stage: 'shape',
  about: 'Sides of images are powers of two, and no longer than the limit',
  limit: 'pixels',
  run({ kit }, rule) {
    const most = rule.limit!;
    return Object.values(kit.images).flatMap((image): Said[] => {
      if (isPower(image.width) && isPower(image.height) && Math.max(image.width, image.height) <= most) return [];
      const width = nearestPower(image.width, most);
      const height = nearestPower(image.height, most);
      const users = Object.values(kit.materials).filter((material) => slotsOf(material).some((slot) => slot.image === image.id));
      const materials = new Set(users.map((material) => material.id));
      const shows = (mesh: string | null) =>
        mesh !== null && kit.meshes[mesh].primitives.some((primitive) => primitive.material !== null && materials.has(primitive.material));
      const resizable = image.mediaType === 'image/png' || image.mediaType === 'image/jpeg';
      return [
        {
          key: image.id,
          title: 'Texture of an odd size',
          message: `“${image.name}” is ${image.width} × ${image.height} pixels${users.length > 0 ? ` (material ${nameList(users.map((material) => material.name))})` : ''}.`,
          measured: `${image.width} × ${image.height}`,
          limit: `powers of two, up to ${most}`,
          parts: Object.values(kit.parts)
            .filter((part) => shows(part.mesh))
            .map((part) => part.id),
          mend: resizable
            ? {
                title: `Resize to ${width} × ${height}`,
                safe: false,
                call: { operation: 'shape.resize-image', args: { image: image.id, width, height } },
                changes: [`${image.name}: ${image.width} × ${image.height} → ${width} × ${height} pixels`],
              }
            : undefined,
        },
      ];
    });
  },
};
