import { LimitedHelper, refusalOf, type Limits } from '@itchkit/core/node/limited-helper';
import { processHelper } from '@itchkit/core/node/limited-process';
import { forget, spill } from '@itchkit/core/node/spilled-bytes';
import { KitError } from '@itchkit/core/document';
import { IntakeError } from '@itchkit/core/intake';
import type { Answer, Job, Result } from './helper';
import { takeInAnswer } from './helper-answers';

function program(): string {
  const path = process.env.ITCHKIT_READ_WORKER;
  if (!path) throw new Error('ITCHKIT_READ_WORKER is not set: start the application with “npm run demo”.');
  return path;
}

const makeHelper = () => new LimitedHelper<Job, Answer>((limits) => processHelper(program(), limits));
const [reader, writer] = [makeHelper(), makeHelper()];
/** Two, so that a large file that is read keeps nobody from packaging. */
const HELPERS: Record<Job['job'], LimitedHelper<Job, Answer>> = { read: reader, import: reader, pack: writer, export: writer };

/**
 * Has a job done in a process of its own, under a ceiling of memory and a limit of time.
 *
 * @param name What it is called in a refusal.
 * @throws {IntakeError} where a file is refused, too slow, too large, or the reader died of it: that file only
 * @throws {KitError} where another job is
 */
export async function doBeside<J extends Job['job']>(
  job: Extract<Job, { job: J }>,
  name: string,
  limits: Limits = HELPERS[job.job].limits,
): Promise<Result<J>> {
  const sent = await spill<Job>(job);
  const said = await HELPERS[job.job].ask(sent as Job, limits).finally(() => forget(sent));
  const answer = typeof said === 'string' ? said : await takeInAnswer(said);
  if (typeof answer !== 'string' && answer.ok) return answer.result as Result<J>;
  const refusal = typeof answer === 'string' ? refusalOf(answer, name, limits) : answer;
  if (job.job === 'read' || job.job === 'import') throw new IntakeError(refusal.code, refusal.message, refusal.where);
  throw new KitError(refusal.code, refusal.message, refusal.where);
}
