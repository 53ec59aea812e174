import type { Finding } from '@itchkit/core/rulebook';

/** How many findings there are of each rule. */
export function owedByRule(findings: readonly Finding[]): Record<string, number> {
  const count: Record<string, number> = {};
  for (const { rule } of findings) count[rule] = (count[rule] ?? 0) + 1;
  return count;
}
