import { sizeOf } from '../../geometry';
import type { Check, CheckContext } from '../types';
import { nameList } from '../wording';

/** Exactly one body stands still. */
export const assemblyAnchored: Check = {
  id: 'assembly.anchored',
  family: 'assembly',
  stage: 'rig',
  about: 'Exactly one body stands still',
  run(context) {
    const bodies = context.kit.bodies ?? [];
    if (bodies.length === 0) return [];
    const anchored = bodies.filter((body) => body.anchored);
    if (anchored.length === 1) return [];
    const best = (anchored.length > 1 ? anchored : bodies)
      .map((body) => ({ body, size: volumeOf(context, body.parts) }))
      .sort((a, b) => b.size - a.size)[0].body;
    return [
      {
        title: anchored.length === 0 ? 'Nothing stands still' : 'Several bodies stand still',
        message:
          anchored.length === 0
            ? 'No body of the assembly is anchored; it falls down as a whole.'
            : `${nameList(anchored.map(({ name }) => name))} are anchored; what lies between them can’t move.`,
        measured: `${anchored.length} anchored`,
        limit: '1 anchored',
        parts: anchored.flatMap(({ parts }) => parts),
        mend: {
          title: `Anchor “${best.name}” alone`,
          safe: false,
          call: { operation: 'rig.anchor-body', args: { body: best.id } },
          changes: [`${best.name}, the largest, stands still; every other body may move`],
        },
      },
    ];
  },
};

/** Of the bounds of its parts, cubic metres. */
function volumeOf(context: CheckContext, parts: readonly string[]): number {
  return parts.reduce((sum, id) => {
    const bounds = context.bounds().get(id);
    return sum + (bounds ? sizeOf(bounds).reduce((product, side) => product * Math.max(side, 1e-3), 1) : 0);
  }, 0);
}
