import { partsInOrder, type Blobs, type Id, type Kit, type Part } from '../document';
import { boundsByPart, flattenParts, Poser, type Bounds } from '../geometry';
import { sweptParts } from '../grounds';
import { CHECKS } from './checks';
import { withDerived } from './derived';
import { KitReads } from './kit-reads';
import { RulebookError } from './schema';
import { playedClip } from './played-tracks';
import { GRADES, STAGES, type CheckContext, type Finding, type OwedByStage, type Rule, type Rulebook } from './types';

interface Kept {
  value: unknown;
  reads: Set<string>;
}

/**
 * Runs a rulebook over one kit again and again: what a check has read is noted, and it runs again only when some of that changed.
 *
 * @throws {RulebookError} where a rule asks for a check that does not exist
 */
export class CheckRunner {
  /** How many checks the last run had to run. */
  ran = 0;

  private readonly reads = new KitReads();
  private readonly kept = new Map<string, Kept>();
  private readonly context: CheckContext;

  constructor(
    readonly rulebook: Rulebook,
    blobs: Blobs,
  ) {
    const kit = this.reads.view;
    const once = <T>(key: string, compute: () => T): T => this.remember(`shared ${key}`, compute);
    const orderOfParts = () => once('order', () => partsInOrder(kit).map((part) => part.id));
    const children = () =>
      once('children', () => {
        const lists = new Map<Id | null, Id[]>();
        for (const id of orderOfParts()) {
          const { parent } = kit.parts[id];
          const list = lists.get(parent);
          if (list) list.push(id);
          else lists.set(parent, [id]);
        }
        return lists;
      });
    this.context = {
      kit,
      // With the kit’s own variables among those of the platform.
      get rulebook(): Rulebook {
        return withDerived(rulebook, kit.derived);
      },
      blobs,
      get parts(): Part[] {
        const table = kit.parts;
        return orderOfParts().map((id) => table[id]);
      },
      childrenOf: (parent) => (children().get(parent) ?? []).map((id) => kit.parts[id]),
      rest: () => once('rest', () => new Poser(flattenParts(kit))),
      bounds: () => once('bounds', (): Map<Id, Bounds> => boundsByPart(kit, blobs)),
      swept: () => once('swept', () => sweptParts(kit, blobs, Object.values(kit.clips).flatMap((clip) => playedClip(rulebook, clip) ?? []))),
      once: (key, compute) => once(key, () => compute(this.context)),
    };
  }

  /** Everything that the rulebook has to say, stops first within the order of the stages. */
  run(kit: Kit): Finding[] {
    const changed = this.reads.take(kit);
    if (changed.size > 0) for (const [key, { reads }] of this.kept) if (meet(reads, changed)) this.kept.delete(key);
    this.ran = 0;
    const findings = this.rulebook.rules.flatMap((rule) => this.remember(`rule ${rule.id}`, () => this.runRule(rule)));
    const asides = new Map((kit.asides ?? []).filter((one) => one.rulebook === this.rulebook.id).map((one) => [one.finding, one.reason]));
    const rank = (finding: Finding) => STAGES.indexOf(finding.stage) * GRADES.length + GRADES.indexOf(finding.grade);
    return findings
      .map((finding) => (finding.grade !== 'stop' && asides.has(finding.id) ? { ...finding, aside: asides.get(finding.id)! } : finding))
      .sort((a, b) => rank(a) - rank(b));
  }

  private runRule(rule: Rule): Finding[] {
    this.ran++;
    const check = CHECKS.get(rule.check);
    if (!check)
      throw new RulebookError(`the rule “${rule.id}” asks for the check “${rule.check}”, which does not exist`, `rules.${rule.id}`);
    return check.run(this.context, rule).map(({ key, share, mend, ...said }): Finding => ({
      ...said,
      id: key === undefined ? rule.id : `${rule.id}/${key}`,
      rule: rule.id,
      check: check.id,
      family: check.family,
      stage: check.stage,
      grade: rule.grade,
      why: rule.why,
      share: share ?? null,
      mend: mend ?? null,
      aside: null,
    }));
  }

  /** What is read while computing counts as read by whoever asks, too. */
  private remember<T>(key: string, compute: () => T): T {
    const outer = this.reads.reads;
    let kept = this.kept.get(key);
    if (!kept) {
      const reads = (this.reads.reads = new Set());
      try {
        kept = { value: compute(), reads };
        this.kept.set(key, kept);
      } finally {
        this.reads.reads = outer;
      }
    }
    for (const read of kept.reads) outer.add(read);
    return kept.value as T;
  }
}

function meet(a: Set<string>, b: Set<string>): boolean {
  for (const one of b) if (a.has(one)) return true;
  return false;
}

/** Everything that a rulebook has to say about a kit, from nothing. */
export function runChecks({ kit, rulebook, blobs }: { kit: Kit; rulebook: Rulebook; blobs: Blobs }): Finding[] {
  return new CheckRunner(rulebook, blobs).run(kit);
}

export type GradeCounts = Record<Finding['grade'], number>;

/** How many findings of each grade there are; those set aside are not counted. */
export function countGrades(findings: readonly Pick<Finding, 'grade' | 'aside'>[]): GradeCounts {
  const counts: GradeCounts = { stop: 0, warn: 0, note: 0 };
  for (const finding of findings) if (finding.aside === null) counts[finding.grade]++;
  return counts;
}

/** The same by stage; stages that owe nothing are left out. */
export function countByStage(findings: readonly Pick<Finding, 'grade' | 'stage' | 'aside'>[]): OwedByStage {
  return Object.fromEntries(
    STAGES.map((stage) => [stage, countGrades(findings.filter((finding) => finding.stage === stage))] as const).filter(
      ([, counts]) => counts.stop + counts.warn + counts.note > 0,
    ),
  );
}
