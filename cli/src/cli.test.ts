import { WebIO, getBounds } from '@gltf-transform/core';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import shipped from '@itchkit/rulebooks/brinework';
import emberfold from '@itchkit/rulebooks/emberfold';
import plotwick from '@itchkit/rulebooks/plotwick';
import {
  buildSluiceCraneGlb,
  nightWatchKeeperFinished,
  nightWatchKeeperMoving,
  sluiceCraneFinished,
  tideCarouselFinished,
} from '@itchkit/demo';
import { MemoryBlobs, type Kit } from '@itchkit/core/document';
import { checkRulebook, runChecks } from '@itchkit/core/rulebook';
import { packKit, readArchiveOf, writeArchive } from '@itchkit/core/ship';
import { sailFrame, tailCollada, tailDocument, tailDraco, tailGlb, WALKER_BVH } from '../../core/src/tests/fixtures';
import { PLY } from '../../core/src/tests/hostile-corpus';
import { FORMATS } from '@itchkit/core/intake';

const PROGRAM = join(__dirname, '../itchkit.mjs');
let folder = '';

const run = (...args: string[]) => runWith({}, ...args);
const runWith = (env: Record<string, string>, ...args: string[]) =>
  spawnSync(process.execPath, [PROGRAM, ...args], { cwd: folder, encoding: 'utf8', maxBuffer: 2 ** 26, env: { ...process.env, ...env } });

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'itchkit-'));
  writeFileSync(join(folder, 'tail.glb'), await tailGlb());
  writeFileSync(join(folder, 'tail.dae'), tailCollada());
  writeFileSync(join(folder, 'walker.bvh'), WALKER_BVH);
  writeFileSync(join(folder, 'crane.glb'), await buildSluiceCraneGlb(8));
  writeFileSync(join(folder, 'letter.txt'), 'Dear harbour master,');
  mkdirSync(join(folder, 'sail'));
  for (const n of [1, 2, 3]) writeFileSync(join(folder, 'sail', `furl${n}.obj`), sailFrame(n));
});
afterAll(() => rmSync(folder, { recursive: true }));

test('inspect as JSON says what the file holds', () => {
  const { stdout, status } = run('inspect', 'tail.glb', '--json');
  expect(status).toBe(0);
  expect(JSON.parse(stdout)).toMatchObject({
    file: 'tail.glb',
    format: 'glb',
    ok: true,
    parts: 3,
    meshes: 1,
    triangles: 24,
    vertices: 16,
    materials: 0,
    joints: 2,
    skins: 1,
    morphTargets: 1,
    textures: [],
    clips: [
      { name: 'wag', seconds: 1, tracks: 3, keys: 9 },
      { name: 'hop', seconds: 1, tracks: 1, keys: 3 },
    ],
    notes: [],
  });
});

test('several files are a list; a refused one has its code, and the exit code says so', () => {
  const { stdout, status } = run('inspect', '--json', 'walker.bvh', 'letter.txt', 'nowhere.glb', 'sail');
  expect(status).toBe(2);
  const [walker, letter, nowhere, sail] = JSON.parse(stdout) as {
    ok: boolean;
    format?: string;
    joints?: number;
    morphTargets?: number;
    error?: { code: string };
  }[];
  expect(walker).toMatchObject({ ok: true, format: 'bvh', joints: 3, parts: 5 });
  expect(letter).toMatchObject({ ok: false, error: { code: 'not-known' } });
  expect(nowhere).toMatchObject({ ok: false, error: { code: 'no-file' } });
  expect(sail).toMatchObject({ ok: true, format: 'frames', morphTargets: 2 });
});

