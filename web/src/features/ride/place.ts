/** The place of the first value that is not below another; the last one where there is none. */
export function placeOf(values: (number | null)[], wanted: number): number {
  const found = values.findIndex((value) => (value ?? 0) >= wanted);
  return found < 0 ? Math.max(values.length - 1, 0) : found;
}
