import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { Command, CommanderError } from 'commander';
import { LimitedHelper, READING_LIMITS, refusalOf } from '@itchkit/core/node/limited-helper';
import { threadHelper } from '@itchkit/core/node/limited-thread';
import type { SpaceOptions } from './convert';
import { FAILED, refusedAnswer, type Answer, type Job } from './job';

/**
 * Jobs are done in a thread of their own, under a ceiling of memory and a limit of time, so that a file that breaks its reader harms
 * nothing but itself.
 */
let worker: Worker | null = null;
const limits = { ...READING_LIMITS, milliseconds: Number(process.env.ITCHKIT_READ_SECONDS ?? READING_LIMITS.milliseconds / 1000) * 1000 };
const thread = new LimitedHelper<Job, Answer>(({ memoryBytes }) => {
  const resourceLimits = { maxOldGenerationSizeMb: memoryBytes / 2 ** 20 };
  worker = new Worker(process.env.ITCHKIT_JOB_THREAD ?? join(__dirname, '../job-thread.mjs'), { resourceLimits, stderr: true });
  return threadHelper(worker);
}, limits);

async function doJob(job: Job): Promise<Answer> {
  const answer = await thread.ask(job);
  if (typeof answer !== 'string') return answer;
  const file = 'file' in job ? job.file : '';
  return refusedAnswer(file, refusalOf(answer, file, limits));
}

/** Does jobs one after the other, says what came of each, and sets the exit code to the worst. */
async function say(jobs: Job[], json: boolean | undefined): Promise<void> {
  const results: unknown[] = [];
  for (const job of jobs) {
    const answer = await doJob(job);
    process.exitCode = Math.max(Number(process.exitCode ?? 0), answer.exitCode);
    if (answer.misused) process.stderr.write(answer.text);
    else if (json) results.push(answer.result);
    else process.stdout.write(answer.text);
  }
  if (results.length > 0) process.stdout.write(`${JSON.stringify(results.length === 1 ? results[0] : results, null, 2)}\n`);
  await worker?.terminate();
}

interface Options extends SpaceOptions {
  json?: boolean;
  script?: string;
  visitors?: string;
  minutes?: string;
  out: string;
  target: string;
  bindings?: string;
  behaviour?: string;
  duty?: string;
  resolution?: string;
}