test('check and mend: what a rulebook finds, as JSON and by exit code; safe mends written out', async () => {
  const { stdout, status } = run('check', 'crane.glb', '--target', 'brinework', '--json');
  expect(status).toBe(1);
  const result = JSON.parse(stdout) as {
    ok: boolean;
    target: object;
    counts: Record<string, number>;
    findings: { check: string; grade: string; parts: string[]; mend: string | null }[];
  };
  expect(result).toMatchObject({ file: 'crane.glb', ok: true, target: { id: 'brinework', version: '1.4.0' } });
  expect(result.counts.stop).toBe(result.findings.filter((finding) => finding.grade === 'stop').length);
  expect(result.findings.find((finding) => finding.check === 'names.pattern')).toMatchObject({
    mend: 'safe',
    parts: expect.arrayContaining(['Quay Plinth']),
  });
  const mended = run('mend', 'crane.glb', '--target', 'brinework', '--out', 'mended.glb', '--json');
  const left = JSON.parse(mended.stdout) as typeof result;
  expect(left.findings.filter((finding) => finding.mend === 'safe')).toEqual([]);
  expect(left.counts.stop).toBeLessThan(result.counts.stop);
  const again = JSON.parse(run('check', 'mended.glb', '--target', 'brinework', '--json').stdout) as typeof result;
  expect(again.findings.some((finding) => finding.check === 'names.pattern')).toBe(false);
  const nodes = (await new WebIO().readBinary(new Uint8Array(readFileSync(join(folder, 'mended.glb'))))).getRoot().listNodes();
  expect(nodes.map((node) => node.getName())).toContain('quay_plinth');

  expect(run('check', 'letter.txt', '--target', 'brinework').status).toBe(2);
  expect(run('check', 'crane.glb', '--target', 'nowhere')).toMatchObject({
    status: 2,
    stderr: expect.stringContaining('There is no rulebook and no file “nowhere”'),
  });
  expect(run('check', 'crane.glb', '--target', 'letter.txt')).toMatchObject({ status: 2, stderr: expect.stringContaining('is not JSON') });
  expect((JSON.parse(run('rulebooks', '--json').stdout) as { id: string }[]).map(({ id }) => id)).toEqual([
    'brinework',
    'plotwick',
    'cubbin',
    'emberfold',
    'glasswink',
    'clashmere',
    'lanternlot',
  ]);
});

test('weights are solved for the file’s own skeleton, in place of those it had; a file without one is refused', async () => {
  const { stdout, status } = run('weights', 'tail.glb', '--out', 'held.glb', '--resolution', '32', '--json');
  expect([status, JSON.parse(stdout)]).toEqual([
    0,
    expect.objectContaining({ file: 'tail.glb', ok: true, outside: [], bridged: 0, joints: expect.any(Number) }),
  ]);
  const [skin] = (await new WebIO().readBinary(new Uint8Array(readFileSync(join(folder, 'held.glb'))))).getRoot().listSkins();
  expect(skin.listJoints().length).toBe((JSON.parse(stdout) as { joints: number }).joints);
  expect(run('weights', 'crane.glb', '--out', 'x.glb')).toMatchObject({ status: 2, stdout: expect.stringContaining('has no skeleton') });
  expect(run('weights', 'tail.glb', '--out', 'x.glb', '--resolution', '4000')).toMatchObject({
    status: 2,
    stderr: expect.stringContaining('from 8 to 192'),
  });
});

test('convert writes other units and axes, as another reader sees them; misuse is a sentence', async () => {
  const { status } = run('convert', 'tail.dae', '--out', 'out.glb', '--unit', 'cm', '--up', '+z', '--forward', '-y');
  expect(status).toBe(0);
  const document = await new WebIO().readBinary(new Uint8Array(readFileSync(join(folder, 'out.glb'))));
  const { min, max } = getBounds(document.getRoot().listScenes()[0]);
  [-10, -10, 0].forEach((value, axis) => expect(min[axis]).toBeCloseTo(value, 4));
  [10, 10, 150].forEach((value, axis) => expect(max[axis]).toBeCloseTo(value, 4));

  for (const [args, words] of [
    [['convert', 'tail.dae'], '--out'],
    [['convert', 'tail.dae', '--out', 'x.glb', '--up', 'sideways'], 'is no axis'],
    [['convert', 'tail.dae', '--out', 'x.glb', '--up', '+z', '--forward', '-z'], 'one axis'],
    [['convert', 'tail.dae', '--out', 'x.glb', '--unit', 'furlongs'], 'is no unit'],
    [['convert', 'letter.txt', '--out', 'x.glb'], 'is no GLB'],
    [['convert', 'tail.dae', '--out', 'no/such/folder/x.glb'], 'could not be written'],
    [['improve', 'tail.dae'], 'unknown command'],
  ] as [string[], string][]) {
    const { status: code, stderr } = run(...args);
    expect([code, stderr]).toEqual([2, expect.stringContaining(words)]);
    expect(stderr).not.toContain('    at ');
  }
});

