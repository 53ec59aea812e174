import Ajv from 'ajv';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { MemoryBlobs, readArray, type Clip, type Kit, type KeyTrack, type SampleTrack } from '../document';
import { changeOfSpace, CANONICAL, flattenParts, MeasuredVertices, Poser } from '../geometry';
import { statePlays } from '../grounds';
import { compileClip, sampleClip } from '../motion';
import { SHIPPED, SOUND } from '../tests/sound-kits';
import { GROUNDS_FORMAT, groundsJsonSchema } from './grounds-table';
import { packageJsonSchema } from './manifest';
import { packKit } from './pack-kit';
import { readPackage } from './read-package';
import { clipsLeftOut, onOneTimeline } from './one-timeline';
import { unzipFiles } from './zip';

const rulebook = SHIPPED.plotwick;

/** A sound kit that sways while it waits, and rides another clip of which a stretch is played. */
function twoStates(over: { idle: number; run: number }): { kit: Kit; blobs: MemoryBlobs } {
  const { kit, blobs } = SOUND.plotwick();
  const tracks = structuredClone(kit.clips.round.tracks) as KeyTrack[];
  tracks[0] = { ...tracks[0], id: 'ride_turn', keys: [0, 30, -20, 4].map((value, i) => ({ time: i, value, easing: 'curve' as const })) };
  kit.clips.ride = { ...kit.clips.round, id: 'ride', name: 'ride', order: 1, lengthSeconds: 3, loop: 'once', tracks };
  kit.clips.ride.cues = [
    { id: 'early', time: 0.2, kind: 'sound', name: 'before it', part: null },
    { id: 'bell', time: 1, kind: 'sound', name: 'bell', part: null },
  ];
  kit.grounds!.states = [
    { state: 'idle', clip: 'round', from: 0, to: null, over: over.idle },
    { state: 'run', clip: 'ride', from: 0.5, to: 2.5, over: over.run },
  ];
  return { kit, blobs };
}

/** Every measured vertex of a kit while a clip is at a time. */
function places(kit: Kit, blobs: MemoryBlobs, clip: Clip, seconds: number): Float64Array {
  const poser = new Poser(flattenParts(kit));
  sampleClip(compileClip(clip, poser.flat, blobs), seconds, poser.pose);
  poser.update();
  const vertices = new MeasuredVertices(kit, blobs);
  const out = new Float64Array(3 * vertices.count);
  vertices.place(poser, out);
  return out;
}

const furthest = (a: Float64Array, b: Float64Array): number => a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i])), 0);

test('what the states play stands one after the other, and is what was made', () => {
  for (const over of [
    { idle: 0, run: 0 },
    { idle: 0.4, run: 0.25 },
  ]) {
    const { kit, blobs } = twoStates(over);
    const timed = onOneTimeline(kit, rulebook, blobs, { toleranceLength: 3e-6 });
    expect(Object.values(timed.clips)).toHaveLength(1);
    const [clip] = Object.values(timed.clips);
    const [made, packed] = [kit, timed].map((one) => statePlays(one, rulebook.grounds!));
    // A frame that no state plays parts them; going over takes its time within the state that is gone over into.
    expect(packed[0]).toMatchObject({ from: 0, to: 2 });
    expect(packed[1].from).toBeCloseTo(2 + 1 / 24, 9);
    expect(packed[1].to - packed[1].from).toBeCloseTo(2 + over.run + over.idle, 9);
    made.forEach((play, i) => {
      const begins = packed[i].from + (i === 1 ? over.run : 0);
      for (let u = 0; u <= 40; u++) {
        const off = ((play.to - play.from) * u) / 40;
        const [a, b] = [places(kit, blobs, play.clip!, play.from + off), places(timed, blobs, clip, begins + off)];
        expect(furthest(a, b)).toBeLessThan(1e-5);
      }
    });
    // It ends as it stands afterwards, where it goes over: else where the ride ends.
    const last = places(timed, blobs, clip, packed[1].to);
    if (over.idle > 0) expect(furthest(last, places(kit, blobs, kit.clips.round, 0))).toBeLessThan(1e-5);
    expect(clip.cues!.map(({ name, time }) => [name, Number((time - packed[1].from - over.run).toFixed(6))])).toEqual([['bell', 0.5]]);
  }
});

