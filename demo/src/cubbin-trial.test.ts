import fc from 'fast-check';
import cubbin from '@itchkit/rulebooks/cubbin';
import { MemoryBlobs, type Kit, type Vec3 } from '@itchkit/core/document';
import { flattenParts, Poser } from '@itchkit/core/geometry';
import { mendAllSafe } from '@itchkit/core/operations';
import { checkRulebook } from '@itchkit/core/rulebook';
import { packKit, readPackage, type LoadedPackage } from '@itchkit/core/ship';
import {
  figureFacts,
  GAITS,
  NEW_FIGURE,
  playFigure,
  poseKit,
  poseOfFigure,
  REST,
  takenBy,
  trialFor,
  type FigureFacts,
  type PoseSource,
} from '@itchkit/core/trial';
import { evaluateBinding } from '@itchkit/core/wiring';
import { periscopeDiver } from '.';

const rulebook = checkRulebook(cubbin);
const made = { kit: {} as Kit, blobs: new MemoryBlobs() };
const read = { blobs: new MemoryBlobs() } as { blobs: MemoryBlobs; loaded: LoadedPackage; facts: FigureFacts };

beforeAll(async () => {
  made.kit = await periscopeDiver(rulebook, made.blobs);
  read.loaded = await readPackage((await packKit(made.kit, rulebook, made.blobs, [])).bytes, read.blobs);
  read.facts = figureFacts(read.loaded, rulebook);
});

/** Where every part is, by name: its world matrix, column-major, with places in metres. */
function placed(kit: Kit, blobs: MemoryBlobs, source: PoseSource, metresPerUnit: number): Map<string, number[]> {
  const poser = new Poser(flattenParts(kit));
  poseKit(poser, kit, blobs, source, rulebook.variables);
  return new Map(
    Object.values(kit.parts).map(({ id, name }) => [
      name,
      [...poser.worldOf(id)].map((one, i) => (i >= 12 && i < 15 ? one * metresPerUnit : one)),
    ]),
  );
}

const idOf = (kit: Kit, clip: string | null) => Object.values(kit.clips).find(({ name }) => name === clip)?.id ?? null;

test('the diver is loaded without a word of complaint: it looks aside and up, and blinks along', () => {
  const log = trialFor(rulebook)!.importLog(read.loaded, rulebook);
  expect(log.filter(({ grade }) => grade !== 'taken')).toEqual([]);
  const texts = log.map(({ text }) => text);
  expect(texts).toContain('It looks aside from -75° to 75°');
  expect(texts).toContain('It looks up from -50° to 60°');
  expect(texts).toContain('“blink” runs along with all that plays');
  expect(texts).toContain('“scope_2” follows look_nod, -50 to 60 deg');
  expect(read.facts.clips.walks?.name).toBe('walk');
});

test('from the package’s bytes alone every part is where the bench has it, wherever it looks and whatever it plays', () => {
  const asked = fc.record({
    turn: fc.double({ min: -75, max: 75, noNaN: true }),
    nod: fc.double({ min: -50, max: 60, noNaN: true }),
    clip: fc.constantFrom(null, 'stand', 'walk', 'look'),
    frame: fc.nat(19),
  });
  const { metresPerUnit } = read.loaded.manifest.space;
  fc.assert(
    fc.property(asked, ({ turn, nod, clip, frame }) => {
      const source = (kit: Kit): PoseSource => ({
        ...REST,
        clip: idOf(kit, clip),
        time: frame / 20,
        levers: { look_turn: turn, look_nod: nod },
        quiet: [],
      });
      const bench = placed(made.kit, made.blobs, source(made.kit), 1);
      const trial = placed(read.loaded.kit, read.blobs, source(read.loaded.kit), metresPerUnit);
      expect([...trial.keys()].sort()).toEqual([...bench.keys()].sort());
      // A clip is packed as straight keys, to a millimetre; what follows the look is exact.
      const near = clip === null ? 1e-5 : 1e-3;
      for (const [name, world] of bench) trial.get(name)!.forEach((one, i) => expect(Math.abs(one - world[i])).toBeLessThan(near));
    }),
    { numRuns: 60, endOnFailure: true },
  );
});

test('what turns by more than half a turn at once goes the short way, and as it was made once rows are put between', async () => {
  const wide = structuredClone(made.kit);
  const part = Object.values(wide.parts).find(({ name }) => name === 'scope_1')!.id;
  const rows = [0, -75, 75].map((value) => ({
    value,
    offset: [0, 0, 0] as Vec3,
    turn: [0, (8 / 3) * value, 0] as Vec3,
    size: [1, 1, 1] as Vec3,
  }));
  for (const { id } of Object.values(wide.bindings).filter((binding) => binding.part === part)) delete wide.bindings[id];
  wide.bindings.wide = { id: 'wide', part, variable: 'look_turn', index: null, outside: 'clamp', rows };
  const mended = mendAllSafe(wide, rulebook, made.blobs).kit;
  const turnAt = async (kit: Kit, value: number) => {
    const loaded = await readPackage((await packKit(kit, rulebook, made.blobs, [])).bytes, new MemoryBlobs());
    const taken = takenBy(loaded, rulebook);
    const of = Object.values(taken.kit.bindings).find((one) => taken.kit.parts[one.part].name === 'scope_1')!;
    const odd = trialFor(rulebook)!
      .importLog(taken, rulebook)
      .filter(({ grade }) => grade === 'odd');
    // Its own axes are turned with the platform’s: only how far is asked.
    return { degrees: Math.hypot(...evaluateBinding(of, value).turn), odd: odd.map(({ text }) => text).join() };
  };
  const [short, whole] = [await turnAt(wide, 75), await turnAt(mended, 75)];
  expect(short.degrees).toBeCloseTo(160, 6);
  expect(short.odd).toContain('“scope_1” turns by half a turn or more between two values of look_turn');
  expect(whole.degrees).toBeCloseTo(200, 6);
  expect(whole.odd).not.toContain('half a turn');
  expect((await turnAt(mended, 40)).degrees).toBeCloseTo((40 * 8) / 3, 6);
});

test('its head leads and its body follows, its periscope bends as one, and its boots are heard as it walks', () => {
  const { kit } = read.loaded;
  const walked = playFigure(kit, read.facts, NEW_FIGURE, { gaze: [90, 20], gait: 'walks' }, 4);
  expect(walked.facing).toBeCloseTo(90, 0);
  expect(walked.heard.map(({ name }) => name).slice(0, 4)).toEqual(['left boot', 'right boot', 'left boot', 'right boot']);
  const sat = playFigure(kit, read.facts, NEW_FIGURE, { gaze: [90, 20], gait: 'sits' }, 4);
  expect(sat).toMatchObject({ facing: 0, turn: 75, nod: 20 });
  expect(GAITS.map((gait) => read.facts.clips[gait]?.name)).toEqual(['stand', 'walk', 'stand']);
  // Seen by where it looks: the head’s own +z in the world.
  const { metresPerUnit } = read.loaded.manifest.space;
  const still = { ...poseOfFigure(read.facts, { ...sat, nod: 0 }, []), clip: null };
  const head = placed(kit, read.blobs, still, metresPerUnit).get('head')!;
  expect(Math.atan2(head[8], head[10]) / (Math.PI / 180)).toBeCloseTo(75, 4);
});
