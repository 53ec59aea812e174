import { renameSync, writeFileSync } from 'node:fs';
import { Command, CommanderError } from 'commander';
import { KitError, MemoryBlobs } from '@itchkit/core';
import { equipNode } from '@itchkit/core/node';
import { convertKit, spaceOf, type SpaceOptions } from './convert';
import { readPath } from './files';
import { describe, inspectKit, type Inspection, type Refused } from './inspect';

/** Refused, or misused. */
const FAILED = 2;

async function inspectFile(file: string): Promise<Inspection | Refused> {
  try {
    const blobs = new MemoryBlobs();
    return inspectKit(file, await readPath(file, blobs), blobs);
  } catch (error) {
    if (!(error instanceof KitError)) throw error;
    return { file, ok: false, error: { code: error.code, message: error.message, where: error.where } };
  }
}

async function inspect(files: string[], { json }: { json?: boolean }): Promise<void> {
  const results: (Inspection | Refused)[] = [];
  for (const file of files) {
    const result = await inspectFile(file);
    results.push(result);
    if (!json) process.stdout.write(describe(result));
  }
  if (json) process.stdout.write(`${JSON.stringify(results.length === 1 ? results[0] : results, null, 2)}\n`);
  if (results.some((result) => !result.ok)) process.exitCode = FAILED;
}

async function convert(file: string, { out, ...options }: SpaceOptions & { out: string }): Promise<void> {
  const space = spaceOf(options);
  const blobs = new MemoryBlobs();
  const kit = await readPath(file, blobs);
  const bytes = await convertKit(kit, blobs, space);
  try {
    writeFileSync(`${out}.part`, bytes);
    renameSync(`${out}.part`, out);
  } catch (error) {
    throw new KitError('write', `“${out}” could not be written: ${error instanceof Error ? error.message : String(error)}.`, out);
  }
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
