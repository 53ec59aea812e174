import { callOf, type Binding, type Blobs, type Kit, type PoseDelta, type Span, type Vec3 } from '@itchkit/core/document';
import type { Rulebook } from '@itchkit/core/rulebook';
import { mendAllSafe } from '@itchkit/core/operations';
import { setRole } from '@itchkit/core/shape';
import { addBinding, addLink, bindTwins, makeBlur, setBindingRow, setSwitch } from '@itchkit/core/wiring';
import type { Hands } from './hands';
import { modelled } from './rigged-kits';
import { buildTideLockGlb, LOCK } from './tide-lock-glb';

const REST: PoseDelta = { offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] };
type Rows = [value: number, pose: Partial<PoseDelta>][];
const rowsOf = (rows: Rows): Binding['rows'] => rows.map(([value, pose]) => ({ ...REST, ...pose, value }));

function bind(hands: Hands, part: string, variable: string, index: number, rows: Rows, outside: 'clamp' | 'wrap' = 'clamp'): void {
  hands.do(callOf(addBinding, { part: hands.part(part), variable, index, outside, rows: rowsOf(rows) }));
}

/** The own axis that lies upright, or across, at rest: nothing of the lock is turned. */
const [ACROSS, UPRIGHT] = [0, 1] as const;

const GATE = { variable: 'lock_gate_swing', min: 0, max: 78, neutral: 0 };
const TROLLEY = { variable: 'trolley_way', min: -3, max: 3, neutral: 0 };

/** Strut and arm meet over the wall; the wheel rolls on its rail. */
function linkLeft(hands: Hands): void {
  const [strut, arm, wheel] = ['drv_strut_left', 'drv_arm_left', 'drv_wheel_left'].map((name) => hands.part(name));
  const at = LOCK.joint.map((value, i) => Number((value - LOCK.strutHinge[i]).toFixed(6))) as Vec3;
  hands.do(callOf(addLink, { kind: 'meet', parts: [strut, arm], axes: [UPRIGHT, UPRIGHT], at, on: null, index: 0, ...GATE }));
  const down: Vec3 = [0, -LOCK.wheelRadius, 0];
  hands.do(callOf(addLink, { kind: 'roll', parts: [wheel], axes: [ACROSS], at: down, on: null, index: 0, ...TROLLEY }));
}

const bindingsOf = (hands: Hands, ...names: string[]) => {
  const parts = names.map((name) => hands.part(name));
  return Object.values(hands.kit.bindings).filter(({ part }) => parts.includes(part));
};

/** The lock taken in, in order, with its pivots on their axes: what is left is to wire it. */
async function inOrder(name: string, rulebook: Rulebook, blobs: Blobs): Promise<Hands> {
  const hands = await modelled(await buildTideLockGlb(), 'tide-lock.glb', name, rulebook, blobs);
  hands.kit = mendAllSafe(hands.kit, rulebook, blobs).kit;
  const driven = Object.values(hands.kit.parts).filter((part) => part.name.startsWith('drv_'));
  hands.do(callOf(setRole, { parts: driven.map(({ id }) => id), role: 'driven' }));
  for (const [word, x] of [
    ['left', 1],
    ['right', -1],
  ] as const) {
    const over = ([px, py, pz]: readonly [number, number, number]) => [x * px, py, pz];
    hands.pivotAt(`drv_gate_${word}`, over(LOCK.gateHinge));
    hands.pivotAt(`drv_strut_${word}`, over(LOCK.strutHinge));
    hands.pivotAt(`drv_arm_${word}`, over(LOCK.armHinge));
    hands.pivotAt(`drv_wheel_${word}`, over(LOCK.wheel));
  }
  hands.pivotAt('drv_pump_wheel', LOCK.pump);
  hands.pivotAt('drv_hook', LOCK.hook);
  return hands;
}

/** Shows and hides two parts, one for the other. */
function switchPair(hands: Hands, variable: string, among: string, spans: Record<string, Span[]>): void {
  for (const [name, own] of Object.entries(spans))
    hands.do(callOf(setSwitch, { part: hands.part(name), variable, index: 0, spans: own, among }));
}

