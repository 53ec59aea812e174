/** Rows by value, ascending; of two rows at one value the later one in the table counts. */
export function sortedRows<Row extends { value: number }>(rows: readonly Row[]): Row[] {
  const byValue = new Map(rows.map((row) => [row.value, row]));
  return [...byValue.values()].sort((a, b) => a.value - b.value);
}
