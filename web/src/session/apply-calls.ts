import { callOf, KitError, type Applied, type Blobs, type Call, type Chosen, type Kit } from '@itchkit/core/document';
import { runCall } from '@itchkit/core/operations';
import { renewLinks, unsettledBy } from '@itchkit/core/wiring';

/**
 * Runs operations one after the other, as one change. Links that were right before and are not any more are worked out anew in the same
 * change. @throws {KitError} where one can't be done
 */
export function applyCalls(kit: Kit, calls: readonly Call[], blobs: Blobs): Applied {
  const steps: Applied[] = [];
  for (const call of calls) steps.push(runCall(steps.at(-1)?.kit ?? kit, call, blobs));
  const { chosen, title } = joined(steps);
  steps.push(...linksAfter(kit, steps.at(-1)!.kit, blobs));
  return { ...joined(steps), chosen, title };
}

function joined(steps: readonly Applied[]): Applied {
  return {
    kit: steps.at(-1)!.kit,
    title: steps.length === 1 ? steps[0].title : `${steps[0].title} and ${steps.length - 1} more`,
    patches: steps.flatMap((step) => step.patches),
    inverse: steps.toReversed().flatMap((step) => step.inverse),
    chosen: Object.assign({}, ...steps.map((step) => step.chosen)) as Chosen,
  };
}

/** What works out links anew that a change has unsettled; those that can't be are left to the check that names them. */
function linksAfter(before: Kit, after: Kit, blobs: Blobs): Applied[] {
  const steps: Applied[] = [];
  for (const id of unsettledBy(before, after)) {
    try {
      steps.push(runCall(steps.at(-1)?.kit ?? after, callOf(renewLinks, { links: [id] }), blobs));
    } catch (error) {
      if (!(error instanceof KitError)) throw error;
    }
  }
  return steps;
}
