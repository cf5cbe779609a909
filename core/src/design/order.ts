/** The order of things that lie on each other in a drawing: what comes later is drawn over what comes before, and met first. */

export const MOVES = ['front', 'forward', 'backward', 'back'] as const;
export type Move = (typeof MOVES)[number];

/**
 * An order with some of its things moved to an end, or by one place past a thing that stays.
 *
 * @param order all ids, the lowest first
 * @param chosen those that are moved; they keep their own order
 */
export function reordered(order: readonly string[], chosen: ReadonlySet<string>, move: Move): string[] {
  const own = order.filter((id) => chosen.has(id));
  const others = order.filter((id) => !chosen.has(id));
  if (move === 'front') return [...others, ...own];
  if (move === 'back') return [...own, ...others];
  const next = [...order];
  const [from, step] = move === 'forward' ? [next.length - 2, -1] : [1, 1];
  for (let i = from; i >= 0 && i < next.length; i += step) {
    const past = i - step;
    if (chosen.has(next[i]) && !chosen.has(next[past])) [next[i], next[past]] = [next[past], next[i]];
  }
  return next;
}
