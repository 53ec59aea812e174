import { jointsOf, type Blobs, type Kit, type ReadingNote, type Sha, cutText } from '../document';
import { CANONICAL, kitCounts } from '../geometry';
import { IntakeError } from './intake-error';

/** How many triangles a file may have. */
export const MAX_TRIANGLES = 5_000_000;

interface Read {
  fileName: string;
  format: string;
  bytes: Uint8Array;
  /** Name of the bytes, where it is known already. */
  sha?: Sha;
  generator: string | null;
  notes: ReadingNote[];
}

/**
 * Writes into a kit what was read: the file and its hash, counts before any change, notes. The file itself is kept as a blob.
 *
 * @throws {IntakeError} where it draws more triangles than can be taken in
 */
export function describeSource(kit: Kit, { fileName, format, bytes, sha, generator, notes }: Read, blobs: Blobs): void {
  const counts = kitCounts(kit);
  if (counts.triangles > MAX_TRIANGLES) {
    throw new IntakeError(
      'too-large',
      `“${fileName}” draws ${counts.triangles.toLocaleString('en')} triangles; ${MAX_TRIANGLES.toLocaleString('en')} can be taken in. Simplify it first.`,
      'meshes',
    );
  }
  if (Object.keys(kit.parts).length === 0)
    notes.push({ grade: 'warn', code: 'empty', message: 'The file has no parts: its scene is empty.', part: null });
  kit.source = {
    fileName,
    format,
    bytes: bytes.length,
    sha: keep(bytes, sha, blobs),
    generator: generator === null ? null : cutText(generator, 400),
    space: { ...CANONICAL },
    settled: false,
    notes,
    counts: {
      parts: Object.keys(kit.parts).length,
      meshes: Object.keys(kit.meshes).length,
      ...counts,
      materials: Object.keys(kit.materials).length,
      images: Object.keys(kit.images).length,
      skins: Object.keys(kit.skins).length,
      clips: Object.keys(kit.clips).length,
      joints: jointsOf(kit).size,
      morphTargets: Object.values(kit.meshes).reduce((sum, mesh) => sum + (mesh.targets?.length ?? 0), 0),
    },
  };
}

/** The file itself as a blob; a copy where it is a piece of something larger. */
function keep(bytes: Uint8Array, sha: Sha | undefined, blobs: Blobs): Sha {
  sha ??= blobs.nameOf(bytes);
  const own = bytes.byteLength === bytes.buffer.byteLength ? bytes : bytes.slice();
  if (sha === undefined) return blobs.put(own);
  blobs.putNamed(sha, own);
  return sha;
}
