/** Parts of a long list, so many rows each: only those in view are asked for. */

export const WINDOW = 60;

/** The parts that hold these rows; the first one always, since it says how many rows there are. */
export function windowsOf(rows: readonly number[]): number[] {
  const found = new Set([0, ...rows.map((row) => Math.floor(row / WINDOW))]);
  return [...found].sort((a, b) => a - b);
}