test('a reader that dies or never ends refuses its own file; the others are read', () => {
  const thread = join(folder, 'thread.mjs');
  writeFileSync(
    thread,
    `import { parentPort } from 'node:worker_threads';
    parentPort.on('message', (job) => {
      if (job === 'end') process.exit();
      if (job.file === 'broken') throw new Error('a fault of the reader');
      while (job.file === 'endless');
      parentPort.postMessage({ result: { file: job.file, ok: true }, text: job.file, exitCode: 0 });
    });`,
  );
  const { stdout, stderr, status } = runWith(
    { ITCHKIT_JOB_THREAD: thread, ITCHKIT_READ_SECONDS: '1' },
    'inspect',
    '--json',
    'first',
    'broken',
    'second',
    'endless',
    'third',
  );
  const codes = (JSON.parse(stdout) as { error?: { code: string } }[]).map(({ error }) => error?.code ?? 'read');
  expect([codes, stderr, status]).toEqual([['read', 'reader-died', 'read', 'too-slow', 'read'], '', 2]);
});

test('every format goes through the built command line, packed meshes too', async () => {
  const { json, resources } = await new WebIO().writeJSON(tailDocument());
  mkdirSync(join(folder, 'tail'), { recursive: true });
  writeFileSync(join(folder, 'tail', 'tail.gltf'), JSON.stringify(json));
  for (const [name, data] of Object.entries(resources)) writeFileSync(join(folder, 'tail', name), data);
  writeFileSync(join(folder, 'draco.glb'), await tailDraco());
  writeFileSync(join(folder, 'sheet.ply'), PLY);
  writeFileSync(join(folder, 'sail.obj'), sailFrame(1));
  const facet = 'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\n';
  writeFileSync(join(folder, 'wedge.stl'), `solid wedge\n${facet}endsolid wedge\n`);
  const files = ['tail.glb', 'draco.glb', 'tail/tail.gltf', 'tail.dae', 'walker.bvh', 'sheet.ply', 'sail.obj', 'wedge.stl'];
  const { stdout, status } = run('inspect', '--json', ...files);
  expect(status).toBe(0);
  const results = JSON.parse(stdout) as { file: string; ok: boolean; format: string; triangles: number; joints: number }[];
  expect(results.map(({ file, ok }) => [file, ok])).toEqual(files.map((file) => [file, true]));
  expect(results[1]).toMatchObject({ triangles: 24, joints: 2 });
  // None is left out here.
  expect([...new Set(results.map(({ format }) => format))].sort()).toEqual(FORMATS.map(({ id }) => id).sort());
  const listed = JSON.parse(run('formats', '--json').stdout) as { id: string }[];
  expect(listed.map(({ id }) => id)).toEqual(FORMATS.map(({ id }) => id));
});

test.each(['brinework', 'lanternlot'])('what mend has written for %s has no safe mend left', (target) => {
  const mended = run('mend', 'crane.glb', '--target', target, '--out', 'mended.glb', '--json');
  expect(mended.status).toBeLessThan(2);
  const found = (stdout: string) => (JSON.parse(stdout) as { findings: { rule: string; mend: string | null }[] }).findings;
  const before = found(mended.stdout).filter(({ mend }) => mend === 'safe');
  const after = found(run('check', 'mended.glb', '--target', target, '--json').stdout).filter(({ mend }) => mend === 'safe');
  expect(after.map(({ rule }) => rule)).toEqual(before.map(({ rule }) => rule));
  expect(before).toEqual([]);
});

