/** Orders of joining by trying them all: a second way for what the search finds. */
import type { JoinPlace } from '../workable.ts';

/** All orders of some things. */
export function* orders<T>(things: readonly T[]): Generator<T[]> {
  if (things.length === 0) yield [];
  for (let i = 0; i < things.length; i++)
    for (const rest of orders(things.toSpliced(i, 1))) yield [things[i], ...rest];
}

/** Whether a place is lost, told by walking from part to part. */
export function lostByWalking(places: readonly JoinPlace[], made: readonly JoinPlace[]): boolean {
  const together = (from: string, by = made): Set<string> => {
    const reached = new Set([from]);
    const queue = [from];
    for (let at = queue.pop(); at !== undefined; at = queue.pop())
      for (const { partId, hostPartId } of by) {
        const other = partId === at ? hostPartId : hostPartId === at ? partId : undefined;
        if (other !== undefined && !reached.has(other)) {
          reached.add(other);
          queue.push(other);
        }
      }
    return reached;
  };
  return places.some((place) => {
    if (made.includes(place)) return false;
    const near = new Set([...together(place.partId), ...together(place.hostPartId)]);
    for (const [id, alone] of place.under) {
      const holding = made.filter((m) => !m.through && [m.partId, m.hostPartId].includes(id));
      if (near.has(id) && (holding.length >= 2 || holding.some((m) => alone.has(m.id)))) return true;
    }
    const glued = made.filter(({ through }) => !through);
    return place.through && together(place.partId, glued).has(place.hostPartId);
  });
}

/** Whether no place is lost on the way. */
export const works = (places: readonly JoinPlace[], order: readonly JoinPlace[]): boolean =>
  order.every((_, i) => !lostByWalking(places, order.slice(0, i + 1)));
