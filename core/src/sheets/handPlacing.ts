/** Pieces that are laid by hand: where one may lie, and the nearest place where it may. */
import { indexSegments } from '../dieline/planarGraph.ts';
import { type Isometry } from '../geometry/isometry.ts';
import { keyholed } from '../geometry/keyhole.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import { between, nearestShare, segmentGap, type Point } from '../geometry/point.ts';
import { counterClockwise, placeRegion, type Region, type Ring } from '../geometry/polygon.ts';
import { offset } from '../geometry/regions.ts';
import { PairField } from './pairField.ts';
import type { PackPiece, PlacedOnSheet, SheetSpec } from './pieces.ts';
import { faultAmong } from './validity.ts';
import { besideOffcut, wholeOutlines } from './ways.ts';

export interface HandPlaced {
  /** Where it is laid: as wanted, or the nearest place; undefined where there is none on the sheet. */
  readonly placement?: Isometry;
  /** How far that is from where it was wanted, mm. */
  readonly offMm: number;
  /** What is wrong with the place that was wanted, in a sentence. */
  readonly reason?: string;
}

/** The nearest place is found to this, mm. */
const FINE_MM = 0.005;
/** Rounded corners of the grown outline may lie so far inside the true ones, mm: less than what the final say takes for rounding. */
const ARC_MM = 5e-4;
/** The lattice of a field has so many steps along the larger of the two, none shorter or longer than these, mm. */
const STEPS = 100;
const STEP_MM = [0.5, 2] as const;
/** Places are looked for within this, and then so many times as far, mm. */
const FIRST_REACH_MM = 3;
const FARTHER = 3;
/** So many places at one reach are put to the final say at most: each may still fail by a hair. */
const MOST_TRIED = 400;
/** Rims that come so near each other cross, mm. */
const MEET_MM = 1e-6;
/** It slides along what stops it in steps of at first, mm. */
const SLIDE_MM = 0.05;

/** A piece of the rim of the places that something forbids, and what does. */
interface Rim {
  readonly a: Point;
  readonly b: Point;
  readonly of: number;
}

/** Something in the way: the box of the shifts that it forbids, and their field, which is worked out when it is first asked for. */
class Hindrance {
  private known: { readonly field: PairField; readonly rims: readonly Rim[] } | undefined;
  readonly box: Box;
  /** The step of the field's lattice, mm. */
  private readonly step: number;

  constructor(
    private readonly fixed: readonly Ring[],
    private readonly moving: readonly Ring[],
    private readonly of: number,
  ) {
    const [a, b] = [boxOf(fixed.flat()), boxOf(moving.flat())];
    this.box = {
      minX: a.minX - b.maxX,
      maxX: a.maxX - b.minX,
      minY: a.minY - b.maxY,
      maxY: a.maxY - b.minY,
    };
    const long = Math.max(a.maxX - a.minX, a.maxY - a.minY, b.maxX - b.minX, b.maxY - b.minY);
    this.step = Math.min(STEP_MM[1], Math.max(STEP_MM[0], long / STEPS));
  }

  private get made() {
    if (!this.known) {
      const field = PairField.of(this.fixed, this.moving, this.step);
      this.known = { field, rims: field.rim().map((piece) => ({ ...piece, of: this.of })) };
    }
    return this.known;
  }

  get rims(): readonly Rim[] {
    return this.made.rims;
  }

  forbids([x, y]: Point): boolean {
    return this.made.field.overlapsAt(x, y);
  }
}

/** Outlines as rings that turn left, holes opened to their rims. */
const ringsOf = (regions: readonly Region[]): Ring[] =>
  regions.map(({ outer, holes }) => keyholed({ outer: counterClockwise(outer), holes }));

/** How far the nearest point of a box lies from the origin. */
const boxAway = ({ minX, maxX, minY, maxY }: Box): number =>
  Math.hypot(Math.max(0, minX, -maxX), Math.max(0, minY, -maxY));

