/**
 * Where a function is greatest between two places, if it rises and falls once there: by the golden section, so that of two places
 * looked at one is known already.
 *
 * @param within how near to it the place is
 */
export function greatestAt(f: (x: number) => number, from: number, to: number, within: number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  let [low, high] = [from, to];
  let [p, q] = [high - golden * (high - low), low + golden * (high - low)];
  let [fp, fq] = [f(p), f(q)];
  while (high - low > within) {
    if (fp >= fq) {
      [high, q, fq] = [q, p, fp];
      p = high - golden * (high - low);
      fp = f(p);
    } else {
      [low, p, fp] = [p, q, fq];
      q = low + golden * (high - low);
      fq = f(q);
    }
  }
  return (low + high) / 2;
}
