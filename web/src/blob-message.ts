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

/** @throws {RangeError} where lengths do not add up */
export function unpackFrames(message: Uint8Array): [string, Uint8Array][] {
  const view = new DataView(message.buffer, message.byteOffset, message.byteLength);
  const length = view.getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(message.subarray(4, 4 + length))) as [string, number][];
  let at = 4 + length;
  return head.map(([sha, size]) => {
    if (typeof sha !== 'string' || !Number.isInteger(size) || size < 0 || at + size > message.length)
      throw new RangeError('The message is cut short');
    const bytes = message.slice(at, at + size);
    at += size;
    return [sha, bytes];
  });
}
