import { arrayBytes, viewArray, type Accessor, type Sha } from './blobs';
import { KitSchemaError } from './check-kit';
import type { Kit } from './kit';
import type { Id } from './values';

/** One use of an array of data, and what its numbers have to keep to. */
export interface ArrayUse {
  accessor: Accessor;
  where: string;
  /** Every number is a whole one below this; null where any number will do. */
  below: number | null;
  /** Whether its numbers ascend from 0, as times do. */
  ascends: boolean;
}

/**
 * Uses of arrays in a kit. Where the kit was made out of another one, those in records that it shares with that one are left out.
 *
 * @param before The kit that it was made out of, whose arrays are known to be sound.
 */
export function arrayUses(before: Kit | null, after: Kit): ArrayUse[] {
  const uses: ArrayUse[] = [];
  const use = (accessor: Accessor, where: string, below: number | null = null, ascends = false) =>
    void uses.push({ accessor, where, below, ascends });
  const jointsOf = mostJoints(after);
  const fresh = <T>(table: 'meshes' | 'skins' | 'clips') =>
    Object.entries(after[table]).filter(([id, one]) => before?.[table][id] !== one) as [Id, T][];
  for (const [id, mesh] of fresh<Kit['meshes'][Id]>('meshes')) {
    const where = `meshes.${id}`;
    const shapes = [...mesh.primitives, ...(mesh.levels ?? []).flatMap(({ primitives }) => primitives), ...(mesh.strokes ?? [])];
    for (const shape of shapes) {
      use(shape.indices, `${where}.indices`, shape.attributes.POSITION.count);
      for (const [semantic, accessor] of Object.entries(shape.attributes))
        use(accessor, `${where}.${semantic}`, semantic.startsWith('JOINTS_') ? (jointsOf.get(id) ?? null) : null);
      if ('targets' in shape)
        for (const target of shape.targets ?? [])
          for (const [semantic, accessor] of Object.entries(target)) use(accessor, `${where}.targets.${semantic}`);
    }
  }
  for (const [id, skin] of fresh<Kit['skins'][Id]>('skins')) use(skin.inverseBindMatrices, `skins.${id}.inverseBindMatrices`);
  for (const [id, clip] of fresh<Kit['clips'][Id]>('clips'))
    for (const track of clip.tracks)
      if (track.kind === 'samples') {
        use(track.times, `clips.${id}.times`, null, true);
        use(track.values, `clips.${id}.values`);
      }
  return uses;
}

/** How many joints the skin has that a mesh is shown with; the fewest where it is shown with several. */
function mostJoints(kit: Kit): Map<Id, number> {
  const most = new Map<Id, number>();
  for (const { mesh, skin } of Object.values(kit.parts)) {
    if (mesh === null || skin === null) continue;
    const { length } = kit.skins[skin].joints;
    most.set(mesh, Math.min(length, most.get(mesh) ?? Infinity));
  }
  return most;
}

/** Whether the numbers themselves have to be read to know. */
export const readsNumbers = ({ below, ascends }: ArrayUse): boolean => below !== null || ascends;

/**
 * Checks that each array fits its bytes: rows × numbers × bytes of its type are as many as there are.
 *
 * @param sizeOf Bytes of a blob; undefined for one that is not there, which is said elsewhere.
 * @throws {KitSchemaError} naming the first that does not
 */
export function checkArraySizes(uses: readonly ArrayUse[], sizeOf: (sha: Sha) => number | undefined): void {
  for (const { accessor, where } of uses) {
    const { blob, type, size, count } = accessor;
    const have = sizeOf(blob);
    const want = arrayBytes(accessor);
    if (have !== undefined && have !== want)
      throw new KitSchemaError(`${count} rows of ${size} ${type} take ${want} bytes, and its data block has ${have}`, where);
  }
}

/**
 * Checks the numbers of one array, of which the size is known to fit.
 *
 * @throws {KitSchemaError} where one points at no vertex or joint, or a time does not come after the one before
 */
export function checkArrayNumbers({ accessor, where, below, ascends }: ArrayUse, bytes: Uint8Array): void {
  const numbers = viewArray(accessor, bytes);
  if (below !== null)
    for (let i = 0; i < numbers.length; i++)
      if (!(numbers[i] < below)) throw new KitSchemaError(`number ${i} is ${numbers[i]}, and there are ${below} to point at`, where);
  if (ascends)
    for (let i = 0; i < numbers.length; i++)
      if (!(numbers[i] >= 0 && numbers[i] < Infinity) || (i > 0 && numbers[i] <= numbers[i - 1]))
        throw new KitSchemaError(`time ${i} does not come after the one before`, where);
}
