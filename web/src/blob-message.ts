/**
 * Many blobs in one message: a 4-byte little-endian length, that many bytes of JSON `[[sha, bytes], …]`, then the blobs one
 * after another.
 */
export function packFrames(entries: [string, Uint8Array][]): Uint8Array {
  const head = new TextEncoder().encode(JSON.stringify(entries.map(([sha, bytes]) => [sha, bytes.length])));
  const out = new Uint8Array(4 + head.length + entries.reduce((sum, [, bytes]) => sum + bytes.length, 0));
  new DataView(out.buffer).setUint32(0, head.length, true);
  out.set(head, 4);
  let at = 4 + head.length;
  for (const [, bytes] of entries) {
    out.set(bytes, at);
    at += bytes.length;
  }
  return out;
}

/** @throws {RangeError} where lengths do not add up, or the head is none */
export function unpackFrames(message: Uint8Array): [string, Uint8Array][] {
  const head = headOf(message);
  let at = head.end;
  const entries = head.entries.map(([sha, size]): [string, Uint8Array] => {
    if (at + size > message.length) throw new RangeError('The message is cut short');
    const bytes = message.slice(at, at + size);
    at += size;
    return [sha, bytes];
  });
  if (at !== message.length) throw new RangeError('The message is longer than its head says');
  return entries;
}

function headOf(message: Uint8Array): { entries: [string, number][]; end: number } {
  const end = message.length < 4 ? Infinity : 4 + new DataView(message.buffer, message.byteOffset).getUint32(0, true);
  if (end > message.length) throw new RangeError('The message is cut short');
  let entries: unknown;
  try {
    entries = JSON.parse(new TextDecoder().decode(message.subarray(4, end)));
  } catch {
    throw new RangeError('The head of the message is no JSON');
  }
  const isEntry = (one: unknown): one is [string, number] =>
    Array.isArray(one) && one.length === 2 && typeof one[0] === 'string' && Number.isInteger(one[1]) && one[1] >= 0;
  if (!Array.isArray(entries) || !entries.every(isEntry)) throw new RangeError('The head of the message is no list of blobs');
  return { entries, end };
}
