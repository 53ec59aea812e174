import fc from 'fast-check';
import { strToU8 } from 'fflate';
import { checkKit, MemoryBlobs, putArray, callOf, type Call, type Clip, type Kit } from '../document';
import { readFile } from '../intake';
import { runCall } from '../operations';
import { chainKit, greatestDifference, withMotion, worldVertices } from '../tests/helpers';
import { tailCollada, tailGlb } from '../tests/fixtures';
import { keepClips, splitClip, trimClip } from './arrival-operations';
import { marksThatGo } from './clip-marks';
import { parseRanges } from './range-table';
import { dwell, stretchClip, trimTail } from './tools';

const blobs = new MemoryBlobs();
const clipNamed = (kit: Kit, name: string) => Object.values(kit.clips).find((clip) => clip.name === name)!;
/** Vertices at a time, the end too. */
const posed = (kit: Kit, clip: Clip, time: number) =>
  worldVertices({ ...kit, clips: { [clip.id]: { ...clip, loop: 'hold' } } }, blobs, clip.id, time);

test('a piece of a clip moves as the clip did there: skins, morphs, steps', async () => {
  for (const [bytes, name] of [
    [await tailGlb(), 'tail.glb'],
    [strToU8(tailCollada()), 'tail.dae'],
  ] as [Uint8Array, string][]) {
    const kit = await readFile(bytes, name, blobs);
    for (const clip of Object.values(kit.clips)) {
      const ranges = [
        { name: 'first', from: 0, to: 0.4, loop: 'loop' as const },
        { name: 'second', from: 0.3, to: 0.9, loop: 'once' as const },
      ];
      const after = checkKit(runCall(kit, callOf(splitClip, { clip: clip.id, ranges, keep: false }), blobs).kit);
      expect(after.clips[clip.id]).toBeUndefined();
      for (const range of ranges) {
        const piece = clipNamed(after, range.name);
        expect([piece.loop, piece.lengthSeconds]).toEqual([range.loop, expect.closeTo(range.to - range.from, 9)]);
        for (const u of [0, 0.13, 0.5, 0.77, 1]) {
          const time = u * (range.to - range.from);
          expect(greatestDifference(posed(after, piece, time), posed(kit, clip, range.from + time))).toBeLessThan(1e-5);
        }
      }
    }
  }
});

test('cubic tracks are cut by their own derivative, at any time', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 27, maxLength: 27 }),
      fc.double({ min: 0.05, max: 0.9, noNaN: true }),
      fc.double({ min: 1, max: 1.95, noNaN: true }),
      (numbers, from, to) => {
        const { kit: plain, blobs: store } = chainKit([{ id: 'a' }]);
        const clip: Clip = {
          id: 'clip',
          name: 'clip',
          order: 0,
          lengthSeconds: 2,
          rate: 30,
          loop: 'hold',
          tracks: [
            {
              kind: 'samples',
              id: 't',
              part: 'a',
              property: 'offset',
              interpolation: 'curve',
              times: putArray(store, Float32Array.from([0, 0.7, 2]), 1),
              values: putArray(store, Float32Array.from(numbers), 3),
            },
          ],
        };
        const kit = { ...plain, clips: { clip } };
        const cut = runCall(kit, callOf(trimClip, { clip: 'clip', from, to }), store).kit;
        for (const u of [0, 0.2, 0.5, 0.8, 1]) {
          const time = u * (to - from);
          expect(greatestDifference(worldVertices(cut, store, 'clip', time), worldVertices(kit, store, 'clip', from + time))).toBeLessThan(
            2e-4,
          );
        }
      },
    ),
    { numRuns: 60 },
  );
});

