/** `“a”`, `“a” and “b”`, `“a”, “b” and 3 more`. */
export function nameList(names: readonly string[]): string {
  const quoted = names.slice(0, 3).map((name) => `“${name}”`);
  if (quoted.length <= 2) return quoted.join(' and ');
  if (names.length === 3) return `${quoted[0]}, ${quoted[1]} and ${quoted[2]}`;
  return `${quoted[0]}, ${quoted[1]} and ${names.length - 2} more`;
}

const PLURAL = new Intl.PluralRules('en');

/** A number with its noun: “1 part”, “2,000 parts”. */
export function count(n: number, one: string, many = `${one}s`): string {
  return `${n.toLocaleString('en')} ${PLURAL.select(n) === 'one' ? one : many}`;
}

/** A number for people: at most `digits` decimals, no tail of zeros. */
export function figure(value: number, digits = 3): string {
  return String(Number(value.toFixed(digits)) + 0);
}

/** Orders text by its code units, the same on every machine: below 0, 0 or above 0. */
export const ascending = (a: string, b: string): number => Number(a > b) - Number(a < b);