describe('a kit', () => {
  /** The finished crane as Export kit writes it. */
  let kit: Kit;
  let blobs: MemoryBlobs;
  const brinework = checkRulebook(shipped);

  beforeAll(async () => {
    blobs = new MemoryBlobs();
    kit = await sluiceCraneFinished(brinework, blobs);
    writeFileSync(join(folder, 'crane.kit.zip'), writeArchive({ kit, rulebooks: [], history: [] }, blobs));
  });

  test('is taken by every command that takes a model', () => {
    const names = Object.values(kit.parts).map(({ name }) => name);
    expect(JSON.parse(run('inspect', 'crane.kit.zip', '--json').stdout)).toMatchObject({ ok: true, parts: names.length });
    expect(JSON.parse(run('check', 'crane.kit.zip', '--target', 'brinework', '--json').stdout)).toMatchObject({ counts: { stop: 0 } });
    expect(run('convert', 'crane.kit.zip', '--out', 'back.glb').status).toBe(0);
    expect(JSON.parse(run('inspect', 'back.glb', '--json').stdout)).toMatchObject({ parts: names.length });
  });

  test('is written by every command that writes, where its name ends so, and opens again as it was written', () => {
    const { status } = run('mend', 'crane.glb', '--target', 'brinework', '--out', 'mended.kit.zip');
    expect(status).toBe(1);
    const { archive, blobs: own } = readArchiveOf(new Uint8Array(readFileSync(join(folder, 'mended.kit.zip'))), 'mended.kit.zip');
    expect(Object.values(archive.kit.parts).map(({ name }) => name)).toContain('quay_plinth');
    expect([...own.entries()].length).toBeGreaterThan(0);
    const glb = JSON.parse(run('check', 'mended.kit.zip', '--target', 'brinework', '--json').stdout) as {
      findings: { mend: string | null }[];
    };
    expect(glb.findings.filter(({ mend }) => mend === 'safe')).toEqual([]);
    expect(run('convert', 'crane.kit.zip', '--out', 'same.kit.zip').status).toBe(0);
    expect(readFileSync(join(folder, 'same.kit.zip')).equals(readFileSync(join(folder, 'crane.kit.zip')))).toBe(true);
    expect(run('convert', 'crane.kit.zip', '--out', 'cm.kit.zip', '--unit', 'cm')).toMatchObject({
      status: 2,
      stderr: expect.stringMatching(/always in metres/),
    });
  });

  test('is packed into the very bytes that Ship builds', async () => {
    const { status, stdout } = run('pack', 'crane.kit.zip', '--target', 'brinework', '--out', 'package.zip', '--json');
    const { archive, blobs: own } = readArchiveOf(new Uint8Array(readFileSync(join(folder, 'crane.kit.zip'))), 'crane.kit.zip');
    const built = await packKit(archive.kit, brinework, own, runChecks({ kit: archive.kit, rulebook: brinework, blobs: own }));
    expect([status, (JSON.parse(stdout) as { sha256: string }).sha256]).toEqual([0, built.sha]);
    expect(new Uint8Array(readFileSync(join(folder, 'package.zip')))).toEqual(built.bytes);
  });

  test('or a model is not packed while a stop is open: its findings, exit code 1, and no file', () => {
    const { status, stdout } = run('pack', 'crane.glb', '--target', 'brinework', '--out', 'none.zip', '--json');
    expect(status).toBe(1);
    expect((JSON.parse(stdout) as { counts: { stop: number } }).counts.stop).toBeGreaterThan(0);
    expect(existsSync(join(folder, 'none.zip'))).toBe(false);
  });

  test('that was damaged is refused', () => {
    writeFileSync(join(folder, 'half.kit.zip'), readFileSync(join(folder, 'crane.kit.zip')).subarray(0, 9000));
    expect(run('pack', 'half.kit.zip', '--target', 'brinework', '--out', 'none.zip').status).toBe(2);
  });

  test('brings its own rulebook along, and is held against the version that it is pinned to', async () => {
    const own = { ...brinework, id: 'quayworks', version: '0.1.0' };
    const pinned = {
      ...kit,
      targets: [
        { rulebook: 'quayworks', version: '0.1.0' },
        { rulebook: 'brinework', version: '1.0.0' },
      ],
    };
    writeFileSync(join(folder, 'own.kit.zip'), writeArchive({ kit: pinned, rulebooks: [own], history: [] }, blobs));
    const target = (id: string) => (JSON.parse(run('check', 'own.kit.zip', '--target', id, '--json').stdout) as { target: object }).target;
    expect(target('quayworks')).toEqual({ id: 'quayworks', version: '0.1.0' });
    expect(target('brinework')).toEqual({ id: 'brinework', version: '1.0.0' });
  });
});

