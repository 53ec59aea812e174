/** One name for a variable with its index, as levers are kept. */
export function leverKey(variable: string, index: number | null): string {
  return index === null ? variable : `${variable}[${index}]`;
}