test('one clip that is played as a whole stays as it was made, and what no state plays stays behind', () => {
  const { kit, blobs } = SOUND.plotwick();
  expect(onOneTimeline(kit, rulebook, blobs, {})).toBe(kit);
  kit.clips.spare = { ...kit.clips.round, id: 'spare', name: 'spare', order: 3 };
  expect(clipsLeftOut(kit, rulebook).map(({ name }) => name)).toEqual(['spare']);
  expect(Object.keys(onOneTimeline(kit, rulebook, blobs, {}).clips)).toEqual(['round']);
  expect(onOneTimeline(kit, SHIPPED.brinework, blobs, {})).toBe(kit);
});

test('a package says how a thing stands on tiles, and is read as it was packed', async () => {
  const { kit, blobs } = twoStates({ idle: 0, run: 0.5 });
  kit.colliders = [{ id: 'post', part: 'plot', shape: 'capsule', from: [0.1, 0.1, 0.1], to: [0.1, 0.4, 0.3], radius: 0.1 }];
  kit.grounds!.glows = [{ material: 'recolour-1', factor: 2, colour: [1, 0.5, 0] }];
  const { bytes } = await packKit(kit, rulebook, blobs, []);
  const { kit: read } = await readPackage(bytes, new MemoryBlobs());
  // Plotwick looks the other way: its x and z are ours turned round.
  const { basis } = changeOfSpace(CANONICAL, rulebook.space);
  expect([basis[0], basis[8]]).toEqual([-1, -1]);
  expect(read.grounds!.footprint).toEqual({ low: [-2, 0, -2], high: [0, 0, 0], holes: [] });
  expect(
    read.walkway!.knots.map(({ at, edge, boards }) => [at.map((value) => value + 0), edge, boards.map((id) => read.parts[id].name)]),
  ).toEqual([
    [[-2, 0, -1.5], true, []],
    [[-1.4, 0, -1.2], false, ['ride-car']],
  ]);
  expect(read.colliders![0]).toMatchObject({ shape: 'capsule', from: [-0.1, 0.1, -0.1], radius: 0.1 });
  expect(read.grounds!.facts).toEqual({ price: 120, kind: 'ride' });
  const table = JSON.parse(new TextDecoder().decode(unzipFiles(bytes)['sound/grounds.json'])) as {
    format: string;
    states: { state: string; frames: [number, number] }[];
    facts: Record<string, unknown>;
    seats: unknown;
  };
  expect(table.format).toBe(GROUNDS_FORMAT);
  // A second validator takes both files by the schemas in docs, and refuses what is spoilt.
  const manifest = JSON.parse(new TextDecoder().decode(unzipFiles(bytes)['manifest.json'])) as object;
  for (const [name, made, one] of [
    ['grounds', groundsJsonSchema(), table],
    ['package', packageJsonSchema(), manifest],
  ] as const) {
    const docs = JSON.parse(readFileSync(join(__dirname, `../../../docs/${name}.schema.json`), 'utf8')) as object;
    // `npm run docs` writes it.
    expect(docs).toEqual(JSON.parse(JSON.stringify(made)));
    const validate = new Ajv({ schemaId: 'auto' } as never).compile(docs);
    expect([validate(one), validate.errors]).toEqual([true, null]);
    expect(validate({ ...one, format: 'other' })).toBe(false);
    expect(validate({ ...one, [name === 'grounds' ? 'states' : 'files']: 7 })).toBe(false);
  }
  expect(table.states.map(({ state, frames }) => [state, ...frames])).toEqual([
    ['idle', 0, 48],
    ['run', 49, 109],
  ]);
  expect(table.facts).toMatchObject({ price: 120, capacity: 1, seconds: 2, tiles: 1, thrill: null });
  expect(table.seats).toEqual([{ carrier: 'ride-car', seats: ['seat-01'] }]);
});

test('where a formula jumps at the end of a state keys still ascend', () => {
  const { kit, blobs } = twoStates({ idle: 0, run: 0 });
  const [part] = kit.clips.ride.tracks.map((track) => track.part);
  // At 0.5 s and at 2.5 s, where the ride begins and ends.
  kit.clips.ride.tracks.push({ kind: 'formula', id: 'jumps', part, property: 'offset', axis: 1, source: 'floor(t + 0.5) / 10', gain: 1 });
  const [clip] = Object.values(onOneTimeline(kit, rulebook, blobs, { toleranceLength: 3e-6 }).clips);
  for (const track of clip.tracks) {
    const times = [...readArray<Float32Array>(blobs, (track as SampleTrack).times)];
    const values = readArray<Float32Array>(blobs, (track as SampleTrack).values);
    for (let i = 1; i < times.length; i++) expect(times[i]).toBeGreaterThan(times[i - 1]);
    expect(values.every(Number.isFinite)).toBe(true);
  }
});
