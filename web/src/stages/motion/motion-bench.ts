import { callOf, type Axis, type Blobs, type Id, type Kit, type Part, type PoseDelta, type Vec3 } from '@itchkit/core/document';
import { clipTime, keyValueAt, setKeys, type KeyValue } from '@itchkit/core/motion';
import type { Rulebook } from '@itchkit/core/rulebook';
import { poseKit, REST } from '@itchkit/core/trial';
import { LOOKED_AT, type BenchStage, type Moving, type SignAround } from '../../bench/bench-stage';
import type { Placement } from '../../bench/bench-view';
import { deltaOf, hold } from '../../bench/placement';
import { snapTime } from '../../strip/snap-time';
import { playedOnce } from '../../strip/use-as-played';
import { MotionOverlays } from './MotionOverlays';

/** The kit under the open clip, as it was made or as the platform will play it. */
export const motionBench: BenchStage = {
  ...LOOKED_AT,
  gizmo: true,
  joints: true,
  pictured: false,
  other: {
    key: ({ clip, strip }) => (strip.asPlayed ? clip : null),
    shown(kit: Kit, blobs: Blobs, id: Id, rulebook: Rulebook | undefined) {
      const clip = kit.clips[id];
      if (!clip) return { kit, blobs };
      const { played, blobs: own } = playedOnce(kit, clip, blobs, rulebook);
      return { kit: { ...kit, clips: { ...kit.clips, [id]: played.clip } }, blobs: own };
    },
  },
  pose(poser, { kit, blobs }, { clip, preview, time, held, motion }, variables) {
    const source =
      preview === null ? { ...REST, clip, time, held: held === null ? [] : [held], quiet: motion.quiet } : { ...REST, clip: preview, time };
    poseKit(poser, kit, blobs, source, variables);
  },
  /** Writes keys for what the handles changed; where nothing is captured, the part is held. */
  moved(id, placement, done, around) {
    const { gizmo, strip } = around.ui.getState();
    if (gizmo && !strip.capture) hold(id, placement, around);
    else if (done && gizmo) keyMoved(id, placement, gizmo, around);
  },
  Overlays: MotionOverlays,
  sign: motionSign,
};

function motionSign({ kit, state: { proposal, motion, strip, held, gizmo, clip: id }, says }: SignAround): string {
  const clip = id === null ? undefined : kit.clips[id];
  if (proposal) return `Tried, not done: ${says}`;
  if (motion.path) return `Click the bench for the points of the path: ${motion.path.length} so far`;
  if (motion.recording === 'running') return 'Recording: let the part go to end';
  if (motion.recording === 'ready') return 'Drag the chosen part: time runs while you do';
  if (!clip) return 'Rest: no clip is open';
  if (strip.asPlayed) return `Clip “${clip.name}”, as the platform will play it`;
  if (held) return `“${kit.parts[held.part]?.name}” is held; K writes it into the clip`;
  return `Clip “${clip.name}”, not the model${gizmo && strip.capture ? ': moving a part writes keys' : ''}`;
}

function keyMoved(id: Id, placement: Placement, gizmo: 'move' | 'turn' | 'size', { kit, run, ui }: Moving): void {
  const { clip, time, strip } = ui.getState();
  const open = clip === null ? undefined : kit.clips[clip];
  if (!open) return;
  const part = kit.parts[id];
  const at = clipTime(open.loop, open.lengthSeconds, time) ?? open.lengthSeconds;
  const delta = deltaOf(part, placement, currentTurn(kit, open.id, id, at));
  const values = changedValues(part, delta, gizmo, kit, open.id, at).filter(({ axis }) => !strip.locked.includes(axis as Axis));
  if (values.length > 0) run(callOf(setKeys, { clip: open.id, time: snapTime(at, open, strip.snap), values }));
}

function currentTurn(kit: Kit, clip: Id, part: Id, time: number): Vec3 {
  return [0, 1, 2].map((axis) => keyValueAt(kit, clip, part, 'turn', axis as Axis, time)) as Vec3;
}

/** Keys for the axes that the gizmo changed. */
function changedValues(part: Part, delta: PoseDelta, gizmo: 'move' | 'turn' | 'size', kit: Kit, clip: Id, time: number): KeyValue[] {
  const property = gizmo === 'move' ? 'offset' : gizmo;
  return ([0, 1, 2] as Axis[])
    .map((axis) => ({ part: part.id, property, axis, value: delta[property][axis] }) as KeyValue)
    .filter((one) => Math.abs(one.value - keyValueAt(kit, clip, one.part, one.property, one.axis, time)) > 1e-6);
}
