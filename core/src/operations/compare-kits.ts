import type { Finding, Grade } from '../rulebook';
import { pathOf, type Id, type Kit } from '../document';
import { kitCounts, meshCounts } from '../geometry';

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
  /** One line a part that is not the same; renamed and moved ones by their newer path. */
  parts: { path: string; what: string }[];
  /** Findings that only one of the two has. */
  findings: { grade: Grade; title: string; gone: boolean }[];
}

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
  const ids = new Set<Id>([...Object.keys(before.parts), ...Object.keys(after.parts)]);
  const parts: KitComparison['parts'] = [];
  for (const id of ids) {
    const [a, b] = [before.parts[id], after.parts[id]];
    if (!a) parts.push({ path: pathOf(after, id), what: 'added' });
    else if (!b) parts.push({ path: pathOf(before, id), what: 'gone' });
    else {
      const said: string[] = [];
      if (a.name !== b.name) said.push(`renamed from “${a.name}”`);
      if (a.parent !== b.parent) said.push('hung elsewhere');
      if (a.role !== b.role) said.push(b.role ? `role ${b.role}` : 'no role');
      if (!same([a.translation, a.rotation, a.scale], [b.translation, b.rotation, b.scale])) said.push('placed elsewhere');
      const [m, n] = [meshCounts(before, a.mesh), meshCounts(after, b.mesh)];
      if (m.triangles !== n.triangles) said.push(`${m.triangles.toLocaleString('en')} → ${n.triangles.toLocaleString('en')} triangles`);
      else if (!same(a.mesh && before.meshes[a.mesh].primitives, b.mesh && after.meshes[b.mesh].primitives)) said.push('another mesh');
      if (said.length > 0) parts.push({ path: pathOf(after, id), what: said.join(', ') });
    }
  }
  parts.sort((a, b) => a.path.localeCompare(b.path));
  const [had, has] = findings.map((list) => new Set(list.map((finding) => finding.id)));
  const only = (list: Finding[], others: Set<string>, gone: boolean) =>
    list.filter((one) => !others.has(one.id)).map(({ grade, title }) => ({ grade, title, gone }));
  return {
    figures: [kitFigures(before), kitFigures(after)],
    parts,
    findings: [...only(findings[0], has, true), ...only(findings[1], had, false)],
  };
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
