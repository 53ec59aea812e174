import type { Binding, BindingRow, Call, Id, Kit, PoseDelta, Switch } from '@itchkit/core/document';
import { type DerivedReader, derivedReaders, leverKey } from '@itchkit/core/formula';
import { callOf, newId, partsInOrder } from '@itchkit/core/document';
import { neutralsOf, type Rulebook, type Variable } from '@itchkit/core/rulebook';
import { addBinding, evaluateBinding, neutralRow, poseStation } from '@itchkit/core/wiring';

/** A variable that parts of the kit follow, or are shown and hidden by. */
export interface BoundLever {
  key: string;
  name: string;
  index: number | null;
  /** Undefined where the target has no such variable. */
  variable: Variable | undefined;
  /** In the order of the parts. */
  bindings: Binding[];
  /** Parts that it shows and hides. */
  switches: Switch[];
  /** Names of the kit's own variables that are worked out of it. */
  feeds: string[];
}

/** The variables that a kit asks for, each with what follows it, in the order of the parts. */
export function boundLevers(kit: Kit, rulebook: Pick<Rulebook, 'variables'> | undefined): BoundLever[] {
  const order = new Map(partsInOrder(kit).map((part, i) => [part.id, i]));
  const levers = new Map<string, BoundLever>();
  const leverFor = (name: string, index: number | null): BoundLever => {
    const key = leverKey(name, index);
    const variable = rulebook?.variables.find((one) => one.name === name);
    const lever = levers.get(key) ?? { key, name, index, variable, bindings: [], switches: [], feeds: [] };
    levers.set(key, lever);
    return lever;
  };
  const sorted = Object.values(kit.bindings).sort((a, b) => order.get(a.part)! - order.get(b.part)! || (a.variable < b.variable ? -1 : 1));
  for (const binding of sorted) leverFor(binding.variable, binding.index).bindings.push(binding);
  for (const one of kit.switches ?? []) leverFor(one.variable, one.index).switches.push(one);
  for (const [own, { looksAt }] of ownReaders(kit, rulebook))
    for (const { name, index } of looksAt.values()) leverFor(name, index).feeds.push(own);
  return [...levers.values()];
}

/** The kit's own variables, made ready. */
const ownReaders = (kit: Kit, rulebook: Pick<Rulebook, 'variables'> | undefined): Map<string, DerivedReader> =>
  derivedReaders(kit.derived ?? [], neutralsOf(rulebook?.variables.filter(({ expression }) => expression === undefined) ?? []));

/** Where a variable stands: as its lever says, else as it is worked out, else at neutral. */
export function valueOf(
  kit: Kit,
  rulebook: Pick<Rulebook, 'variables'> | undefined,
  { key, name, variable }: Pick<BoundLever, 'key' | 'name' | 'variable'>,
  levers: Readonly<Record<string, number>>,
): number {
  return levers[key] ?? ownReaders(kit, rulebook).get(name)?.value(levers) ?? variable?.neutral ?? 0;
}

/** The chosen binding with its variable; the first that there is where none is chosen. */
export function inView(levers: readonly BoundLever[], chosen: Id | null): { lever: BoundLever; binding: Binding } | null {
  const lever =
    levers.find(({ bindings }) => bindings.some(({ id }) => id === chosen)) ?? levers.find(({ bindings }) => bindings.length > 0);
  return lever ? { lever, binding: lever.bindings.find(({ id }) => id === chosen) ?? lever.bindings[0] } : null;
}

const rowAt = (value: number, { offset, turn, size }: PoseDelta): BindingRow => ({ value, offset, turn, size });

/** What writing a station comes to: the operations, or the sentence why not. */
export type Capture = { calls: Call[]; parts: Id[] } | { why: string };

/**
 * Writes how parts stand at a value of a lever: those that were posed by hand, or else the chosen one as its table poses it there. A part
 * that follows nothing yet is bound; one that follows another variable can't follow this one too.
 *
 * @param posed By part, relative to rest.
 */
export function capture(kit: Kit, lever: BoundLever, chosen: Binding, value: number, posed: Readonly<Record<Id, PoseDelta>>): Capture {
  const neutral = lever.variable?.neutral ?? chosen.rows[0]?.value ?? 0;
  if (value === neutral) return { why: `At ${neutral} everything is at rest: it is neutral. Move the lever first.` };
  const calls: Call[] = [];
  const rows: { binding: Id; row: BindingRow }[] = [];
  const parts = Object.keys(posed).filter((id) => kit.parts[id]);
  for (const part of parts) {
    const own = lever.bindings.find((binding) => binding.part === part);
    const other = Object.values(kit.bindings).find((binding) => binding.part === part && binding !== own);
    if (!own && other)
      return {
        why: `“${kit.parts[part].name}” follows ${leverKey(other.variable, other.index)} already. Put a carrier above it for ${lever.key}.`,
      };
    const id = own?.id ?? newId();
    if (!own)
      calls.push(
        callOf(addBinding, {
          ...{ id, part, variable: lever.name, index: lever.index, rows: [neutralRow(neutral)] },
          ...{ outside: chosen.outside, ...(chosen.between && { between: chosen.between }) },
        }),
      );
    rows.push({ binding: id, row: rowAt(value, posed[part]) });
  }
  if (rows.length === 0) {
    rows.push({ binding: chosen.id, row: rowAt(value, evaluateBinding(chosen, value)) });
    parts.push(chosen.part);
  }
  return { calls: [...calls, callOf(poseStation, { rows })], parts };
}
