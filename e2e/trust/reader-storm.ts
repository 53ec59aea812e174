import { zipSync, strToU8 } from 'fflate';
import { checkKit } from '@itchkit/core/document';
import { LimitedHelper } from '@itchkit/core/node/limited-helper';
import { processHelper } from '@itchkit/core/node/limited-process';
import { writeArchive } from '@itchkit/core/ship';
import { made } from '../../core/src/tests/calls';
import { sailFrame, tailCollada, tailDraco, tailGlb, WALKER_BVH } from '../../core/src/tests/fixtures';
import { PLY } from '../../core/src/tests/hostile-corpus';
import { ensureReadWorker, READ_WORKER } from '../../scripts/lib/bundle.mjs';
import type { Answer, Job } from '../../web/src/server/helper';
import { takeInAnswer } from '../../web/src/server/helper-answers';
import { LONG, SEED, seeded } from './fault-proxy';

const MUTATIONS = LONG ? 100_000 : 2_500;
const LIMITS = { memoryBytes: 700 * 2 ** 20, milliseconds: 20_000 };

const STL = `solid a\n${'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\n'.repeat(4)}endsolid a\n`;

async function corpus(): Promise<[name: string, bytes: Uint8Array][]> {
  const { kit, blobs } = made();
  const obj = strToU8(`mtllib a.mtl\no hull\n${sailFrame(0)}`);
  const glb = await tailGlb();
  return [
    ['a.glb', glb],
    ['b.glb', await tailDraco()],
    ['a.gltf', gltfOf(glb)],
    ['a.dae', strToU8(tailCollada())],
    ['a.bvh', strToU8(WALKER_BVH)],
    ['a.obj', obj],
    ['a.ply', strToU8(PLY)],
    ['a.stl', strToU8(STL)],
    ['b.stl', binaryStl()],
    ['a.zip', zipSync({ 'a.obj': obj, 'a.mtl': strToU8('newmtl wood\nKd 1 0 0\nmap_Kd a.png\n') })],
    ['frames.zip', zipSync({ 'f1.obj': strToU8(sailFrame(1)), 'f2.obj': strToU8(sailFrame(2)) })],
    ['a.kit.zip', writeArchive({ kit, rulebooks: [], history: [] }, blobs)],
  ];
}

/** The JSON of a GLB with its data inside, as a file of text. */
function gltfOf(glb: Uint8Array): Uint8Array {
  const view = new DataView(glb.buffer, glb.byteOffset);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as { buffers: { uri?: string }[] };
  json.buffers[0].uri = `data:application/octet-stream;base64,${Buffer.from(glb.subarray(28 + length)).toString('base64')}`;
  return strToU8(JSON.stringify(json));
}

function binaryStl(): Uint8Array {
  const bytes = new Uint8Array(84 + 50 * 3);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, 3, true);
  for (let i = 0; i < 3; i++) for (let n = 0; n < 12; n++) view.setFloat32(84 + 50 * i + 4 * n, (n * 7 + i) % 5, true);
  return bytes;
}

const ODD_NUMBERS = ['-1', '0', '4294967295', '2147483648', '1e309', '-1e309', 'NaN', '1e-320', '0.1e', '99999999999999999999', ''];

/** A file changed in one to four places: bytes, words that are numbers, its length, pieces doubled or taken out. */
function mutate(bytes: Uint8Array, random: () => number): Uint8Array {
  let made = bytes.slice();
  const at = () => Math.floor(random() * made.length);
  for (let n = 1 + Math.floor(random() * 4); n > 0 && made.length > 0; n--) {
    const kind = random();
    if (kind < 0.35) made[at()] = Math.floor(random() * 256);
    else if (kind < 0.5) made[at()] ^= 1 << Math.floor(random() * 8);
    else if (kind < 0.7) {
      const text = Buffer.from(made).toString('latin1');
      const numbers = [...text.matchAll(/-?\d+(\.\d+)?/g)];
      const one = numbers[Math.floor(random() * numbers.length)];
      if (!one) continue;
      const other = ODD_NUMBERS[Math.floor(random() * ODD_NUMBERS.length)];
      made = new Uint8Array(Buffer.from(text.slice(0, one.index) + other + text.slice(one.index + one[0].length), 'latin1'));
    } else if (kind < 0.8) made = made.slice(0, at());
    else {
      const [from, length] = [at(), 1 + Math.floor(random() * 64)];
      const piece = made.slice(from, from + length);
      made = Uint8Array.from([...made.slice(0, from), ...(kind < 0.9 ? [...piece, ...piece] : []), ...made.slice(from + length)]);
    }
  }
  return made;
}

await ensureReadWorker();
const random = seeded(SEED);
const files = await corpus();
const fates: Record<string, number> = {};
const wrong: string[] = [];
let next = 0;

/** Reads file after file with a helper of its own; what kills it, hangs it or makes no kit is wrong. */
async function reader(): Promise<void> {
  const helper = new LimitedHelper<Job, Answer>((limits) => processHelper(READ_WORKER, limits), LIMITS);
  while (next < MUTATIONS && wrong.length < 10) {
    const number = next++;
    const [fileName, whole] = files[number % files.length];
    const bytes = mutate(whole, random);
    const isKit = fileName.endsWith('.kit.zip');
    const job: Job = isKit ? { job: 'import', bytes, fileName } : { job: 'read', bytes, fileName, sha: null, rulebook: null };
    const said = await helper.ask(job);
    const answer = typeof said === 'string' ? said : await takeInAnswer(said);
    let fate = 'read';
    if (typeof answer === 'string') fate = answer;
    else if (!answer.ok) fate = answer.code;
    else {
      try {
        checkKit('kit' in answer.result ? answer.result.kit : 'archive' in answer.result && answer.result.archive.kit);
      } catch (error) {
        fate = `no kit: ${String(error)}`;
      }
    }
    fates[fate] = (fates[fate] ?? 0) + 1;
    const isSentence = typeof answer === 'string' || answer.ok || /^[“A-Z].*[.!?]$/s.test(answer.message);
    if (typeof answer === 'string' || fate.startsWith('no kit') || !isSentence)
      wrong.push(`mutation ${number} of ${fileName} (seed ${SEED}): ${fate} ${Buffer.from(bytes.subarray(0, 300)).toString('base64')}`);
  }
}

await Promise.all([reader(), reader()]);
process.stdout.write(`${next} files: ${JSON.stringify(fates)}\n${wrong.join('\n')}\n`);
process.exit(wrong.length === 0 && next >= MUTATIONS ? 0 : 1);
