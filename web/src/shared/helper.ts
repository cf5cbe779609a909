/**
 * A web worker that is asked and always answers: with what was asked for, or with a fault in words when it fails, is ended, or
 * its answer cannot be read. It is started when it is first asked, and again after it was ended.
 */
import { wrap, type Remote } from 'comlink';

export class Helper<Api extends object> {
  private worker: Worker | undefined;
  private remote: Remote<Api> | undefined;
  private readonly waiting = new Set<(fault: Error) => void>();
  /** What is asked; each call is refused when the worker fails or is ended before it answered. */
  readonly api: Remote<Api>;

  constructor(private readonly make: () => Worker) {
    this.api = new Proxy({} as Remote<Api> & object, {
      get:
        (_target, name) =>
        (...args: unknown[]) =>
          this.ask(name as string, args),
    });
  }

  private started(): Remote<Api> {
    if (!this.remote) {
      const worker = this.make();
      worker.addEventListener('error', (event) => {
        // A module that cannot be fetched has no message.
        const why = (event as Partial<ErrorEvent>).message;
        this.end(`It could not be worked out${why ? `: ${why}` : ': something failed'}. Try again.`);
      });
      worker.addEventListener('messageerror', () =>
        this.end('It could not be worked out: the answer could not be read. Try again.'),
      );
      this.worker = worker;
      this.remote = wrap<Api>(worker);
    }
    return this.remote;
  }

  private ask(name: string, args: readonly unknown[]): Promise<unknown> {
    return new Promise((answer, refuse) => {
      const settled = () => this.waiting.delete(refuse);
      this.waiting.add(refuse);
      const call = (this.started() as unknown as Record<string, (...all: unknown[]) => Promise<unknown>>)[
        name
      ];
      call(...args)
        .then(answer, refuse)
        .finally(settled);
    });
  }

  /** Ends the worker; whoever waits for an answer hears why. The next question starts a new one. */
  end(words: string): void {
    this.worker?.terminate();
    [this.worker, this.remote] = [undefined, undefined];
    const fault = new Error(words);
    for (const refuse of [...this.waiting]) refuse(fault);
    this.waiting.clear();
  }
}

/** What went wrong, as a sentence. */
export const faultWords = (fault: unknown): string =>
  fault instanceof Error ? fault.message : String(fault);
