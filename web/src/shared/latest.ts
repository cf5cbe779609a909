/** What is told again and again, handed on so often at the most unless told otherwise, ms. */
const EVERY_MS = 50;

/**
 * Hands on what is told again and again, from time to time and the latest alone. A page that was busy finds dozens of messages of a worker
 * waiting; drawn one after another at once they keep everything else from being drawn, until React gives up.
 *
 * @param take is given the latest, not before all else that waits had its turn
 * @param everyMs from one time to the next
 * @returns what is to be told, and the end of it: what waits then is not handed on any more
 */
export function latest<T>(
  take: (value: T) => void,
  everyMs = EVERY_MS,
): { tell: (value: T) => void; end: () => void } {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isOver = false;
  let last: T;
  const handOn = () => {
    timer = undefined;
    take(last);
  };
  return {
    tell: (value) => {
      if (isOver) return;
      last = value;
      timer ??= setTimeout(handOn, everyMs);
    },
    end: () => {
      isOver = true;
      clearTimeout(timer);
    },
  };
}
