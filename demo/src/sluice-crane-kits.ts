import { callOf, renameKit, setTarget, type Blobs, type Kit, type PoseDelta } from '@itchkit/core/document';
import { readGltf, settleSource } from '@itchkit/core/intake';
import { pivotToAnchor, setRole } from '@itchkit/core/shape';
import { addClip } from '@itchkit/core/motion';
import { addBinding } from '@itchkit/core/wiring';
import { runChecks, type Rulebook } from '@itchkit/core/rulebook';
import { mendAllSafe } from '@itchkit/core/operations';
import { Hands } from './hands';
import { BOOM_TIP, buildSluiceCraneGlb, CRANE, ROPE_LENGTH } from './sluice-crane-glb';

const REST: PoseDelta = { offset: [0, 0, 0], turn: [0, 0, 0], size: [1, 1, 1] };

async function takenIn(detail: number, name: string, rulebook: Rulebook, blobs: Blobs): Promise<Hands> {
  const { kit } = await readGltf(await buildSluiceCraneGlb(detail), 'sluice-crane.glb', blobs);
  const hands = new Hands(kit, blobs);
  hands.do(callOf(renameKit, { name }));
  hands.do(callOf(setTarget, { rulebook: rulebook.id, version: rulebook.version }));
  hands.do(callOf(settleSource, { space: { ...hands.kit.source!.space, metresPerUnit: 0.01 } }));
  return hands;
}

/** The crane as it came, in metres, with a first attempt at wiring that has mistakes of its own. */
export async function sluiceCrane(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await takenIn(52, 'Sluice crane', rulebook, blobs);
  hands.do(
    callOf(addBinding, {
      part: hands.part('Gate Leaf'),
      variable: 'gate_lift',
      index: 14,
      outside: 'clamp',
      rows: [
        { ...REST, value: 0 },
        { ...REST, value: 1.2, offset: [0, 1.2, 0] },
      ],
    }),
  );
  hands.do(
    callOf(addBinding, {
      part: hands.part('Pump Wheel'),
      variable: 'pump_wheel_fase',
      index: 0,
      outside: 'wrap',
      rows: [
        { ...REST, value: 0 },
        { ...REST, value: 360, turn: [360, 0, 0] },
      ],
    }),
  );
  return hands.kit;
}

/** The same crane with everything settled: pivots on their axes, six bindings, three clips, nothing owed. */
export async function sluiceCraneFinished(rulebook: Rulebook, blobs: Blobs): Promise<Kit> {
  const hands = await takenIn(40, 'Sluice crane, finished', rulebook, blobs);
  for (const name of ['Boom', 'Hoist Rope', 'Hook-Block', 'Gate Leaf', 'Pump Wheel'])
    hands.do(callOf(setRole, { parts: [hands.part(name)], role: 'driven' }));
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

  const bind = (part: string, variable: string, outside: 'clamp' | 'wrap', rows: [number, Partial<PoseDelta>][]) =>
    hands.do(
      callOf(addBinding, {
        part: hands.part(part),
        variable,
        index: 0,
        outside,
        rows: rows.map(([value, pose]) => ({ ...REST, ...pose, value })),
      }),
    );
  bind('drv_turntable', 'crane_slew_angle', 'clamp', [
    [0, {}],
    [-170, { turn: [0, -170, 0] }],
    [170, { turn: [0, 170, 0] }],
  ]);
  bind('drv_boom', 'crane_luff_angle', 'clamp', [
    [0, {}],
    [-20, { turn: [20, 0, 0] }],
    [55, { turn: [-55, 0, 0] }],
  ]);
  bind('drv_hoist_rope', 'crane_hoist_drop', 'clamp', [
    [0, {}],
    [12, { size: [1, Number(((ROPE_LENGTH + 12) / ROPE_LENGTH).toFixed(6)), 1] }],
  ]);
  bind('drv_hook_block', 'crane_hoist_drop', 'clamp', [
    [0, {}],
    [12, { offset: [0, -12, 0] }],
  ]);
  bind('drv_gate_leaf', 'gate_lift', 'clamp', [
    [0, {}],
    [2.4, { offset: [0, 1.5, 0] }],
  ]);
  bind('drv_pump_wheel', 'pump_wheel_phase', 'wrap', [
    [0, {}],
    [360, { turn: [360, 0, 0] }],
  ]);

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
