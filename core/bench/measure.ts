/** How the bench measures, and how it tells what it found. */

/** So long a piece of work is warmed up at most before it is timed, ms: what runs at every change is warm. */
const WARM_MS = 500;

/** The middle one of some values. */
export const middle = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1];

/** Median time of `runs` calls in ms, after warming up. */
export function median(runs: number, work: () => void): number {
  const begun = performance.now();
  for (let i = 0; i < 3 || (i < 200 && performance.now() - begun < WARM_MS); i++) work();
  return middle(
    Array.from({ length: runs }, () => {
      const from = performance.now();
      work();
      return performance.now() - from;
    }),
  );
}

/** One line: what was measured, its figure, and what it may be at most or at least. */
export const line = (name: string, value: string, budget = ''): void =>
  console.log(`${name.padEnd(58)} ${value.padStart(16)}   ${budget}`);