function program(): Command {
  const command = new Command('itchkit').description('Looks into models and turns them into what a platform wants.').exitOverride();
  command
    .command('inspect')
    .description('Say what files hold: parts, counts, clips, bounds, and what reading them left out or mended.')
    .argument('<file...>', 'models, or a ZIP or a folder of one each; “itchkit formats” lists what is read')
    .option('--json', 'as JSON: an object, or a list for several files')
    .action((files: string[], { json }: Options) =>
      say(
        files.map((file) => ({ verb: 'inspect', file })),
        json,
      ),
    );
  command
    .command('convert')
    .description('Write a file as GLB, or as a kit, in another unit and other axes where asked.')
    .argument('<file>')
    .requiredOption('--out <file>', 'where to write the GLB, or the kit where it ends in .kit.zip')
    .option('--unit <unit>', 'unit of the output: m, cm, mm, ft, in, or metres a unit', undefined)
    .option('--up <axis>', 'up axis of the output, like +y or -z')
    .option('--forward <axis>', 'forward axis of the output')
    .action((file: string, { out, unit, up, forward }: Options) =>
      say([{ verb: 'convert', file, out, space: { unit, up, forward } }], false),
    );
  const target = ['--target <rulebook>', 'a rulebook’s id, or the path of one as JSON'] as const;
  command
    .command('check')
    .description('Say what a platform’s rulebook finds in a file. Ends with 1 where something stops it.')
    .argument('<file>')
    .requiredOption(...target)
    .option('--json', 'as JSON')
    .action((file: string, { target: name, json }: Options) => say([{ verb: 'check', file, target: name }], json));
  command
    .command('mend')
    .description('Make all mends that change nothing visible, write the file as GLB, and say what is left.')
    .argument('<file>')
    .requiredOption(...target)
    .requiredOption('--out <file>', 'where to write the GLB, or the kit where it ends in .kit.zip')
    .option('--json', 'as JSON')
    .action((file: string, { target: name, out, json }: Options) => say([{ verb: 'mend', file, target: name, out }], json));
  command
    .command('pack')
    .description(
      'Build the package for a platform: the very bytes that Ship builds. Ends with 1, and writes nothing, while a stop is open.',
    )
    .argument('<file>', 'a kit or a model')
    .requiredOption(...target)
    .requiredOption('--out <file>', 'where to write the package')
    .option('--json', 'as JSON')
    .action((file: string, { target: name, out, json }: Options) => say([{ verb: 'pack', file, target: name, out }], json));
  command
    .command('wire')
    .description(
      'Put the bindings of a table, or what plays when, into a file, and write it. What names no part, variable or clip is refused with its place.',
    )
    .argument('<file>', 'a kit or a model')
    .requiredOption(...target)
    .option('--bindings <file>', 'a CSV file with the columns that the package’s table has, in the platform’s unit and axes')
    .option('--behaviour <file>', 'a JSON file of what plays when, as the package has it')
    .requiredOption('--out <file>', 'where to write the GLB, or the kit where it ends in .kit.zip')
    .option('--json', 'as JSON: what is found then')
    .action((file: string, { target: name, bindings, behaviour, out, json }: Options) =>
      say(
        [
          {
            verb: 'wire',
            file,
            target: name,
            ...(bindings === undefined ? {} : { bindings }),
            ...(behaviour === undefined ? {} : { behaviour }),
            out,
          },
        ],
        json,
      ),
    );
  command
    .command('behaviour')
    .description('Say what is proven of what plays when: states that nothing leads to, passages that are never taken, rounds without end.')
    .argument('<file>', 'a kit, a model or a package')
    .option('--target <rulebook>', 'a rulebook’s id, or the path of one as JSON; else the one that the kit or package is for')
    .option('--json', 'as JSON: each claim with values that show it')
    .action((file: string, { target: name, json }: Partial<Options>) =>
      say([{ verb: 'behaviour', file, ...(name === undefined ? {} : { target: name }) }], json),
    );
  command
    .command('trial')
    .description('Load a package into the platform’s stand-in: work every lever through its range, and play a duty.')
    .argument('<package>')
    .option('--duty <duty>', 'the name of a shipped duty, or a file of one as JSON')
    .option('--script <file>', 'where a body is played by values: what is passed in when, as JSON (docs/formats.md)')
    .option('--visitors <n>', 'where things stand on tiles: how many come, 1 to 500; 30 where nothing is said')
    .option('--minutes <n>', 'for how long the park is played, up to 240; 5 where nothing is said')
    .option('--json', 'as JSON: for each time and part the world placement, crossings, what was refused, what came of visitors')
    .action((file: string, { duty, script, visitors, minutes, json }: Options) =>
      say(
        [
          {
            verb: 'trial',
            file,
            ...(duty === undefined ? {} : { duty }),
            ...(script === undefined ? {} : { script }),
            ...(visitors === undefined ? {} : { visitors: Number(visitors) }),
            ...(minutes === undefined ? {} : { minutes: Number(minutes) }),
          },
        ],
        json,
      ),
    );
  command
    .command('weights')
    .description('Solve weights for the file’s own skeleton, in place of those it has, and write it as GLB.')
    .argument('<file>')
    .requiredOption('--out <file>', 'where to write the GLB, or the kit where it ends in .kit.zip')
    .option('--resolution <n>', 'voxels along the longest side, 8 to 192; 96 where nothing is said')
    .option('--json', 'as JSON')
    .action((file: string, { out, resolution, json }: Options) =>
      say([{ verb: 'weights', file, out, ...(resolution === undefined ? {} : { resolution: Number(resolution) }) }], json),
    );
  command
    .command('formats')
    .description('List the formats that are read.')
    .option('--json', 'as JSON')
    .action(({ json }: Options) => say([{ verb: 'formats' }], json));
  command
    .command('rulebooks')
    .description('List the rulebooks.')
    .option('--json', 'as JSON')
    .action(({ json }: Options) => say([{ verb: 'rulebooks' }], json));
  return command;
}

program()
  .parseAsync()
  .catch((error: unknown) => {
    if (!(error instanceof CommanderError)) throw error;
    process.exitCode = error.exitCode === 0 ? 0 : FAILED;
  });
