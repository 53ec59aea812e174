import { callOf, type Call, type Id, type Kit } from '@itchkit/core/document';
import { assignMaterial, convertImage, resizeImage, setMaterial, setTexture, TEXTURE_SLOTS } from '@itchkit/core/shape';
import type { Command } from '../../panels/command';
import { powerOfTwo } from './power-of-two';

interface Around {
  kit: Kit;
  /** The chosen parts. */
  parts: Id[];
  run: (calls: Call | Call[], title?: string) => boolean;
}

/** What Shape does to materials and pictures, one by one: for the finder. */
export function paintCommands({ kit, parts, run }: Around): Command[] {
  const command = (id: string, title: string, calls: () => Call, blocked: string | null = null): Command => ({
    id: `shape.${id}`,
    keys: [],
    title,
    group: 'Materials and pictures',
    blocked,
    calls,
    run: () => run(calls()),
  });
  const materials = Object.values(kit.materials);
  const shown = parts.filter((id) => kit.parts[id].mesh !== null);
  return [
    ...materials.flatMap((material) => {
      const { id, name, baseColor } = material;
      const white = baseColor.slice(0, 3).every((value) => value === 1);
      return [
        command(
          `give-${id}`,
          `Give the chosen parts the material “${name}”`,
          () => callOf(assignMaterial, { parts: shown, material: id }),
          shown.length === 0 ? 'Choose a part first' : null,
        ),
        command(
          `tint-${id}`,
          `Tint “${name}” to white`,
          () => callOf(setMaterial, { material: id, baseColor: [1, 1, 1, baseColor[3]] }),
          white ? 'It is white' : null,
        ),
        command(`sides-${id}`, `Show “${name}” from ${material.doubleSided ? 'one side' : 'both sides'}`, () =>
          callOf(setMaterial, { material: id, doubleSided: !material.doubleSided }),
        ),
        ...TEXTURE_SLOTS.filter((slot) => material[slot] !== null).map((slot) =>
          command(`bare-${id}-${slot}`, `Take the picture “${kit.images[material[slot]!.image]?.name}” off “${name}”`, () =>
            callOf(setTexture, { material: id, slot, image: null }),
          ),
        ),
      ];
    }),
    ...Object.values(kit.images).flatMap((image) => {
      const [width, height] = [powerOfTwo(image.width), powerOfTwo(image.height)];
      const other = image.mediaType === 'image/png' ? 'image/jpeg' : 'image/png';
      return [
        command(
          `size-${image.id}`,
          `Resize the picture “${image.name}” to ${width} × ${height}`,
          () => callOf(resizeImage, { image: image.id, width, height }),
          width === image.width && height === image.height ? 'It is of that size' : null,
        ),
        command(
          `as-${image.id}`,
          `Make the picture “${image.name}” a ${other === 'image/png' ? 'PNG' : 'JPEG'}`,
          () => callOf(convertImage, { image: image.id, mediaType: other }),
          image.mediaType === 'image/webp' ? 'WebP is kept as it is' : null,
        ),
      ];
    }),
  ];
}
