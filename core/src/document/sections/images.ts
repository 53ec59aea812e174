import Joi from 'joi';
import type { Sha } from '../blobs';
import { countSchema, idSchema, nameSchema, recordSchema, shaSchema } from '../schemas';
import type { Id, Table } from '../values';
import { count } from '../wording';
import { compareRecords, said } from './compare';
import { shownMaterials, slotsOf } from './materials';
import { nothing, type Section } from './section';

export interface Image {
  id: Id;
  name: string;
  mediaType: string;
  blob: Sha;
  bytes: number;
  /** Pixels. */
  width: number;
  height: number;
}

declare module '../kit' {
  interface Kit {
    images: Table<Image>;
  }
}

/** Pictures, their bytes in blobs. */
export const imagesSection: Section<'images'> = {
  kind: 'table',
  merges: 'records',
  ...recordSchema<Image>({
    id: idSchema.required(),
    name: nameSchema.required(),
    mediaType: Joi.string().max(60).required(),
    blob: shaSchema.required(),
    bytes: countSchema.required(),
    width: countSchema.required(),
    height: countSchema.required(),
  }),
  sound: nothing,
  references: nothing,
  blobs: (image, add) => add(image.blob),
  without: nothing,
  joined: nothing,
  moved: nothing,
  conform: nothing,
  compare: (before, after) =>
    compareRecords(
      before.images,
      after.images,
      ({ name }) => `Texture “${name}”`,
      (a, b) => [
        ...said(a.name, b.name, `renamed from “${a.name}”`),
        ...said([a.width, a.height], [b.width, b.height], `${a.width}×${a.height} → ${b.width}×${b.height} px`),
      ],
    ),
  pack: {
    model: true,
    manifest: null,
    leftOut(kit) {
      const shown = shownMaterials(kit);
      const read = Object.values(kit.materials)
        .filter(({ id }) => shown.has(id))
        .flatMap(slotsOf);
      const left = Object.values(kit.images).filter(({ id }) => !read.some(({ image }) => image === id));
      if (left.length === 0) return [];
      const why = `no material in use reads ${left.length === 1 ? 'it' : 'them'}: ${left.map(({ name }) => name).join(', ')}`;
      return [{ what: count(left.length, 'texture'), why }];
    },
  },
  newVersion: { from: 'file' },
};
