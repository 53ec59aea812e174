import { callOf, MemoryBlobs, newPart, emptyKit, type Kit } from '../../document';
import { addBinding, neutralRow } from '../../wiring';
import type { LoadedPackage } from '../../ship';
import { SHIPPED } from '../../tests/sound-kits';
import { run } from '../../tests/helpers';
import {
  BODY_SPEED,
  clipsToAsk,
  figureFacts,
  GAITS,
  HEAD_ALONE,
  HEAD_SPEED,
  NEW_FIGURE,
  playFigure,
  poseOfFigure,
  WALK_SPEED,
  type Figure,
  type FigureWish,
} from './figure';
import { importLog } from './import-log';

const blobs = new MemoryBlobs();

/** A root, a trunk and a head that looks; clips to stand, to walk and to wave. */
function figureKit(looks = true): Kit {
  const kit = emptyKit('Figure');
  ['origin', 'trunk', 'head'].forEach((id, i, all) => (kit.parts[id] = newPart({ id, name: id, parent: all[i - 1] ?? null })));
  const clips = [
    ['stand', 2, 'loop'],
    ['walk', 1, 'loop'],
    ['wave', 1.5, 'once'],
    ['blink', 3, 'loop'],
  ] as const;
  clips.forEach(([name, lengthSeconds, loop], order) => {
    kit.clips[name] = { id: name, name, lengthSeconds, rate: 20, loop, order, tracks: [] };
  });
  kit.clips.blink.overlay = { place: 'over', mode: 'replace', parts: null };
  kit.clips.walk.cues = [
    { id: 'left', time: 0, kind: 'sound', name: 'left foot', part: null },
    { id: 'right', time: 0.5, kind: 'sound', name: 'right foot', part: null },
  ];
  if (!looks) return kit;
  const rows = [neutralRow(0), { ...neutralRow(75), turn: [0, 75, 0] as [number, number, number] }];
  const bind = (variable: string) => callOf(addBinding, { part: 'head', variable, index: null, outside: 'clamp', rows });
  return run(kit, blobs, bind('look_turn'), bind('look_nod'));
}

const loaded = (kit: Kit) =>
  ({
    kit,
    manifest: { kit: kit.name, target: { rulebook: 'cubbin', version: '1.1.0' }, files: [], parts: [], clips: [], bindings: [] },
  }) as unknown as LoadedPackage;
const factsOf = (kit: Kit) => figureFacts(loaded(kit), SHIPPED.cubbin);
const kit = figureKit();
const facts = factsOf(kit);
const wish = (aside: number, up = 0, gait: FigureWish['gait'] = 'stands'): FigureWish => ({ gaze: [aside, up], gait });
const after = (seconds: number, asked: FigureWish, from: Figure = NEW_FIGURE) => playFigure(kit, facts, from, asked, seconds);

test('a head turns at its speed to where it is to look, and no further than the rulebook says', () => {
  expect(after(0.1, wish(40)).turn).toBeCloseTo(0.1 * HEAD_SPEED, 6);
  expect(after(1, wish(40, 30))).toMatchObject({ facing: 0, following: false });
  expect(after(1, wish(40, 30)).turn).toBeCloseTo(40, 6);
  expect(after(1, wish(0, 80)).nod).toBeCloseTo(60, 6);
  expect(after(1, wish(0, -80)).nod).toBeCloseTo(-50, 6);
  expect(after(2, wish(120, 0, 'sits'))).toMatchObject({ facing: 0, turn: 75 });
});

test('a body that stands turns after its head once that looks far aside, until it looks ahead', () => {
  expect(after(3, wish(HEAD_ALONE)).facing).toBe(0);
  const turning = after(0.2, wish(HEAD_ALONE + 10));
  expect(turning.facing).toBeCloseTo(0.2 * BODY_SPEED, 6);
  // It does not stop where the head alone would do again.
  const turned = after(3, wish(HEAD_ALONE + 10), turning);
  expect(turned.facing).toBeCloseTo(HEAD_ALONE + 10, 0);
  expect(Math.abs(turned.turn)).toBeLessThan(1.1);
  expect(turned.following).toBe(false);
});

test('the shorter way round is taken, and a gaze straight behind is reached', () => {
  const back = after(5, wish(170));
  expect(back.facing).toBeCloseTo(170, 0);
  // From there to −110 by way of behind, never ahead.
  let turning = back;
  for (let i = 0; i < 40; i++) {
    turning = after(0.05, wish(-110), turning);
    expect(Math.abs(turning.facing)).toBeGreaterThan(109);
  }
  expect(turning.facing).toBeCloseTo(-110, 0);
  expect(Math.abs(after(5, wish(180)).facing)).toBeCloseTo(180, 0);
});

