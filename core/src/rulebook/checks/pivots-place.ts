import { roleOf } from '../naming';
import type { Part, Vec3 } from '../../document';
import { invertMatrix, isEmptyBounds, ownBounds, transformPoint } from '../../geometry';
import type { Check, CheckContext, PivotRule, Said } from '../types';
import { figure } from '../wording';

/** Nearer than this a pivot is where it should be, metres. */
const NEAR = 1e-3;
const AXES = ['x', 'y', 'z'];
const SIDES: Record<number, [string, string, string]> = { 0: ['left', 'bottom', 'back'], 2: ['right', 'top', 'front'] };

/** The words for an anchor: “bottom front right”, “middle”. */
export function anchorWords(anchor: Vec3): string {
  const words = [1, 2, 0].flatMap((axis) => (anchor[axis] === 0 ? [] : [SIDES[anchor[axis] + 1][axis]]));
  return words.length === 0 ? 'middle' : words.join(' ');
}

/** Where a pivot should be, in the part's own axes, metres; null where it is right. */
function wanted(context: CheckContext, part: Part, pivot: PivotRule): { to: Vec3; limit: string } | null {
  const { kit, blobs, rulebook } = context;
  if (pivot.place === 'anchor' || pivot.place === 'inside') {
    const bounds = ownBounds(kit, blobs, part);
    if (isEmptyBounds(bounds)) return null;
    const at = (side: number, axis: number) =>
      (bounds.min[axis] + bounds.max[axis]) / 2 + (side * (bounds.max[axis] - bounds.min[axis])) / 2;
    if (pivot.place === 'anchor') return { to: pivot.anchor!.map(at) as Vec3, limit: `${anchorWords(pivot.anchor!)} of its bounds` };
    if (bounds.min.every((value, axis) => value <= NEAR && bounds.max[axis] >= -NEAR)) return null;
    return { to: [0, 1, 2].map((axis) => Math.min(bounds.max[axis], Math.max(bounds.min[axis], 0))) as Vec3, limit: 'inside its mesh' };
  }
  const world = context.rest().worldOf(part.id);
  if (pivot.place === 'on-step') {
    const inverse = invertMatrix(world);
    const step = rulebook.stepMetres;
    const place = [12, 13, 14].map((i) => Math.round(world[i] / step) * step);
    return inverse && { to: transformPoint(inverse, place), limit: `whole steps of ${step} m` };
  }
  const parent = part.parent === null ? null : context.rest().worldOf(part.parent);
  const inverse = parent && invertMatrix(parent);
  const back = invertMatrix(world);
  if (!parent || !inverse || !back) return null;
  const local = transformPoint(inverse, world.subarray(12, 15));
  const on = [0, 1, 2].map((axis) => (axis === pivot.axis ? local[axis] : 0));
  return { to: transformPoint(back, transformPoint(parent, on)), limit: `on the ${AXES[pivot.axis!]} axis of its parent` };
}

/** Pivots lie where the platform turns a part of that role. */
export const pivotsPlace: Check = {
  id: 'pivots.place',
  family: 'pivots',
  stage: 'shape',
  about: 'Pivots lie where the platform turns a part of that role',
  needs: ({ pivots }) => (pivots?.length ? null : 'where pivots lie, by role (pivots)'),
  run(context) {
    const { parts, rulebook } = context;
    return parts.flatMap((part): Said[] => {
      const role = roleOf(rulebook, part);
      const pivot = rulebook.pivots!.find((one) => one.role === role);
      if (!pivot || part.skin !== null) return [];
      const found = wanted(context, part, pivot);
      const off = found ? Math.hypot(...found.to) : 0;
      if (!found || off <= NEAR) return [];
      return [
        {
          key: part.id,
          title: 'Pivot in the wrong place',
          message: `The pivot of “${part.name}” is ${figure(off)} m from where a ${role} turns.`,
          measured: `${figure(off)} m off`,
          limit: found.limit,
          parts: [part.id],
          mend: {
            title: `Pivot to ${found.limit}`,
            safe: !moves(context, part),
            call: { operation: 'shape.move-pivot', args: { part: part.id, to: found.to } },
            changes: [`${part.name} turns about another point in its clips and bindings`],
          },
        },
      ];
    });
  },
};

/** Whether anything turns or sizes the part: then another pivot is another motion. */
function moves({ kit }: CheckContext, part: Part): boolean {
  return (
    Object.values(kit.bindings).some((binding) => binding.part === part.id) ||
    Object.values(kit.clips).some((clip) => clip.tracks.some((track) => track.part === part.id && track.property !== 'offset'))
  );
}