/** The lock as somebody first wired it, who had no tool for it: two mistakes of each kind. */
export async function tideLock(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await inOrder('Tide lock', rulebook, blobs);
  // The wrong way round.
  bind(hands, 'drv_gate_left', 'lock_gate_swing', 0, [
    [0, {}],
    [78, { turn: [0, 78, 0] }],
  ]);
  bind(hands, 'drv_gantry', 'trolley_way', 0, [
    [0, {}],
    [-3, { offset: [0, 0, 3] }],
    [3, { offset: [0, 0, -3] }],
  ]);
  // Links that were right once, and were moved by hand since.
  linkLeft(hands);
  for (const [name, row, axis] of [
    ['drv_arm_left', -1, UPRIGHT],
    ['drv_wheel_left', 1, ACROSS],
  ] as const) {
    const [{ id, rows }] = bindingsOf(hands, name);
    const moved = rows.at(row)!;
    const turn = moved.turn.map((value, k) => (k === axis ? value + 12 : value)) as Vec3;
    hands.do(callOf(setBindingRow, { binding: id, row: { ...moved, turn } }));
  }
  // Indices that Brinework does not pass in; the hook does not hang at rest, either.
  bind(hands, 'drv_gate_right', 'lock_gate_swing', 9, [
    [0, {}],
    [78, { turn: [0, 78, 0] }],
  ]);
  bind(hands, 'drv_hook', 'crane_hoist_drop', 7, [
    [0, { offset: [0, -0.3, 0] }],
    [12, { offset: [0, -12, 0] }],
  ]);
  // In other units: radians and millimetres; and the wheel is turned at rest.
  bind(hands, 'drv_pump_wheel', 'pump_wheel_phase', 0, [
    [0, { turn: [15, 0, 0] }],
    [6.2832, { turn: [375, 0, 0] }],
  ]);
  bind(hands, 'drv_wheel_right', 'trolley_way', 0, [
    [0, {}],
    [-3000, { turn: [-477.4648, 0, 0] }],
    [3000, { turn: [477.4648, 0, 0] }],
  ]);
  // By what is asked for, not by where it stands.
  for (const [name, degrees] of [
    ['drv_arm_right', 60],
    ['drv_strut_right', -70],
  ] as const)
    bind(hands, name, 'lock_gate_order', 1, [
      [0, {}],
      [1, { turn: [0, degrees, 0] }],
    ]);
  // Neither lamp from 40 to 50, both from 70 on.
  switchPair(hands, 'lock_gate_swing', 'lamp', {
    lamp_go: [{ from: 50, to: null }],
    lamp_wait: [
      { from: null, to: 40 },
      { from: 70, to: null },
    ],
  });
  return hands.kit;
}

/** The lock with everything wired: the left side by hand, the right one by it, and nothing owed. */
export async function tideLockFinished(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await inOrder('Tide lock, finished', rulebook, blobs);
  bind(hands, 'drv_gate_left', 'lock_gate_swing', 0, [
    [0, {}],
    [78, { turn: [0, -78, 0] }],
  ]);
  bind(hands, 'drv_gantry', 'trolley_way', 0, [
    [0, {}],
    [-3, { offset: [0, 0, -3] }],
    [3, { offset: [0, 0, 3] }],
  ]);
  bind(hands, 'drv_hook', 'crane_hoist_drop', 0, [
    [0, {}],
    [12, { offset: [0, -12, 0] }],
  ]);
  bind(
    hands,
    'drv_pump_wheel',
    'pump_wheel_phase',
    0,
    [
      [0, {}],
      [360, { turn: [360, 0, 0] }],
    ],
    'wrap',
  );
  linkLeft(hands);
  const sides = (words: string[]) =>
    Object.fromEntries(words.map((word) => [hands.part(`drv_${word}_left`), hands.part(`drv_${word}_right`)]));
  const toRight = (words: string[], index: number) => {
    const bindings = bindingsOf(hands, ...words.map((word) => `drv_${word}_left`)).map(({ id }) => id);
    hands.do(callOf(bindTwins, { bindings, pairs: sides(words), axis: ACROSS, index }));
  };
  toRight(['gate', 'strut', 'arm'], 1);
  toRight(['wheel'], 0);
  switchPair(hands, 'lock_gate_swing', 'lamp', { lamp_wait: [{ from: null, to: 70 }], lamp_go: [{ from: 70, to: null }] });
  hands.do(
    callOf(makeBlur, {
      part: hands.part('drv_pump_wheel'),
      axis: ACROSS,
      variable: 'pump_speed',
      index: 0,
      from: 45,
      bothWays: false,
      cut: true,
      name: 'pump_wheel_blurred',
    }),
  );
  return hands.kit;
}
