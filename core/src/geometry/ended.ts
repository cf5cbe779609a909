/** What a search gives back that is carried on to its end, whatever it tells on the way. */
export function ended<T>(search: Generator<unknown, T>): T {
  for (;;) {
    const step = search.next();
    if (step.done) return step.value;
  }
}
