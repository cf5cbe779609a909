import { faultWords } from './helper.ts';

/** Something that is worked out: whether it is still wanted, and what is done meanwhile. */
export interface Turn {
  readonly isWanted: () => boolean;
  readonly say: (words: string) => void;
}

/**
 * One thing at a time: what comes back after something else was begun is let go, and so is what is said when it has ended; what a worker
 * says on the way and its answer come by different ways, and the last word may come after the answer.
 */
export class Turns {
  private last = 0;

  /**
   * @param busy is told what is done now, and null when nothing is
   * @param failed is told why the last thing that was begun came to nothing
   */
  constructor(
    private readonly busy: (words: string | null) => void,
    private readonly failed: (why: string) => void,
  ) {}

  /** Begins something; what was begun before is not wanted any more. */
  async begin(words: string, does: (turn: Turn) => Promise<void>): Promise<void> {
    const mine = ++this.last;
    const isWanted = () => mine === this.last;
    this.busy(words);
    try {
      await does({ isWanted, say: (now) => isWanted() && this.busy(now) });
    } catch (fault) {
      if (isWanted()) this.failed(faultWords(fault));
    }
    if (isWanted()) this.letGo();
  }

  /** What was begun is not wanted any more. */
  letGo(): void {
    this.last++;
    this.busy(null);
  }
}
