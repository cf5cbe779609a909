/** The last sheet of a layout made a little shorter, with all that lies on it moved along: turns and neighbours stay as they are. */
import { compose, placing, shift, type Isometry } from '../geometry/isometry.ts';
import { counterClockwise, type Region, type Ring } from '../geometry/polygon.ts';
import { FLATTEN_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { eased, type Eased } from './easing.ts';
import type { LooselyLaid } from './loosePuzzle.ts';
import { extentOn, type Lying } from './firstFit.ts';
import { placedOf, type Found, type Packer } from './packer.ts';
import type { Part } from './part.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';
import { wholeOutlines } from './ways.ts';

/** It is made shorter by this share first, then by half as much where that fails, down to the last. */
const SHORTER = { first: 0.02, last: 0.0005 } as const;
/** How long a sheet must be for what was put together is not known to a hair: so much more is tried, as shares. */
const ROOM = [0, 0.004, 0.01, 0.02, 0.04] as const;

/** The rings of a piece where it lies: its outlines turn left, its holes right. */
function ringsAt(outlines: readonly Region[], placement: Isometry): Ring[] {
  const placed = (ring: Ring): Ring => counterClockwise(ring.map(placing(placement)));
  return outlines.flatMap(({ outer, holes }) => [
    placed(outer),
    ...holes.map((hole) => [...placed(hole)].reverse()),
  ]);
}

/** The outlines of parts, made whole when they are first asked for. */
type Wholes = Map<string, Region[]>;

/** Pieces on a sheet that reach no farther along it than told, got apart by as little as it takes; undefined where that fails. */
function* easedOn(
  placed: readonly PlacedOnSheet[],
  still: ReadonlySet<PackPiece>,
  { widthMm, heightMm, marginMm, gapMm }: SheetSpec,
  limitMm: number,
  wholes: Wholes,
): Generator<void, PlacedOnSheet[] | undefined> {
  const pieces = placed.map(({ piece, placement }): Eased => {
    let known = wholes.get(piece.partId);
    if (!known) wholes.set(piece.partId, (known = wholeOutlines(piece.outlines)));
    return {
      rings: ringsAt(known, placement),
      slackMm: piece.straight ? 0 : FLATTEN_TOLERANCE_MM,
      ...(still.has(piece) ? { still: true } : {}),
      room: {
        minX: marginMm,
        minY: marginMm,
        maxX: Math.min(limitMm, widthMm - marginMm),
        maxY: heightMm - marginMm,
      },
    };
  });
  const shifts = yield* eased(pieces, gapMm);
  return (
    shifts && placed.map((each, i) => ({ ...each, placement: compose(shift(...shifts[i]), each.placement) }))
  );
}

/**
 * What was put together nearly, with its pieces apart.
 *
 * @yields again and again
 * @returns undefined where they were not got apart
 */
export function* gotApart(
  { placed, sheets, extentMm }: LooselyLaid,
  sheet: SheetSpec,
): Generator<void, PlacedOnSheet[] | undefined> {
  const all: PlacedOnSheet[] = [];
  const wholes: Wholes = new Map();
  for (let k = 0; k < sheets; k++) {
    const own = placed.filter((each) => each.sheet === k);
    const limits =
      k < sheets - 1
        ? [Infinity]
        : ROOM.map((more) => sheet.marginMm + (extentMm - sheet.marginMm) * (1 + more));
    let apart: PlacedOnSheet[] | undefined;
    for (const limitMm of limits) {
      apart = yield* easedOn(own, new Set(), sheet, limitMm, wholes);
      if (apart) break;
    }
    if (!apart) return undefined;
    all.push(...apart);
  }
  return all;
}

/**
 * A layout with less of its last sheet used, as far as moving what lies there a little makes it so.
 *
 * @yields again and again
 * @returns the same layout where nothing is gained
 */
export function* squeezed(packer: Packer, found: Found): Generator<void, Found> {
  const last = found.kinds.length - 1;
  const sheet = packer.kinds[found.kinds[last]];
  const locked = packer.locked.filter((each) => each.sheet === last);
  const moved = found.lying.filter((each) => each.sheet === last);
  // What is locked may reach as far as what is not.
  if (sheet.outline || moved.length === 0 || extentOn(locked, last) >= found.extentMm - 1e-6) return found;
  const still = new Set(locked.map(({ piece }) => piece));
  const wholes: Wholes = new Map();
  let placed = placedOf([...moved, ...locked]);
  let { extentMm } = found;
  for (let share: number = SHORTER.first; share >= SHORTER.last;) {
    const limitMm = sheet.marginMm + (extentMm - sheet.marginMm) * (1 - share);
    const shorter = yield* easedOn(placed, still, sheet, limitMm, wholes);
    if (shorter) [placed, extentMm] = [shorter, limitMm];
    else share /= 2;
  }
  if (extentMm === found.extentMm) return found;
  const there = packer.lyingOf({
    placed: placed.filter(({ piece }) => !still.has(piece)),
    kinds: found.kinds,
  });
  return packer.foundOf(
    [...found.lying.filter((each) => each.sheet !== last), ...there],
    found.unplaced,
    (k) => found.kinds[k],
  );
}

/**
 * Pieces that were nearly pushed apart, got apart by their true outlines.
 *
 * @param sheets on so many of a part's sheets they lie, and reach no farther along the last of them than told
 * @yields again and again
 * @returns undefined where they were not got apart
 */
export function* easedApart(
  packer: Packer,
  { crowd, kinds, still }: Part,
  sheets: number,
  limitMm: number,
): Generator<void, Lying[] | undefined> {
  const lying = crowd.lying();
  const wholes: Wholes = new Map();
  const placed: PlacedOnSheet[] = [];
  for (let k = 0; k < sheets; k++) {
    const sheet = packer.kinds[kinds[k]];
    if (sheet.outline) return undefined;
    const stays = new Set(still(k).map(({ piece }) => piece));
    const all = placedOf([...lying.filter((each) => each.sheet === k), ...still(k)]);
    const limit = k === sheets - 1 ? limitMm : Infinity;
    const apart = yield* easedOn(all, stays, sheet, limit, wholes);
    if (!apart) return undefined;
    placed.push(...apart.filter(({ piece }) => !stays.has(piece)));
  }
  return packer.lyingOf({ placed, kinds });
}
