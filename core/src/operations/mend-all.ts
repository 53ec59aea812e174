import { count, KitError, type Blobs, type Call, type Kit } from '../document';
import { runCall } from './registry';
import { CheckRunner, type Finding, type Rulebook } from '../rulebook';

/** More rounds than any kit needs: each round settles a finding, and a mend may uncover another. */
const MAX_ROUNDS = 200;

/** What mending all that is safe comes to: how many findings it was asked to settle, how many of those it did, and others that came up. */
export interface MendedCount {
  asked: number;
  settled: number;
  others: number;
}

/** Mends in the order in which they are to be made, and what they come to. */
export interface Mends {
  calls: Call[];
  mended: MendedCount;
}

/** Applies safe mends, one after another, until none is left. Gives the kit, what was done, in order, and what of it was asked for. */
export function mendAllSafe(kit: Kit, rulebook: Rulebook, blobs: Blobs): Mends & { kit: Kit } {
  return mendThose(kit, rulebook, blobs, isSafe);
}

/** Applies the mends of findings that a person chose, by id, each once; what another one settled meanwhile is left. */
export function mendChosen(kit: Kit, rulebook: Rulebook, blobs: Blobs, ids: readonly string[]): Mends & { kit: Kit } {
  const left = new Set(ids);
  return mendThose(kit, rulebook, blobs, ({ id, mend, aside }, made) => left.has(id) && !made.has(id) && mend !== null && aside === null);
}

function mendThose(
  kit: Kit,
  rulebook: Rulebook,
  blobs: Blobs,
  may: (finding: Finding, made: ReadonlySet<string>) => boolean,
): Mends & { kit: Kit } {
  const calls: Call[] = [];
  const refused = new Set<string>();
  const made = new Set<string>();
  const runner = new CheckRunner(rulebook, blobs);
  let current = kit;
  const asked = new Set(runner.run(kit).flatMap((finding) => (may(finding, made) ? [finding.id] : [])));
  for (let round = 0; round < MAX_ROUNDS; round++) {
    const next = runner.run(current).find((finding) => may(finding, made) && !refused.has(finding.id));
    if (!next?.mend) break;
    try {
      current = runCall(current, next.mend.call, blobs).kit;
      calls.push(next.mend.call);
      made.add(next.id);
    } catch (error) {
      if (!(error instanceof KitError)) throw error;
      // A mend may be impossible here (a scale that would skew): the finding stays, the others go on.
      refused.add(next.id);
    }
  }
  const left = new Set(runner.run(current).map(({ id }) => id));
  const settled = [...asked].filter((id) => !left.has(id)).length;
  const others = [...made].filter((id) => !asked.has(id) && !left.has(id)).length;
  return { kit: current, calls, mended: { asked: asked.size, settled, others } };
}

const isSafe = (finding: Finding): boolean => finding.mend?.safe === true && finding.aside === null;

/** What was mended, in words. */
export function mendedInWords({ asked, settled, others }: MendedCount): string {
  const words = settled === asked ? `${count(asked, 'finding')} mended` : `${settled} of ${count(asked, 'finding')} mended`;
  const left = settled === asked ? '' : ' What is left can’t be mended as it is: its own button says why.';
  const more = others === 0 ? '' : `, and ${others} more that came up`;
  return `${words}${more}, as one step of undo.${left}`;
}
