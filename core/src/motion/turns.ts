/**
 * Work that gives up its turn: a generator yields between two steps, so that whoever runs it can hear others, show how far it
 * is, or stop. This runs one without a pause.
 */
export function inOneGo<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const next = work.next();
    if (next.done) return next.value;
  }
}
