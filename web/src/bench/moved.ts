import type { StoreApi } from 'zustand';
import { callOf, type Axis, type Call, type Id, type Kit, type Part, type PoseDelta, type Vec3 } from '@itchkit/core/document';
import { conjugateQuat, multiplyQuats, turnNearest } from '@itchkit/core/geometry';
import { setTransform } from '@itchkit/core/shape';
import { clipTime, keyValueAt, setKeys, type KeyValue } from '@itchkit/core/motion';
import type { Stage } from '@itchkit/core/rulebook';
import type { UiState } from '../session/ui-store';
import type { Placement } from './bench-view';
import { snapTime } from '../strip/snap-time';

interface Around {
  stage: Stage;
  kit: Kit;
  run: (calls: Call | Call[], title?: string) => boolean;
  ui: StoreApi<UiState>;
}

/** Numbers from a dragged gizmo, without the tail that a pointer leaves: 0.01 mm, 0.001°, 0.00001. */
const tidy = (value: number, digits: number) => Number(value.toFixed(digits)) + 0;

/** A local placement as what it differs from rest by; turns as near as can be to `near`, so that whole turns are kept. */
export function deltaOf(part: Part, placement: Placement, near: Vec3): PoseDelta {
  return {
    offset: placement.translation.map((value, axis) => tidy(value - part.translation[axis], 5)) as Vec3,
    turn: turnNearest(multiplyQuats(conjugateQuat(part.rotation), placement.rotation), part.turnOrder, near).map((value) =>
      tidy(value, 3),
    ) as Vec3,
    size: placement.scale.map((value, axis) => (part.scale[axis] === 0 ? 1 : tidy(value / part.scale[axis], 5))) as Vec3,
  };
}

/** What dragging a part on the bench means in each stage: rest in Shape, a clip's keys in Motion, a pose to be captured in Wiring. */
export function movedCalls(id: Id, placement: Placement, done: boolean, { stage, kit, run, ui }: Around): void {
  const part = kit.parts[id];
  if (!part) return;
  const { gizmo, clip, time, held, motion } = ui.getState();
  if (stage === 'wiring' || (stage === 'motion' && gizmo && !motion.capture)) {
    const near = held?.part === id ? held.delta.turn : ([0, 0, 0] as Vec3);
    ui.setState({ held: { part: id, delta: deltaOf(part, placement, near) } });
    return;
  }
  if (!done || !gizmo) return;
  if (stage === 'shape') {
    const fields =
      gizmo === 'move'
        ? { translation: placement.translation.map((value) => tidy(value, 5)) as Vec3 }
        : gizmo === 'turn'
          ? { rotation: placement.rotation }
          : { scale: placement.scale.map((value) => tidy(value, 5)) as Vec3 };
    run(callOf(setTransform, { part: id, ...fields }));
  } else if (stage === 'motion' && clip !== null && kit.clips[clip]) {
    const at = clipTime(kit.clips[clip].loop, kit.clips[clip].lengthSeconds, time) ?? kit.clips[clip].lengthSeconds;
    const locked = motion.locked;
    const values = changedValues(part, deltaOf(part, placement, currentTurn(kit, clip, id, at)), gizmo, kit, clip, at).filter(
      ({ axis }) => !locked.includes(axis as Axis),
    );
    if (values.length > 0) run(callOf(setKeys, { clip, time: snapTime(at, kit.clips[clip], motion.snap), values }));
  }
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