test('wire puts a table of bindings into a kit; a row that names nothing is refused with its line, and nothing is written', async () => {
  const rulebook = checkRulebook(shipped);
  const blobs = new MemoryBlobs();
  const kit = await sluiceCraneFinished(rulebook, blobs);
  const bare = { ...kit, bindings: {} };
  writeFileSync(join(folder, 'bare.kit.zip'), writeArchive({ kit: bare, rulebooks: [], history: [] }, blobs));
  const head = 'variable,index,part,value,turn_x,turn_z';
  // Brinework’s up is +z: the slew turns about it.
  const rows = [
    'crane_slew_angle,0,drv_turntable,0,0,0',
    'crane_slew_angle,0,drv_turntable,-170,0,-170',
    'crane_slew_angle,0,drv_turntable,170,0,170',
  ];
  writeFileSync(join(folder, 'wiring.csv'), [head, ...rows].join('\n'));
  const done = run('wire', 'bare.kit.zip', '--bindings', 'wiring.csv', '--target', 'brinework', '--out', 'wired.kit.zip', '--json');
  expect(done.status).toBe(1);
  const { findings } = JSON.parse(done.stdout) as { findings: { check: string; parts: string[] }[] };
  expect(findings.filter(({ parts }) => parts.includes('drv_turntable'))).toEqual([]);
  expect(findings.some(({ check, parts }) => check === 'bindings.one-per-driven' && parts.includes('drv_boom'))).toBe(true);
  const wired: Kit = readArchiveOf(new Uint8Array(readFileSync(join(folder, 'wired.kit.zip'))), 'wired.kit.zip').archive.kit;
  expect(Object.values(wired.bindings).map(({ rows: all }) => all.map(({ turn }) => turn[1]))).toEqual([[0, -170, 170]]);

  writeFileSync(join(folder, 'wrong.csv'), [head, rows[0], 'crane_slew_angle,0,drv_turntabel,1,0,0'].join('\n'));
  const refused = run('wire', 'bare.kit.zip', '--bindings', 'wrong.csv', '--target', 'brinework', '--out', 'never.kit.zip', '--json');
  expect(refused.status).toBe(2);
  expect(JSON.parse(refused.stdout)).toMatchObject({
    ok: false,
    error: { message: 'Line 3: there is no part “drv_turntabel”.', where: 'line 3' },
  });
  expect(existsSync(join(folder, 'never.kit.zip'))).toBe(false);
});

