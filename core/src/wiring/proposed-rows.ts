import type { BindingRow, Id, Kit, Vec3 } from '../document';
import { applyMat3, decomposeMatrix, invertMat3, linearPart, mat3FromQuat, restWorlds, transposeMat3 } from '../geometry';
import { neutralRow } from './binding-operations';
import { SIDE_WAYS, type Probed } from './directions';

/** How well an own axis has to lie along the line that is turned about: within a degree. */
const ALONG = Math.cos(Math.PI / 180);

/**
 * The rows with which a binding begins: neutral, then the ends of the range. Where the rulebook says how rising moves a part and the
 * variable is a measure of just that (degrees round a side’s axis, metres towards a side), they are posed so; else they are at rest.
 */
export function proposedRows(kit: Kit, part: Id, { unit, ...variable }: Probed & { unit: string }): BindingRow[] {
  const rows = [...new Set([variable.neutral, variable.min, variable.max])].map(neutralRow);
  const way = wayOf(kit, part, unit, variable);
  if (way === null) return rows;
  return rows.map((row) => {
    const by = row.value - variable.neutral;
    return { ...row, [way.of]: way.each.map((value) => value * by + 0) as Vec3 };
  });
}

/** What each unit of the variable moves a part by: degrees about its own axes, or metres along those of its parent. */
function wayOf(kit: Kit, part: Id, unit: string, { direction }: Probed): { of: 'turn' | 'offset'; each: Vec3 } | null {
  if (!direction) return null;
  const worlds = restWorlds(kit);
  if ('from' in direction) {
    if (unit !== 'deg') return null;
    const own = transposeMat3(mat3FromQuat(decomposeMatrix(worlds.get(part)!).rotation));
    const about = applyMat3(own, SIDE_WAYS[direction.from]);
    const axis = about.findIndex((value) => Math.abs(value) > ALONG);
    if (axis < 0) return null;
    const sign = Math.sign(about[axis]) * (direction.goes === 'clockwise' ? -1 : 1);
    return { of: 'turn', each: [0, 1, 2].map((i) => (i === axis ? sign : 0)) as Vec3 };
  }
  if (unit !== 'm') return null;
  const { parent } = kit.parts[part];
  const back = parent === null ? null : invertMat3(linearPart(worlds.get(parent)!));
  if (parent !== null && back === null) return null;
  const each = back ? applyMat3(back, SIDE_WAYS[direction.goes]) : [...SIDE_WAYS[direction.goes]];
  return { of: 'offset', each: each.map((value) => Number(value.toFixed(12)) + 0) as Vec3 };
}
