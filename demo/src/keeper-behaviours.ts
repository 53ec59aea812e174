import { BEHAVIOUR_FORMAT } from '@itchkit/core/ship';

const ahead = (atLeast: number | null, below: number | null) => ({ kind: 'range', parameter: 'ahead', atLeast, below });

/** What the keeper plays: it stands, walks and runs by how fast it goes ahead; between two speeds it keeps to what it does. */
export const KEEPER = {
  format: BEHAVIOUR_FORMAT,
  layers: [
    {
      name: 'Body',
      first: 'stand',
      states: [
        { name: 'stand', clip: 'idle' },
        { name: 'walk', clip: 'walk' },
        { name: 'run', clip: 'run' },
      ],
      passages: [
        { from: 'stand', to: 'walk', when: [ahead(0.4, null)] },
        { from: 'walk', to: 'stand', when: [ahead(null, 0.3)] },
        { from: 'walk', to: 'run', when: [ahead(2.6, null)] },
        { from: 'run', to: 'walk', when: [ahead(null, 2.4)] },
      ],
    },
  ],
};

const is = (parameter: string, value: string) => ({ kind: 'among', parameter, values: [value] });

const SIDES_HIT = ['front', 'back', 'left', 'right'];

/** A blow that it gives way to: what of it is struck, from which sides, and the clip. */
const blows = (struck: string, sides: readonly (readonly [clip: string, from: readonly string[]])[]) => ({
  states: sides.map(([clip]) => ({ name: clip.replaceAll('-', ' '), clip, loop: false, group: `blows on the ${struck}` })),
  passages: sides.flatMap(([clip, values]) => [
    {
      from: 'calm',
      to: clip.replaceAll('-', ' '),
      when: [{ kind: 'sent', parameter: 'jolt' }, is('struck', struck), { kind: 'among', parameter: 'from', values }],
      over: 0.05,
      firm: true,
    },
    { from: clip.replaceAll('-', ' '), to: 'calm', when: [], after: 'end', over: 0.15 },
  ]),
});
const each = (prefix: string) => SIDES_HIT.map((side) => [`${prefix}${side}`, [side]] as const);
const ON_TRUNK = blows('trunk', each('hit-'));
const ON_HEAD = blows('head', each('hit-head-'));
const ON_LEGS = blows('leg', [
  ['hit-leg-left', ['left', 'front']],
  ['hit-leg-right', ['right', 'back']],
]);

/** A clip of a mix, where its own feet have it. */
export type PegAt = (clip: string, speed?: number) => { clip: string; at: number[]; speed: number };

/** What the finished keeper plays: gaits, blows, a fall, its lantern. */
export const finishedKeeper = (at: PegAt) => ({
  format: BEHAVIOUR_FORMAT,
  mixes: [
    { name: 'on foot', kind: 'line', parameters: ['ahead'], clips: [at('walk', 0.5), at('walk'), at('run'), at('run', 1.5)] },
    { name: 'lame', kind: 'line', parameters: ['ahead'], clips: [at('limp', 0.5), at('limp'), at('limp', 2)] },
    { name: 'low', kind: 'line', parameters: ['ahead'], clips: [at('sneak', 0.5), at('sneak'), at('sneak', 2)] },
  ],
  gait: 'gait',
  layers: [
    {
      name: 'Body',
      first: 'stand',
      states: [
        { name: 'stand', clip: 'idle', gaits: [{ gait: 'crouching', clip: 'crouch' }] },
        {
          name: 'go',
          mix: 'on foot',
          gaits: [
            { gait: 'limping', mix: 'lame' },
            { gait: 'crouching', mix: 'low' },
          ],
        },
        { name: 'fall', clip: 'fall', loop: false, sends: ['down'] },
        { name: 'rise', clip: 'rise', loop: false, sends: ['getting up'] },
      ],
      passages: [
        { from: null, except: ['rise'], to: 'fall', when: [is('down', 'yes')], over: 0.15 },
        { from: 'stand', to: 'go', when: [is('down', 'no'), ahead(0.2, null)] },
        { from: 'go', to: 'stand', when: [is('down', 'no'), ahead(null, 0.1)] },
        { from: 'fall', to: 'rise', when: [is('down', 'no')], after: 'end' },
        { from: 'rise', to: 'stand', when: [], after: 'end', over: 0.3 },
      ],
    },
    {
      name: 'Lantern arm',
      how: 'replaces',
      parts: ['upper_arm_r'],
      edge: 1,
      first: 'lowered',
      states: [{ name: 'lowered' }, { name: 'raised', clip: 'raise', loop: false }],
      passages: [
        { from: 'lowered', to: 'raised', when: [is('lantern', 'yes')], over: 0.3 },
        { from: 'raised', to: 'lowered', when: [is('lantern', 'no')], over: 0.3 },
      ],
    },
    {
      name: 'Blows',
      how: 'adds',
      parts: ['spine'],
      first: 'calm',
      states: [{ name: 'calm' }, ...ON_TRUNK.states, ...ON_HEAD.states],
      passages: [...ON_TRUNK.passages, ...ON_HEAD.passages],
    },
    { name: 'Stumbles', how: 'adds', parts: [], first: 'calm', states: [{ name: 'calm' }, ...ON_LEGS.states], passages: ON_LEGS.passages },
  ],
});

