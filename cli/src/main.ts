import { renameSync, writeFileSync } from 'node:fs';
import { Command, CommanderError } from 'commander';
import { KitError, mendAllSafe, MemoryBlobs, writeGlb, type Kit } from '@itchkit/core';
import { equipNode } from '@itchkit/core/node';
import { checkKitAgainst, describeChecked, type Checked } from './check';
import { convertKit, spaceOf, type SpaceOptions } from './convert';
import { readPath } from './files';
import { describe, inspectKit, type Inspection, type Refused } from './inspect';
import { RULEBOOKS, targetOf } from './targets';

/** Something stops the file for the platform. */
const STOPS = 1;
/** Refused, or misused. */
const FAILED = 2;

async function inspect(files: string[], { json }: { json?: boolean }): Promise<void> {
  const results: (Inspection | Refused)[] = [];
  for (const file of files) {
    const result = await readOrRefuse(file, (kit, blobs) => inspectKit(file, kit, blobs));
    results.push(result);
    if (!json) process.stdout.write(describe(result));
  }
  if (json) process.stdout.write(`${JSON.stringify(results.length === 1 ? results[0] : results, null, 2)}\n`);
  if (results.some((result) => !result.ok)) process.exitCode = FAILED;
}

/** A file's reading, or what it was refused for. */
async function readOrRefuse<T>(file: string, use: (kit: Kit, blobs: MemoryBlobs) => T | Promise<T>): Promise<T | Refused> {
  try {
    const blobs = new MemoryBlobs();
    return await use(await readPath(file, blobs), blobs);
  } catch (error) {
    if (!(error instanceof KitError)) throw error;
    return { file, ok: false, error: { code: error.code, message: error.message, where: error.where } };
  }
}

async function check(file: string, { target, json }: { target: string; json?: boolean }): Promise<void> {
  const rulebook = targetOf(target);
  const result = await readOrRefuse(file, (kit, blobs) => checkKitAgainst(file, kit, rulebook, blobs));
  say(result, json);
}

/** Prints a result of a check, and sets the exit code by it. */
function say(result: Checked | Refused, json: boolean | undefined): void {
  process.stdout.write(json ? `${JSON.stringify(result, null, 2)}\n` : result.ok ? describeChecked(result) : describe(result));
  if (!result.ok) process.exitCode = FAILED;
  else if (result.counts.stop > 0) process.exitCode = STOPS;
}

async function mend(file: string, { target, out, json }: { target: string; out: string; json?: boolean }): Promise<void> {
  const rulebook = targetOf(target);
  const result = await readOrRefuse(file, async (kit, blobs) => {
    const mended = mendAllSafe(kit, rulebook, blobs);
    const { bytes } = await writeGlb(mended.kit, blobs);
    writeWhole(out, bytes);
    if (!json) process.stdout.write(`Wrote ${out}: ${mended.calls.length} mends, ${bytes.length.toLocaleString('en')} bytes. Left:\n`);
    return checkKitAgainst(file, mended.kit, rulebook, blobs);
  });
  say(result, json);
}

function listRulebooks({ json }: { json?: boolean }): void {
  const list = RULEBOOKS.map(({ id, version, title, summary, rules }) => ({ id, version, title, summary, rules: rules.length }));
  process.stdout.write(json ? `${JSON.stringify(list, null, 2)}\n` : list.map(({ id, version, title, rules }) => `${id} ${version}  ${title}, ${rules} rules\n`).join(''));
}

/** Writes a file beside its place and moves it there, so that no half of it is ever seen. @throws {KitError} */
function writeWhole(path: string, bytes: Uint8Array): void {
  try {
    writeFileSync(`${path}.part`, bytes);
    renameSync(`${path}.part`, path);
  } catch (error) {
    throw new KitError('write', `“${path}” could not be written: ${error instanceof Error ? error.message : String(error)}.`, path);
  }
}

async function convert(file: string, { out, ...options }: SpaceOptions & { out: string }): Promise<void> {
  const space = spaceOf(options);
  const blobs = new MemoryBlobs();
  const kit = await readPath(file, blobs);
  const bytes = await convertKit(kit, blobs, space);
  writeWhole(out, bytes);
  process.stdout.write(`Wrote ${out}: ${bytes.length.toLocaleString('en')} bytes, 1 unit is ${space.metresPerUnit} m, ${space.up} up, ${space.forward} forward.\n`);
  for (const note of kit.source!.notes) process.stdout.write(`  ${note.grade === 'warn' ? '!' : '·'} ${note.message}\n`);
}

function program(): Command {
  const command = new Command('itchkit').description('Looks into models and turns them into what a platform wants.').exitOverride();
  command
    .command('inspect')
    .description('Say what files hold: parts, counts, clips, bounds, and what reading them left out or mended.')
    .argument('<file...>', 'GLB, glTF, OBJ, PLY, STL, COLLADA, BVH, a ZIP or a folder of one')
    .option('--json', 'as JSON: an object, or a list for several files')
    .action(inspect);
  command
    .command('convert')
    .description('Write a file as GLB, in another unit and other axes where asked.')
    .argument('<file>')
    .requiredOption('--out <file>', 'where to write the GLB')
    .option('--unit <unit>', 'unit of the output: m, cm, mm, ft, in, or metres a unit', undefined)
    .option('--up <axis>', 'up axis of the output, like +y or -z')
    .option('--forward <axis>', 'forward axis of the output')
    .action(convert);
  const target = ['--target <rulebook>', 'a rulebook’s id, or the path of one as JSON'] as const;
  command
    .command('check')
    .description('Say what a platform’s rulebook finds in a file. Ends with 1 where something stops it.')
    .argument('<file>')
    .requiredOption(...target)
    .option('--json', 'as JSON')
    .action(check);
  command
    .command('mend')
    .description('Make all mends that change nothing visible, write the file as GLB, and say what is left.')
    .argument('<file>')
    .requiredOption(...target)
    .requiredOption('--out <file>', 'where to write the GLB')
    .option('--json', 'as JSON')
    .action(mend);
  command.command('rulebooks').description('List the rulebooks.').option('--json', 'as JSON').action(listRulebooks);
  return command;
}

async function main(): Promise<void> {
  equipNode();
  try {
    await program().parseAsync();
  } catch (error) {
    if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : FAILED;
    else if (error instanceof KitError) {
      process.stderr.write(`${error.message}\n`);
      process.exitCode = FAILED;
    } else throw error;
  }
}

void main();