test.each(['hold', 'straight', 'curve', 'bounce'] as const)('sparse %s keys keep their way where a clip is cut', (easing) => {
  const { kit: plain, blobs: store } = chainKit([{ id: 'a' }, { id: 'b', parent: 'a' }]);
  const kit = withMotion(plain, store, 'a', 'offset', 1, [0, 3, -1, 2], easing);
  const before = { ...kit, clips: { clip: { ...kit.clips.clip, loop: 'hold' as const } } };
  const after = runCall(before, callOf(trimClip, { clip: 'clip', from: 0.5, to: 1.6 }), store).kit;
  expect(after.clips.clip.lengthSeconds).toBeCloseTo(1.1, 9);
  for (let frame = 0; frame < 33; frame++) {
    const time = frame / 30;
    const off = greatestDifference(worldVertices(after, store, 'clip', time), worldVertices(before, store, 'clip', 0.5 + time));
    // A bounce touches the ground between two frames.
    expect(off).toBeLessThan(easing === 'bounce' ? 0.2 : 5e-3);
  }
});

const CLIP: Clip = { id: 'c', name: 'all', order: 0, lengthSeconds: 59 / 30, rate: 30, loop: 'loop', tracks: [] };

test('range tables: pasted, with a heading, in frames or seconds, with loop words', () => {
  expect(parseRanges('name,from,to,loop\nfurl,0,23,once\n"wave",24,59\n', CLIP, 'frames')).toEqual([
    { name: 'furl', from: 0, to: 23 / 30, loop: 'once' },
    { name: 'wave', from: 24 / 30, to: 59 / 30, loop: 'loop' },
  ]);
  expect(parseRanges('# cuts\nfurl\t0\t0.5\tping-pong\nwave;15f;1.5s;hold', CLIP, 'seconds')).toEqual([
    { name: 'furl', from: 0, to: 0.5, loop: 'ping-pong' },
    { name: 'wave', from: 0.5, to: 1.5, loop: 'hold' },
  ]);
});

test('numbered names share out the frames', () => {
  const furl = { name: 'furl', from: 0, to: 23 / 30, loop: 'loop' };
  const wave = { name: 'wave', from: 24 / 30, to: 59 / 30, loop: 'loop' };
  expect(parseRanges('furl01…furl24, wave01…', CLIP, 'frames')).toEqual([furl, wave]);
  expect(parseRanges('furl_01 - 24\nwave_01...wave_36', CLIP, 'frames')).toEqual([furl, wave]);
  expect(parseRanges(Array.from({ length: 24 }, (_, i) => `furl${i + 1}`).join('\n'), CLIP, 'frames')).toEqual([furl]);
});

test.each([
  ['furl,0', 'Line 1: a row is name, from, to and loop'],
  ['furl,0,90', 'Line 1: “furl” runs from 0 to 90'],
  ['furl,0,10\nwave,20,12', 'Line 2: “wave” ends before'],
  ['furl,0,10,sideways', 'no loop mode'],
  ['furl,zero,10', 'should be two numbers'],
  [',0,10', 'the name is missing'],
  ['furl01…furl99', 'needs frames 1 to 99'],
  ['furl9…furl2', 'counts down'],
])('%s is refused by its line', (text, words) => {
  expect(() => parseRanges(text, CLIP, 'frames')).toThrow(words);
});

test('what would reach out of the clip is refused, and one clip can be kept of many', async () => {
  const kit = await readFile(await tailGlb(), 'tail.glb', blobs);
  const wag = clipNamed(kit, 'wag').id;
  expect(() => runCall(kit, callOf(trimClip, { clip: wag, from: 0.5, to: 3 }), blobs)).toThrow('reach out of the clip');
  expect(() =>
    runCall(kit, callOf(splitClip, { clip: wag, ranges: [{ name: 'x', from: 0, to: 9, loop: 'loop' }], keep: true }), blobs),
  ).toThrow('reach out of the clip');
  expect(Object.keys(runCall(kit, callOf(keepClips, { clips: [wag] }), blobs).kit.clips)).toEqual([wag]);
});

