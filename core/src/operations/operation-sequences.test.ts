import fc from 'fast-check';
import brinework from '../../../rulebooks/brinework.rulebook.json';
import clashmere from '../../../rulebooks/clashmere.rulebook.json';
import cubbin from '../../../rulebooks/cubbin.rulebook.json';
import emberfold from '../../../rulebooks/emberfold.rulebook.json';
import lanternlot from '../../../rulebooks/lanternlot.rulebook.json';
import { checkKit, KitError, MemoryBlobs, partsInOrder, patchKit, type Blobs, type Clip, type Id, type Kit, type Patch } from '../document';
import { applyMat3, CANONICAL, changeOfSpace, flattenParts, Poser, posedVertices } from '../geometry';
import { readGltf } from '../intake';
import { compileClip, sampleClip } from '../motion';
import { CheckRunner, checkRulebook, type Rulebook } from '../rulebook';
import { loadSimplifier } from '../shape';
import { packKit, readPackage, unzipFiles } from '../ship';
import { OPERATIONS, runCall } from './registry';
import { CALLS, made } from '../tests/calls';
import { greatestDifference } from '../tests/helpers';

beforeAll(loadSimplifier);

const RULEBOOKS = [brinework, clashmere, cubbin, emberfold, lanternlot].map((one) => checkRulebook(one));
const sequence = fc.array(fc.constantFrom(...OPERATIONS.keys()), { minLength: 2, maxLength: 14 });

interface Step {
  operation: string;
  before: Kit;
  after: Kit;
}

/** Runs calls one after the other; those that can't be done have to say so in a sentence. */
function runAll(operations: readonly string[], each: (step: Step, blobs: Blobs) => void = () => {}) {
  const { kit, blobs } = made();
  let now = kit;
  const back: Patch[][] = [];
  for (const operation of operations) {
    const before = now;
    try {
      const applied = runCall(now, { operation, args: CALLS[operation] }, blobs);
      now = checkKit(applied.kit);
      back.push(applied.inverse);
    } catch (error) {
      if (!(error instanceof KitError)) throw new Error(`“${operation}” broke`, { cause: error });
      expect(error.message).toMatch(/[.!?]$/);
    }
    each({ operation, before, after: now }, blobs);
  }
  return { kit, blobs, now, back };
}

test('whatever is done after whatever, the kit holds together, refusals are sentences, and all of it can be undone', () => {
  fc.assert(
    fc.property(sequence, (operations) => {
      const { kit, now, back } = runAll(operations);
      expect(back.reverse().reduce((before, inverse) => patchKit(before, inverse), now)).toEqual(kit);
    }),
    { numRuns: 50 },
  );
});

test('checks that run again only where something changed say what they say of the whole kit', () => {
  fc.assert(
    fc.property(sequence, fc.constantFrom(...RULEBOOKS), (operations, rulebook) => {
      let runner: CheckRunner | undefined;
      runAll(operations, ({ after }, blobs) => {
        runner ??= new CheckRunner(rulebook, blobs);
        expect(runner.run(after)).toEqual(new CheckRunner(rulebook, blobs).run(after));
      });
    }),
    { numRuns: 15 },
  );
});

/** World places of what parts draw, by part; at rest, or at a time of a clip. */
function drawn(kit: Kit, blobs: Blobs, clip: Clip | null = null, time = 0): Map<Id, Float64Array> {
  const poser = new Poser(flattenParts(kit));
  if (clip) sampleClip(compileClip(clip, poser.flat, blobs), time, poser.pose);
  poser.update();
  const shown = Object.values(kit.parts).filter(({ mesh }) => mesh !== null);
  return new Map(shown.map((part) => [part.id, posedVertices(kit, blobs, part, (id) => poser.worldOf(id), poser.weightsOf(part.id))]));
}

/** Operations of which nobody expects that anything moves at rest. */
const STILL =
  /^(kit|motion|wiring)\.(?!bake-pose)|^rig\.(add|insert|dissolve|move|roll|mirror-joints|pull|set-bend|make-body|gather|drop|anchor|couple|uncouple|unbind|solve|hold)|^shape\.(insert-parent|dissolve-parents|reparent|gather-under-root|set-hinge-axis|move-pivot|pivot-to)/;

