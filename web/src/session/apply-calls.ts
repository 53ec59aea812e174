import type { Applied, Blobs, Call, Chosen, Kit } from '@itchkit/core/document';
import { runCall } from '@itchkit/core/operations';

/** Runs operations one after the other, as one change. @throws {KitError} where one can't be done */
export function applyCalls(kit: Kit, calls: readonly Call[], blobs: Blobs): Applied {
  const steps: Applied[] = [];
  for (const call of calls) steps.push(runCall(steps.at(-1)?.kit ?? kit, call, blobs));
  return {
    kit: steps.at(-1)!.kit,
    title: steps.length === 1 ? steps[0].title : `${steps[0].title} and ${steps.length - 1} more`,
    patches: steps.flatMap((step) => step.patches),
    inverse: steps.toReversed().flatMap((step) => step.inverse),
    chosen: Object.assign({}, ...steps.map((step) => step.chosen)) as Chosen,
  };
}
