import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ORACLES } from '../core/src/oracles/oracles';
import type { Oracle } from '../core/src/oracles/oracle';
import { ROOT } from './lib/paths.mjs';

/**
 * Holds what core works out against other ways to work it out, over many seeds, and prints the greatest deviations.
 *
 *     npm run oracles -- [--cases 2000] [--only package] [--from 1] [--write]
 *
 * `--write` puts the table into docs/accuracy.md. Ends with 1 where a promise is broken, and names the seeds.
 */
const argument = (name: string) => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? undefined : process.argv[at + 1];
};

interface Row {
  oracle: Oracle;
  cases: number;
  most: number;
  /** Seeds whose deviation is beyond what is promised. */
  broken: number[];
}

async function rowOf(oracle: Oracle, from: number, cases: number): Promise<Row> {
  const row: Row = { oracle, cases, most: 0, broken: [] };
  for (let seed = from; seed < from + cases; seed++) {
    const deviation = await oracle.deviation(seed);
    if (!(deviation <= oracle.promised)) row.broken.push(seed);
    row.most = Number.isNaN(deviation) ? NaN : Math.max(row.most, deviation);
  }
  return row;
}

const figure = (value: number) =>
  value === 0
    ? '0'
    : value
        .toPrecision(2)
        .replace(/e([+-])(\d+)/, ' · 10^$1$2')
        .replace('^+', '^');

const line = ({ oracle, cases, most }: Row) =>
  `| ${oracle.about} | ${oracle.against} | ${figure(oracle.promised)} ${oracle.unit} | ${figure(most)} ${oracle.unit} | ${cases} |`;

const HEAD = `# How exact it is

Each line is a promise of core, held against another way to work the same thing out, over random kits with skins, morph targets, parents that are turned and sized, and tracks of all kinds (held, straight, curved, eased, dense, formulas). \`npm test\` runs some cases of each, \`npm run oracles\` many (\`-- --cases 2000 --only package\`), and \`-- --write\` makes this page anew. The code is in \`core/src/oracles/\`.

| What is promised | Held against | Promised | Greatest found | Cases |
| --- | --- | --- | --- | --- |
`;

const cases = Number(argument('cases') ?? 1000);
const from = Number(argument('from') ?? 1);
const only = argument('only');
const rows: Row[] = [];
for (const oracle of ORACLES.filter(({ id }) => only === undefined || id.startsWith(only))) {
  const row = await rowOf(oracle, from, Math.ceil(cases * (oracle.share ?? 1)));
  rows.push(row);
  const broken = row.broken.length === 0 ? '' : `  BROKEN at seeds ${row.broken.join(', ')}`;
  process.stdout.write(
    `${oracle.id.padEnd(22)} ${figure(row.most).padStart(14)} of ${figure(oracle.promised)} ${oracle.unit}, ${row.cases} cases${broken}\n`,
  );
}
if (process.argv.includes('--write')) writeFileSync(join(ROOT, 'docs/accuracy.md'), `${HEAD}${rows.map(line).join('\n')}\n`);
if (rows.some(({ broken }) => broken.length > 0)) process.exitCode = 1;
