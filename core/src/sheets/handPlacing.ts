/** Pieces that are laid by hand: where one may lie, and the nearest place where it may. */
import { place, type Isometry } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';
import { faultAmong } from './validity.ts';

export interface HandPlaced {
  /** Where it is laid: as wanted, or the nearest place found; undefined where there is none on the sheet. */
  readonly placement?: Isometry;
  /** How far that is from where it was wanted, mm. */
  readonly offMm: number;
  /** What is wrong with the place that was wanted, in a sentence. */
  readonly reason?: string;
}

/** Directions that are tried, all round. */
const DIRECTIONS = 48;
/** Rings that are tried grow by this share, from this step, mm: near ones closer together. */
const FIRST_STEP_MM = 0.25;
const GROWS = 1.08;
/** Rings are tried to so many times the distance of the nearest place. */
const WIDER = 1.5;
/** The nearest place is found to this, mm. */
const FINE_MM = 0.005;
/** It slides along what stops it in steps of at first, mm. */
const SLIDE_MM = 4;

/**
 * Lays a piece among others.
 *
 * Rings round the wanted place are tried, each wider than the one before by a share. From where the piece may lie it goes back
 * towards the wanted place as far as it may, by halving; rings are tried until they are well wider than the nearest place found,
 * which then slides along what stops it as long as that brings it nearer.
 *
 * @param others what lies on the same sheet and stays
 * @param wanted where it should lie
 * @param before where it may lie for certain, such as where it lay: a narrow place that no ring meets
 */
export function laidByHand(
  piece: PackPiece,
  wanted: Isometry,
  others: readonly PlacedOnSheet[],
  sheet: SheetSpec,
  before?: Isometry,
): HandPlaced {
  const fault = faultAmong(others, sheet);
  const at = (dx: number, dy: number): PlacedOnSheet => ({
    piece,
    sheet: 0,
    placement: { ...wanted, dx: wanted.dx + dx, dy: wanted.dy + dy },
  });
  const reason = fault(at(0, 0));
  if (reason === undefined) return { placement: wanted, offMm: 0 };
  // From outside the printable area it comes in first.
  const box = boxOf(piece.outlines.flatMap(({ outer }) => outer.map((p) => place(wanted, p))));
  const room = [sheet.widthMm - 2 * sheet.marginMm, sheet.heightMm - 2 * sheet.marginMm];
  // Larger than the area it cannot come in at all.
  if (box.maxX - box.minX > room[0] + FINE_MM || box.maxY - box.minY > room[1] + FINE_MM)
    return { offMm: 0, reason };
  const into = (low: number, high: number, long: number) =>
    Math.max(sheet.marginMm - low, Math.min(0, long - sheet.marginMm - high));
  const [inX, inY] = [into(box.minX, box.maxX, sheet.widthMm), into(box.minY, box.maxY, sheet.heightMm)];
  if (Math.abs(inX) > 1e-6 || Math.abs(inY) > 1e-6) {
    const inside = laidByHand(piece, at(inX, inY).placement, others, sheet, before);
    const { placement } = inside;
    return placement
      ? { placement, offMm: Math.hypot(placement.dx - wanted.dx, placement.dy - wanted.dy), reason }
      : { offMm: 0, reason };
  }
  const fits = (x: number, y: number) => fault(at(x, y)) === undefined;
  const farthest = Math.hypot(sheet.widthMm, sheet.heightMm);
  const back: [number, number] | undefined = before && [before.dx - wanted.dx, before.dy - wanted.dy];
  let found =
    back && before?.angleRad === wanted.angleRad && fits(...back) ? towards(back, [0, 0], fits) : undefined;
  const nearest = () => (found ? Math.hypot(...found) : Infinity);
  // A place on a wider ring may lead back nearer than one on the first that has any.
  for (
    let r = FIRST_STEP_MM;
    r < farthest * GROWS && r < WIDER * nearest();
    r = Math.max(r + FIRST_STEP_MM, r * GROWS)
  )
    for (let k = 0; k < DIRECTIONS; k++) {
      const angle = (2 * Math.PI * k) / DIRECTIONS;
      const place: [number, number] = [r * Math.cos(angle), r * Math.sin(angle)];
      if (!fits(...place)) continue;
      const nearer = towards(place, [0, 0], fits);
      if (Math.hypot(...nearer) < nearest()) found = nearer;
    }
  if (!found) return { offMm: 0, reason };
  const [dx, dy] = slid(found, fits);
  return { placement: at(dx, dy).placement, offMm: Math.hypot(dx, dy), reason };
}

/** From a place where it may lie towards another one, as far as it goes, by halving. */
function towards(
  [x, y]: readonly [number, number],
  [tx, ty]: readonly [number, number],
  fits: (x: number, y: number) => boolean,
): [number, number] {
  const long = Math.hypot(tx - x, ty - y);
  let [low, high] = [0, 1];
  while ((high - low) * long > FINE_MM) {
    const middle = (low + high) / 2;
    if (fits(x + (tx - x) * middle, y + (ty - y) * middle)) low = middle;
    else high = middle;
  }
  return [x + (tx - x) * low, y + (ty - y) * low];
}

/** Homewards from a place, and from places beside it as long as one of them leads nearer. */
function slid(place: readonly [number, number], fits: (x: number, y: number) => boolean): [number, number] {
  let best = towards(place, [0, 0], fits);
  for (let step = SLIDE_MM; step > FINE_MM;) {
    let better: [number, number] | undefined;
    for (let k = 0; k < 16; k++) {
      const angle = (Math.PI * k) / 8;
      const [x, y] = [best[0] + step * Math.cos(angle), best[1] + step * Math.sin(angle)];
      if (!fits(x, y)) continue;
      const home = towards([x, y], [0, 0], fits);
      if (Math.hypot(...home) < Math.hypot(...(better ?? best)) - FINE_MM / 2) better = home;
    }
    if (better) best = better;
    else step /= 2;
  }
  return best;
}
