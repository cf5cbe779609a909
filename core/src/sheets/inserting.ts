/** One piece of the end of the last sheet, and a small part of some sheet in which it may find room: only what lies there is moved. */
import type { Box } from '../geometry/path.ts';
import type { Course, Lying } from './firstFit.ts';
import type { Found, Packer } from './packer.ts';
import { Crowd } from './separating.ts';
import { isOff } from './ways.ts';

/** The piece is one of so many that reach farthest. */
const FARTHEST = 20;
/** So many pieces lie in the part of the sheet, on the average. */
const PIECES = 30;
/** Rounds without a better total before it is given up. */
const PATIENCE = 4;
/** A part that is thinner than this share of what it should be is none. */
const THINNEST = 0.5;
/** What lies within the margin of this about the part may be in the way, besides the gap, mm. */
const ABOUT_MM = 1;

const reachOf = ({ x, way }: Lying): number => x + way.box.maxX;

const isWithin = ({ x, y, way: { box } }: Lying, part: Box): boolean =>
  x + box.minX >= part.minX &&
  x + box.maxX <= part.maxX &&
  y + box.minY >= part.minY &&
  y + box.maxY <= part.maxY;

export class Insertion {
  private constructor(
    readonly crowd: Crowd,
    private readonly packer: Packer,
    private readonly found: Found,
    private readonly sheet: number,
    /** What lies near the part and is none of the crowd. */
    private readonly near: readonly Lying[],
  ) {}

  /** A piece and a part of a sheet, both drawn by chance; undefined where there is nothing to be moved, or no room to the left of it. */
  static drawn(packer: Packer, found: Found, random: () => number): Insertion | undefined {
    const last = found.kinds.length - 1;
    const farthest = found.lying
      .filter(({ sheet, piece }) => sheet === last && piece.together === undefined)
      .sort((a, b) => reachOf(b) - reachOf(a))
      .slice(0, FARTHEST);
    if (farthest.length === 0) return undefined;
    const one = farthest[Math.floor(random() * farthest.length)];
    const sheet = Math.floor(random() * found.kinds.length);
    const { widthMm, heightMm, marginMm } = packer.kinds[found.kinds[sheet]];
    const there = found.lying.filter((each) => each.sheet === sheet && each !== one);
    const usedMm = (sheet === last ? found.extentMm : widthMm - marginMm) - marginMm;
    const wideMm = (sheet === last ? one.x + one.way.box.minX : widthMm - marginMm) - marginMm;
    const highMm = heightMm - 2 * marginMm;
    const sideMm = Math.sqrt((usedMm * highMm * PIECES) / Math.max(1, there.length));
    if (wideMm < THINNEST * sideMm) return undefined;
    const minX = marginMm + random() * Math.max(0, wideMm - sideMm);
    const minY = marginMm + random() * Math.max(0, highMm - sideMm);
    const part: Box = {
      minX,
      minY,
      maxX: minX + Math.min(sideMm, wideMm),
      maxY: minY + Math.min(sideMm, highMm),
    };
    const aboutMm = packer.kinds[0].gapMm + ABOUT_MM;
    const isNear = ({ way, x, y }: Lying): boolean => !isOff(way, x, y, part, aboutMm);
    const moved: Lying[] = [];
    const near: Lying[] = [];
    for (const each of there.filter(isNear)) {
      if (isWithin(each, part) && each.piece.together === undefined) moved.push({ ...each, sheet: 0 });
      else near.push(each);
    }
    const course: Course = (k) => found.kinds[k];
    const still = packer.still(course)(sheet).filter(isNear);
    // It comes from beyond the only sheet.
    const start = [...moved, { ...one, sheet: 1 }];
    const crowd = new Crowd(
      packer.ways,
      start.map(({ piece }) => piece),
      start,
      random,
      {
        course: () => found.kinds[sheet],
        still: () => [...near, ...still].map((each) => ({ ...each, sheet: 0 })),
        within: part,
        patience: PATIENCE,
      },
    );
    return crowd.confine(1, Infinity) ? new Insertion(crowd, packer, found, sheet, near) : undefined;
  }

  /**
   * The layout with the piece in its new place; undefined where something is not as it may be.
   *
   * @yields again and again
   */
  *done(): Generator<void, Found | undefined> {
    const { packer, sheet } = this;
    const { lying, unplaced, kinds } = this.found;
    const there = this.crowd.lying().map((each) => ({ ...each, sheet }));
    const locked = packer.locked.filter((each) => each.sheet === sheet);
    if (!(yield* packer.areSound([...there, ...this.near, ...locked], kinds))) return undefined;
    const moved = new Set(there.map(({ piece }) => piece));
    return packer.foundOf(
      [...lying.filter(({ piece }) => !moved.has(piece)), ...there],
      unplaced,
      (k) => kinds[k],
    );
  }
}
