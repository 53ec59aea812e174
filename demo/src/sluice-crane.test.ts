import brinework from '@itchkit/rulebooks/brinework';
import { checkKit, checkRulebook, countGrades, kitCounts, MemoryBlobs, packKit, runChecks, sizeOf, restBounds } from '@itchkit/core';
import { buildSluiceCraneGlb, sluiceCrane, sluiceCraneFinished } from '.';

const rulebook = checkRulebook(brinework);

test('the raw crane gives every check of the slice something to say, but for the root that it has too many of', async () => {
  const blobs = new MemoryBlobs();
  const kit = checkKit(await sluiceCrane(rulebook, blobs));
  const { triangles } = kitCounts(kit);
  expect(triangles).toBeGreaterThan(6000);
  expect(triangles).toBeLessThan(10_000);
  const found = new Set(runChecks({ kit, rulebook, blobs }).map((finding) => finding.rule));
  expect(rulebook.rules.map((rule) => rule.id).filter((id) => !found.has(id))).toEqual(['root-at-origin', 'triangles']);
});

test('the finished crane owes nothing and can be packed', async () => {
  const blobs = new MemoryBlobs();
  const kit = checkKit(await sluiceCraneFinished(rulebook, blobs));
  expect(countGrades(runChecks({ kit, rulebook, blobs }))).toEqual({ stop: 0, warn: 0, note: 0 });
  expect(sizeOf(restBounds(kit, blobs))[1]).toBeCloseTo(5.5, 1);
  const { manifest } = await packKit(kit, rulebook, blobs, []);
  expect([manifest.parts.length, manifest.clips.length, manifest.bindings.length]).toEqual([32, 3, 6]);
});

test('the file is the same at each build', async () => {
  expect(await buildSluiceCraneGlb()).toEqual(await buildSluiceCraneGlb());
});
