/** Shortest ways over the corners or the faces of a solid. */

/** A way from one place to the next, and how long it is. */
export interface Way {
  readonly e: number;
  readonly to: number;
  readonly long: number;
}

/** How far each place is from one, along the shortest ways, and by which edge it is reached; -1 for the first. */
export function shortestWays(
  count: number,
  root: number,
  ways: (from: number) => readonly Way[],
): { far: Float64Array; came: Int32Array } {
  const far = new Float64Array(count).fill(Infinity);
  const came = new Int32Array(count).fill(-1);
  const done = new Uint8Array(count);
  far[root] = 0;
  // A heap of pairs; stale ones are passed over.
  const heap: [number, number][] = [[0, root]];
  const less = (i: number, j: number) => heap[i][0] < heap[j][0];
  const swap = (i: number, j: number) => ([heap[i], heap[j]] = [heap[j], heap[i]]);
  const push = (entry: [number, number]) => {
    heap.push(entry);
    for (let i = heap.length - 1; i > 0 && less(i, (i - 1) >> 1); i = (i - 1) >> 1) swap(i, (i - 1) >> 1);
  };
  const pop = (): [number, number] => {
    const top = heap[0];
    const last = heap.pop()!;
    if (heap.length > 0) {
      heap[0] = last;
      for (let i = 0; ;) {
        const [l, r] = [2 * i + 1, 2 * i + 2];
        let least = i;
        if (l < heap.length && less(l, least)) least = l;
        if (r < heap.length && less(r, least)) least = r;
        if (least === i) break;
        swap(i, least);
        i = least;
      }
    }
    return top;
  };
  while (heap.length > 0) {
    const [, from] = pop();
    if (done[from]) continue;
    done[from] = 1;
    for (const { e, to, long } of ways(from)) {
      if (done[to] || far[from] + long >= far[to]) continue;
      far[to] = far[from] + long;
      came[to] = e;
      push([far[to], to]);
    }
  }
  return { far, came };
}
