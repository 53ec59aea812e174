import { packFrames, unpackFrames } from './blob-message';

const entries: [string, Uint8Array][] = [
  ['a'.repeat(64), Uint8Array.from([1, 2, 3])],
  ['b'.repeat(64), new Uint8Array(0)],
  ['c'.repeat(64), new Uint8Array(1000).fill(7)],
];

test('what is packed comes out again, empty blobs too', () => {
  expect(unpackFrames(packFrames(entries))).toEqual(entries);
  expect(unpackFrames(packFrames([]))).toEqual([]);
});

test('a message cut short anywhere is an error, never half a blob', () => {
  const message = packFrames(entries);
  for (const length of [0, 3, 40, message.length - 1000, message.length - 1])
    expect(() => unpackFrames(message.subarray(0, length))).toThrow();
});
