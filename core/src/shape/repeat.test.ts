import { callOf, checkKit, type Part } from '../document';
import { quatFromTurn, restWorlds, transformPoint } from '../geometry';
import { chainKit, run } from '../tests/helpers';
import { repeatAlongLine, repeatOnRing } from './repeat';

const made = () =>
  chainKit([
    { id: 'a', rotation: quatFromTurn([0, 40, 0], 'xyz'), translation: [1, 0, 0] },
    { id: 'post', translation: [1, 2, 0], rotation: quatFromTurn([0, 0, 70], 'xyz') },
    { id: 'lamp', translation: [0, 0.5, 1], role: 'mount' },
  ]);

const fresh = (before: Record<string, Part>, after: Record<string, Part>) => Object.values(after).filter((part) => !before[part.id]);

test('along a line: every copy stands whole steps away, with its branch, in the same meshes', () => {
  const { kit, blobs } = made();
  const next = checkKit(run(kit, blobs, callOf(repeatAlongLine, { parts: ['post', 'lamp'], copies: 3, step: [0, 0, 2] })));
  const copies = fresh(kit.parts, next.parts);
  expect(copies.map((part) => part.name).sort()).toEqual(['lamp_2', 'lamp_3', 'lamp_4', 'post_2', 'post_3', 'post_4']);
  const worlds = restWorlds(next);
  for (const part of copies) {
    const [stem, number] = part.name.split('_');
    expect(part.mesh).toBe(`mesh_${stem}`);
    const here = transformPoint(worlds.get(stem)!, [0.3, 0.4, 0.5]);
    const there = transformPoint(worlds.get(part.id)!, [0.3, 0.4, 0.5]);
    [0, 0, 2 * (Number(number) - 1)].forEach((step, axis) => expect(there[axis] - here[axis]).toBeCloseTo(step, 9));
  }
  expect(copies.find((part) => part.name === 'lamp_3')).toMatchObject({
    role: 'mount',
    parent: copies.find((part) => part.name === 'post_3')!.id,
  });
});

test('on a ring: a full round of copies comes back to the original', () => {
  const { kit, blobs } = made();
  const centre: [number, number, number] = [4, 0, -1];
  const next = checkKit(run(kit, blobs, callOf(repeatOnRing, { parts: ['lamp'], copies: 6, axis: 1, centre, degrees: 60 })));
  const worlds = restWorlds(next);
  const radius = (id: string) => Math.hypot(worlds.get(id)![12] - centre[0], worlds.get(id)![14] - centre[2]);
  const copies = fresh(kit.parts, next.parts);
  for (const part of copies) {
    expect(radius(part.id)).toBeCloseTo(radius('lamp'), 9);
    expect(worlds.get(part.id)![13]).toBeCloseTo(worlds.get('lamp')![13], 9);
  }
  const last = copies.find((part) => part.name === 'lamp_7')!;
  worlds.get('lamp')!.forEach((value, i) => expect(worlds.get(last.id)![i]).toBeCloseTo(value, 9));
});

test('a parent that would skew it, and a part that joints deform, are refused by name', () => {
  const { kit, blobs } = made();
  const skewed = { ...kit, parts: { ...kit.parts, a: { ...kit.parts.a, scale: [1, 3, 1] as [number, number, number] } } };
  expect(() => run(skewed, blobs, callOf(repeatOnRing, { parts: ['post'], copies: 1, axis: 2, centre: [0, 0, 0], degrees: 30 }))).toThrow(
    /“post”/,
  );
  const skinned = { ...kit, parts: { ...kit.parts, lamp: { ...kit.parts.lamp, skin: 's' } } };
  expect(() => run(skinned, blobs, callOf(repeatAlongLine, { parts: ['post'], copies: 1, step: [1, 0, 0] }))).toThrow(/“lamp”/);
});
