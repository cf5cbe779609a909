/** A worker that is asked always answers: with the answer, or in words when it fails or is ended; and is there again after. */
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { faultWords, Helper } from './helper.ts';

/** Answers that are given by the test, and the workers that were started. */
const { waiting } = vi.hoisted(() => ({
  waiting: [] as {
    call: string;
    args: unknown[];
    answer: (value: unknown) => void;
    refuse: (fault: Error) => void;
  }[],
}));
vi.mock('comlink', () => ({
  wrap: () =>
    new Proxy(
      {},
      {
        get:
          (_target, call: string) =>
          (...args: unknown[]) =>
            new Promise((answer, refuse) => waiting.push({ call, args, answer, refuse })),
      },
    ),
}));

class FakeWorker extends EventTarget {
  ended = false;
  terminate = () => (this.ended = true);
}
interface Api {
  add(a: number, b: number): number;
}
let started: FakeWorker[];
let helper: Helper<Api>;
beforeEach(() => {
  waiting.length = 0;
  started = [];
  helper = new Helper<Api>(() => {
    const worker = new FakeWorker();
    started.push(worker);
    return worker as unknown as Worker;
  });
});
/** What became of a question so far. */
const ending = (asked: Promise<unknown>) =>
  asked.then(
    (value) => ({ value }),
    (fault: unknown) => ({ said: faultWords(fault) }),
  );

describe('a helper', () => {
  it('starts its worker when it is first asked, once', async () => {
    expect(started).toHaveLength(0);
    const asked = [helper.api.add(1, 2), helper.api.add(3, 4)];
    expect(started).toHaveLength(1);
    expect(waiting.map(({ call, args }) => [call, args])).toEqual([
      ['add', [1, 2]],
      ['add', [3, 4]],
    ]);
    waiting[1].answer(7);
    waiting[0].answer(3);
    expect(await Promise.all(asked)).toEqual([3, 7]);
  });

  it('hands on what the work itself throws', async () => {
    const asked = ending(helper.api.add(1, 2));
    waiting[0].refuse(new RangeError('too large'));
    expect(await asked).toEqual({ said: 'too large' });
    expect(started[0].ended).toBe(false);
  });

  it.each([
    [
      'fails',
      () => Object.assign(new Event('error'), { message: 'out of memory' }),
      /could not be worked out: out of memory\. Try again/,
    ],
    ['cannot be fetched', () => new Event('error'), /could not be worked out: something failed\. Try again/],
    ['gives an answer that cannot be read', () => new Event('messageerror'), /the answer could not be read/],
  ])('refuses all who wait when its worker %s, and is there again', async (_what, event, words) => {
    const asked = [ending(helper.api.add(1, 2)), ending(helper.api.add(3, 4))];
    started[0].dispatchEvent(event());
    for (const end of await Promise.all(asked)) expect((end as { said: string }).said).toMatch(words);
    expect(started[0].ended).toBe(true);
    const again = helper.api.add(5, 6);
    expect(started).toHaveLength(2);
    waiting[2].answer(11);
    expect(await again).toBe(11);
  });

  it('is ended in words; an answer that comes after is nobody’s', async () => {
    const asked = ending(helper.api.add(1, 2));
    helper.end('Stopped.');
    waiting[0].answer(3);
    expect(await asked).toEqual({ said: 'Stopped.' });
    // Ending what never ran is nothing.
    helper.end('Stopped again.');
    expect(started.map(({ ended }) => ended)).toEqual([true]);
  });
});
