import { strToU8, zipSync } from 'fflate';
import { emptyKit, newPart, type Kit } from '@itchkit/core/document';

export { emptyKit, newPart };

/** A kit without data blocks as an archive, written here: the format as docs/formats.md tells of it. */
export function archiveOf(kit: Kit): Uint8Array {
  return zipSync({
    'archive.json': strToU8(JSON.stringify({ format: 'itchkit.archive/1', history: [] })),
    'kit.json': strToU8(JSON.stringify(kit)),
  });
}
