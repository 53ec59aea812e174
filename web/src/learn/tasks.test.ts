import { MemoryBlobs, type Kit } from '@itchkit/core/document';
import { runChecks, type Rulebook } from '@itchkit/core/rulebook';
import { mendAllSafe } from '@itchkit/core/operations';
import { sluiceCrane, sluiceCraneFinished } from '@itchkit/demo';
import { newestOf } from '../rulebooks';
import { currentTask, TASKS, type Standing } from './tasks';

const rulebook: Rulebook = newestOf('brinework')!;

const standing = (kit: Kit, blobs: MemoryBlobs, packages = 0): Standing => ({
  kit,
  blobs,
  packages,
  findings: runChecks({ kit, rulebook, blobs }),
});

test('there are seven, each in a stage that the platform has, in the order of the work', () => {
  expect(TASKS).toHaveLength(7);
  expect(TASKS.map(({ stage }) => stage)).toEqual(['intake', 'intake', 'intake', 'shape', 'motion', 'wiring', 'ship']);
});

test('of the raw crane nothing is done; once its unit is settled and all safe is mended, the third is next', async () => {
  const blobs = new MemoryBlobs();
  const raw = structuredClone(await sluiceCrane(rulebook, blobs));
  expect(TASKS[1].isDone(standing(raw, blobs))).toBe(false);
  raw.source!.settled = false;
  expect(currentTask(standing(raw, blobs))).toBe(0);
  raw.source!.settled = true;
  raw.source!.space = { ...raw.source!.space, metresPerUnit: 0.01 };
  expect(currentTask(standing(raw, blobs))).toBe(1);
  expect(currentTask(standing(mendAllSafe(raw, rulebook, blobs).kit, blobs))).toBe(2);
});

test('of the finished crane all is done but the package, and with that all', async () => {
  const blobs = new MemoryBlobs();
  const kit = structuredClone(await sluiceCraneFinished(rulebook, blobs));
  kit.source!.settled = true;
  kit.source!.space = { ...kit.source!.space, metresPerUnit: 0.01 };
  const undone = TASKS.filter((task) => !task.isDone(standing(kit, blobs))).map((task) => TASKS.indexOf(task));
  expect(undone.every((index) => [3, 4, 6].includes(index))).toBe(true);
  expect(undone).toContain(6);
  expect(TASKS[6].isDone(standing(kit, blobs, 1))).toBe(true);
});
