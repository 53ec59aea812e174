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

test('a message cut short anywhere is told as that, never half a blob', () => {
  const message = packFrames(entries);
  for (let length = 0; length < message.length; length += length < 300 ? 1 : 97)
    expect(() => unpackFrames(message.subarray(0, length))).toThrow(new RangeError('The message is cut short'));
});

test('what follows the last blob is an error: the sender and the reader do not mean the same', () => {
  const message = packFrames(entries);
  const longer = new Uint8Array(message.length + 1);
  longer.set(message);
  expect(() => unpackFrames(longer)).toThrow(new RangeError('The message is longer than its head says'));
});

/** A message with any head before 8 bytes. */
function withHead(head: string): Uint8Array {
  const text = new TextEncoder().encode(head);
  const out = new Uint8Array(4 + text.length + 8);
  new DataView(out.buffer).setUint32(0, text.length, true);
  out.set(text, 4);
  return out;
}

test.each([
  ['{', 'no JSON'],
  ['{}', 'no list of blobs'],
  ['null', 'no list of blobs'],
  ['[["a",-8]]', 'no list of blobs'],
  ['[["a",1.5]]', 'no list of blobs'],
  ['[[8,8]]', 'no list of blobs'],
  ['[["a"]]', 'no list of blobs'],
])('a head %s is refused as %s', (head, what) => {
  expect(() => unpackFrames(withHead(head))).toThrow(new RangeError(`The head of the message is ${what}`));
});

test('a message that stands within a larger array is read from where it begins', () => {
  const message = packFrames(entries);
  const larger = new Uint8Array(message.length + 32).fill(255);
  larger.set(message, 13);
  expect(unpackFrames(larger.subarray(13, 13 + message.length))).toEqual(entries);
});
