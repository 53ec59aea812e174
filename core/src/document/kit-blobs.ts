import type { Sha } from './blobs';
import type { Kit } from './kit';
import { recordsOf, SECTION_LIST } from './sections';

/** Every blob that the kit refers to, each once. */
export function blobsOf(kit: Kit): Set<Sha> {
  const result = new Set<Sha>();
  const add = (sha: Sha) => void result.add(sha);
  for (const section of SECTION_LIST) for (const one of recordsOf(kit, section)) section.blobs(one, add);
  return result;
}

/** What a kit needs to be kept whole: its blobs, and the file that it came from. */
export function keptBlobsOf(kit: Kit): Set<Sha> {
  const result = blobsOf(kit);
  if (kit.source) result.add(kit.source.sha);
  return result;
}
