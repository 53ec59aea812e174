import type { Blobs, Kit } from '../document';
import { ALONE, type Companions } from './companions';
import { FORMATS, formatList } from './formats';
import { IntakeError, notKnown } from './intake-error';
import { unitNotSaid } from './unit-not-said';

/**
 * Reads a model of any known format into a kit; the contents say which, not the name.
 *
 * @param beside Other files that it may name (buffers, materials, textures).
 * @throws {IntakeError} where the file is refused, or nothing of it could be kept
 */
export async function readModel(bytes: Uint8Array, fileName: string, blobs: Blobs, beside: Companions = ALONE): Promise<Kit> {
  const format = FORMATS.find((one) => bytes.length > 0 && one.isOne(bytes, fileName));
  if (!format) throw notKnown(fileName, formatList('or'));
  const kit = await format.read(bytes, fileName, blobs, beside);
  const source = kit.source!;
  source.format = format.id;
  if (!format.says) {
    source.space = { ...format.space };
    source.notes.unshift(unitNotSaid(format.short));
  }
  refuseNothing(kit, fileName);
  return kit;
}

/** A model of which all that there was had to be left out would be an empty kit with warnings: better said at the door. */
function refuseNothing({ parts, clips, source }: Kit, fileName: string): void {
  const lost = source!.notes.filter(({ grade }) => grade === 'warn');
  const keeps = Object.values(parts).some(({ mesh, role }) => mesh !== null || role === 'joint') || Object.keys(clips).length > 0;
  if (keeps || lost.length === 0) return;
  const message = `“${fileName}” holds nothing that could be kept. ${lost[0].message} Export it again, or as GLB.`;
  throw new IntakeError('nothing-kept', message, lost[0].part ?? fileName);
}
