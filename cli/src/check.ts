import type { Blobs, Kit } from '@itchkit/core/document';
import { countGrades, mendKind, runChecks, type Finding, type GradeCounts, type Rulebook } from '@itchkit/core/rulebook';

export interface SaidFinding {
  check: string;
  grade: Finding['grade'];
  stage: Finding['stage'];
  message: string;
  measured: string;
  limit: string;
  /** Names. */
  parts: string[];
  mend: 'safe' | 'asking' | null;
}

export interface Checked {
  file: string;
  ok: true;
  target: { id: string; version: string };
  counts: GradeCounts;
  findings: SaidFinding[];
}

/** What a rulebook has to say about a kit, stops first within the order of the stages. */
export function checkKitAgainst(file: string, kit: Kit, rulebook: Rulebook, blobs: Blobs): Checked {
  return checkedOf(file, kit, rulebook, runChecks({ kit, rulebook, blobs }));
}

/** The same of findings that were made before. */
export function checkedOf(file: string, kit: Kit, rulebook: Rulebook, findings: readonly Finding[]): Checked {
  return {
    file,
    ok: true,
    target: { id: rulebook.id, version: rulebook.version },
    counts: countGrades(findings),
    findings: findings.map(({ check, grade, stage, message, measured, limit, parts, mend }) => ({
      check,
      grade,
      stage,
      message,
      measured,
      limit,
      parts: parts.map((id) => kit.parts[id]?.name ?? ''),
      mend: mendKind({ mend }),
    })),
  };
}

/** The same in words. */
export function describeChecked({ file, target, counts, findings }: Checked): string {
  const lines = findings.map(
    (finding) =>
      `  ${finding.grade.padEnd(4)} ${finding.stage}: ${finding.message} (${finding.measured} / ${finding.limit})${finding.mend === 'safe' ? ' [mends itself]' : ''}`,
  );
  return `${[`${file}  for ${target.id} ${target.version}: ${counts.stop} stop, ${counts.warn} warn, ${counts.note} note`, ...lines].join('\n')}\n`;
}
