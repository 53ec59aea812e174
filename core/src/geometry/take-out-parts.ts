import { withoutParts, type Id, type Kit, type Move, type Vec3 } from '../document';
import { invertMatrix, multiplyMatrices, transformPoint } from './linear';
import { restWorlds } from './pose';

/**
 * Takes parts out of the kit with everything that is on them: tracks, bindings, skins, bodies, measures, meshes that nothing shows any
 * more.
 * Couplings that stay keep their place in the world. What hangs below a part and is to stay has to hang elsewhere before. Writes to the
 * draft.
 */
export function takeOutParts(kit: Kit, gone: ReadonlySet<Id>): void {
  const worlds = restWorlds(kit);
  const between = (from: Id, to: Id): Move => {
    const inverse = invertMatrix(worlds.get(to)!);
    // What is flattened to nothing has no axes to be told in.
    if (!inverse) return (at) => at;
    const matrix = multiplyMatrices(inverse, worlds.get(from)!);
    return (at) => transformPoint(matrix, at).map((value) => Number(value.toFixed(9)) + 0) as Vec3;
  };
  withoutParts(kit, { gone, between });
}