/** What the tangled keeper plays: a mistake of every kind. */
export const tangledKeeper = (at: PegAt) => ({
  format: BEHAVIOUR_FORMAT,
  // The walk stands where its feet are not as fast.
  mixes: [{ name: 'on foot', kind: 'line', parameters: ['ahead'], clips: [{ ...at('walk'), at: [0.4] }, at('run')] }],
  layers: [
    {
      name: 'Body',
      first: 'stand',
      states: [
        { name: 'stand', clip: 'idle' },
        { name: 'go', mix: 'on foot' },
        { name: 'limp', clip: 'limp' },
        { name: 'fall', clip: 'fall', loop: false },
        // Nothing leads here.
        { name: 'crouch', clip: 'crouch' },
        // It plays nothing, and goes back and forth with another within one frame.
        { name: 'pause' },
        { name: 'turn', clip: 'idle' },
      ],
      passages: [
        // Nothing leads out of a fall.
        { from: null, to: 'fall', when: [is('down', 'yes')], over: 0.15 },
        // Both are open where somebody limps ahead.
        { from: 'stand', to: 'go', when: [ahead(0.2, null)] },
        { from: 'stand', to: 'limp', when: [is('gait', 'limping')] },
        { from: 'go', to: 'stand', when: [ahead(null, 0.1)] },
        { from: 'limp', to: 'stand', when: [is('gait', 'upright')] },
        // No speed is as fast and as slow at once.
        { from: 'go', to: 'limp', when: [ahead(3, null), ahead(null, 2)] },
        // The platform passes in nothing of that name, and has no such gait.
        { from: 'limp', to: 'go', when: [{ kind: 'range', parameter: 'haste', atLeast: 1, below: null }] },
        { from: 'go', to: 'pause', when: [is('gait', 'crawling')] },
        { from: 'stand', to: 'pause', when: [is('gait', 'crouching')], over: 0 },
        { from: 'pause', to: 'turn', when: [is('gait', 'crouching')], over: 0 },
        { from: 'turn', to: 'pause', when: [is('gait', 'crouching')], over: 0 },
        { from: 'turn', to: 'stand', when: [is('gait', 'upright')] },
        { from: 'pause', to: 'stand', when: [is('gait', 'upright')] },
      ],
    },
    {
      name: 'Lantern arm',
      how: 'replaces',
      parts: ['upper_arm_r'],
      first: 'raised',
      states: [{ name: 'raised', clip: 'raise', loop: false }],
      passages: [],
    },
    // It plays on all that the arm has, always.
    {
      name: 'Upper body',
      how: 'replaces',
      parts: ['spine'],
      first: 'breathes',
      states: [{ name: 'breathes', clip: 'idle' }],
      passages: [],
    },
  ],
});
