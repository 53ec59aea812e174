import { readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, join, relative, resolve, sep } from 'node:path';
import { zipSync } from 'fflate';
import { KitError, type MemoryBlobs, type Kit } from '@itchkit/core/document';
import { MAX_FILE_BYTES, readFile, type Companions } from '@itchkit/core/intake';
import type { Rulebook } from '@itchkit/core/rulebook';
import { isArchive, readArchiveOf } from '@itchkit/core/ship';

export class FileError extends KitError {}

/** A kit, and the rulebooks that came with it. */
export interface Opened {
  kit: Kit;
  rulebooks: Rulebook[];
  /** Whether it was exported as a kit, not a model. */
  isKit: boolean;
}

/**
 * Reads a file, or a folder as if it were a ZIP of itself; a kit that was exported is opened as it is. Files beside a model are found in
 * its folder and below.
 */
export async function readPath(path: string, blobs: MemoryBlobs): Promise<Opened> {
  const bytes = statSync(path, { throwIfNoEntry: false })?.isFile() ? headOf(path) : null;
  if (bytes && isArchive(bytes)) {
    const { archive, blobs: own } = readArchiveOf(bytes, basename(path));
    for (const [sha, data] of own.entries()) blobs.load(sha, data);
    return { kit: archive.kit, rulebooks: archive.rulebooks, isKit: true };
  }
  return { kit: await readModelAt(path, blobs), rulebooks: [], isKit: false };
}

/** A file as it is. @throws {FileError} where it is not there, or larger than what is taken in */
export function bytesOf(path: string): Uint8Array {
  const stat = statSync(path, { throwIfNoEntry: false });
  if (!stat?.isFile()) throw new FileError('no-file', `There is no file “${path}”. Check its name and folder.`, path);
  if (stat.size > MAX_FILE_BYTES) throw new FileError('too-large', `“${path}” is larger than 256 MiB, the most that is taken in.`, path);
  return new Uint8Array(readFileSync(path));
}

/** A file as UTF-8. @throws {FileError} */
export const textOf = (path: string): string => new TextDecoder().decode(bytesOf(path));

/** A file as JSON. @throws {FileError} */
export function jsonOf(path: string): unknown {
  try {
    return JSON.parse(textOf(path)) as unknown;
  } catch (error) {
    if (error instanceof KitError) throw error;
    throw new FileError('json', `“${path}” is not JSON: ${error instanceof Error ? error.message : String(error)}.`, path);
  }
}

/** The bytes of a file that may be a kit; null for one that can't be. */
function headOf(path: string): Uint8Array | null {
  return /\.zip$/i.test(path) && statSync(path).size <= MAX_FILE_BYTES ? new Uint8Array(readFileSync(path)) : null;
}

async function readModelAt(path: string, blobs: MemoryBlobs): Promise<Kit> {
  let stat;
  try {
    stat = statSync(path);
  } catch {
    throw new FileError('no-file', `There is no file “${path}”. Check its name and folder.`, path);
  }
  if (stat.isDirectory()) return readFile(zipFolder(path), `${basename(resolve(path))}.zip`, blobs);
  if (stat.size > MAX_FILE_BYTES)
    throw new FileError(
      'too-large',
      `“${path}” is larger than 256 MiB, the most that is taken in. Simplify it, or split it into several files.`,
      path,
    );
  return readFile(new Uint8Array(readFileSync(path)), basename(path), blobs, besideOf(path));
}

function besideOf(path: string): Companions {
  const folder = resolve(dirname(path));
  return (name) => {
    const file = resolve(folder, name.replaceAll('\\', '/'));
    if (!file.startsWith(folder + sep)) return undefined;
    try {
      return statSync(file).size > MAX_FILE_BYTES ? undefined : new Uint8Array(readFileSync(file));
    } catch {
      return undefined;
    }
  };
}

const MAX_ENTRIES = 2000;

function zipFolder(folder: string): Uint8Array {
  const entries: Record<string, Uint8Array> = {};
  let total = 0;
  const stack = [folder];
  while (stack.length > 0) {
    for (const entry of readdirSync(stack.pop()!, { withFileTypes: true })) {
      if (entry.name.startsWith('.')) continue;
      const path = join(entry.parentPath, entry.name);
      if (entry.isDirectory()) stack.push(path);
      else if (entry.isFile()) {
        total += statSync(path).size;
        if (total > MAX_FILE_BYTES || Object.keys(entries).length >= MAX_ENTRIES)
          throw new FileError(
            'too-large',
            `“${folder}” holds more than ${MAX_ENTRIES.toLocaleString('en')} files or 256 MiB. Keep the model and its pictures alone in it.`,
            folder,
          );
        entries[relative(folder, path).split(sep).join('/')] = new Uint8Array(readFileSync(path));
      }
    }
  }
  return zipSync(entries, { level: 0 });
}
