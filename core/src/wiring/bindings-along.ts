import type { Binding, Kit } from '../document';
import { type DerivedReader, derivedReaders, leverKey } from '../formula';

/** A binding that moves as one variable does, and the value that its own variable has then. */
export interface BindingAlong {
  binding: Binding;
  valueAt: (value: number) => number;
}

/** The neutral value of a variable as the kit tells it: that of the first row of a table for it, else 0. */
function neutralIn(kit: Kit, name: string, index: number | null): number {
  const bound = Object.values(kit.bindings).find((one) => one.variable === name && one.index === index && one.rows.length > 0);
  return bound?.rows[0].value ?? 0;
}

/**
 * Bindings that a variable moves while all others stand at neutral: its own, and those to the kit’s own variables that are worked out of
 * it, straight or through others.
 */
export function bindingsAlong(kit: Kit, { variable, index }: Pick<Binding, 'variable' | 'index'>): BindingAlong[] {
  const key = leverKey(variable, index);
  // What is worked out stands as it is said: its own expression is not looked at.
  const others = (kit.derived ?? []).filter(({ name }) => leverKey(name, null) !== key);
  const readers = derivedReaders(others, (name, at) => neutralIn(kit, name, at));
  const along = (reader: DerivedReader) => (value: number) => reader.value({ [key]: value });
  return Object.values(kit.bindings).flatMap((binding): BindingAlong[] => {
    if (leverKey(binding.variable, binding.index) === key) return [{ binding, valueAt: (value) => value }];
    const reader = binding.index === null ? readers.get(binding.variable) : undefined;
    return reader?.looksAt.has(key) ? [{ binding, valueAt: along(reader) }] : [];
  });
}
