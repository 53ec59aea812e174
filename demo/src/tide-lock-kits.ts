import { callOf, type Blobs, type Kit } from '@itchkit/core/document';
import type { Rulebook } from '@itchkit/core/rulebook';
import { mendAllSafe } from '@itchkit/core/operations';
import { setRole } from '@itchkit/core/shape';
import { bindTwins, makeBlur } from '@itchkit/core/wiring';
import type { Hands } from './hands';
import { modelled } from './rigged-kits';
import { buildTideLockGlb, LOCK } from './tide-lock-glb';
import { ACROSS, bend, bind, bindingsOf, meet, roll, sides, switchPair, UPRIGHT } from './wiring-hands';

/** Strut and arm meet over the wall; the wheel rolls on its rail. */
function linkLeft(hands: Hands): void {
  const at = LOCK.joint.map((value, i) => value - LOCK.strutHinge[i]);
  meet(hands, ['drv_strut_left', 'drv_arm_left'], UPRIGHT, at, { variable: 'lock_gate_swing', min: 0, max: 78 });
  roll(hands, 'drv_wheel_left', LOCK.wheelRadius, { variable: 'trolley_way', min: -3, max: 3 });
}

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
  bend(hands, 'drv_arm_left', -1, UPRIGHT, 12);
  bend(hands, 'drv_wheel_left', 1, ACROSS, 12);
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
  const toRight = (words: string[], index: number) => {
    const names = words.map((word) => `drv_${word}`);
    const bindings = bindingsOf(hands, ...names.map((name) => `${name}_left`)).map(({ id }) => id);
    hands.do(callOf(bindTwins, { bindings, pairs: sides(hands, names, '_left', '_right'), axis: ACROSS, index }));
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
