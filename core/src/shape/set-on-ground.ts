import Joi from 'joi';
import { childrenOf, defineOperation } from '../document';
import { transformPoint, invertMatrix, composeMatrix } from '../geometry';
import { movePivotBy } from './move-pivot';

/** Moves everything up or down by metres; the parts at the top stay where they are placed, what they show and carry moves. */
export const setOnGround = defineOperation<{ byMetres: number }>({
  id: 'shape.set-on-ground',
  title: (_, { byMetres }) => `Move everything ${byMetres < 0 ? 'down' : 'up'} by ${Math.abs(byMetres).toFixed(3)} m`,
  args: Joi.object({ byMetres: Joi.number().required() }),
  change(kit, { byMetres }, blobs) {
    for (const root of childrenOf(kit, null)) {
      const { translation, rotation, scale } = root;
      const inverse = invertMatrix(composeMatrix([0, 0, 0], rotation, scale));
      if (!inverse) continue;
      movePivotBy(kit, root.id, transformPoint(inverse, [0, -byMetres, 0]), blobs);
      root.translation = [...translation];
    }
  },
});
