import { spawn } from 'node:child_process';
import { behaviourProofs } from './behaviour';
import { figures, mixAllocation, mixField } from './mixes';
import { checksAll, checksRename } from './checks';
import { sweptBounds, visitorSteps, visitorWays, wayFinding } from './grounds';
import { intakeMemory } from './intake-memory';
import { intakeTime } from './intake-time';
import { sceneOpen, treeRows } from './large-scene';
import { loopFind, loopSeconds, poseAllocation, poseAtRandom, poseInOrder, thinning } from './motion';
import type { Benchmark, Row } from './row';
import { skinRow, solveGrowth, solveRow } from './skin';
import { stripBeads, stripRedraw } from './strip';
import { rayPick, simplify, splitLoose } from './shape';
import { bindingsEvaluate, linkClosure, sweepCrossings } from './wiring';

const BENCHMARKS = [
  intakeTime,
  intakeMemory,
  sceneOpen,
  treeRows,
  checksAll,
  checksRename,
  simplify,
  rayPick,
  splitLoose,
  solveRow,
  solveGrowth,
  skinRow,
  poseInOrder,
  poseAtRandom,
  poseAllocation,
  loopFind,
  loopSeconds,
  thinning,
  bindingsEvaluate,
  sweepCrossings,
  linkClosure,
  sweptBounds,
  wayFinding,
  visitorWays,
  visitorSteps,
  behaviourProofs,
  mixField,
  mixAllocation,
  figures,
  stripRedraw,
  stripBeads,
];

const number = (value: number) => value.toLocaleString('en', { maximumSignificantDigits: 3 });

function table(rows: Row[]): string {
  const lines = [
    ['row', 'ours', 'peer', 'unit', 'ratio', 'limit', 'holds'],
    ...rows.map((row) => [
      row.row,
      number(row.ours),
      number(row.peer),
      row.unit,
      number(row.ratio),
      number(row.limit),
      row.holds ? 'yes' : 'NO',
    ]),
  ];
  const widths = lines[0].map((_, column) => Math.max(...lines.map((line) => line[column].length)));
  return lines
    .map((line) => line.map((cell, column) => (column === 0 ? cell.padEnd(widths[column]) : cell.padStart(widths[column]))).join('  '))
    .join('\n');
}

/** A row in a process of its own, so that none is measured in what others have left of the engine; null where it broke off. */
function apart(row: string): Promise<Row | null> {
  const child = spawn(process.execPath, [...process.execArgv, process.argv[1], '--row', row, '--json'], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const written: Buffer[] = [];
  child.stdout.on('data', (bytes: Buffer) => written.push(bytes));
  return new Promise((resolve) => {
    child.on('close', () => {
      const text = Buffer.concat(written).toString();
      resolve(text === '' ? null : ((JSON.parse(text) as Row[])[0] ?? null));
    });
  });
}

/** A row here; null where it broke off. */
async function here(one: Benchmark): Promise<Row | null> {
  process.stderr.write(`${one.row}: ${one.title} …\n`);
  try {
    return await one.run();
  } catch (error) {
    process.stderr.write(`${one.row} broke off: ${error instanceof Error ? error.message : String(error)}\n`);
    return null;
  }
}

async function main(args: string[]): Promise<void> {
  const strange = args.find((arg, i) => !['--json', '--row'].includes(arg) && args[i - 1] !== '--row');
  if (strange !== undefined) {
    process.stderr.write(`“${strange}” is not understood. There are --row NAME and --json.\n`);
    process.exitCode = 2;
    return;
  }
  const json = args.includes('--json');
  const wanted = args.includes('--row') ? args[args.indexOf('--row') + 1] : null;
  const chosen = BENCHMARKS.filter((one) => wanted === null || one.row === wanted);
  if (chosen.length === 0) {
    process.stderr.write(`There is no row “${wanted}”. There are: ${BENCHMARKS.map((one) => one.row).join(', ')}.\n`);
    process.exitCode = 2;
    return;
  }
  const rows: Row[] = [];
  for (const one of chosen) {
    const row = chosen.length === 1 ? await here(one) : await apart(one.row);
    if (row) rows.push(row);
    // The others are measured all the same.
    else process.exitCode = 1;
  }
  process.stdout.write(json ? `${JSON.stringify(rows, null, 2)}\n` : `${table(rows)}\n`);
  if (rows.some((row) => !row.holds)) process.exitCode = 1;
}

void main(process.argv.slice(2));
