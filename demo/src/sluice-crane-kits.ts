import { callOf, renameKit, setTarget, type Blobs, type Kit } from '@itchkit/core/document';
import { readGltf, settleSource } from '@itchkit/core/intake';
import { pivotToAnchor, setRole } from '@itchkit/core/shape';
import { addClip } from '@itchkit/core/motion';
import { bindTwins, makeBlur, setDerived } from '@itchkit/core/wiring';
import { runChecks, type Rulebook } from '@itchkit/core/rulebook';
import { mendAllSafe } from '@itchkit/core/operations';
import { Hands } from './hands';
import { buildSluiceCraneGlb } from './sluice-crane-glb';
import { BOOM_TIP, CRANE, ROPE_LENGTH, STAYS } from './sluice-crane-places';
import { ACROSS, bend, bind, bindingsOf, meet, roll, sides, switchPair, type Rows } from './wiring-hands';

async function takenIn(detail: number, name: string, rulebook: Rulebook, blobs: Blobs): Promise<Hands> {
  const { kit } = await readGltf(await buildSluiceCraneGlb(detail), 'sluice-crane.glb', blobs);
  const hands = new Hands(kit, blobs);
  hands.do(callOf(renameKit, { name }));
  hands.do(callOf(setTarget, { rulebook: rulebook.id, version: rulebook.version }));
  hands.do(callOf(settleSource, { space: { ...hands.kit.source!.space, metresPerUnit: 0.01 } }));
  return hands;
}

const SLEW: Rows = [
  [0, {}],
  [-170, { turn: [0, -170, 0] }],
  [170, { turn: [0, 170, 0] }],
];
const LUFF: Rows = [
  [0, {}],
  [-20, { turn: [20, 0, 0] }],
  [55, { turn: [-55, 0, 0] }],
];
const HOIST: Rows = [
  [0, {}],
  [12, { offset: [0, -12, 0] }],
];
const GATE: Rows = [
  [0, {}],
  [2.4, { offset: [0, 1.5, 0] }],
];
const ROUND: Rows = [
  [0, {}],
  [360, { turn: [360, 0, 0] }],
];
const TROLLEY: Rows = [
  [0, {}],
  [-3, { offset: [0, 0, -3] }],
  [3, { offset: [0, 0, 3] }],
];

/** The crane as it came, in metres, with a first attempt at wiring that has mistakes of its own. */
export async function sluiceCrane(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await takenIn(52, 'Sluice crane', rulebook, blobs);
  bind(hands, 'Gate Leaf', 'gate_lift', 14, [
    [0, {}],
    [1.2, { offset: [0, 1.2, 0] }],
  ]);
  bind(hands, 'Pump Wheel', 'pump_wheel_fase', 0, ROUND, 'wrap');
  return hands.kit;
}

/** What is driven, as the file names it. */
const DRIVEN = [
  ...['Boom', 'Hoist Rope', 'Hook-Block', 'Gate Leaf', 'Pump Wheel', 'Mast Stay', 'Boom Stay', 'Trolley'],
  ...['Tide Gate L', 'Tide Gate R', 'Trolley Wheel L', 'Trolley Wheel R'],
];

