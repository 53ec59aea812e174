import { callOf, newId, type Call, type Id, type Kit, type Span } from '@itchkit/core/document';
import type { Variable } from '@itchkit/core/rulebook';
import { setSwitch } from '@itchkit/core/wiring';

/** Even spans over a range, one a part: the first begins below it, the last goes on above. */
export function evenSpans({ min, max }: Pick<Variable, 'min' | 'max'>, parts: number): Span[] {
  const edge = (i: number) => Number((min + ((max - min) * i) / parts).toPrecision(6));
  return Array.from({ length: parts }, (_, i) => ({ from: i === 0 ? null : edge(i), to: i === parts - 1 ? null : edge(i + 1) }));
}

/**
 * What switches parts by a variable: one is shown in the upper half of its range; several stand for one another, each in its share of it,
 * in the order in which they were chosen.
 */
export function proposedSwitches(kit: Kit, parts: readonly Id[], variable: Variable, index: number | null): Call[] {
  const spans = parts.length === 1 ? [evenSpans(variable, 2)[1]] : evenSpans(variable, parts.length);
  const among = parts.length === 1 ? '' : kit.parts[parts[0]].name;
  return parts.map((part, i) => callOf(setSwitch, { id: newId(), part, variable: variable.name, index, spans: [spans[i]], among }));
}
