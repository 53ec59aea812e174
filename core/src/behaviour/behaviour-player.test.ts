import fc from 'fast-check';
import { MemoryBlobs, type Behaviour, type Kit, type Layer, type Passage } from '../document';
import { copyPose, flattenParts, newPose, Poser, type Pose } from '../geometry';
import { chainKit } from '../tests/helpers';
import { walkingBody } from '../tests/walking-body';
import { BehaviourPlayer, maskOf, weightOf } from './behaviour-player';
import { playLayer, type LayerAt } from './interpreter';
import type { Values } from './rules';

const blobs = new MemoryBlobs();

const moved = walkingBody(blobs, ['idle', 'walk', 'run', 'crouch']);
const flat = flattenParts(moved);

const state = (id: string, clip: string | null = id, loop = true) => ({ id, name: id, clip, speed: 1, loop });
const way = (from: string | null, to: string, said: Partial<Passage>): Passage => ({
  id: `${from}-${to}`,
  from,
  except: [],
  to,
  when: [],
  after: 'any',
  over: 0.3,
  ...said,
});
const ahead = (atLeast: number | null, below: number | null) => ({ kind: 'range' as const, parameter: 'ahead', atLeast, below });
const BODY: Layer = {
  id: 'body',
  name: 'Body',
  parts: [],
  how: 'replaces',
  first: 'idle',
  states: [state('idle'), state('walk'), state('run')],
  passages: [
    way('idle', 'walk', { when: [ahead(0.5, null)] }),
    way('walk', 'idle', { when: [ahead(null, 0.5)] }),
    way('walk', 'run', { when: [ahead(2, null)] }),
    way('run', 'walk', { when: [ahead(null, 2)], after: 'end' }),
  ],
};

const kitOf = (behaviour: Behaviour, said: Partial<Kit> = {}): Kit => ({ ...moved, ...said, behaviour });
const playerOf = (kit: Kit, values: Values) => new BehaviourPlayer(kit, flat, blobs, { chain: 4 }, values);

function worldOf(pose: Pose): Float64Array {
  const poser = new Poser(flat);
  copyPose(poser.pose, pose);
  poser.update();
  return poser.world.slice();
}

function poseNow(player: BehaviourPlayer): Float64Array {
  const pose = newPose(flat);
  player.pose(pose);
  return worldOf(pose);
}

/** How far the part that goes furthest goes, metres. */
function furthest(a: Float64Array, b: Float64Array): number {
  let most = 0;
  for (let p = 0; p < flat.ids.length; p++) most = Math.max(most, Math.hypot(...[12, 13, 14].map((k) => a[16 * p + k] - b[16 * p + k])));
  return most;
}

const frames = fc.array(fc.double({ min: -1, max: 4, noNaN: true }), { minLength: 20, maxLength: 120 });

test('it is in the states in which a plain interpreter is, frame by frame', () => {
  fc.assert(
    fc.property(frames, (list) => {
      const player = playerOf(kitOf({ layers: [BODY] }), { ahead: 0 });
      let at: LayerAt = { state: 'idle', seconds: 0 };
      for (const value of list) {
        player.step({ ahead: value }, 1 / 30);
        const step = playLayer(BODY, at, { ahead: value }, 1 / 30, {
          lengthOf: ({ clip }) => moved.clips[clip!].lengthSeconds,
          chain: 4,
        });
        at = step.at;
        expect(player.now()[0]).toMatchObject({ state: at.state, seconds: at.seconds, taken: step.taken });
      }
    }),
    { numRuns: 40 },
  );
});

test('whatever is passed in, nothing jumps: broken off on the way it goes on from where it is', () => {
  fc.assert(
    fc.property(frames, (list) => {
      const player = playerOf(kitOf({ layers: [BODY] }), { ahead: 0 });
      let before = poseNow(player);
      for (const value of list) {
        // Values are kept for a while, so that passages are broken off at all places.
        for (let k = 0; k < 4; k++) {
          player.step({ ahead: value }, 1 / 120);
          const now = poseNow(player);
          // A running foot goes 8 m/s; a passage of 0.3 s between two poses a metre apart adds a few.
          expect(furthest(before, now)).toBeLessThan(20 / 120);
          before = now;
        }
      }
    }),
    { numRuns: 25 },
  );
});

