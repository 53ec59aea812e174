import type { Variable } from '@itchkit/core/rulebook';

/** Searched over name, title, group and unit; every word has to be found. */
export function searchVariables(variables: readonly Variable[], text: string): Variable[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return variables.filter((one) => {
    const whole = `${one.name} ${one.title} ${one.group} ${one.unit} ${one.kind}`.toLowerCase();
    return words.every((word) => whole.includes(word));
  });
}
