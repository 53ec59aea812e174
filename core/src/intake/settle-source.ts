import Joi from 'joi';
import { defineOperation, KitError, spaceSchema, type Space } from '../document';
import { CANONICAL, changeOfSpace, conformKit, multiplyMat3, transposeMat3, type Change } from '../geometry';
import { unitOf } from './guess-space';

/** The change of a kit's canonical numbers when its source is taken to be in `to` instead of `from`. */
export function changeOfSource(from: Space, to: Space): Change {
  const a = changeOfSpace(from, CANONICAL);
  const b = changeOfSpace(to, CANONICAL);
  return {
    basis: multiplyMat3(b.basis, transposeMat3(a.basis)).map((value) => Math.round(value) + 0),
    scale: Number((b.scale / a.scale).toPrecision(12)),
  };
}

/** Says which unit and axes the source's numbers are in; the kit is conformed, never put under a scaled root. */
export const settleSource = defineOperation<{ space: Space }>({
  id: 'intake.settle',
  title: (_, { space }) => `Take the source in ${unitOf(space.metresPerUnit).name}, ${space.up} up, ${space.forward} forward`,
  args: Joi.object({ space: spaceSchema.required() }),
  change(kit, { space }, blobs) {
    if (!kit.source) throw new KitError('no-source', 'This kit was not made from a file, so there is no unit to settle.');
    conformKit(kit, changeOfSource(kit.source.space, space), blobs);
    kit.source.space = space;
    kit.source.settled = true;
  },
});
