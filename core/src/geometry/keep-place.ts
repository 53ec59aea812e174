import { KitError, type Id, type Kit, type Vec3 } from '../document';
import { decomposeMatrix, invertMatrix, multiplyMatrices } from './linear';
import { restWorlds } from './pose';

/** What was asked would need a shear, which no part's place, turn and size can say. */
export class ShearError extends KitError {
  constructor(names: string[], what: string) {
    super(
      'shear',
      `${what} would skew ${names.map((name) => `“${name}”`).join(', ')}: an uneven scale meets a turn there. Make the scale even, or stop the turn, first.`,
      names.join(', '),
    );
  }
}

/**
 * Hangs a part below another one (at the top, for null) where it stands in the world: its own placement becomes P⁻¹·W. Its order stays.
 * Writes to the draft.
 *
 * @param worlds Where parts stand at rest; worked out where they are not given.
 * @throws {ShearError} where the new parent's uneven scale would skew the part, or flattens it to nothing
 */
export function keepPlaceBelow(kit: Kit, id: Id, parent: Id | null, worlds: ReadonlyMap<Id, Float64Array> = restWorlds(kit)): void {
  const part = kit.parts[id];
  const inverse = parent === null ? null : invertMatrix(worlds.get(parent)!);
  if (parent !== null && !inverse) throw new ShearError([kit.parts[parent].name], 'Hanging it there');
  const local = inverse ? multiplyMatrices(inverse, worlds.get(id)!) : worlds.get(id)!;
  const { translation, rotation, scale, shear } = decomposeMatrix(local);
  if (shear > 1e-6) throw new ShearError([part.name], 'Hanging it there');
  Object.assign(part, {
    parent,
    translation: translation.map((value) => Number(value.toFixed(12)) + 0) as Vec3,
    rotation,
    scale: scale.map((value, axis) => near(near(value, part.scale[axis]), 1)) as Vec3,
  });
}

/** A number that differs from another by the noise of multiplying matrices is the other. */
const near = (value: number, other: number) => (Math.abs(value - other) < 1e-12 ? other : value);