test('a firm passage is not broken off; any other is', () => {
  const passages = (firm?: true) => [
    way('idle', 'walk', { when: [ahead(1, null)], over: 0.5, firm }),
    way('walk', 'idle', { when: [ahead(null, 1)] }),
  ];
  const after = (firm: true | undefined, seconds: number) => {
    const player = playerOf(kitOf({ layers: [{ ...BODY, passages: passages(firm) }] }), { ahead: 0 });
    player.step({ ahead: 2 }, 1 / 60);
    for (let t = 0; t < seconds - 1e-9; t += 1 / 60) player.step({ ahead: 0 }, 1 / 60);
    return player.now()[0].state;
  };
  expect(after(undefined, 0.1)).toBe('idle');
  expect(after(true, 0.1)).toBe('walk');
  expect(after(true, 0.6)).toBe('idle');
});

test('it begins where the passage says: halfway through a round, or as far along as what it leaves', () => {
  const walkSeconds = moved.clips.walk.lengthSeconds;
  const runSeconds = moved.clips.run.lengthSeconds;
  const toRun = (begins: Passage['begins']): Layer => ({
    ...BODY,
    first: 'walk',
    passages: [way('walk', 'run', { when: [ahead(2, null)], over: 0, begins })],
  });
  const played = (begins: Passage['begins'], seconds: number) => {
    const player = playerOf(kitOf({ layers: [toRun(begins)] }), { ahead: 1 });
    player.step({ ahead: 1 }, seconds);
    player.step({ ahead: 3 }, 0);
    return player;
  };
  const alone = (seconds: number) => {
    const player = playerOf(kitOf({ layers: [{ ...BODY, first: 'run', passages: [] }] }), { ahead: 3 });
    player.step({ ahead: 3 }, seconds);
    return poseNow(player);
  };
  fc.assert(
    fc.property(fc.double({ min: 0, max: 3, noNaN: true }), fc.double({ min: 0.01, max: 0.99, noNaN: true }), (seconds, share) => {
      const rounds = (seconds / walkSeconds) % 1;
      const along = played('along', seconds);
      expect(along.now()[0].seconds).toBeCloseTo(rounds * runSeconds, 9);
      expect(furthest(poseNow(along), alone(rounds * runSeconds))).toBeLessThan(1e-6);
      const at = played(share, seconds);
      expect(at.now()[0].seconds).toBeCloseTo(share * runSeconds, 9);
      expect(furthest(poseNow(at), alone(share * runSeconds))).toBeLessThan(1e-6);
    }),
    { numRuns: 40 },
  );
  expect(played(undefined, 0.4).now()[0].seconds).toBe(0);
});

test('what is left of a round counts: what waits for the end of it comes that much sooner', () => {
  const player = playerOf(
    kitOf({
      layers: [
        {
          ...BODY,
          first: 'walk',
          passages: [way('walk', 'run', { when: [ahead(2, null)], over: 0.1, begins: 0.75 }), way('run', 'idle', { after: 'end' })],
        },
      ],
    }),
    { ahead: 3 },
  );
  const frame = moved.clips.run.lengthSeconds / 100;
  player.step({ ahead: 3 }, frame);
  let passed = 0;
  while (player.now()[0].state === 'run' && passed < 200) {
    player.step({ ahead: 3 }, frame);
    passed++;
  }
  expect(passed).toBe(25);
});

test('the game is told what a state says each time that it begins, and at the start what the first one says', () => {
  const told = [{ ...state('idle'), sends: ['at rest'] }, { ...state('walk'), sends: ['off', 'lamp on'] }, state('run')];
  const player = playerOf(kitOf({ layers: [{ ...BODY, states: told }] }), { ahead: 0 });
  const next = (value: number) => {
    player.step({ ahead: value }, 1 / 30);
    return player.now()[0].sent;
  };
  expect([0, 0, 1, 1, 3, 3].map(next)).toEqual([['at rest'], [], ['off', 'lamp on'], [], [], []]);
});

test('by another gait a state plays something else, and goes over into it', () => {
  const kit = kitOf({
    gait: 'gait',
    layers: [{ ...BODY, states: [{ ...state('idle'), gaits: [{ gait: 'low', clip: 'crouch' }] }], passages: [] }],
  });
  const player = playerOf(kit, { gait: 'upright' });
  const hips = () => poseNow(player)[16 * flat.indexOf.get('hips')! + 13];
  const upright = hips();
  const heights = Array.from({ length: 40 }, () => {
    player.step({ gait: 'low' }, 1 / 60);
    return hips();
  });
  expect(upright - heights[39]).toBeGreaterThan(0.2);
  // All the way down, without a jump.
  expect(Math.max(...heights.map((y, i) => Math.abs(y - (heights[i - 1] ?? upright))))).toBeLessThan(0.05);
  expect(player.now()[0].shares).toEqual([{ clip: 'crouch', share: 1 }]);
});

