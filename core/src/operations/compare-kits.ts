import type { Finding, Grade } from '../rulebook';
import { kitDifferences, type Difference, type Kit } from '../document';
import { kitCounts } from '../geometry';

export interface KitFigures {
  parts: number;
  triangles: number;
  vertices: number;
  materials: number;
  images: number;
  clips: number;
  bindings: number;
}

export interface KitComparison {
  figures: [KitFigures, KitFigures];
  /** What is not the same, section by section; parts by their newer path. */
  differences: Difference[];
  /** Findings that only one of the two has. */
  findings: { grade: Grade; title: string; gone: boolean }[];
}

/** Counts of what a kit holds. */
export function kitFigures(kit: Kit): KitFigures {
  const size = (table: object) => Object.keys(table).length;
  return {
    parts: size(kit.parts),
    ...kitCounts(kit),
    materials: size(kit.materials),
    images: size(kit.images),
    clips: size(kit.clips),
    bindings: size(kit.bindings),
  };
}

/** What two states of a kit differ in: figures, parts, findings. */
export function compareKits(before: Kit, after: Kit, findings: [Finding[], Finding[]]): KitComparison {
  const [had, has] = findings.map((list) => new Set(list.map((finding) => finding.id)));
  const only = (list: Finding[], others: Set<string>, gone: boolean) =>
    list.filter((one) => !others.has(one.id)).map(({ grade, title }) => ({ grade, title, gone }));
  return {
    figures: [kitFigures(before), kitFigures(after)],
    differences: kitDifferences(before, after),
    findings: [...only(findings[0], has, true), ...only(findings[1], had, false)],
  };
}
