import { mixesWithSteps } from '../behaviour';
import { MemoryBlobs, type Behaviour, type Kit } from '../document';
import { SHIPPED, SOUND } from '../tests/sound-kits';
import { behaviourOfTable, behaviourTable, BEHAVIOUR_FORMAT } from './behaviour-table';
import { packKit } from './pack-kit';
import { readPackage } from './read-package';

/** The same by names: ids are made anew whenever a table is taken. */
const byNames = (kit: Kit) => behaviourTable(kit);
const taken = (value: unknown, kit: Kit): Behaviour => behaviourOfTable(value, kit).behaviour;

const mix = (more: object = {}) => ({ name: 'going', kind: 'line', parameters: ['ahead'], clips: [{ clip: 'walk', at: [1] }], ...more });

const small = (more: object = {}) => ({
  format: BEHAVIOUR_FORMAT,
  layers: [
    {
      name: 'Body',
      first: 'stand',
      states: [{ name: 'stand', clip: 'idle' }, { name: 'go' }],
      passages: [{ from: 'stand', to: 'go' }],
      ...more,
    },
  ],
});

test('what a table says is what was said, and is taken again as it was', () => {
  const { kit } = SOUND.emberfold();
  kit.behaviour!.layers[0].parts = ['chest'];
  kit.behaviour!.layers[0].passages.push({ id: 'down', from: null, except: ['run'], to: 'idle', when: [], after: 'end', over: 0 });
  Object.assign(kit.behaviour!.layers[0].states[0], { sends: ['at rest'], group: 'quiet' });
  Object.assign(kit.behaviour!.layers[0].passages[0], { begins: 'along' });
  Object.assign(kit.behaviour!.layers[0].passages[1], { begins: 0.5 });
  const table = byNames(kit);
  expect(table.layers[0].states[0]).toMatchObject({ sends: ['at rest'], group: 'quiet' });
  expect(table.layers[0].passages.slice(0, 2).map(({ begins }) => begins)).toEqual(['along', 0.5]);
  expect(table.layers[0]).toMatchObject({ name: 'body', parts: ['chest'], first: 'idle' });
  expect(table.layers[0].passages.at(-1)).toEqual({ from: null, except: ['run'], to: 'idle', when: [], after: 'end', over: 0 });
  const again = behaviourOfTable(JSON.parse(JSON.stringify(table)), kit);
  expect(byNames({ ...kit, ...again })).toEqual(table);
});

test('what is left out is as people expect: over and over, at its own speed, at any time', () => {
  const { kit } = SOUND.emberfold();
  const [{ how, parts, states, passages }] = taken(small(), kit).layers;
  expect([how, parts]).toEqual(['replaces', []]);
  expect(states.map(({ clip, speed, loop }) => [clip, speed, loop])).toEqual([
    ['idle', 1, true],
    [null, 1, true],
  ]);
  expect(passages.map(({ when, after, over }) => [when, after, over])).toEqual([[[], 'any', 0.2]]);
});

test.each([
  ['no table', 'nothing', /must be of type object/],
  ['another format', { ...small(), format: 'other/1' }, /format.*must be \[itchkit.behaviour\/1\]/],
  [
    'a clip that is not there',
    small({ states: [{ name: 'stand', clip: 'swim' }, { name: 'go' }] }),
    /^layers\.0\.states\.0\.clip: there is no clip “swim”/,
  ],
  ['a state that is not there', small({ first: 'lie' }), /^layers\.0\.first: there is no state “lie”/],
  ['a part that is not there', small({ parts: ['tail'] }), /^layers\.0\.parts\.0: there is no part “tail”/],
  ['a passage to nowhere', small({ passages: [{ from: 'stand', to: 'fly' }] }), /^layers\.0\.passages\.0\.to: there is no state “fly”/],
  [
    'a condition of no kind',
    small({ passages: [{ from: 'stand', to: 'go', when: [{ kind: 'maybe', parameter: 'x' }] }] }),
    /layers\.0\.passages\.0\.when/,
  ],
  [
    'a mix of a clip that is not there',
    { ...small(), mixes: [mix({ clips: [{ clip: 'swim', at: [1] }] })] },
    /^mixes\.0\.clips\.0\.clip: there is no clip “swim”/,
  ],
  ['a mix whose places do not fit', { ...small(), mixes: [mix({ kind: 'across' })] }, /^mixes\.0: the mix “going” goes by two parameters/],
  [
    'a mix that is not there',
    small({ states: [{ name: 'stand', mix: 'going' }, { name: 'go' }] }),
    /layers\.0\.states\.0\.mix: there is no mix/,
  ],
  [
    'a clip and a mix at once',
    { ...small({ states: [{ name: 'stand', clip: 'idle', mix: 'going' }, { name: 'go' }] }), mixes: [mix()] },
    /at once/,
  ],
  ['two states of one name', small({ states: [{ name: 'stand' }, { name: 'stand' }] }), /layers\.0\.states\.1/],
])('%s is refused with its place', (_, value, said) => {
  const { kit } = SOUND.emberfold();
  expect(() => taken(value, kit)).toThrow(said);
});

test('a package has it as a file and in its manifest, and gives the same behaviour back', async () => {
  const { kit, blobs } = SOUND.emberfold();
  const [body, gait] = kit.behaviour!.layers;
  Object.assign(gait, { parts: ['chest', 'head'], edge: 2, weight: { parameter: 'ahead', none: 0, whole: 3 } });
  body.passages[0].firm = true;
  kit.behaviour!.gait = 'gait';
  kit.mixes!.push({
    id: 'field',
    name: 'field',
    kind: 'around',
    parameters: ['ahead', 'side'],
    pegs: [
      { id: 'middle', clip: null, at: [0, 0], speed: 1 },
      { id: 'on', clip: 'run', at: [3, 0.5], speed: 1.25 },
    ],
  });
  body.states[2].gaits = [
    { gait: 'limping', clip: 'walk' },
    { gait: 'crouching', clip: null, mix: 'field' },
  ];
  const table = byNames(kit);
  const again = behaviourOfTable(JSON.parse(JSON.stringify(table)), kit);
  expect(byNames({ ...kit, ...again })).toEqual(table);
  const { bytes } = await packKit(kit, SHIPPED.emberfold, blobs, []);
  const { kit: loaded, manifest } = await readPackage(bytes, new MemoryBlobs());
  // The steps that were found go with it.
  expect(byNames(loaded)).toEqual(byNames({ ...kit, mixes: mixesWithSteps(kit, blobs) }));
  expect(manifest.files.map(({ path }) => path)).toContain('bodies/sound.behaviour.json');
});
