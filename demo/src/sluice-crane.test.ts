import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import brinework from '@itchkit/rulebooks/brinework';
import { checkKit, MemoryBlobs } from '@itchkit/core/document';
import { kitCounts, sizeOf, restBounds } from '@itchkit/core/geometry';
import { checkRulebook, countGrades, runChecks } from '@itchkit/core/rulebook';
import { mendAllSafe } from '@itchkit/core/operations';
import { packKit } from '@itchkit/core/ship';
import { buildSluiceCraneGlb, sluiceCrane, sluiceCraneFinished, sluiceCraneMiswired } from '.';
import { owedByRule } from './owed-by-rule';

const rulebook = checkRulebook(brinework);

/** What the raw crane owes to each platform: rules, in alphabetical order. */
const OWED: Record<string, string> = {
  brinework:
    'base-present driven-bound flat-triangles full-table known-variable names names-unique normals number-noise single-root textures triangles-advised unit-scale unused-vertices',
  plotwick:
    'facts-said flat names names-once noise normals one-root paint plot-there ride-pivots scale seats-there textures tiles-said triangles-advised unused uv-square',
  cubbin:
    'boxes clips drive-half-turns drive-variable flat grid names names-once needed noise normals one-root one-texture scale sides size texture triangles uv-square',
  emberfold: 'clips flat levels materials names names-once normals one-root scale sides size skeleton skinned textures uv-overlap',
  glasswink: 'flat materials names normals one-clip one-root size textures triangles-advised unused',
  clashmere:
    'clips flat grip materials names names-once noise normals one-root rest-first scale sides size slots textures triangles unused uv-overlap uv-square vertices',
};

test.each(Object.keys(OWED))('the raw crane, held against %s', async (id) => {
  const book = checkRulebook(JSON.parse(readFileSync(join(__dirname, `../../rulebooks/${id}.rulebook.json`), 'utf8')));
  const blobs = new MemoryBlobs();
  const kit = checkKit(await sluiceCrane(book, blobs));
  const { triangles } = kitCounts(kit);
  expect(triangles).toBeGreaterThan(6000);
  expect(triangles).toBeLessThan(10_000);
  const findings = runChecks({ kit, rulebook: book, blobs });
  expect([...new Set(findings.map((finding) => finding.rule))].sort().join(' ')).toBe(OWED[id]);

  // All that is safe, mended in one go: nothing safe is left, nothing has moved, and a second time changes nothing.
  const before = restBounds(kit, blobs);
  const mended = mendAllSafe(kit, book, blobs);
  expect(runChecks({ kit: mended.kit, rulebook: book, blobs }).filter((finding) => finding.mend?.safe)).toEqual([]);
  restBounds(mended.kit, blobs).max.forEach((value, axis) => expect(value).toBeCloseTo(before.max[axis], 4));
  expect(mendAllSafe(mended.kit, book, blobs).calls).toEqual([]);
});

test('the finished crane owes nothing and can be packed', async () => {
  const blobs = new MemoryBlobs();
  const kit = checkKit(await sluiceCraneFinished(rulebook, blobs));
  expect(countGrades(runChecks({ kit, rulebook, blobs }))).toEqual({ stop: 0, warn: 0, note: 0 });
  // Up to the knee of the stays.
  expect(sizeOf(restBounds(kit, blobs))[1]).toBeCloseTo(5.6, 1);
  const { manifest } = await packKit(kit, rulebook, blobs, []);
  expect([manifest.parts.length, manifest.clips.length, manifest.bindings.length]).toEqual([41, 3, 13]);
  // The left wheel rolls as the right one does, of which it was made.
  expect(kit.links).toHaveLength(3);
});

test('the miswired crane owes two of each kind of mistake that wiring knows', async () => {
  const blobs = new MemoryBlobs();
  const kit = checkKit(await sluiceCraneMiswired(rulebook, blobs));
  const findings = runChecks({ kit, rulebook, blobs });
  expect(owedByRule(findings)).toEqual({
    'driven-bound': 2,
    'known-variable': 2,
    'full-table': 2,
    // Boom and trolley; the left wheel goes with the trolley, rope and hook with the turntable, which turns half round at once.
    way: 5,
    'own-variables': 2,
    // A gap and an overlap.
    'switched-once': 1,
    'links-meet': 2,
    'neutral-rest': 2,
    'driven-order': 2,
    stands: 2,
    'in-range': 2,
    'way-unsettled': 2,
  });
  const said = findings.map(({ message }) => message).join('\n');
  for (const words of ['its values look like rad', 'its values look like mm', 'At 40 to 50 rpm none of them is shown'])
    expect(said).toContain(words);
});

test('the file is the same at each build', async () => {
  expect(await buildSluiceCraneGlb()).toEqual(await buildSluiceCraneGlb());
});
