import { expose, transfer } from 'comlink';
import { applyDelta, MemoryBlobs, type Kit, type KitDelta } from '@itchkit/core/document';
import { CheckRunner, GENERAL, runChecks, type Finding, type Rulebook } from '@itchkit/core/rulebook';
import { mendAllSafe, mendChosen, type Mends } from '@itchkit/core/operations';
import { packKit, type BuiltPackage } from '@itchkit/core/ship';

const blobs = new MemoryBlobs();
const rulebooks = new Map<string, Rulebook>();
const runners = new Map<string, CheckRunner>();
let kit: Kit | null = null;

const keyOf = ({ rulebook, version }: Kit['targets'][number]) => `${rulebook}@${version}`;

function runnerOf(target: Kit['targets'][number]): CheckRunner | null {
  const rulebook = rulebooks.get(keyOf(target));
  if (!rulebook) return null;
  let runner = runners.get(keyOf(target));
  if (runner?.rulebook !== rulebook) runners.set(keyOf(target), (runner = new CheckRunner(rulebook, blobs)));
  return runner;
}

/** Where no platform is chosen, what is wrong for any. */
const general = new CheckRunner(GENERAL, blobs);

/** What runs beside the interface: checks as you work, and packages for the trial. The kit comes as deltas. */
const workshop = {
  loadBlobs(entries: [string, Uint8Array][]): void {
    for (const [sha, bytes] of entries) blobs.load(sha, bytes);
  },

  loadRulebooks(list: Rulebook[]): void {
    for (const rulebook of list) rulebooks.set(keyOf({ rulebook: rulebook.id, version: rulebook.version }), rulebook);
  },

  /** Takes the next state of the kit. */
  take(delta: KitDelta): void {
    kit = applyDelta(kit, delta);
  },

  /**
   * What is owed to each target whose rulebook is here, by the rulebook's id; only what changed is checked. Without a target what is wrong
   * for any, under no id.
   */
  check(): Record<string, Finding[]> {
    if (kit!.targets.length === 0) return { '': general.run(kit!) };
    return Object.fromEntries(
      kit!.targets.flatMap((target) => {
        const runner = runnerOf(target);
        return runner ? [[target.rulebook, runner.run(kit!)]] : [];
      }),
    );
  },

  /** What another document owes to a target, from nothing. */
  checkOther(document: Kit, target: Kit['targets'][number]): Finding[] {
    const rulebook = rulebooks.get(keyOf(target));
    return rulebook ? runChecks({ kit: document, rulebook, blobs }) : [];
  },

  /** The safe mends of the kit for its first target, in the order in which they are to be applied. */
  mends(chosen: readonly string[] | null): Mends {
    const rulebook = kit!.targets.length === 0 ? GENERAL : rulebooks.get(keyOf(kit!.targets[0]));
    if (!rulebook) return { calls: [], mended: { asked: 0, settled: 0, others: 0 } };
    const { calls, mended } = chosen === null ? mendAllSafe(kit!, rulebook, blobs) : mendChosen(kit!, rulebook, blobs, chosen);
    return { calls, mended };
  },

  async pack(): Promise<BuiltPackage & { milliseconds: number }> {
    const started = performance.now();
    const runner = runnerOf(kit!.targets[0])!;
    const built = await packKit(kit!, runner.rulebook, blobs, runner.run(kit!));
    const bytes = built.bytes.slice();
    return transfer({ ...built, bytes, milliseconds: performance.now() - started }, [bytes.buffer]);
  },
};

export type Workshop = typeof workshop;

expose(workshop);
