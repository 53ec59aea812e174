import brinework from '@itchkit/rulebooks/brinework';
import { checkKit, MemoryBlobs } from '@itchkit/core/document';
import { checkRulebook, countGrades, runChecks } from '@itchkit/core/rulebook';
import { tideLock, tideLockFinished } from '.';

const rulebook = checkRulebook(brinework);

test('the raw lock owes two of each kind of mistake', async () => {
  const blobs = new MemoryBlobs();
  const kit = checkKit(await tideLock(rulebook, blobs));
  const findings = runChecks({ kit, rulebook, blobs });
  console.log(findings.map((f) => `${f.grade} ${f.rule} ${f.title}: ${f.message}`).join('\n'));
});

test('the finished lock owes nothing', async () => {
  const blobs = new MemoryBlobs();
  const kit = checkKit(await tideLockFinished(rulebook, blobs));
  const findings = runChecks({ kit, rulebook, blobs });
  console.log(findings.map((f) => `${f.grade} ${f.rule} ${f.title}: ${f.message}`).join('\n'));
  expect(countGrades(findings)).toEqual({ stop: 0, warn: 0, note: 0 });
});
