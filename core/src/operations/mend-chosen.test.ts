import fc from 'fast-check';
import { checkKit, type Kit } from '../document';
import { runChecks } from '../rulebook';
import { loadSimplifier } from '../shape';
import { oddKit } from '../tests/odd-kits';
import { SHIPPED, SOUND } from '../tests/sound-kits';
import { mendChosen } from './mend-all';

beforeAll(loadSimplifier);

const { brinework } = SHIPPED;

/** A crane that slews the wrong way, and whose jib is posed at neutral. */
function spoilt() {
  const made = SOUND.brinework();
  const { x, z } = made.kit.bindings;
  x.rows.forEach((row) => (row.turn = [0, -row.turn[1] + 0, 0]));
  z.rows[0].turn = [3, 0, 0];
  const findings = runChecks({ kit: made.kit, rulebook: brinework, blobs: made.blobs });
  const idOf = (rule: string) => findings.find((finding) => finding.rule === rule)!.id;
  return { ...made, way: idOf('way'), neutral: idOf('neutral-rest') };
}

const idsOf = (kit: Kit, blobs: ReturnType<typeof spoilt>['blobs']) => runChecks({ kit, rulebook: brinework, blobs }).map(({ id }) => id);

test('what was chosen is mended and nothing else', () => {
  const { kit, blobs, way, neutral } = spoilt();
  const one = mendChosen(kit, brinework, blobs, [way]);
  expect(idsOf(one.kit, blobs)).toEqual([neutral]);
  expect(one.mended).toEqual({ asked: 1, settled: 1, others: 0 });
  const both = mendChosen(kit, brinework, blobs, [neutral, way]);
  expect(idsOf(both.kit, blobs)).toEqual([]);
  expect([both.calls.length, both.mended.settled]).toEqual([2, 2]);
  expect(mendChosen(kit, brinework, blobs, ['nobody']).calls).toEqual([]);
});

test('of any stranger’s kit: each mend is made once at most, and what is left holds together', () => {
  fc.assert(
    fc.property(oddKit, fc.constantFrom(...Object.values(SHIPPED)), ({ kit, blobs }, rulebook) => {
      const asking = runChecks({ kit, rulebook, blobs }).filter(({ mend, aside }) => mend !== null && !mend.safe && aside === null);
      const {
        kit: after,
        calls,
        mended,
      } = mendChosen(
        kit,
        rulebook,
        blobs,
        asking.map(({ id }) => id),
      );
      checkKit(after);
      expect(calls.length).toBeLessThanOrEqual(asking.length);
      expect(mended.asked).toBe(asking.length);
      expect(mended.settled).toBeLessThanOrEqual(asking.length);
    }),
    { numRuns: 40 },
  );
});
