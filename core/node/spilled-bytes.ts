import { mkdtemp, open, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** What goes from process to process with data of any size: a file’s bytes, blocks by name, or both. */
export interface WithBytes {
  bytes?: Uint8Array;
  blobs?: [string, Uint8Array][];
}

/** Where the data of a message lies, and which of it is what: from and to in bytes. */
interface Place {
  path: string;
  bytes: [from: number, to: number] | null;
  blobs: [name: string, from: number, to: number][] | null;
}

/** The same without its data, and where that is. */
export type Spilled<T extends WithBytes> = Omit<T, 'bytes' | 'blobs'> & { spilled: Place };

/** Less than this goes along in the message, bytes: copying it takes no time that anybody would notice. */
const SMALL = 2 ** 20;

let folder: Promise<string> | null = null;
let made = 0;

/**
 * Puts the data of a message into a file of its own, if it is large: copying tens of megabytes into a message and out of it again would
 * keep a process from answering others for as long. Only this person can read the file; whoever takes it in again removes it.
 */
export async function spill<T extends WithBytes>(message: T): Promise<T | Spilled<T>> {
  const { bytes, blobs, ...rest } = message;
  const blocks = [...(bytes ? [bytes] : []), ...(blobs ?? []).map(([, block]) => block)];
  if (blocks.reduce((sum, block) => sum + block.length, 0) < SMALL) return message;
  folder ??= mkdtemp(join(tmpdir(), 'itchkit-'));
  const path = join(await folder, String(made++));
  const file = await open(path, 'wx', 0o600);
  try {
    await file.writev(blocks);
  } finally {
    await file.close();
  }
  let at = 0;
  const next = (block: Uint8Array): [number, number] => [at, (at += block.length)];
  const place: Place = { path, bytes: bytes ? next(bytes) : null, blobs: null };
  place.blobs = blobs?.map(([name, block]) => [name, ...next(block)]) ?? null;
  return { ...rest, spilled: place };
}

const isSpilled = <T extends WithBytes>(message: T | Spilled<T>): message is Spilled<T> => 'spilled' in message;

/** A message with its data again; its file goes. @throws {Error} where that is not there any more */
export async function takeIn<T extends WithBytes>(message: T | Spilled<T>): Promise<T> {
  if (!isSpilled(message)) return message;
  const { spilled, ...rest } = message;
  const all = await readFile(spilled.path);
  await rm(spilled.path, { force: true });
  const block = (from: number, to: number) => new Uint8Array(all.buffer, all.byteOffset + from, to - from);
  return {
    ...rest,
    ...(spilled.bytes ? { bytes: block(...spilled.bytes) } : {}),
    ...(spilled.blobs ? { blobs: spilled.blobs.map(([name, from, to]) => [name, block(from, to)]) } : {}),
  } as unknown as T;
}

/** Removes what a message left, where nobody took it in. */
export async function forget<T extends WithBytes>(message: T | Spilled<T>): Promise<void> {
  if (isSpilled(message)) await rm(message.spilled.path, { force: true });
}
