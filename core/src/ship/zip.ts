import { unzipSync, zipSync, type Zippable } from 'fflate';
import { KitError } from '../document';

/** Every entry has this time, so that the same contents give the same bytes. ZIP times are local and begin in 1980. */
const FIXED_TIME = new Date(1980, 0, 1);

/** A ZIP whose bytes depend on nothing but names and contents. Entries are sorted by name. */
export function zipFiles(files: Record<string, Uint8Array>): Uint8Array {
  const sorted: Zippable = {};
  for (const name of Object.keys(files).sort()) sorted[name] = [files[name], { mtime: FIXED_TIME, level: 6, os: 3, attrs: 0o644 << 16 }];
  return zipSync(sorted);
}

/** A package whose ZIP can't be opened. */
export class ZipError extends KitError {
  constructor(detail: string) {
    super('zip', `The package can't be opened: ${detail}. Build it again.`);
  }
}

/** @throws {ZipError} where it is no ZIP, or holds more than `maxBytes` */
export function unzipFiles(bytes: Uint8Array, maxBytes = 1 << 30): Record<string, Uint8Array> {
  let total = 0;
  try {
    return unzipSync(bytes, {
      filter(file) {
        total += file.originalSize;
        if (total > maxBytes) throw new ZipError(`it unpacks to more than ${maxBytes.toLocaleString('en')} bytes`);
        return true;
      },
    });
  } catch (error) {
    throw error instanceof ZipError ? error : new ZipError(error instanceof Error ? error.message : 'it is no ZIP file');
  }
}
