import { KitError, type Blobs, type Call, type Kit } from '../document';
import { runCall } from './registry';
import { CheckRunner, type Rulebook } from '../rulebook';

/** More rounds than any kit needs: each round settles a finding, and a mend may uncover another. */
const MAX_ROUNDS = 200;

/** Applies safe mends, one after another, until none is left. Gives the kit and what was done, in order. */
export function mendAllSafe(kit: Kit, rulebook: Rulebook, blobs: Blobs): { kit: Kit; calls: Call[] } {
  const calls: Call[] = [];
  const refused = new Set<string>();
  const runner = new CheckRunner(rulebook, blobs);
  let current = kit;
  for (let round = 0; round < MAX_ROUNDS; round++) {
    const next = runner.run(current).find((finding) => finding.mend?.safe && finding.aside === null && !refused.has(finding.id));
    if (!next?.mend) break;
    try {
      current = runCall(current, next.mend.call, blobs).kit;
      calls.push(next.mend.call);
    } catch (error) {
      if (!(error instanceof KitError)) throw error;
      // A mend may be impossible here (a scale that would skew): the finding stays, the others go on.
      refused.add(next.id);
    }
  }
  return { kit: current, calls };
}