test('wire puts what plays when into a kit; behaviour says what is proven of it, of the kit and of its package', async () => {
  const rulebook = checkRulebook(emberfold);
  const blobs = new MemoryBlobs();
  const kit = { ...(await nightWatchKeeperMoving(rulebook, blobs)), behaviour: undefined };
  writeFileSync(join(folder, 'keeper.kit.zip'), writeArchive({ kit, rulebooks: [], history: [] }, blobs));
  const [names, target] = [
    ['idle', 'walk', 'run'],
    ['--target', 'emberfold'],
  ];
  const when = (atLeast: number | null, below: number | null = null) => [{ kind: 'range', parameter: 'ahead', atLeast, below }];
  const passages = [
    { from: 'idle', to: 'walk', when: when(0.5) },
    { from: 'walk', to: 'idle', when: when(null, 0.5) },
    { from: 'idle', to: 'run', when: when(3) },
  ];
  const table = (clip: string) => ({
    format: 'itchkit.behaviour/1',
    layers: [{ name: 'Body', first: 'idle', states: names.map((name) => ({ name, clip: name === 'run' ? clip : name })), passages }],
  });
  writeFileSync(join(folder, 'plays.json'), JSON.stringify(table('run')));
  const wired = run('wire', 'keeper.kit.zip', '--behaviour', 'plays.json', ...target, '--out', 'keeper-plays.kit.zip', '--json');
  expect([wired.status, wired.stderr]).toEqual([0, '']);
  const proven = (file: string, ...against: string[]) => {
    const { status, stdout } = run('behaviour', file, ...against, '--json');
    const { layers, claims } = JSON.parse(stdout) as {
      layers: object[];
      claims: { kind: string; states?: string[]; passages?: string[] }[];
    };
    return {
      status,
      layers,
      claims: claims.filter(({ kind }) => kind !== 'unread').map(({ kind, states, passages: p }) => [kind, ...(states ?? p ?? [])]),
    };
  };
  // Whoever goes 3 m/s goes 0.5 as well: walking is taken first, and nothing else leads to running.
  const said = {
    status: 0,
    layers: [{ name: 'Body', states: 3, passages: 3 }],
    claims: [
      ['unreached', 'run'],
      ['never', 'idle → run', 'idle → walk'],
      ['both', 'idle'],
    ],
  };
  expect(proven('keeper-plays.kit.zip', ...target)).toEqual(said);
  expect(proven('keeper-plays.kit.zip')).toEqual(said);
  writeFileSync(join(folder, 'nobody.kit.zip'), writeArchive({ kit: { ...kit, targets: [] }, rulebooks: [], history: [] }, blobs));
  const alone = run('behaviour', 'nobody.kit.zip');
  expect([alone.status, alone.stderr]).toEqual([2, 'The file says no platform that it is for. Say which with --target.\n']);
  expect(run('pack', 'keeper-plays.kit.zip', ...target, '--out', 'keeper.zip').status).toBe(0);
  expect(proven('keeper.zip')).toEqual(said);

  writeFileSync(join(folder, 'wrong.json'), JSON.stringify(table('swim')));
  const refused = run('wire', 'keeper.kit.zip', '--behaviour', 'wrong.json', ...target, '--out', 'never.kit.zip', '--json');
  expect([refused.status, JSON.parse(refused.stdout).error.message]).toEqual([2, 'layers.0.states.2.clip: there is no clip “swim”.']);
  expect(run('wire', 'keeper.kit.zip', ...target, '--out', 'never.kit.zip').stderr).toMatch(/--bindings with a CSV file, --behaviour/);
  expect(existsSync(join(folder, 'never.kit.zip'))).toBe(false);
});

test('trial loads a package alone: levers, a duty with every part’s place, crossings, and what it refuses', async () => {
  const rulebook = checkRulebook(shipped);
  const blobs = new MemoryBlobs();
  const kit = await sluiceCraneFinished(rulebook, blobs);
  const { bytes } = await packKit(kit, rulebook, blobs, runChecks({ kit, rulebook, blobs }));
  writeFileSync(join(folder, 'crane.package.zip'), bytes);
  const { stdout, stderr } = run('trial', 'crane.package.zip', '--duty', 'a gate test', '--json');
  expect(stderr).toBe('');
  const tried = JSON.parse(stdout) as {
    levers: { key: string; parts: string[] }[];
    duty: { frames: { time: number; parts: Record<string, number[]> }[]; refused: { variable: string }[] };
    still: string[];
  };
  expect(tried.levers.find(({ key }) => key === 'crane_hoist_drop[0]')!.parts.sort()).toEqual(['drv_hoist_rope', 'drv_hook_block']);
  const lift = (time: number) =>
    tried.duty.frames.find((frame) => frame.time === time)!.parts.drv_gate_leaf[14] - tried.duty.frames[0].parts.drv_gate_leaf[14];
  // In the platform’s axes, up is +z; the leaf rises by 1.5 m over the range.
  expect(lift(3)).toBeCloseTo(1.5, 5);
  expect(lift(16)).toBeCloseTo(0.75, 5);
  expect(tried.duty.refused.map(({ variable }) => variable)).toEqual(['gate_paddle_open[0]', 'bridge_leaf_lift[0]']);
  expect(tried.still).toEqual([]);
  const unknown = run('trial', 'crane.package.zip', '--duty', 'a night at sea');
  expect([unknown.status, unknown.stdout + unknown.stderr]).toEqual([2, expect.stringContaining('There are “A morning tide”')]);
  const damaged = run('trial', 'letter.txt');
  expect([damaged.status, damaged.stdout]).toEqual([2, expect.stringMatching(/Refused/)]);
});