test('joints, pivots, parents, clips and bindings change nothing of what is seen at rest', () => {
  const names = fc.array(fc.constantFrom(...[...OPERATIONS.keys()].filter((id) => STILL.test(id))), { minLength: 2, maxLength: 10 });
  fc.assert(
    fc.property(names, (operations) => {
      runAll(operations, ({ before, after }, blobs) => {
        const [was, is] = [drawn(before, blobs), drawn(after, blobs)];
        for (const [part, places] of was) expect(greatestDifference([...places], [...(is.get(part) ?? [])])).toBeLessThan(2e-5);
      });
    }),
    { numRuns: 30 },
  );
});

/** What a kit draws and what its package draws, in metres; infinite where one of them draws something else. */
function difference(here: Kit, blobs: Blobs, there: Kit, store: Blobs, rulebook: Rulebook, clip: Clip | null, time: number): number {
  const named = (kit: Kit) => {
    const count = new Map<string, number>();
    for (const { name } of partsInOrder(kit)) count.set(name, (count.get(name) ?? 0) + 1);
    return new Map(Object.values(kit.parts).flatMap(({ id, name }) => (count.get(name) === 1 ? [[name, id] as const] : [])));
  };
  const [ours, theirs] = [named(here), named(there)];
  const other = clip && Object.values(there.clips).find(({ name }) => name === clip.name);
  if (clip && !other) return Infinity;
  const [a, b] = [drawn(here, blobs, clip, time), drawn(there, store, other ?? null, time)];
  const { basis, scale } = changeOfSpace(CANONICAL, rulebook.space);
  let most = 0;
  for (const [name, id] of ours) {
    const [one, two] = [a.get(id), b.get(theirs.get(name) ?? '')];
    if (!one) continue;
    if (!two || one.length !== two.length) return Infinity;
    for (let v = 0; v < one.length; v += 3)
      applyMat3(basis, [one[v], one[v + 1], one[v + 2]]).forEach(
        (value, k) => (most = Math.max(most, Math.abs(value - two[v + k] / scale))),
      );
  }
  return most;
}

/** The kit of a package, also where it is a model at rest with a file of its own for each clip: those have the same nodes. */
async function putTogether(bytes: Uint8Array, rulebook: Rulebook, store: Blobs): Promise<Kit> {
  if (rulebook.packaging.some(({ holds }) => holds === 'model')) return (await readPackage(bytes, store)).kit;
  const files = unzipFiles(bytes);
  const { files: listed } = JSON.parse(new TextDecoder().decode(files['manifest.json'])) as { files: { path: string; holds: string }[] };
  const read = (path: string) => readGltf(files[path], path, store);
  const { kit, partOfNode } = await read(listed.find(({ holds }) => holds === 'model-at-rest')!.path);
  for (const { path } of listed.filter(({ holds }) => holds === 'clip')) {
    const other = await read(path);
    for (const clip of Object.values(other.kit.clips))
      kit.clips[path] = {
        ...clip,
        id: path,
        tracks: clip.tracks.map((track) => ({ ...track, part: partOfNode[other.partOfNode.indexOf(track.part)]! })),
      };
  }
  return kit;
}

test('whatever was done, the package has every clip, and moves within two millimetres as the kit does', async () => {
  await fc.assert(
    fc.asyncProperty(sequence, fc.constantFrom(...RULEBOOKS), async (operations, rulebook) => {
      const { now, blobs } = runAll(operations);
      const clips = Object.values(now.clips);
      const alone = clips.filter(({ name }) => clips.filter((one) => one.name === name).length === 1);
      const store = new MemoryBlobs();
      // Two clips of one name are no package where each is a file.
      const there = await putTogether(
        (await packKit({ ...now, clips: Object.fromEntries(alone.map((clip) => [clip.id, clip])) }, rulebook, blobs, [])).bytes,
        rulebook,
        store,
      );
      expect(difference(now, blobs, there, store, rulebook, null, 0)).toBeLessThan(1e-4);
      for (const clip of alone)
        for (const share of [0, 0.137, 0.77])
          expect(difference(now, blobs, there, store, rulebook, clip, share * clip.lengthSeconds)).toBeLessThan(2e-3);
    }),
    { numRuns: 12 },
  );
});
