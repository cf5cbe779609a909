/** Rank by elimination with full pivoting; pivots under 1e-7 of the largest entry count as zero. */
export function rank(matrix: Float64Array, m: number, n: number): number {
  const a = matrix.slice();
  const largest = a.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  const columns = Array.from({ length: n }, (_, i) => i);
  let found = 0;
  for (; found < Math.min(m, n); found++) {
    let [pr, pc, pivot] = [-1, -1, 1e-7 * largest];
    for (let r = found; r < m; r++)
      for (let c = found; c < n; c++) {
        const value = Math.abs(a[r * n + columns[c]]);
        if (value > pivot) [pr, pc, pivot] = [r, c, value];
      }
    if (pr < 0) break;
    [columns[found], columns[pc]] = [columns[pc], columns[found]];
    for (let c = 0; c < n; c++) [a[found * n + c], a[pr * n + c]] = [a[pr * n + c], a[found * n + c]];
    const column = columns[found];
    for (let r = found + 1; r < m; r++) {
      const factor = a[r * n + column] / a[found * n + column];
      if (factor !== 0) for (let c = 0; c < n; c++) a[r * n + c] -= factor * a[found * n + c];
    }
  }
  return found;
}
