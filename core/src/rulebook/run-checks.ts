import { CHECKS } from './checks';
import { RulebookError } from './schema';
import { GRADES, STAGES, type CheckContext, type Finding } from './types';

/**
 * Everything that a rulebook has to say about a kit, stops first within the order of the stages.
 *
 * @throws {RulebookError} where a rule asks for a check that does not exist
 */
export function runChecks(context: CheckContext): Finding[] {
  const findings = context.rulebook.rules.flatMap((rule) => {
    const check = CHECKS.get(rule.check);
    if (!check) throw new RulebookError(`the rule “${rule.id}” asks for the check “${rule.check}”, which does not exist`, `rules.${rule.id}`);
    return check.run(context, rule).map(({ key, share, mend, ...said }): Finding => ({
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
    }));
  });
  const rank = (finding: Finding) => STAGES.indexOf(finding.stage) * GRADES.length + GRADES.indexOf(finding.grade);
  return findings.sort((a, b) => rank(a) - rank(b));
}

export type GradeCounts = Record<Finding['grade'], number>;

export function countGrades(findings: readonly Finding[]): GradeCounts {
  const counts: GradeCounts = { stop: 0, warn: 0, note: 0 };
  for (const finding of findings) counts[finding.grade]++;
  return counts;
}