test('a layer over an arm changes the arm and all below it, and nothing else; on top it comes to what is there', () => {
  const arm = (how: Layer['how']): Layer => ({
    id: 'arm',
    name: 'Arm',
    parts: ['upper_arm_l'],
    how,
    first: 'low',
    states: [state('low', 'crouch')],
    passages: [],
  });
  const [without, ...withs] = [[], [arm('replaces')], [arm('adds')]].map((over) => {
    const player = playerOf(kitOf({ layers: [BODY, ...over] }), { ahead: 0 });
    player.step({ ahead: 0 }, 0.4);
    const pose = newPose(flat);
    player.pose(pose);
    return pose;
  });
  for (const pose of withs)
    flat.ids.forEach((id, p) => {
      const own = pose.spin.subarray(4 * p, 4 * p + 4);
      const was = without.spin.subarray(4 * p, 4 * p + 4);
      const inArm = ['upper_arm_l', 'forearm_l', 'hand_l'].includes(id);
      const apart = 1 - Math.abs(own.reduce((sum, value, k) => sum + value * was[k], 0));
      if (!inArm) expect(apart).toBeLessThan(1e-12);
      else if (id !== 'hand_l') expect(apart).toBeGreaterThan(1e-5);
    });
});

test('a state that plays nothing leaves what the layers before do; it comes and goes without a jump', () => {
  const arm: Layer = {
    id: 'arm',
    name: 'Arm',
    parts: ['upper_arm_l'],
    how: 'replaces',
    first: 'none',
    states: [state('none', null), state('low', 'crouch')],
    passages: [
      way('none', 'low', { when: [{ kind: 'among', parameter: 'arm', values: ['yes'] }] }),
      way('low', 'none', { when: [{ kind: 'among', parameter: 'arm', values: ['no'] }] }),
    ],
  };
  const [plain, layered] = [[BODY], [BODY, arm]].map((layers) => playerOf(kitOf({ layers }), { ahead: 0, arm: 'no' }));
  let before = poseNow(layered);
  for (let i = 0; i < 120; i++) {
    const values = { ahead: 0, arm: i >= 20 && i < 70 ? 'yes' : 'no' };
    plain.step(values, 1 / 60);
    layered.step(values, 1 / 60);
    const now = poseNow(layered);
    expect(furthest(before, now)).toBeLessThan(0.06);
    before = now;
    const apart = furthest(poseNow(plain), now);
    if (i < 20 || i > 95) expect(apart).toBeLessThan(1e-9);
    if (i === 60) expect(apart).toBeGreaterThan(0.05);
  }
});

test('a mask takes what is named and all below it, over its edge more and more, and nothing else', () => {
  const tree = fc.array(fc.nat(), { minLength: 1, maxLength: 14 });
  fc.assert(
    fc.property(tree, fc.array(fc.nat(), { minLength: 1, maxLength: 3 }), fc.integer({ min: 0, max: 4 }), (parents, chosen, edge) => {
      const { kit } = chainKit([{ id: 'p0' }, ...parents.map((n, i) => ({ id: `p${i + 1}`, parent: `p${n % (i + 1)}` }))]);
      const all = flattenParts(kit);
      const parts = [...new Set(chosen.map((n) => `p${n % (parents.length + 1)}`))];
      const mask = maskOf({ parts, edge }, all);
      all.ids.forEach((id, p) => {
        // The way up, from the part itself: the last of those that are named decides how deep it is.
        const up: string[] = [];
        for (let at: string | null = id; at !== null; at = kit.parts[at].parent) up.push(at);
        const deep = up.reduce((last, one, i) => (parts.includes(one) ? i : last), -1);
        expect(mask[p]).toBeCloseTo(deep < 0 ? 0 : Math.min(1, (deep + 1) / (edge + 1)), 12);
      });
    }),
  );
  expect([...maskOf({ parts: [] }, flat)].every((share) => share === 1)).toBe(true);
});

test('a layer is there in so far as a value says so, either way round', () => {
  const weight = (none: number, whole: number, value: Values[string]) =>
    weightOf({ weight: { parameter: 'ahead', none, whole } }, { ahead: value });
  expect([weight(0, 2, -1), weight(0, 2, 1), weight(0, 2, 5)]).toEqual([0, 0.5, 1]);
  expect([weight(2, 0, -1), weight(2, 0, 0.5), weight(2, 0, 5)]).toEqual([1, 0.75, 0]);
  expect(weight(0, 1, 'fast')).toBe(0);
  expect(weightOf({}, {})).toBe(1);
});

test('the same values give the same poses, to the bit', () => {
  const played = () => {
    const player = playerOf(kitOf({ layers: [BODY] }), { ahead: 0 });
    for (let i = 0; i < 200; i++) player.step({ ahead: 2 + 2 * Math.sin(i / 9) }, 1 / 60);
    return [...poseNow(player)];
  };
  expect(played()).toEqual(played());
});