test('trial lets visitors come to what stands on tiles: the same park each time, and why somebody is stuck', async () => {
  const rulebook = checkRulebook(plotwick);
  const blobs = new MemoryBlobs();
  const kit = await tideCarouselFinished(rulebook, blobs);
  const pack = async (one: Kit, name: string) => writeFileSync(join(folder, name), (await packKit(one, rulebook, blobs, [])).bytes);
  await pack(kit, 'carousel.package.zip');
  const play = (...more: string[]) => run('trial', ...more, '--visitors', '24', '--minutes', '4', '--json');
  const [first, again] = [1, 2].map(() => play('carousel.package.zip').stdout);
  expect(again).toBe(first);
  expect((JSON.parse(first) as { park: unknown }).park).toMatchObject({ came: 24, rode: 24, left: 24, gaveUp: 0, stuck: 0, reasons: {} });
  const noWay = { ...kit, walkway: { ...kit.walkway!, ropes: kit.walkway!.ropes.slice(1) } };
  await pack(noWay, 'broken.package.zip');
  const { park } = JSON.parse(play('broken.package.zip').stdout) as { park: { stuck: number; reasons: Record<string, number> } };
  expect(park.stuck).toBe(4);
  expect(Object.keys(park.reasons)[0]).toMatch(/^no way leads from the edge to “ride-swing-/);
  const words = run('trial', 'carousel.package.zip', '--visitors', '6');
  expect(words.stdout).toMatch(/6 visitors in 5 min: \d+ rides?, 6 rode, 6 left, 0 gave up, 0 stuck/);
  const many = run('trial', 'carousel.package.zip', '--visitors', '9000');
  expect([many.status, many.stdout]).toEqual([2, expect.stringContaining('1 to 500')]);
});

test('trial plays a body by a script of values, each frame by names, and refuses what can’t be passed in', async () => {
  const rulebook = checkRulebook(emberfold);
  const blobs = new MemoryBlobs();
  const kit = await nightWatchKeeperFinished(rulebook, blobs);
  writeFileSync(join(folder, 'walks.kit.zip'), writeArchive({ kit, rulebooks: [], history: [] }, blobs));
  expect(run('pack', 'walks.kit.zip', '--target', 'emberfold', '--out', 'walks.zip').status).toBe(0);
  const script = (lines: object[]) =>
    writeFileSync(join(folder, 'values.json'), JSON.stringify({ format: 'itchkit.values/1', seconds: 2, lines }));
  script([
    { at: 0.5, set: { ahead: 2 } },
    { at: 1, set: { from: 'back' }, send: ['jolt'] },
  ]);
  const played = run('trial', 'walks.zip', '--script', 'values.json', '--json');
  interface Frame {
    seconds: number;
    place: number[];
    layers: { layer: string; state: string; shares: Record<string, number>; taken: string[] }[];
  }
  const { frames, rate } = (JSON.parse(played.stdout) as { script: { frames: Frame[]; rate: number } }).script;
  expect([frames.length, rate]).toEqual([120, 60]);
  // One and a half seconds at 2 m/s.
  expect(frames[119].place[1]).toBeCloseTo(3, 6);
  expect(frames.flatMap(({ layers }) => layers.flatMap(({ taken }) => taken))).toEqual([
    'stand → go',
    'calm → hit back',
    'hit back → calm',
  ]);
  const { walk, run: runs } = frames[119].layers[0].shares;
  expect(walk + runs).toBeCloseTo(1, 9);
  expect(run('trial', 'walks.zip', '--script', 'values.json').stdout).toMatch(
    /script of 2 s: 120 frames, 3 passages taken; at the end Body in “go”/,
  );

  script([{ at: 0, set: { ahead: 'fast' } }]);
  const refused = run('trial', 'walks.zip', '--script', 'values.json', '--json');
  expect([refused.status, JSON.parse(refused.stdout).error.message]).toEqual([2, 'lines.0.set.ahead: “ahead” is a number from -2 to 7.']);
  expect(JSON.parse(run('trial', 'walks.zip', '--script', 'none.json', '--json').stdout).error.message).toMatch(
    /There is no file “none.json”/,
  );
});