test('one that walks goes where it looks, at its speed', () => {
  const ahead = after(2, wish(0, 0, 'walks'));
  expect(ahead.place[0]).toBeCloseTo(0, 9);
  expect(ahead.place[1]).toBeCloseTo(2 * WALK_SPEED, 6);
  const left = after(4, wish(90, 0, 'walks'));
  expect(left.facing).toBeCloseTo(90, 0);
  // Counter-clockwise from above, ahead is +z: its left is +x.
  expect(left.place[0]).toBeGreaterThan(2.5);
  const [x, z] = left.place;
  const on = after(1, wish(90, 0, 'walks'), left);
  expect(Math.hypot(on.place[0] - x, on.place[1] - z)).toBeCloseTo(WALK_SPEED, 6);
});

test('each gait plays its clip, over and over; what is missing is stood for', () => {
  expect(after(2.5, wish(0))).toMatchObject({ clip: 'stand' });
  expect(after(2.5, wish(0)).time).toBeCloseTo(0.5, 6);
  expect(after(0.3, wish(0, 0, 'walks'), after(0.7, wish(0)))).toMatchObject({ clip: 'walk' });
  // There is no clip to sit: it stands in its place.
  expect(after(0.3, wish(0, 0, 'sits')).clip).toBe('stand');
  const bare = { ...kit, clips: {} };
  for (const gait of GAITS) expect(playFigure(bare, factsOf(bare), NEW_FIGURE, wish(0, 0, gait), 1)).toMatchObject({ clip: null, time: 0 });
});

test('a clip asked for plays once from its start, and then what the gait plays', () => {
  const asked = { ...after(0.4, wish(0)), once: 'wave' };
  expect(after(1, wish(0), asked)).toMatchObject({ clip: 'wave', once: 'wave' });
  expect(after(1, wish(0), asked).time).toBeCloseTo(1, 6);
  expect(after(1.8, wish(0), asked)).toMatchObject({ clip: 'stand', once: null });
  expect(clipsToAsk(kit).map(({ name }) => name)).toEqual(['stand', 'walk', 'wave']);
});

test('each cue is heard once a round, the one at the start too, however long the steps are', () => {
  const names = (figure: Figure) => figure.heard.map(({ name, at }) => `${name} ${at.toFixed(1)}`);
  const whole = after(2.2, wish(0, 0, 'walks'));
  expect(names(whole)).toEqual(['left foot 0.0', 'right foot 0.5', 'left foot 1.0', 'right foot 1.5', 'left foot 2.0']);
  let steps = NEW_FIGURE;
  for (let i = 0; i < 22; i++) steps = after(0.1, wish(0, 0, 'walks'), steps);
  expect(names(steps)).toEqual(names(whole));
  expect(after(60, wish(0, 0, 'walks')).heard.length).toBeLessThan(20);
});

test('without a drive the whole body turns to what it looks at; the log says so', () => {
  const still = figureKit(false);
  const figure = playFigure(still, factsOf(still), NEW_FIGURE, wish(20, 30), 3);
  expect(figure.facing).toBeCloseTo(20, 0);
  expect([figure.turn, figure.nod]).toEqual([0, 0]);
  const odd = (one: Kit) => importLog(loaded(one), SHIPPED.cubbin).flatMap(({ grade, text }) => (grade === 'odd' ? [text] : []));
  expect(odd(still)).toEqual([
    'Nothing follows look_turn: the whole body turns to what it looks at',
    'Nothing follows look_nod: it looks neither up nor down',
  ]);
  expect(odd(kit)).toEqual([]);
  expect(importLog(loaded(kit), SHIPPED.cubbin).map(({ text }) => text)).toContain('It looks aside from -75° to 75°');
});

test('a figure is posed by its root, its levers and what runs along', () => {
  expect(poseOfFigure(facts, NEW_FIGURE, [])).toMatchObject({ held: [], quiet: [], levers: { look_turn: 0, look_nod: 0 } });
  const walked = poseOfFigure(facts, after(4, wish(90, 10, 'walks')), ['blink']);
  expect(walked.held).toHaveLength(1);
  expect(walked.held[0].part).toBe('origin');
  expect(walked.held[0].delta.turn[1]).toBeCloseTo(90, 0);
  expect(walked.quiet).toEqual(['blink']);
});
