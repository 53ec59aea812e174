import { existsSync, statSync } from 'node:fs';
import { forget, spill, takeIn, type Spilled } from '@itchkit/core/node/spilled-bytes';

const block = (length: number, seed: number) => Uint8Array.from({ length }, (_, i) => (i * 31 + seed) & 255);
type Message = { job: string; bytes?: Uint8Array; blobs?: [string, Uint8Array][] };
const pathOf = (message: Message | Spilled<Message>) => (message as Spilled<Message>).spilled.path;

test('what is small goes along as it is', async () => {
  const message = { job: 'read', bytes: block(1000, 1) };
  expect(await spill(message)).toBe(message);
  expect(await takeIn(message)).toBe(message);
});

test('what is large comes back to the bit, bytes and blocks alike, and its file is one person’s and gone then', async () => {
  const message: Message = {
    job: 'read',
    bytes: block(2 ** 20, 1),
    blobs: [
      ['a', block(5, 2)],
      ['none', new Uint8Array(0)],
      ['b', block(70_001, 3)],
    ],
  };
  const sent = structuredClone(await spill(message)) as Spilled<Message>;
  expect(JSON.stringify(sent).length).toBeLessThan(500);
  expect(statSync(pathOf(sent)).mode & 0o777).toBe(0o600);
  const back = await takeIn<Message>(sent);
  expect(back.job).toBe('read');
  expect(Buffer.from(back.bytes!).equals(Buffer.from(message.bytes!))).toBe(true);
  expect(back.blobs!.map(([name, bytes]) => [name, Buffer.from(bytes).toString('hex')])).toEqual(
    message.blobs!.map(([name, bytes]) => [name, Buffer.from(bytes).toString('hex')]),
  );
  expect(existsSync(pathOf(sent))).toBe(false);
});

test('what nobody took in is removed by whoever sent it; removed twice it is no fault', async () => {
  const sent = await spill<Message>({ job: 'pack', blobs: [['a', block(2 ** 21, 5)]] });
  expect(existsSync(pathOf(sent))).toBe(true);
  await forget(sent);
  await forget(sent);
  expect(existsSync(pathOf(sent))).toBe(false);
  await expect(takeIn(sent)).rejects.toThrow('ENOENT');
});
