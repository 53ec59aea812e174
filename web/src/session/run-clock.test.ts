import { runClock, togglePlay, type Playing, type PlayStore } from './run-clock';

/** A store, and frames that are drawn when a test says so. */
function stage(clip: string | null = 'walk') {
  let state: Playing = { clip, time: 0, playing: false };
  const store: PlayStore = { getState: () => state, setState: (change) => void (state = { ...state, ...change }) };
  const waiting: ((now: number) => void)[] = [];
  let now = 0;
  jest.spyOn(performance, 'now').mockImplementation(() => now);
  globalThis.requestAnimationFrame = (tick) => waiting.push(tick);
  /** Draws frames until so many milliseconds have gone by. */
  const pass = (milliseconds: number, step = 10) => {
    for (const until = now + milliseconds; now < until;) {
      now += step;
      for (const tick of waiting.splice(0)) tick(now);
    }
  };
  return { store, pass, waiting };
}

afterEach(() => jest.restoreAllMocks());

const CLIPS = { walk: { loop: 'loop', lengthSeconds: 2 }, wave: { loop: 'once', lengthSeconds: 1 } };

test('a second start takes the place of the first: time goes as fast as the clock', () => {
  const { store, pass, waiting } = stage();
  store.setState({ playing: true });
  runClock(store, { stopAfter: null });
  pass(200);
  // Resting on a row of a list gives it the keyboard as well: it is started twice.
  runClock(store, { stopAfter: null });
  runClock(store, { stopAfter: null });
  pass(300);
  expect(store.getState().time).toBeCloseTo(0.5, 9);
  expect(waiting).toHaveLength(1);
});

test('what loops goes on, what is played once ends on its last pose and begins again from the start', () => {
  const { store, pass, waiting } = stage('wave');
  togglePlay(store, CLIPS);
  pass(1500);
  expect(store.getState()).toEqual({ clip: 'wave', time: 1, playing: false });
  expect(waiting).toHaveLength(0);
  togglePlay(store, CLIPS);
  expect(store.getState()).toMatchObject({ time: 0, playing: true });
  const endless = stage('walk');
  togglePlay(endless.store, CLIPS);
  endless.pass(5000);
  expect(endless.store.getState().time).toBeCloseTo(5, 9);
});

test('speed and a stretch are asked at every frame', () => {
  const { store, pass } = stage();
  let speed = 1;
  let range: [number, number] | null = null;
  togglePlay(store, CLIPS, { speed: () => speed, range: () => range });
  pass(500);
  speed = 0.5;
  pass(500);
  expect(store.getState().time).toBeCloseTo(0.75, 9);
  range = [1, 1.25];
  pass(10);
  for (let i = 0; i < 40; i++) {
    pass(30);
    expect(store.getState().time).toBeGreaterThanOrEqual(1);
    expect(store.getState().time).toBeLessThan(1.25);
  }
});

test('stopping stops, and nothing plays where no clip is open', () => {
  const { store, pass, waiting } = stage();
  togglePlay(store, CLIPS);
  pass(100);
  togglePlay(store, CLIPS);
  pass(100);
  expect(store.getState().time).toBeCloseTo(0.1, 9);
  const empty = stage(null);
  togglePlay(empty.store, CLIPS);
  expect(empty.store.getState().playing).toBe(false);
  expect(waiting).toHaveLength(0);
});
