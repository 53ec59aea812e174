import Joi from 'joi';
import type { Accessor } from '../blobs';
import { accessorSchema, idSchema, nameSchema, recordSchema } from '../schemas';
import type { Id, Table } from '../values';
import { compareRecords } from './compare';
import { allGoesIn, nothing, type Section } from './section';

export interface Skin {
  id: Id;
  name: string;
  joints: Id[];
  /** One 4×4 column-major matrix a joint. */
  inverseBindMatrices: Accessor;
}

declare module '../kit' {
  interface Kit {
    skins: Table<Skin>;
  }
}

/** Joints and inverse bind matrices of deformed parts (glTF 2.0, 3.7.3). */
export const skinsSection: Section<'skins'> = {
  kind: 'table',
  merges: 'records',
  ...recordSchema<Skin>({
    id: idSchema.required(),
    name: nameSchema.required(),
    joints: Joi.array().items(idSchema).required(),
    inverseBindMatrices: accessorSchema.required(),
  }),
  sound({ id, joints, inverseBindMatrices: { count, size } }, refuse) {
    if (size !== 16 || count !== joints.length)
      refuse(`${count} inverse binds for ${joints.length} joints`, `skins.${id}.inverseBindMatrices`);
  },
  references({ id, joints }, { kit, need }) {
    for (const joint of joints) need(kit.parts, joint, `skins.${id}.joints`);
  },
  blobs: (skin, add) => add(skin.inverseBindMatrices.blob),
  /** A skin is none without all of its joints: what it deformed stands as it was bound. */
  without(kit, { gone }) {
    for (const skin of Object.values(kit.skins)) {
      if (!skin.joints.some((joint) => gone.has(joint))) continue;
      for (const part of Object.values(kit.parts)) if (part.skin === skin.id) part.skin = null;
      delete kit.skins[skin.id];
    }
  },
  joined: nothing,
  moved: nothing,
  conform(kit, to) {
    for (const skin of Object.values(kit.skins)) skin.inverseBindMatrices = to.matrices(skin.inverseBindMatrices);
  },
  compare: (before, after) =>
    compareRecords(
      before.skins,
      after.skins,
      ({ name }) => `Skin “${name}”`,
      (a, b) => (a.joints.length === b.joints.length ? [] : [`${a.joints.length} → ${b.joints.length} joints`]),
    ),
  pack: { model: true, manifest: null, leftOut: allGoesIn },
  newVersion: { from: 'file' },
};
