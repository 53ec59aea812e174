import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { KitError } from './errors';

/** SHA-256 of the bytes, lower-case hex. */
export type Sha = string;

const ARRAYS = { f32: Float32Array, u8: Uint8Array, u16: Uint16Array, u32: Uint32Array } as const;
export type ComponentType = keyof typeof ARRAYS;
export type NumberArray = Float32Array | Uint8Array | Uint16Array | Uint32Array;

/** Describes a blob as rows of numbers, little-endian, tightly packed. */
export interface Accessor {
  blob: Sha;
  type: ComponentType;
  /** Numbers a row. */
  size: number;
  /** Rows. */
  count: number;
}

/** Immutable bytes by name. Reading a name that is not there is an error. */
export interface Blobs {
  get(sha: Sha): Uint8Array;
  has(sha: Sha): boolean;
  put(bytes: Uint8Array): Sha;
  /** Takes bytes whose name was worked out by `hashBeside`. */
  putNamed(sha: Sha, bytes: Uint8Array): void;
  /** Name of these very bytes (the same array), where they were put before: they need not be hashed again. */
  nameOf(bytes: Uint8Array): Sha | undefined;
}

/** A document names a data block that the store at hand does not have. */
export class MissingBlobError extends KitError {
  constructor(sha: Sha) {
    super('blob-missing', `The data block ${sha.slice(0, 12)}… is not here. Reload the kit; its blocks are kept with it.`, sha);
  }
}

let hash = (bytes: Uint8Array): Sha => bytesToHex(sha256(bytes));

/** Takes a faster SHA-256 where the machine has one. */
export function hashWith(faster: (bytes: Uint8Array) => Sha): void {
  hash = faster;
}

let hashOfPromise = (bytes: Uint8Array): Promise<Sha> => Promise.resolve(hash(bytes));

/** Takes a SHA-256 that runs beside this thread, where the machine has one. */
export function hashBesideWith(beside: (bytes: Uint8Array) => Promise<Sha>): void {
  hashOfPromise = beside;
}

/** SHA-256, beside this thread where that is possible. */
export function hashBeside(bytes: Uint8Array): Promise<Sha> {
  return hashOfPromise(bytes);
}

/** The SHA-256 of bytes, 64 lower-case hexadecimal digits: the name of a blob. */
export function hashBytes(bytes: Uint8Array): Sha {
  return hash(bytes);
}

/** Blobs in memory. `added` lists what was put since it was made or last cleared. */
export class MemoryBlobs implements Blobs {
  readonly added = new Set<Sha>();
  private readonly map = new Map<Sha, Uint8Array>();
  private readonly names = new WeakMap<Uint8Array, Sha>();

  get(sha: Sha): Uint8Array {
    const bytes = this.map.get(sha);
    if (!bytes) throw new MissingBlobError(sha);
    return bytes;
  }

  has(sha: Sha): boolean {
    return this.map.has(sha);
  }

  put(bytes: Uint8Array): Sha {
    const sha = hashBytes(bytes);
    this.putNamed(sha, bytes);
    return sha;
  }

  putNamed(sha: Sha, bytes: Uint8Array): void {
    this.names.set(bytes, sha);
    if (this.map.has(sha)) return;
    this.map.set(sha, bytes);
    this.added.add(sha);
  }

  nameOf(bytes: Uint8Array): Sha | undefined {
    return this.names.get(bytes);
  }

  /** Takes bytes whose name is known, as they come from storage. */
  load(sha: Sha, bytes: Uint8Array): void {
    this.map.set(sha, bytes);
  }

  entries(): IterableIterator<[Sha, Uint8Array]> {
    return this.map.entries();
  }
}

/** Blobs over others: what is put stays here, so that it goes when a trial of something is dropped. */
export class BlobsOver extends MemoryBlobs {
  constructor(private readonly below: Blobs) {
    super();
  }

  override get(sha: Sha): Uint8Array {
    return super.has(sha) ? super.get(sha) : this.below.get(sha);
  }

  override has(sha: Sha): boolean {
    return super.has(sha) || this.below.has(sha);
  }

  override nameOf(bytes: Uint8Array): Sha | undefined {
    return super.nameOf(bytes) ?? this.below.nameOf(bytes);
  }
}

const bytesOf = (array: NumberArray) => new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
const typeOf = (array: NumberArray) => (Object.keys(ARRAYS) as ComponentType[]).find((name) => array instanceof ARRAYS[name])!;

/** Stores an array and describes it. The array must not be written to afterwards. */
export function putArray(blobs: Blobs, array: NumberArray, size: number): Accessor {
  return { blob: blobs.put(bytesOf(array)), type: typeOf(array), size, count: array.length / size };
}

/** As `putArray`, with the name worked out beside this thread: it is in the accessor when the promise put into `pending` is kept. */
export function putArrayBeside(blobs: Blobs, array: NumberArray, size: number, pending: Promise<void>[]): Accessor {
  const bytes = bytesOf(array);
  const accessor: Accessor = { blob: '', type: typeOf(array), size, count: array.length / size };
  pending.push(
    hashBeside(bytes).then((sha) => {
      blobs.putNamed(sha, bytes);
      accessor.blob = sha;
    }),
  );
  return accessor;
}

/** Bytes that an array takes as it is described. */
export function arrayBytes({ type, size, count }: Accessor): number {
  return size * count * ARRAYS[type].BYTES_PER_ELEMENT;
}

/** Bytes as the numbers that they are; do not write to them. @throws {RangeError} where there are fewer */
export function viewArray<T extends NumberArray = NumberArray>({ type, size, count }: Accessor, bytes: Uint8Array): T {
  const Kind = ARRAYS[type];
  const aligned = bytes.byteOffset % Kind.BYTES_PER_ELEMENT === 0 ? bytes : bytes.slice();
  return new Kind(aligned.buffer as ArrayBuffer, aligned.byteOffset, size * count) as T;
}

/** A typed view of a blob; do not write to it. */
export function readArray<T extends NumberArray = NumberArray>(blobs: Blobs, accessor: Accessor): T {
  return viewArray<T>(accessor, blobs.get(accessor.blob));
}
