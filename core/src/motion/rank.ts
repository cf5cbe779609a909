/** Rank and null space by elimination with full pivoting; pivots under 1e-7 of the largest entry count as zero. */

/** Rows 0 to rank - 1 of `a` (n wide) are triangular when their columns are taken in the order of `columns`. */
function eliminate(matrix: Float64Array, m: number, n: number) {
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
  return { a, columns, found };
}

/** Rank of an m by n matrix, row by row. */
export const rank = (matrix: Float64Array, m: number, n: number): number => eliminate(matrix, m, n).found;

/**
 * A basis of the vectors that an m by n matrix takes to nothing, as many as n less its rank. In each, one column that the
 * elimination left free is 1 and the other free ones are 0, by back substitution.
 */
export function nullVectors(matrix: Float64Array, m: number, n: number): Float64Array[] {
  const { a, columns, found } = eliminate(matrix, m, n);
  return columns.slice(found).map((free) => {
    const x = new Float64Array(n);
    x[free] = 1;
    for (let r = found - 1; r >= 0; r--) {
      let sum = a[r * n + free];
      for (let c = r + 1; c < found; c++) sum += a[r * n + columns[c]] * x[columns[c]];
      x[columns[r]] = -sum / a[r * n + columns[r]];
    }
    return x;
  });
}
