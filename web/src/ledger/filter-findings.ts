import type { Id } from '@itchkit/core/document';
import type { Finding, Grade } from '@itchkit/core/rulebook';

export interface LedgerFilter {
  grade: Grade | null;
  family: string | null;
  /** Only findings of these parts; null for all. */
  parts: readonly Id[] | null;
}

export const NO_FILTER: LedgerFilter = { grade: null, family: null, parts: null };

export function filterFindings(findings: readonly Finding[], { grade, family, parts }: LedgerFilter): Finding[] {
  return findings.filter(
    (finding) =>
      (grade === null || finding.grade === grade) &&
      (family === null || finding.family === family) &&
      (parts === null || finding.parts.some((id) => parts.includes(id))),
  );
}
