import emberfold from '@itchkit/rulebooks/emberfold';
import { MemoryBlobs, type Behaviour, type Kit } from '../../document';
import { flattenParts, newPose, Poser, copyPose } from '../../geometry';
import { BehaviourPlayer, valuesAtStart } from '../../behaviour';
import { checkRulebook } from '../../rulebook';
import { packKit, readPackage } from '../../ship';
import { walkingBody } from '../../tests/walking-body';
import { FIELD_RATE, FieldBody } from './field-body';
import { checkScript, playScript, SCRIPT_FORMAT, ScriptRecorder } from './script';

const rulebook = checkRulebook(emberfold);
const rules = rulebook.behaviours!;
const blobs = new MemoryBlobs();

const behaviour: Behaviour = {
  layers: [
    {
      id: 'body',
      name: 'Body',
      parts: [],
      how: 'replaces',
      first: 'stand',
      states: [
        { id: 'stand', name: 'stand', clip: 'idle', speed: 1, loop: true },
        { id: 'go', name: 'go', clip: null, mix: 'going', speed: 1, loop: true },
      ],
      passages: [
        {
          id: 'off',
          from: 'stand',
          except: [],
          to: 'go',
          when: [{ kind: 'range', parameter: 'ahead', atLeast: 0.3, below: null }],
          after: 'any',
          over: 0.2,
        },
        {
          id: 'halt',
          from: 'go',
          except: [],
          to: 'stand',
          when: [{ kind: 'sent', parameter: 'jolt' }],
          after: 'any',
          over: 0.1,
        },
      ],
    },
  ],
};

function moving(): Kit {
  const made = walkingBody(blobs, ['idle', 'walk', 'run']);
  const pegs = [
    { id: 'slow', clip: 'walk', at: [1], speed: 1 },
    { id: 'fast', clip: 'run', at: [3], speed: 1 },
  ];
  return {
    ...made,
    targets: [{ rulebook: rulebook.id, version: rulebook.version }],
    mixes: [{ id: 'going', name: 'going', kind: 'line', parameters: ['ahead'], pegs }],
    behaviour,
  };
}
const kit = moving();

const SCRIPT = checkScript(
  {
    format: SCRIPT_FORMAT,
    seconds: 4,
    lines: [
      { at: 0.5, set: { ahead: 1 } },
      { at: 1.5, set: { ahead: 2.5 }, turning: 90 },
      { at: 2.5, turning: 0 },
      { at: 3, set: { ahead: 0 }, send: ['jolt'] },
    ],
  },
  rules.parameters,
);

test('a body goes as fast as is passed in, where it faces', () => {
  const frames = playScript(kit, blobs, rules, SCRIPT);
  expect(frames).toHaveLength(4 * FIELD_RATE);
  const at = (seconds: number) => frames[Math.round(seconds * FIELD_RATE) - 1];
  expect(at(1.5).place[1]).toBeCloseTo(1, 6);
  expect(at(1.5).place[0]).toBeCloseTo(0, 6);
  expect(at(4).facing).toBeCloseTo(90, 6);
  // A quarter of a round of 2.5 m/s in a second, then half a second to the left.
  const radius = 2.5 / (Math.PI / 2);
  expect(at(3).place[0]).toBeCloseTo(radius + 1.25, 1);
  expect(at(3).place[1]).toBeCloseTo(1 + radius, 1);
  expect(at(4).place).toEqual(at(3).place);
});

test('what is sent is there for one frame, and the passage that it opens is remembered with its values', () => {
  const frames = playScript(kit, blobs, rules, SCRIPT);
  const taken = frames.filter(({ layers: [{ taken: list }] }) => list.length > 0);
  expect(taken.map(({ layers: [{ taken: list }] }) => list)).toEqual([['off'], ['halt']]);
  expect(taken[1].seconds).toBeCloseTo(3 + 1 / FIELD_RATE, 6);
  expect(frames.at(-1)!.layers[0].state).toBe('stand');
});

test('shares are those of the mix at what is passed in', () => {
  const frame = playScript(kit, blobs, rules, SCRIPT)[Math.round(2.4 * FIELD_RATE)];
  expect(frame.layers[0].shares).toEqual([
    { clip: 'walk', share: 0.25 },
    { clip: 'run', share: 0.75 },
  ]);
});

