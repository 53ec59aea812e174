import { renameSync, writeFileSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { setBehaviour } from '@itchkit/core/behaviour';
import { callOf, count, KitError, MemoryBlobs, type Kit } from '@itchkit/core/document';
import { FORMATS } from '@itchkit/core/intake';
import { mendAllSafe, runCall } from '@itchkit/core/operations';
import { runChecks } from '@itchkit/core/rulebook';
import {
  ARCHIVE_ENDING,
  behaviourOfTable,
  packKit,
  readBindingsTable,
  readPackage,
  wireCalls,
  writeArchive,
  writeGlb,
} from '@itchkit/core/ship';
import { takenBy } from '@itchkit/core/trial';
import { equipNode } from '@itchkit/core/node';
import { checkedOf, checkKitAgainst, describeChecked, type Checked } from './check';
import { convertKit, OptionError, spaceOf } from './convert';
import { behaviourProven } from './behaviour';
import { bytesOf, FileError, jsonOf, readPath, textOf, type Opened } from './files';
import { describe, inspectKit } from './inspect';
import { FAILED, refusedAnswer, STOPS, type Answer, type Job } from './job';
import { checkResolution, describeWeights, weightsOf } from './weights';
import { describeTried, tryPackage } from './trial';
import { ownTarget, rulebooks, shippedTarget, TargetError, targetFor, targetOf } from './targets';

type Of<V extends Job['verb']> = Extract<Job, { verb: V }>;

async function inspect({ file }: Of<'inspect'>, { kit }: Opened, blobs: MemoryBlobs): Promise<Answer> {
  const result = inspectKit(file, kit, blobs);
  return { result, text: describe(result), exitCode: 0 };
}

async function convert({ out, space: options }: Of<'convert'>, opened: Opened, blobs: MemoryBlobs): Promise<Answer> {
  const { kit } = opened;
  const space = spaceOf(options);
  const asKit = out.endsWith(ARCHIVE_ENDING);
  if (asKit && Object.values(options).some((option) => option !== undefined))
    throw new OptionError('option', 'A kit is always in metres, +Y up, +Z forward. Leave out --unit, --up and --forward.', 'out');
  const bytes = asKit ? archiveOf(opened, kit, blobs) : await convertKit(kit, blobs, space);
  writeWhole(out, bytes);
  const notes = (kit.source?.notes ?? []).map((note) => `  ${note.grade === 'warn' ? '!' : '·'} ${note.message}\n`);
  const text = `Wrote ${out}: ${bytes.length.toLocaleString('en')} bytes, 1 unit is ${space.metresPerUnit} m, ${space.up} up, ${space.forward} forward.\n${notes.join('')}`;
  return { result: null, text, exitCode: 0 };
}

const checked = (result: Checked, before = ''): Answer => ({
  result,
  text: before + describeChecked(result),
  exitCode: result.counts.stop > 0 ? STOPS : 0,
});

async function check({ file, target }: Of<'check'>, opened: Opened, blobs: MemoryBlobs): Promise<Answer> {
  return checked(checkKitAgainst(file, opened.kit, targetFor(target, opened), blobs));
}

/** The kit as the file that `--out` names: an archive, or a GLB. */
async function written(out: string, opened: Opened, kit: Kit, blobs: MemoryBlobs): Promise<number> {
  const bytes = out.endsWith(ARCHIVE_ENDING) ? archiveOf(opened, kit, blobs) : (await writeGlb(kit, blobs, { extras: true })).bytes;
  writeWhole(out, bytes);
  return bytes.length;
}

const archiveOf = ({ rulebooks: own }: Opened, kit: Kit, blobs: MemoryBlobs): Uint8Array =>
  writeArchive({ kit, rulebooks: own, history: [] }, blobs);

async function mend({ file, target, out }: Of<'mend'>, opened: Opened, blobs: MemoryBlobs): Promise<Answer> {
  const rulebook = targetFor(target, opened);
  const mended = mendAllSafe(opened.kit, rulebook, blobs);
  const size = await written(out, opened, mended.kit, blobs);
  return checked(
    checkKitAgainst(file, mended.kit, rulebook, blobs),
    `Wrote ${out}: ${mended.calls.length} mends, ${size.toLocaleString('en')} bytes. Left:\n`,
  );
}

/** What Ship builds, by the same computation: the same bytes. Nothing is written while a stop is open. */
async function pack({ file, target, out }: Of<'pack'>, opened: Opened, blobs: MemoryBlobs): Promise<Answer> {
  const rulebook = targetFor(target, opened);
  const findings = runChecks({ kit: opened.kit, rulebook, blobs });
  const said = checkedOf(file, opened.kit, rulebook, findings);
  if (said.counts.stop > 0) return checked(said, `Nothing was written: ${count(said.counts.stop, 'stop is', 'stops are')} open.\n`);
  const { bytes, sha } = await packKit(opened.kit, rulebook, blobs, findings);
  writeWhole(out, bytes);
  const answer = checked(said, `Wrote ${out}: ${bytes.length.toLocaleString('en')} bytes, SHA-256 ${sha}.\n`);
  return { ...answer, result: { ...said, out, bytes: bytes.length, sha256: sha } };
}

/** The bindings of a table in place of what its parts followed; what plays when in place of what did. */
async function wire({ file, target, bindings, behaviour, out }: Of<'wire'>, opened: Opened, blobs: MemoryBlobs): Promise<Answer> {
  const rulebook = targetFor(target, opened);
  const told = bindings === undefined ? [] : readBindingsTable(textOf(bindings), opened.kit, rulebook);
  let kit = wireCalls(opened.kit, told).reduce((now, call) => runCall(now, call, blobs).kit, opened.kit);
  if (behaviour !== undefined) kit = runCall(kit, callOf(setBehaviour, behaviourOfTable(jsonOf(behaviour), kit)), blobs).kit;
  const size = await written(out, opened, kit, blobs);
  const put = [
    ...(bindings === undefined ? [] : [count(told.length, 'binding')]),
    ...(behaviour === undefined ? [] : [count(kit.behaviour!.layers.length, 'layer')]),
  ];
  return checked(
    checkKitAgainst(file, kit, rulebook, blobs),
    `Wrote ${out}: ${put.join(', ')}, ${size.toLocaleString('en')} bytes. Left:\n`,
  );
}

/** A kit or a model; of a package the kit that a platform makes of it. */
async function kitOrPackage(file: string, blobs: MemoryBlobs): Promise<Opened> {
  try {
    const { kit, manifest } = await readPackage(bytesOf(file), blobs);
    // What it was packed for is its target.
    return { kit: { ...kit, targets: [manifest.target] }, rulebooks: [], isKit: false };
  } catch (error) {
    if (!(error instanceof KitError)) throw error;
    return readPath(file, blobs);
  }
}

/** What is proven of what plays when. */
async function behaviour({ file, target }: Of<'behaviour'>, opened: Opened, blobs: MemoryBlobs): Promise<Answer> {
  return behaviourProven(file, opened.kit, target === undefined ? ownTarget(opened) : targetFor(target, opened), blobs);
}

/** A package in the platform’s stand-in, from its bytes alone. */
async function trial({ file, ...asked }: Of<'trial'>, blobs: MemoryBlobs): Promise<Answer> {
  const read = await readPackage(bytesOf(file), blobs);
  const { rulebook: id, version } = read.manifest.target;
  const target = shippedTarget(id, version);
  const result = tryPackage(file, takenBy(read, target), blobs, target, asked);
  const note = result.target.version === version ? '' : `The package is for ${id} ${version}; this is ${result.target.version}.\n`;
  return { result, text: note + describeTried(result), exitCode: result.crossings.length > 0 ? STOPS : 0 };
}

async function weights({ file, out, resolution }: Of<'weights'>, opened: Opened, blobs: MemoryBlobs): Promise<Answer> {
  const { solved, result } = weightsOf(file, opened.kit, blobs, resolution);
  return { result, text: describeWeights(out, await written(out, opened, solved, blobs), result), exitCode: 0 };
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

const WITH_A_KIT: {
  [V in Exclude<Job['verb'], 'formats' | 'rulebooks' | 'trial'>]: (job: Of<V>, opened: Opened, blobs: MemoryBlobs) => Promise<Answer>;
} = {
  inspect,
  convert,
  check,
  mend,
  pack,
  weights,
  wire,
  behaviour,
};

/** What can be said wrong before any file is read. @throws {KitError} */
function lookAhead(job: Job): void {
  if (job.verb === 'wire' && job.bindings === undefined && job.behaviour === undefined)
    throw new OptionError('option', 'Say what to put in: --bindings with a CSV file, --behaviour with a JSON file, or both.', 'bindings');
  if (job.verb === 'convert') spaceOf(job.space);
  if (job.verb === 'weights') checkResolution(job.resolution);
  // A rulebook may come with the kit.
  if ('target' in job && job.target !== undefined && !/\.zip$/i.test(job.file)) targetOf(job.target);
}

async function answer(job: Job): Promise<Answer> {
  if (job.verb === 'rulebooks') return listRulebooks();
  if (job.verb === 'formats') return listFormats();
  try {
    lookAhead(job);
    const blobs = new MemoryBlobs();
    if (job.verb === 'trial') return await trial(job, blobs);
    const opened = job.verb === 'behaviour' ? await kitOrPackage(job.file, blobs) : await readPath(job.file, blobs);
    if ('target' in job && job.target !== undefined) targetFor(job.target, opened);
    return await (WITH_A_KIT[job.verb] as (job: Job, opened: Opened, blobs: MemoryBlobs) => Promise<Answer>)(job, opened, blobs);
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
