import type { PoseDelta, Part, Vec3 } from '@itchkit/core/document';
import { conjugateQuat, multiplyQuats, turnNearest } from '@itchkit/core/geometry';
import type { Placement } from './bench-view';
import type { Moving } from './bench-stage';

/** Numbers from a dragged gizmo, without the tail that a pointer leaves: 0.01 mm, 0.001°, 0.00001. */
export const tidy = (value: number, digits: number) => Number(value.toFixed(digits)) + 0;

/** A placement in the parent as what it differs from rest by; turns as near as can be to `near`, so that whole turns are kept. */
export function deltaOf(part: Part, placement: Placement, near: Vec3): PoseDelta {
  return {
    offset: placement.translation.map((value, axis) => tidy(value - part.translation[axis], 5)) as Vec3,
    turn: turnNearest(multiplyQuats(conjugateQuat(part.rotation), placement.rotation), part.turnOrder, near).map((value) =>
      tidy(value, 3),
    ) as Vec3,
    size: placement.scale.map((value, axis) => (part.scale[axis] === 0 ? 1 : tidy(value / part.scale[axis], 5))) as Vec3,
  };
}

/** A part that is moved is held where it is, for what can be written from there. */
export function hold(id: string, placement: Placement, { kit, ui }: Moving): void {
  const { held } = ui.getState();
  const near = held?.part === id ? held.delta.turn : ([0, 0, 0] as Vec3);
  ui.setState({ held: { part: id, delta: deltaOf(kit.parts[id], placement, near) } });
}