test('the same script gives the same frames from the kit, from the package, and on the bench', async () => {
  const { bytes } = await packKit(kit, rulebook, blobs, []);
  const other = new MemoryBlobs();
  const loaded = await readPackage(bytes, other);
  const names = (one: Kit) => (id: string | null) => (id === null ? null : one.clips[id].name);
  const told = (one: Kit, of: MemoryBlobs) =>
    playScript(one, of, rules, SCRIPT).map(({ layers, ...frame }) => ({
      ...frame,
      layers: layers.map(({ shares, over, seconds }) => ({
        over,
        seconds,
        shares: shares.map(({ clip, share }) => [names(one)(clip), share]),
      })),
    }));
  expect(told(loaded.kit, other)).toEqual(told(kit, blobs));

  // Poses: what the package has is baked, within what Ship promises.
  const bodies = [
    { of: kit, body: new FieldBody(kit, blobs, rules) },
    { of: loaded.kit, body: new FieldBody(loaded.kit, other, rules) },
  ].map((one) => ({ ...one, poser: new Poser(flattenParts(one.of)), pose: newPose(flattenParts(one.of)) }));
  const bench = new BehaviourPlayer(kit, flattenParts(kit), blobs, rules, valuesAtStart(rules.parameters));
  const onBench = newPose(flattenParts(kit));
  for (let i = 0; i < 150; i++) {
    const values = { ahead: i < 20 ? 0 : 1.8 };
    const [a, b] = bodies.map(({ body: one, poser, pose, of }) => {
      one.frame({ values, turning: 0 });
      one.pose(pose);
      copyPose(poser.pose, pose);
      poser.update();
      // The platform's left is where its x goes down.
      const side = of === kit ? 1 : -1;
      return Object.fromEntries(
        Object.values(of.parts).map((part) => {
          const [x, y, z] = poser.worldOf(part.id).subarray(12, 15);
          return [part.name, [side * x, y, z]];
        }),
      );
    });
    for (const [name, place] of Object.entries(a)) expect(Math.hypot(...place.map((value, k) => value - b[name][k]))).toBeLessThan(0.004);
    bench.step({ ...valuesAtStart(rules.parameters), ...values }, 1 / FIELD_RATE);
    bench.pose(onBench);
    expect([...onBench.spin]).toEqual([...bodies[0].pose.spin]);
  }
}, 60_000);

test('time that is no whole frame is kept for the next', () => {
  const one = new FieldBody(kit, blobs, rules);
  const passed = [0.01, 0.01, 0.01, 0.5].map((seconds) => one.pass(() => ({ values: { ahead: 1 }, turning: 0 }), seconds));
  expect(passed).toEqual([0, 1, 0, 30]);
  expect(one.now().seconds).toBeCloseTo(31 / FIELD_RATE, 9);
});

test('what is worked by hand and written down is played again as it was', () => {
  const live = new FieldBody(kit, blobs, rules);
  const recorder = new ScriptRecorder();
  const frames = Array.from({ length: 200 }, (_, i) => {
    const values = { ahead: i < 30 ? 0 : 2 + Math.round(Math.sin(i / 20) * 10) / 10, gait: 'upright', jolt: i === 150 };
    const turning = i > 60 && i < 90 ? 45 : 0;
    recorder.note(i / FIELD_RATE, values, turning);
    live.frame({ values, turning });
    return live.now();
  });
  const script = checkScript(JSON.parse(JSON.stringify(recorder.script(200 / FIELD_RATE))), rules.parameters);
  expect(playScript(kit, blobs, rules, script)).toEqual(frames);
});

test.each([
  ['no script', 3, /must be of type object/],
  ['another format', { format: 'x', seconds: 1, lines: [] }, /format/],
  ['a value that nobody passes in', { set: { wind: 1 } }, /^lines\.0\.set\.wind: “wind” is no value/],
  ['a number beyond its range', { set: { ahead: 99 } }, /^lines\.0\.set\.ahead: “ahead” is a number from -2 to 7/],
  ['a name that there is not', { set: { gait: 'flying' } }, /“gait” is upright or limping or crouching/],
  ['a signal that is set', { set: { jolt: 1 } }, /“jolt” is no value that this platform passes in; it is sent/],
  ['what is not sent', { send: ['ahead'] }, /^lines\.0\.send\.0: nothing called “ahead” is sent/],
  ['a line after the end', { at: 9, turning: 1 }, /^lines\.0\.at: it comes after the end/],
])('%s is refused in a sentence, with its place', (_, said, expected) => {
  const whole = typeof said === 'object' && !('format' in said) ? { format: SCRIPT_FORMAT, seconds: 2, lines: [{ at: 0, ...said }] } : said;
  expect(() => checkScript(whole, rules.parameters)).toThrow(expected);
});

test('a body goes by a number of the kit’s own as by the one that it is worked out of', () => {
  const derived = [{ id: 'own', name: 'pace', expression: 'ahead * 1', unit: 'm/s', min: -2, max: 7, neutral: 0 }];
  const kit = moving();
  const asked = (parameter: string): Kit => ({
    ...kit,
    derived,
    behaviour: {
      layers: kit.behaviour!.layers.map((layer) => ({
        ...layer,
        passages: layer.passages.map((passage) => ({
          ...passage,
          when: passage.when.map((one) => (one.parameter === 'ahead' ? { ...one, parameter } : one)),
        })),
      })),
    },
  });
  const [own, plain] = ['pace', 'ahead'].map((parameter) => new FieldBody(asked(parameter), blobs, rules));
  for (let frame = 0; frame < 200; frame++) {
    const wish = { values: { ahead: 4 * Math.sin(frame / 30), pace: 99 }, turning: 0 };
    own.frame(wish);
    plain.frame(wish);
    expect(own.now().layers.map(({ state }) => state)).toEqual(plain.now().layers.map(({ state }) => state));
  }
  expect(own.taken.length).toBeGreaterThan(0);
  expect(own.taken[0].values.pace).toBe(own.taken[0].values.ahead);
});
