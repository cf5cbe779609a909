/** What a drawing that is brought in is made of, whatever file it comes from: lines in its own units, and how large these are. */
import type { Affine } from '../../geometry/affine.ts';
import type { Path } from '../../geometry/path.ts';

/** A line of a drawing, in the drawing's own units, y upwards. */
export interface DrawnLine {
  readonly path: Path;
  /** The outermost named group or layer that it lies in; empty where there is none. */
  readonly layer: string;
  /** Its colour, #rrggbb; empty where none is said. */
  readonly colour: string;
  /** Lengths drawn and left in turn, in the drawing's units; empty for a solid line. */
  readonly dash: readonly number[];
  /** An outline that is only filled, not drawn. */
  readonly filled: boolean;
  /** Which pass over the same way it is, from the second on, where a cut file says so. */
  readonly pass?: number;
}

/** How large a unit of a drawing may be. */
export interface SizeOffer {
  readonly label: string;
  readonly mmPerUnit: number;
}

export interface Drawing {
  readonly lines: readonly DrawnLine[];
  /** One size where the file says it, else those that it may be, the likeliest first. */
  readonly sizes: readonly SizeOffer[];
  /** Whether the file itself says how large it is. */
  readonly sure: boolean;
  /** What was left out or changed, in sentences. */
  readonly notes: readonly string[];
  /** Lines that the drawing hides: not among its lines, to be taken in if wished. */
  readonly hidden: readonly DrawnLine[];
}

/** A file that cannot be brought in: what is wrong, where, and what to do. */
export class NotReadable extends Error {}

/** Limits of what is read: beyond them a file is refused in words. */
export const READ_LIMITS = {
  bytes: 30_000_000,
  /** Elements after references are drawn in full. */
  elements: 200_000,
  segments: 400_000,
  depth: 200,
  /** Coordinates farther out are no drawing, mm or units. */
  farthest: 1e7,
} as const;

/** Counts things up to a limit. */
export class Counted {
  private count = 0;

  constructor(
    private readonly most: number,
    private readonly what: string,
  ) {}

  add(more = 1): void {
    this.count += more;
    if (this.count > this.most)
      throw new NotReadable(
        `It has more than ${this.most.toLocaleString('en')} ${this.what}: bring in a part of it, or simplify it first.`,
      );
  }
}

/** Notes, each once, with how often it applied. */
export class Notes {
  private readonly counts = new Map<string, number>();

  add(sentence: string): void {
    this.counts.set(sentence, (this.counts.get(sentence) ?? 0) + 1);
  }

  list(): string[] {
    return [...this.counts].map(([sentence, count]) =>
      count > 1 ? `${sentence} (${count} times)` : sentence,
    );
  }
}

/** What is noted of numbers that are none, or beyond what is read. */
export const BEYOND = 'Something lies beyond all measure and was left out';

/** Whether a drawing's map or number is one that can be computed with. */
export const isPlain = (...values: readonly number[]): boolean =>
  values.every((value) => Number.isFinite(value) && Math.abs(value) <= READ_LIMITS.farthest);

export const isPlainMap = ({ a, b, c, d, e, f }: Affine): boolean => isPlain(a, b, c, d, e, f);