/**
 * Lays a piece among others.
 *
 * The places that another piece forbids are those where it overlaps the piece grown by the gap (pairField.ts). The nearest place that
 * nothing forbids is the nearest point of one rim, or a crossing of two: all of them are looked through, the nearest first, and put to
 * the final say on packings.
 *
 * @param others what lies on the same sheet and stays
 * @param wanted where it should lie
 * @param before where it may lie for certain, such as where it lay: a place so narrow that nothing is left of it when it is grown
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
  const fits = (x: number, y: number) => fault(at(x, y)) === undefined;
  const back: Point | undefined = before && [before.dx - wanted.dx, before.dy - wanted.dy];
  let found =
    back && before?.angleRad === wanted.angleRad && before.flip === wanted.flip && fits(...back)
      ? towards(back, [0, 0], fits)
      : undefined;
  const nearest = nearestPlace(piece, wanted, others, sheet, fits);
  if (nearest && Math.hypot(...nearest) < Math.hypot(...(found ?? [Infinity, 0]))) found = nearest;
  if (!found) return { offMm: 0, reason };
  const [dx, dy] = slid(found, fits);
  return { placement: at(dx, dy).placement, offMm: Math.hypot(dx, dy), reason };
}

/** The shift to the nearest place where a piece may lie. */
function nearestPlace(
  piece: PackPiece,
  wanted: Isometry,
  others: readonly PlacedOnSheet[],
  sheet: SheetSpec,
  fits: (x: number, y: number) => boolean,
): Point | undefined {
  const own = piece.outlines.map((region) => placeRegion(wanted, region));
  const box = boxOf(own.flatMap(({ outer }) => outer));
  const { marginMm, gapMm } = sheet;
  const room: Box = {
    minX: marginMm - box.minX,
    maxX: sheet.widthMm - marginMm - box.maxX,
    minY: marginMm - box.minY,
    maxY: sheet.heightMm - marginMm - box.maxY,
  };
  // Larger than the area it cannot come in at all; as large, to a hair, it may.
  if (room.minX > room.maxX + FINE_MM || room.minY > room.maxY + FINE_MM) return undefined;
  const { minX, maxX, minY, maxY } = room;
  const corners: Point[] = [
    [minX, minY],
    [maxX, minY],
    [maxX, maxY],
    [minX, maxY],
  ];
  const edges = corners.map((a, k): Rim => ({ a, b: corners[(k + 1) % 4], of: -1 }));
  const moving = wholeOutlines(own);
  if (moving.length === 0) return undefined;
  const grown = ringsOf(gapMm > 0 ? offset(moving, gapMm, ARC_MM) : moving);
  const hindrances = others.flatMap((other, k) => {
    const fixed = wholeOutlines(other.piece.outlines.map((region) => placeRegion(other.placement, region)));
    return fixed.length > 0 ? [new Hindrance(ringsOf(fixed), grown, k)] : [];
  });
  if (sheet.outline) {
    const lacking = besideOffcut(sheet);
    hindrances.push(
      new Hindrance(
        ringsOf(marginMm > 0 ? offset(lacking, marginMm, ARC_MM) : lacking),
        ringsOf(moving),
        others.length,
      ),
    );
  }
  const farthest = Math.max(...corners.map((corner) => Math.hypot(...corner)));
  for (let reach = FIRST_REACH_MM; ; reach *= FARTHER) {
    const near = hindrances.filter((each) => boxAway(each.box) <= reach);
    const found = nearestWithin(reach, room, edges, near, fits);
    if (found || reach >= farthest) return found;
  }
}

/** The shift to the nearest place within a reach. */
function nearestWithin(
  reachMm: number,
  { minX, maxX, minY, maxY }: Box,
  edges: readonly Rim[],
  near: readonly Hindrance[],
  fits: (x: number, y: number) => boolean,
): Point | undefined {
  const footOf = ({ a, b }: Rim): Point => between(a, b, nearestShare([0, 0], a, b));
  const rims = [...edges, ...near.flatMap((each) => each.rims)]
    .map((rim) => ({ rim, foot: footOf(rim) }))
    .filter(({ foot }) => Math.hypot(...foot) <= reachMm);
  const segments = rims.map(({ rim }) => rim);
  const index = indexSegments(segments, MEET_MM);
  const candidates = rims.map(({ foot }) => foot);
  segments.forEach((p, i) => {
    const [x, y] = [Math.min(p.a[0], p.b[0]), Math.min(p.a[1], p.b[1])];
    for (const j of index!.search(x, y, Math.max(p.a[0], p.b[0]), Math.max(p.a[1], p.b[1]))) {
      if (j <= i || segments[j].of === p.of) continue;
      const { distance, onFirst } = segmentGap(p.a, p.b, segments[j].a, segments[j].b);
      if (distance < MEET_MM) candidates.push(onFirst);
    }
  });
  let tried = 0;
  for (const [x, y] of candidates.sort((a, b) => Math.hypot(...a) - Math.hypot(...b))) {
    if (Math.hypot(x, y) > reachMm || tried === MOST_TRIED) return undefined;
    if (x < minX - FINE_MM || x > maxX + FINE_MM || y < minY - FINE_MM || y > maxY + FINE_MM) continue;
    if (near.some((each) => each.forbids([x, y]))) continue;
    if (fits(x, y)) return [x, y];
    tried += 1;
  }
  return undefined;
}

/** From a place where it may lie towards another one, as far as it goes, by halving. */
function towards([x, y]: Point, [tx, ty]: Point, fits: (x: number, y: number) => boolean): Point {
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
function slid(from: Point, fits: (x: number, y: number) => boolean): Point {
  let best = towards(from, [0, 0], fits);
  for (let step = SLIDE_MM; step > FINE_MM;) {
    let better: Point | undefined;
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
