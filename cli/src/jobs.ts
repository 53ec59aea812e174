import { renameSync, writeFileSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { KitError, MemoryBlobs, type Kit } from '@itchkit/core/document';
import { FORMATS } from '@itchkit/core/intake';
import { mendAllSafe } from '@itchkit/core/operations';
import { writeGlb } from '@itchkit/core/ship';
import { equipNode } from '@itchkit/core/node';
import { checkKitAgainst, describeChecked, type Checked } from './check';
import { convertKit, OptionError, spaceOf } from './convert';
import { FileError, readPath } from './files';
import { describe, inspectKit } from './inspect';
import { FAILED, refusedAnswer, STOPS, type Answer, type Job } from './job';
import { checkResolution, describeWeights, weightsOf } from './weights';
import { rulebooks, TargetError, targetOf } from './targets';

type Of<V extends Job['verb']> = Extract<Job, { verb: V }>;

async function inspect({ file }: Of<'inspect'>, kit: Kit, blobs: MemoryBlobs): Promise<Answer> {
  const result = inspectKit(file, kit, blobs);
  return { result, text: describe(result), exitCode: 0 };
}

async function convert({ out, space: options }: Of<'convert'>, kit: Kit, blobs: MemoryBlobs): Promise<Answer> {
  const space = spaceOf(options);
  const bytes = await convertKit(kit, blobs, space);
  writeWhole(out, bytes);
  const notes = kit.source!.notes.map((note) => `  ${note.grade === 'warn' ? '!' : '·'} ${note.message}\n`);
  const text = `Wrote ${out}: ${bytes.length.toLocaleString('en')} bytes, 1 unit is ${space.metresPerUnit} m, ${space.up} up, ${space.forward} forward.\n${notes.join('')}`;
  return { result: null, text, exitCode: 0 };
}

const checked = (result: Checked, before = ''): Answer => ({
  result,
  text: before + describeChecked(result),
  exitCode: result.counts.stop > 0 ? STOPS : 0,
});

async function check({ file, target }: Of<'check'>, kit: Kit, blobs: MemoryBlobs): Promise<Answer> {
  return checked(checkKitAgainst(file, kit, targetOf(target), blobs));
}

async function mend({ file, target, out }: Of<'mend'>, kit: Kit, blobs: MemoryBlobs): Promise<Answer> {
  const rulebook = targetOf(target);
  const mended = mendAllSafe(kit, rulebook, blobs);
  const { bytes } = await writeGlb(mended.kit, blobs, { extras: true });
  writeWhole(out, bytes);
  return checked(
    checkKitAgainst(file, mended.kit, rulebook, blobs),
    `Wrote ${out}: ${mended.calls.length} mends, ${bytes.length.toLocaleString('en')} bytes. Left:\n`,
  );
}

async function weights({ file, out, resolution }: Of<'weights'>, kit: Kit, blobs: MemoryBlobs): Promise<Answer> {
  const { solved, result } = weightsOf(file, kit, blobs, resolution);
  const { bytes } = await writeGlb(solved, blobs, { extras: true });
  writeWhole(out, bytes);
  return { result, text: describeWeights(out, bytes.length, result), exitCode: 0 };
}

function listRulebooks(): Answer {
  const result = rulebooks().map(({ id, version, title, summary, rules }) => ({ id, version, title, summary, rules: rules.length }));
  return {
    result,
    text: result.map(({ id, version, title, rules }) => `${id} ${version}  ${title}, ${rules} rules\n`).join(''),
    exitCode: 0,
  };
}

function listFormats(): Answer {
  const result = FORMATS.map(({ id, title, endings, beside, holds, says }) => ({ id, title, endings, beside, holds, says }));
  const words = result.map(({ title, endings, beside, says }) => {
    const names = endings.map((ending) => `.${ending}`).join(', ');
    const with_ = beside.length > 0 ? `, with ${beside.map((ending) => `.${ending}`).join(', ')} beside it` : '';
    return `${title} (${names})${with_}${says ? '' : '; its unit and axes are not said'}\n`;
  });
  return { result, text: words.join(''), exitCode: 0 };
}

/** Writes a file beside its place and moves it there, so that no half of it is ever seen. @throws {FileError} */
function writeWhole(path: string, bytes: Uint8Array): void {
  try {
    writeFileSync(`${path}.part`, bytes);
    renameSync(`${path}.part`, path);
  } catch (error) {
    throw new FileError('write', `“${path}” could not be written: ${error instanceof Error ? error.message : String(error)}.`, path);
  }
}

const WITH_A_KIT: { [V in Exclude<Job['verb'], 'formats' | 'rulebooks'>]: (job: Of<V>, kit: Kit, blobs: MemoryBlobs) => Promise<Answer> } =
  {
    inspect,
    convert,
    check,
    mend,
    weights,
  };

/** What can be said wrong before any file is read. @throws {KitError} */
function lookAhead(job: Job): void {
  if (job.verb === 'convert') spaceOf(job.space);
  if (job.verb === 'weights') checkResolution(job.resolution);
  if (job.verb === 'check' || job.verb === 'mend') targetOf(job.target);
}

async function answer(job: Job): Promise<Answer> {
  if (job.verb === 'rulebooks') return listRulebooks();
  if (job.verb === 'formats') return listFormats();
  try {
    lookAhead(job);
    const blobs = new MemoryBlobs();
    const kit = await readPath(job.file, blobs);
    return await (WITH_A_KIT[job.verb] as (job: Job, kit: Kit, blobs: MemoryBlobs) => Promise<Answer>)(job, kit, blobs);
  } catch (error) {
    if (!(error instanceof KitError)) throw error;
    const { code, message, where } = error;
    const misused =
      error instanceof OptionError ||
      error instanceof TargetError ||
      (error instanceof FileError && code === 'write') ||
      job.verb === 'convert';
    return misused ? { result: null, text: `${message}\n`, exitCode: FAILED, misused } : refusedAnswer(job.file, { code, message, where });
  }
}

equipNode();
parentPort!.on('message', (job: Job) => {
  answer(job).then(
    (result) => parentPort!.postMessage(result),
    (error: unknown) => {
      // What is no refusal is a fault of ours; the thread dies of it, and the main thread says so.
      setImmediate(() => {
        throw error;
      });
    },
  );
});
