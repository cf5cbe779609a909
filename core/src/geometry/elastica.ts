/**
 * A strip bent between two slits: an elastica, the curve of least bending for its length, not an arc of a circle.
 *
 * With a length L between slits d apart that let its ends lean freely: 2 E(k) / K(k) - 1 = d / L gives the modulus k; it rises
 * L k / K, its ends lean 2 asin k, and its least radius is L / (4 k K), in the middle.
 */

/** The complete elliptic integrals K(k) and E(k), by the arithmetic-geometric mean. */
export function ellipticIntegrals(k: number): { readonly K: number; readonly E: number } {
  let [a, b, c, power, sum] = [1, Math.sqrt(1 - k * k), k, 0.5, 0.5 * k * k];
  for (let i = 0; i < 40 && Math.abs(c) > 1e-17; i++) {
    [a, b, c] = [(a + b) / 2, Math.sqrt(a * b), (a - b) / 2];
    power *= 2;
    sum += power * c * c;
  }
  const K = Math.PI / (2 * a);
  return { K, E: K * (1 - sum) };
}

export interface Elastica {
  /** How high its middle stands over the slits, mm. */
  readonly riseMm: number;
  /** How far its ends lean from the way between the slits, rad. */
  readonly endRad: number;
  readonly leastRadiusMm: number;
}

/**
 * A strip so long between slits so far apart.
 *
 * @throws RangeError when it is no longer than the way between them
 */
export function elastica(lengthMm: number, spanMm: number): Elastica {
  if (!(lengthMm > spanMm)) throw new RangeError('The strip must be longer than the way between its slits.');
  let [low, high] = [0, 1 - 1e-12];
  for (let i = 0; i < 80; i++) {
    const k = (low + high) / 2;
    const { K, E } = ellipticIntegrals(k);
    if ((2 * E) / K - 1 > spanMm / lengthMm) low = k;
    else high = k;
  }
  const k = (low + high) / 2;
  const { K } = ellipticIntegrals(k);
  return { riseMm: (lengthMm * k) / K, endRad: 2 * Math.asin(k), leastRadiusMm: lengthMm / (4 * k * K) };
}
