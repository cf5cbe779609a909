/**
 * The order in which places are joined. A place is lost when something that would lie over it hangs together with one of the
 * two parts that it joins before it is made and can no longer be swung aside: it is held in two places, or in one that is on the
 * very panel that lies over it. A tongue is lost behind its slot when both its parts are fixed to each other before
 * it was put through (what only hangs in slots still gives). An order is workable when no place is lost in it.
 *
 * What hangs together only grows, and so does what is lost: an order is searched place by place, and given up as soon as one
 * is lost. Sets of made places that were tried are remembered, so that no set is tried twice: with n places at most 2^n of
 * them, and as few as n where nothing lies over anything.
 */

/** A place where two parts are joined. */
export interface JoinPlace {
  readonly id: string;
  readonly partId: string;
  readonly hostPartId: string;
  /** It is put through a slot, which needs one of the parts free. */
  readonly through: boolean;
  /** Parts that lie over the place once they are held there, each with the places that hold it there alone. */
  readonly under: ReadonlyMap<string, ReadonlySet<string>>;
}

/** Sets that are looked at before the search is given up. */
const MOST_SETS = 20_000;

/** Which parts hang together by the places that are made (or only by those that are fixed): one name for each lot. */
export function lotsOf(
  places: readonly JoinPlace[],
  made: ReadonlySet<string>,
  fixedOnly = false,
): (partId: string) => string {
  const up = new Map<string, string>();
  const top = (id: string): string => {
    let at = id;
    for (let next = up.get(at); next !== undefined; next = up.get(at)) at = next;
    return at;
  };
  for (const { id, partId, hostPartId, through } of places) {
    if (!made.has(id) || (fixedOnly && through)) continue;
    const [a, b] = [top(partId), top(hostPartId)];
    if (a !== b) up.set(a, b);
  }
  return top;
}

/** A place that can no longer be made, and why: the part that lies over it, or null where a tongue is behind its slot. */
export interface Lost {
  readonly place: JoinPlace;
  readonly over: string | null;
}

/** Whether a part can no longer be swung aside. */
function isHeld(
  places: readonly JoinPlace[],
  made: ReadonlySet<string>,
  partId: string,
  alone: ReadonlySet<string>,
): boolean {
  let held = 0;
  for (const place of places) {
    if (!made.has(place.id) || place.through) continue;
    if (place.partId !== partId && place.hostPartId !== partId) continue;
    if (alone.has(place.id) || ++held === 2) return true;
  }
  return false;
}

/** The places that are lost once some are made. */
export function lostPlaces(places: readonly JoinPlace[], made: ReadonlySet<string>): Lost[] {
  const lot = lotsOf(places, made);
  const fixed = lotsOf(places, made, true);
  return places.flatMap((place): Lost[] => {
    if (made.has(place.id)) return [];
    const [own, host] = [lot(place.partId), lot(place.hostPartId)];
    if (place.through && place.partId !== place.hostPartId && fixed(place.partId) === fixed(place.hostPartId))
      return [{ place, over: null }];
    const over = [...place.under].find(
      ([id, alone]) => (lot(id) === own || lot(id) === host) && isHeld(places, made, id, alone),
    );
    return over === undefined ? [] : [{ place, over: over[0] }];
  });
}

export interface Workable {
  readonly order: readonly JoinPlace[];
  /** Whether no place is lost in it; where there is no such order (or none was found), as few as can be seen ahead are lost. */
  readonly workable: boolean;
}

/** An order in which no place is lost, where there is one. What goes through a slot is tried before what is glued down. */
export function workableOrder(places: readonly JoinPlace[]): Workable {
  const ranked = [...places].sort((a, b) => Number(b.through) - Number(a.through));
  const tried = new Set<string>();
  const order: JoinPlace[] = [];
  const made = new Set<string>();
  const search = (): boolean => {
    if (order.length === ranked.length) return true;
    for (const place of ranked) {
      if (made.has(place.id)) continue;
      made.add(place.id);
      const key = [...made].sort().join('\n');
      if (tried.size < MOST_SETS && !tried.has(key)) {
        tried.add(key);
        if (lostPlaces(places, made).length === 0) {
          order.push(place);
          if (search()) return true;
          order.pop();
        }
      }
      made.delete(place.id);
    }
    return false;
  };
  if (lostPlaces(places, made).length === 0 && search()) return { order, workable: true };
  return { order: leastLost(places, ranked), workable: false };
}

/** One after another the place after which the fewest are lost. */
function leastLost(places: readonly JoinPlace[], ranked: readonly JoinPlace[]): JoinPlace[] {
  const made = new Set<string>();
  const left = [...ranked];
  const order: JoinPlace[] = [];
  while (left.length > 0) {
    const lost = left.map(({ id }) => lostPlaces(places, new Set([...made, id])).length);
    const [next] = left.splice(lost.indexOf(Math.min(...lost)), 1);
    made.add(next.id);
    order.push(next);
  }
  return order;
}
