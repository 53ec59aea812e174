import type { Kit } from '@itchkit/core/document';
import { STAGE_TITLES, type Finding, type Rulebook } from '@itchkit/core/rulebook';

/** The one thing to do now for the target in view, in a sentence. */
export function nextStep(kit: Kit, rulebook: Rulebook | undefined, findings: readonly Finding[]): string {
  if (kit.targets.length === 0)
    return 'Here is what is wrong wherever it goes. Choose a target at the top: its rulebook says what else is owed.';
  if (!rulebook)
    return `The rulebook “${kit.targets[0].rulebook}” ${kit.targets[0].version} is not here. Import it again, or choose another target at the top.`;
  const open = findings.filter((finding) => finding.aside === null);
  const safe = open.filter((finding) => finding.mend?.safe);
  if (safe.length > 1) return `Next: mend the ${safe.length} findings that change nothing you can see.`;
  const first = open.find((finding) => finding.grade === 'stop') ?? open.find((finding) => finding.grade === 'warn');
  if (first) {
    const where = `“${first.title}” in ${STAGE_TITLES[first.stage]}`;
    if (first.mend) return `Next: ${where}. ${first.mend.safe ? 'One key mends it.' : 'Its mend shows first what will change.'}`;
    return `Next: ${where}. ${first.message} Only you can decide that.`;
  }
  if (Object.keys(kit.bindings).length === 0 && Object.keys(kit.clips).length === 0)
    return rulebook.variables.length > 0
      ? 'Nothing is owed. Next: give it motion in Motion, or bind its parts in Wiring.'
      : 'Nothing is owed. Next: give it motion in Motion, or build its package in Ship.';
  return rulebook.variables.length > 0
    ? 'Nothing is owed. Next: try the package in Trial, then build it in Ship.'
    : 'Nothing is owed. Next: build the package in Ship.';
}
