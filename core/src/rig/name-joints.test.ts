import { callOf, newPart, type Id, type Kit, type Vec3 } from '../document';
import { bodyKit, tube } from '../tests/bodies';
import { run } from '../tests/helpers';
import { SHIPPED } from '../tests/sound-kits';
import { compareSkeletons, type ReferenceJoint } from './compare-skeletons';
import { nameJoints, namesIn } from './name-joints';

const EMBERFOLD: ReferenceJoint[] = SHIPPED.emberfold.skeleton!.map((joint) => ({ ...joint, at: null, rotation: null }));

/** What a stranger calls them: some words of the trade, some of his own, sides written in front. */
const TONGUE: Record<string, string> = {
  hips: 'Pelvis',
  spine: 'Lower Back',
  chest: 'Upper Back',
  neck: 'Neck',
  head: 'Skull',
  shoulder: 'Clavicle',
  upper_arm: 'Arm',
  forearm: 'Elbow',
  hand: 'Palm',
  thigh: 'Hip',
  shin: 'Knee',
  foot: 'Ankle',
};
const inTongue = (name: string) => {
  const [, plain, side] = /^(.*?)(?:_([lr]))?$/.exec(name)!;
  return side ? `${side === 'l' ? 'Left' : 'Right'} ${TONGUE[plain]}` : TONGUE[plain];
};

/** Emberfold's skeleton without its lowest joint, in another tongue, carried by an empty part. */
function stranger(): { kit: Kit; blobs: ReturnType<typeof bodyKit>['blobs'] } {
  const below = EMBERFOLD.filter(({ parent }) => parent !== null);
  const made = bodyKit(
    tube(0.1, 0, 1.6, 4, 6),
    below.map(({ name, parent }) => ({
      id: inTongue(name) as Id,
      parent: parent === 'ground' ? null : inTongue(parent!),
      at: [name.endsWith('_l') ? 0.1 : 0, 0.1, 0] as Vec3,
    })),
  );
  made.kit.parts.figure = newPart({ id: 'figure', name: 'Figure.001' });
  made.kit.parts.Pelvis.parent = 'figure';
  return made;
}

test('a stranger’s skeleton is known joint by joint, with the part that carries it, and takes all names in one step', () => {
  const { kit, blobs } = stranger();
  const names = namesIn(kit, EMBERFOLD);
  expect(names.figure).toBe('ground');
  expect(Object.keys(names)).toHaveLength(EMBERFOLD.length);
  const named = run(kit, blobs, callOf(nameJoints, { names }));
  expect(new Set(compareSkeletons(named, EMBERFOLD).map(({ states }) => states.join()))).toEqual(new Set(['matched']));
  expect(named.parts.figure.role).toBe('joint');
  for (const { id } of Object.values(kit.parts)) expect(named.parts[id].translation).toEqual(kit.parts[id].translation);
});

test('what carries a skeleton is none of its joints where it has a mesh, is sized or turned, or is for something else', () => {
  for (const other of [{ scale: [1, 2, 1] as Vec3 }, { role: 'base' as const }, { rotation: [1, 0, 0, 0] as const }]) {
    const { kit } = stranger();
    Object.assign(kit.parts.figure, other);
    expect(namesIn(kit, EMBERFOLD)).not.toHaveProperty('figure');
  }
});

test('a name that another part has already is given to none', () => {
  const { kit } = stranger();
  kit.parts.hat = newPart({ id: 'hat', name: 'head', parent: 'Skull' });
  expect(Object.values(namesIn(kit, EMBERFOLD))).not.toContain('head');
});