/** The crane with all that can be mended mended, and its pivots on their axes: what is left is to wire it. */
async function inOrder(name: string, driven: readonly string[], rulebook: Rulebook, blobs: Blobs): Promise<Hands> {
  const hands = await takenIn(36, name, rulebook, blobs);
  for (const part of driven) hands.do(callOf(setRole, { parts: [hands.part(part)], role: 'driven' }));
  hands.kit = mendAllSafe(hands.kit, rulebook, blobs).kit;
  for (;;) {
    const asking = runChecks({ kit: hands.kit, rulebook, blobs }).find((finding) => finding.mend);
    if (!asking?.mend) break;
    hands.do(asking.mend.call);
  }
  hands.pivotAt('drv_turntable', [CRANE.axis[0], 0.8, CRANE.axis[2]]);
  hands.pivotAt('drv_boom', CRANE.hinge);
  hands.pivotAt('drv_hoist_rope', [BOOM_TIP[0], BOOM_TIP[1] - 0.2, BOOM_TIP[2]]);
  hands.do(callOf(pivotToAnchor, { parts: [hands.part('drv_hook_block')], anchor: [0, 1, 0] }));
  hands.do(callOf(pivotToAnchor, { parts: [hands.part('drv_gate_leaf')], anchor: [0, -1, 0] }));
  hands.pivotAt('drv_pump_wheel', CRANE.wheel);
  hands.pivotAt('drv_mast_stay', STAYS.mastPin);
  hands.pivotAt('drv_boom_stay', STAYS.boomPin);
  hands.pivotAt('drv_trolley', CRANE.trolley);
  for (const [side, x] of [
    ['l', 1],
    ['r', -1],
  ] as const) {
    hands.pivotAt(`drv_tide_gate_${side}`, [CRANE.gate[0] + x * CRANE.gateHinge.aside, 0, CRANE.gate[2] - CRANE.gateHinge.behind]);
    hands.pivotAt(`drv_trolley_wheel_${side}`, [CRANE.trolley[0] + x * CRANE.wheelAside, CRANE.trolley[1], CRANE.trolley[2]]);
  }
  return hands;
}

/** The stays meet above the boom; the right wheel rolls on its rail. */
function linkCrane(hands: Hands): void {
  const at = STAYS.joint.map((value, i) => value - STAYS.boomPin[i]);
  meet(hands, ['drv_boom_stay', 'drv_mast_stay'], ACROSS, at, { variable: 'crane_luff_angle', min: -20, max: 55 });
  roll(hands, 'drv_trolley_wheel_r', CRANE.wheelRadius, { variable: 'trolley_way', min: -3, max: 3 });
}

function blurWheel(hands: Hands): void {
  const part = hands.part('drv_pump_wheel');
  const name = 'pump_wheel_blurred';
  hands.do(callOf(makeBlur, { part, axis: ACROSS, variable: 'pump_speed', index: 0, from: 45, bothWays: false, cut: true, name }));
}

/** The crane as somebody first wired it, who had no tool for it: two mistakes of each kind. */
export async function sluiceCraneMiswired(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await inOrder('Sluice crane, miswired', [...DRIVEN, 'Boom Sheave', 'winch_drum'], rulebook, blobs);
  // The wrong way round.
  bind(hands, 'drv_boom', 'crane_luff_angle', 0, [
    [0, {}],
    [-20, { turn: [-20, 0, 0] }],
    [55, { turn: [55, 0, 0] }],
  ]);
  bind(hands, 'drv_trolley', 'trolley_way', 0, [
    [0, {}],
    [-3, { offset: [0, 0, 3] }],
    [3, { offset: [0, 0, -3] }],
  ]);
  // Links that were right once, and were moved by hand since.
  linkCrane(hands);
  bend(hands, 'drv_mast_stay', -1, ACROSS, 12);
  bend(hands, 'drv_trolley_wheel_r', 1, ACROSS, 12);
  // A name that Brinework does not know, and an index that it does not pass in.
  bind(hands, 'drv_pump_wheel', 'pump_wheel_fase', 0, ROUND, 'wrap');
  bind(hands, 'drv_gate_leaf', 'gate_lift', 14, GATE);
  // In other units: radians and millimetres.
  bind(hands, 'drv_turntable', 'crane_slew_angle', 0, [
    [0, {}],
    [-2.967, { turn: [0, -170, 0] }],
    [2.967, { turn: [0, 170, 0] }],
  ]);
  bind(hands, 'drv_trolley_wheel_l', 'trolley_way', 0, [
    [0, {}],
    [-3000, { turn: [-859.4367, 0, 0] }],
    [3000, { turn: [859.4367, 0, 0] }],
  ]);
  // What slews hangs on what luffs, stands aside at rest, and stops short.
  bind(hands, 'drv_hoist_rope', 'crane_slew_angle', 0, [
    [0, { turn: [0, 5, 0] }],
    [-170, { turn: [0, -170, 0] }],
    [170, { turn: [0, 170, 0] }],
  ]);
  bind(hands, 'drv_hook_block', 'crane_slew_angle', 0, [
    [0, { offset: [0, -0.3, 0] }],
    [-90, { turn: [0, -90, 0] }],
    [90, { turn: [0, 90, 0] }],
  ]);
  // By what is asked for, not by where it stands.
  for (const [name, degrees] of [
    ['drv_tide_gate_l', -78],
    ['drv_tide_gate_r', 78],
  ] as const)
    bind(hands, name, 'lock_gate_order', 0, [
      [0, {}],
      [1, { turn: [0, degrees, 0] }],
    ]);
  // Neither wheel from 40 to 50, both from 70 on.
  blurWheel(hands);
  switchPair(hands, 'pump_speed', 'wheel', {
    pump_wheel_blurred: [{ from: 50, to: null }],
    drv_pump_wheel: [
      { from: null, to: 40 },
      { from: 70, to: null },
    ],
  });
  // A word that nothing passes in, and a value out of its own range.
  const own = { unit: 'deg', min: 0, max: 360, neutral: 0 };
  hands.do(callOf(setDerived, { name: 'drum_by_rope', expression: 'crane_hoist_dorp[0] * 95.49', ...own }));
  hands.do(callOf(setDerived, { name: 'sheave_by_rope', expression: 'crane_hoist_drop[0] * 190.99', ...own }));
  return hands.kit;
}

