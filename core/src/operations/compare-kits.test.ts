import { compareKits } from './compare-kits';
import { callOf } from '../document';
import { runCall } from './registry';
import { chainKit } from '../tests/helpers';
import { removeParts, renameParts, reparentParts, setRole, setTransform } from '../shape';
import type { Finding } from '../rulebook';

const finding = (id: string): Finding => ({
  id,
  rule: 'r',
  check: 'c',
  family: 'names',
  stage: 'shape',
  grade: 'warn',
  title: id,
  message: '',
  why: '',
  measured: '',
  limit: '',
  share: null,
  parts: [],
  mend: null,
  aside: null,
});

test('two states differ in what was done, and in the findings that only one has', () => {
  const { kit, blobs } = chainKit([{ id: 'a' }, { id: 'b' }, { id: 'c' }]);
  const after = [
    callOf(renameParts, { names: { a: 'quay' } }),
    callOf(setRole, { parts: ['a'], role: 'base' }),
    callOf(reparentParts, { parts: ['c'], parent: 'a', place: 0, keep: 'world' }),
    callOf(removeParts, { parts: ['b'] }),
  ].reduce((now, call) => runCall(now, call, blobs).kit, kit);
  const { figures, differences, findings } = compareKits(kit, after, [
    [finding('x'), finding('y')],
    [finding('y'), finding('z')],
  ]);
  expect(figures.map((one) => one.parts)).toEqual([3, 2]);
  expect(figures[0].triangles).toBeGreaterThan(figures[1].triangles);
  expect(differences).toEqual([
    { where: 'a/b', what: 'gone' },
    { where: 'quay', what: expect.stringMatching(/renamed from “a”.*role base/) },
    { where: 'quay/c', what: expect.stringContaining('hung elsewhere') },
  ]);
  expect(findings).toEqual([
    { grade: 'warn', title: 'x', gone: true },
    { grade: 'warn', title: 'z', gone: false },
  ]);
  expect(compareKits(kit, kit, [[], []]).differences).toEqual([]);
  const moved = runCall(
    kit,
    callOf(setTransform, { part: 'a', translation: [1, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] }),
    blobs,
  ).kit;
  expect(compareKits(kit, moved, [[], []]).differences).toEqual([{ where: 'a', what: 'placed elsewhere' }]);
});
