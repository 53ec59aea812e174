import type { Rulebook } from '@itchkit/core/rulebook';
import { READING_LIMITS, type Limits } from '@itchkit/core/node/limited-helper';
import type { Job, Result } from './helper';
import { doBeside } from './helpers';

/** A file as it came in, with its SHA-256 where that was worked out on the way. */
export type Upload = Pick<Extract<Job, { job: 'read' }>, 'bytes' | 'fileName' | 'sha'>;

/** Reads a file in a process of its own. @throws {IntakeError} where it is refused, too slow, too large, or the reader died of it */
export function readInWorker(upload: Upload, rulebook: Rulebook | null, limits: Limits = READING_LIMITS): Promise<Result<'read'>> {
  return doBeside({ job: 'read', ...upload, rulebook }, upload.fileName, limits);
}
