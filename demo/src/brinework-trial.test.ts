import brinework from '@itchkit/rulebooks/brinework';
import { checkRulebook } from '@itchkit/core/rulebook';
import { MemoryBlobs, type Kit } from '@itchkit/core/document';
import { leftOut, packKit, readPackage } from '@itchkit/core/ship';
import { trialFor, type LogLine } from '@itchkit/core/trial';
import { sluiceCrane, sluiceCraneFinished } from '.';

const rulebook = checkRulebook(brinework);

async function logOf(build: typeof sluiceCrane): Promise<{ kit: Kit; log: LogLine[] }> {
  const blobs = new MemoryBlobs();
  const kit = await build(rulebook, blobs);
  const loaded = await readPackage((await packKit(kit, rulebook, blobs, [])).bytes, new MemoryBlobs());
  return { kit, log: trialFor(rulebook)!.importLog(loaded, rulebook) };
}

test('the finished crane is taken without a word of complaint', async () => {
  const { log } = await logOf(sluiceCraneFinished);
  expect(log.filter((line) => line.grade !== 'taken')).toEqual([]);
  expect(log.map((line) => line.text)).toContain('“drv_turntable” follows crane_slew_angle[0], -170 to 170 deg');
});

test('the raw crane: what is dropped, what stands still, and why', async () => {
  const { log } = await logOf(sluiceCrane);
  const refused = log.filter((line) => line.grade === 'refused').map((line) => line.text);
  expect(refused).toHaveLength(4);
  expect(refused.filter((text) => text.includes('beside the root'))).toHaveLength(2);
  expect(refused).toContainEqual(expect.stringContaining('pump_wheel_fase[0], which is not passed in'));
  expect(refused).toContainEqual(expect.stringContaining('gate_lift[14], an index that is not passed in'));
  expect(log.filter((line) => line.grade === 'odd').map((line) => line.text)).toContainEqual(
    '“drv_turntable” is driven, but nothing moves it',
  );
});

test('what does not go in is listed with its reason', async () => {
  const { kit } = await logOf(sluiceCrane);
  const spare = structuredClone(kit);
  const [material] = Object.values(spare.materials);
  spare.materials.spare = { ...material, id: 'spare', name: 'old paint', baseColorTexture: null };
  spare.clips.still = { id: 'still', name: 'still', order: 0, lengthSeconds: 1, rate: 30, loop: 'once', tracks: [] };
  const lines = leftOut(spare).map((line) => `${line.what}: ${line.why}`);
  expect(lines).toContainEqual('1 material: no part shows it: old paint');
  expect(lines).toContainEqual('Clip “still”: it moves nothing');
  expect(lines.join()).toContain('sluice-crane.glb');
});