/** The same crane with everything settled: pivots on their axes, all that moves wired, three clips, nothing owed. */
export async function sluiceCraneFinished(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await inOrder('Sluice crane, finished', DRIVEN, rulebook, blobs);
  bind(hands, 'drv_turntable', 'crane_slew_angle', 0, SLEW);
  bind(hands, 'drv_boom', 'crane_luff_angle', 0, LUFF);
  bind(hands, 'drv_hoist_rope', 'crane_hoist_drop', 0, [
    [0, {}],
    [12, { size: [1, Number(((ROPE_LENGTH + 12) / ROPE_LENGTH).toFixed(6)), 1] }],
  ]);
  bind(hands, 'drv_hook_block', 'crane_hoist_drop', 0, HOIST);
  bind(hands, 'drv_gate_leaf', 'gate_lift', 0, GATE);
  bind(hands, 'drv_pump_wheel', 'pump_wheel_phase', 0, ROUND, 'wrap');
  bind(hands, 'drv_trolley', 'trolley_way', 0, TROLLEY);
  linkCrane(hands);
  bind(hands, 'drv_tide_gate_l', 'lock_gate_swing', 0, [
    [0, {}],
    [78, { turn: [0, -78, 0] }],
  ]);
  const give = (word: string, from: string, to: string, index: number) => {
    const bindings = bindingsOf(hands, `${word}${from}`).map(({ id }) => id);
    hands.do(callOf(bindTwins, { bindings, pairs: sides(hands, [word], from, to), axis: ACROSS, index }));
  };
  give('drv_tide_gate', '_l', '_r', 1);
  give('drv_trolley_wheel', '_r', '_l', 0);
  blurWheel(hands);

  hands.do(callOf(addClip, { name: 'slew_sweep', lengthSeconds: 6, rate: 30, loop: 'ping-pong' }));
  hands.keys('slew_sweep', 'drv_turntable', 'turn', 1, [
    [0, -60, 'curve'],
    [3, 0, 'curve'],
    [6, 75, 'curve'],
  ]);
  hands.keys('slew_sweep', 'drv_boom', 'turn', 0, [
    [0, 0, 'curve'],
    [3, -18, 'curve'],
    [6, 8, 'curve'],
  ]);
  hands.do(callOf(addClip, { name: 'gate_drop', lengthSeconds: 4, rate: 30, loop: 'hold' }));
  hands.keys('gate_drop', 'drv_gate_leaf', 'offset', 1, [
    [0, 0, 'curve'],
    [2, 1.5, 'hold'],
    [2.6, 1.5, 'bounce'],
    [4, 0, 'straight'],
  ]);
  hands.do(callOf(addClip, { name: 'pump_run', lengthSeconds: 2, rate: 30, loop: 'loop' }));
  hands.keys('pump_run', 'drv_pump_wheel', 'turn', 0, [
    [0, 0, 'straight'],
    [2, 360, 'straight'],
  ]);
  return hands.kit;
}
