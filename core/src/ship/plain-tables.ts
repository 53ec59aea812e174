import type { Kit } from '../document';
import type { Rulebook } from '../rulebook';
import { neutralFirst, straightRows } from '../wiring';

/** The kit with its tables as the platform plays them: where it knows no curves, straight between rows that are near enough. */
export function plainTables(kit: Kit, rulebook: Rulebook): Kit {
  const { bindings } = kit;
  if (rulebook.tableCurves || !Object.values(bindings).some(({ between }) => between === 'curve')) return kit;
  const plain = Object.entries(bindings).map(([id, { between, ...binding }]) => {
    if (between !== 'curve' || binding.rows.length === 0) return [id, binding] as const;
    return [id, { ...binding, rows: neutralFirst(straightRows({ ...binding, between }), binding.rows[0].value) }] as const;
  });
  return { ...kit, bindings: Object.fromEntries(plain) };
}