test('cues and flags go with the piece of time that they belong to', () => {
  const { kit, blobs: own } = chainKit([{ id: 'a' }]);
  const made = structuredClone(withMotion(kit, own, 'a', 'turn', 1, [0, 90, 0], 'straight'));
  const cue = (time: number) => ({ id: `cue ${time}`, time, kind: 'sound' as const, name: 'harbour bell', part: null });
  Object.assign(made.clips.clip, { cues: [cue(0.25), cue(1.5)], flags: [{ id: 'flag', time: 1, name: 'top', colour: 'sea' }] });
  const trimmed = runCall(made, callOf(trimClip, { clip: 'clip', from: 0.5, to: 2 }), own).kit.clips.clip;
  expect([trimmed.cues!.map(({ time }) => time), trimmed.flags!.map(({ time }) => time)]).toEqual([[1], [0.5]]);
  const ranges = [
    { name: 'first', from: 0, to: 1, loop: 'loop' as const },
    { name: 'second', from: 1, to: 2, loop: 'once' as const },
  ];
  const split = checkKit(runCall(made, callOf(splitClip, { clip: 'clip', ranges, keep: true }), own).kit);
  expect([clipNamed(split, 'first').cues!.map(({ time }) => time), clipNamed(split, 'second').cues!.map(({ time }) => time)]).toEqual([
    [0.25],
    [0.5],
  ]);
  expect(new Set(Object.values(split.clips).flatMap(({ cues = [] }) => cues.map(({ id }) => id))).size).toBe(4);
});

test('what goes with a piece that is cut off is told before and after, what stays or moves along is kept', () => {
  const { kit, blobs: own } = chainKit([{ id: 'a' }]);
  const made = structuredClone(withMotion(kit, own, 'a', 'turn', 1, [0, 90, 0], 'straight'));
  const cue = (time: number) => ({ id: `cue ${time}`, time, kind: 'sound' as const, name: 'harbour bell', part: null });
  Object.assign(made.clips.clip, { cues: [0.25, 0.4, 1.5].map(cue), flags: [{ id: 'flag', time: 1, name: 'top', colour: 'sea' }] });
  const { clip } = made.clips;
  expect(marksThatGo(clip, [{ from: 0, to: 2 }])).toBeNull();
  expect(marksThatGo(clip, [{ from: 0.5, to: 2 }])).toBe('2 cues outside of what is kept go.');
  expect(marksThatGo(clip, [{ from: 0, to: 0.3 }])).toBe('2 cues and 1 flag outside of what is kept go.');
  const told = (call: Call) => runCall(made, call, own).chosen.told;
  expect(told(callOf(trimClip, { clip: 'clip', from: 0, to: 1.2 }))).toBe('1 cue outside of what is kept goes.');
  const ranges = [{ name: 'first', from: 0, to: 0.3, loop: 'loop' as const }];
  expect(told(callOf(splitClip, { clip: 'clip', ranges, keep: false }))).toBe('2 cues and 1 flag outside of what is kept go.');
  expect(told(callOf(splitClip, { clip: 'clip', ranges, keep: true })) ?? null).toBeNull();
  expect(told(callOf(dwell, { clip: 'clip', time: 1, seconds: 0.5 }))).toBe('1 cue goes along.');
  expect(told(callOf(stretchClip, { clip: 'clip', lengthSeconds: 4 }))).toBe('3 cues and 1 flag go along.');
  const stretched = runCall(made, callOf(stretchClip, { clip: 'clip', lengthSeconds: 4 }), own).kit.clips.clip;
  expect(stretched.cues!.map(({ time }) => time)).toEqual([0.5, 0.8, 3]);
});

test('a clip that ends at its last key keeps no cue after it', () => {
  const { kit, blobs: own } = chainKit([{ id: 'a' }]);
  const made = structuredClone(withMotion(kit, own, 'a', 'turn', 1, [0, 90, 0], 'straight'));
  made.clips.clip.lengthSeconds = 5;
  made.clips.clip.flags = [1, 2, 4].map((time) => ({ id: `f${time}`, time, name: `f${time}`, colour: 'sea' as const }));
  const done = runCall(made, callOf(trimTail, { clip: 'clip' }), own);
  expect(done.kit.clips.clip.flags!.map(({ time }) => time)).toEqual([1, 2]);
  expect(done.chosen.told).toBe('1 flag outside of what is kept goes.');
});
