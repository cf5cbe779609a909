/**
 * Pieces that were cut from a sheet with room between them, put together again: their rims run alongside each other all the way, a
 * little apart. One piece after another is laid into a corner of what is free, that with the fewest ways first, so that as much of
 * its rim as possible runs alongside what is there; several beginnings are followed at once, those with corners that no piece fills
 * the less. How much room there was between them is not known to a hair, so that pieces lie only nearly where they fit: they are
 * moved apart afterwards (easing.ts).
 */
import { shift, turn } from '../geometry/isometry.ts';
import { boxesApart, type Box } from '../geometry/path.ts';
import { distance, subtract, type Point } from '../geometry/point.ts';
import { areaOfRegions, placeRegion, ringArea, type Region } from '../geometry/polygon.ts';
import { difference, offset } from '../geometry/regions.ts';
import { BLUNTEST_RAD, rimOf, type Rim } from './looseRims.ts';
import { END_MM, HAIR_MM, Rooms } from './looseRooms.ts';
import { byKind, type PackPiece, type PlacedOnSheet, type SheetSpec } from './pieces.ts';
import { rimCorners, RimField, turnBetween, type RimCorner } from './rims.ts';
import { allowedAngles, wholeOutlines } from './ways.ts';

/** So many pieces may be there. */
const MOST_PIECES = 120;
const FEWEST_PIECES = 4;
/** So many of them differ: where many are alike they are no sheet that was cut up. */
const LEAST_KINDS = 0.6;
/** So many beginnings are followed at once; so many are looked at in each round, and so many ways on from each. */
const FOLLOWED = 12;
const LOOKED_AT = 2 * FOLLOWED;
const WAYS_ON = 4;
/** Rims lie alongside each other where they are no farther from where they should be, or nearer, mm. */
const BESIDE_MM = 0.8;
/** Room between rims that is no wider is wasted, mm. */
const WASTED_MM = 3;
/** What lies deep in another, or in a strip that is wasted, counts so much of its length. */
const DEEP = -4;
const WASTED = -0.3;
/** Pieces are moved in steps from the first down to the last to where most of the rim runs alongside, mm. */
const STEPS_MM = { first: 0.6, again: 0.3, last: 0.1 } as const;
/** Directions that differ by less are one, rad: of straight edges, and of curves. */
const SAME_RAD = { straight: 0.004, curved: 0.2 } as const;
/** Where nothing fits of the last pieces, a share of all, they may differ by so many times as much. */
const LAST_PIECES = 0.25;
const EITHER = 2;
/** By the size of a piece in the middle: chords by which corners are told, places on rims, and the lattice of distances. */
const SHARES = { window: 1 / 15, sample: 1 / 36, cell: 1 / 120 } as const;
const WINDOW_MM = [1.5, 4] as const;
const CELL_MM = [0.2, 1] as const;
/** A corner that no piece fills counts as such a share of a rim that lies alongside nothing. */
const UNFILLED = 0.1;
/** Where less than this share of all rims runs alongside others, it is no sheet cut into pieces. */
const LEAST_BESIDE = 0.24;
/** What is free and smaller is nothing, by the size of a piece in the middle. */
const NOTHING = 0.005;

interface Laid {
  readonly rim: Rim;
  readonly x: number;
  readonly y: number;
}

/** A way to lay a piece, and how much of its rim runs alongside what is there then, mm. */
interface WayOn extends Laid {
  readonly besideMm: number;
}

/** A corner of what is free, and the ways to fill it. */
interface Spot {
  readonly corner: RimCorner;
  readonly ways: readonly WayOn[];
}

/** Some pieces put together. */
interface Beginning {
  readonly laid: Laid[];
  readonly left: ReadonlyMap<string, number>;
  readonly free: readonly Region[];
  readonly besideMm: number;
  readonly longMm: number;
  readonly spots: readonly Spot[];
}

/** How pieces were cut from a sheet. */
export interface LooseCut {
  /** By how much smaller than half the gap asks, on the mean, mm: not known to a tenth or two. */
  readonly slackMm: number;
  /** Whether there is half a gap between them and the sheet's margin, too. */
  readonly rimmed: boolean;
}

/** Where pieces nearly fit. */
export interface LooselyLaid {
  readonly placed: readonly PlacedOnSheet[];
  readonly sheets: number;
  /** How far along the last sheet pieces reach, mm: nearly. */
  readonly extentMm: number;
}

const within = (value: number, [least, most]: readonly [number, number]): number =>
  Math.min(most, Math.max(least, value));

/** Whether pieces are of the sort that a sheet with room between its cuts is cut into. */
export const mayBeLoosePuzzle = (pieces: readonly PackPiece[], { outline }: SheetSpec): boolean =>
  !outline &&
  pieces.length >= FEWEST_PIECES &&
  pieces.length <= MOST_PIECES &&
  byKind(pieces).size >= LEAST_KINDS * pieces.length &&
  pieces.every(({ outlines }) => outlines.length === 1 && outlines[0].holes.length === 0);

const boxAt = ({ minX, maxX, minY, maxY }: Box, x: number, y: number): Box => ({
  minX: minX + x,
  maxX: maxX + x,
  minY: minY + y,
  maxY: maxY + y,
});

/** What puts pieces together again, for one width of the room between them. */
class Assembly {
  private rims: readonly Rim[] = [];
  private readonly lots: ReadonlyMap<string, readonly PackPiece[]>;
  private readonly rooms: Rooms;
  private readonly windowMm: number;
  private readonly cellMm: number;
  private readonly sizeMm: number;
  private meanRimMm = 0;

  /**
   * @param outlines of each kind
   * @param areaMm2 of all pieces, grown
   * @param grownMm by how much outlines are larger than the pieces
   */
  constructor(
    private readonly pieces: readonly PackPiece[],
    private readonly sheet: SheetSpec,
    private readonly outlines: ReadonlyMap<string, Region>,
    areaMm2: number,
    private readonly grownMm: number,
    beyondMm: number,
  ) {
    this.lots = byKind(pieces);
    this.rooms = new Rooms(sheet, areaMm2, beyondMm);
    this.sizeMm = Math.sqrt(areaMm2 / pieces.length);
    this.windowMm = within(this.sizeMm * SHARES.window, WINDOW_MM);
    this.cellMm = within(this.sizeMm * SHARES.cell, CELL_MM);
  }

  /** Makes the rims of all pieces in all ways in which they may lie. */
  private *prepare(): Generator<void, void> {
    const rims: Rim[] = [];
    const made = {
      grownMm: this.grownMm,
      everyMm: this.sizeMm * SHARES.sample,
      windowMm: this.windowMm,
    };
    for (const [kind, [piece]] of this.lots)
      for (const flip of piece.mirror ? [false, true] : [false])
        for (const angle of allowedAngles(piece, this.sheet, flip)) {
          rims.push(rimOf(kind, this.outlines.get(kind)!.outer, { ...turn(angle), flip }, made));
          yield;
        }
    this.rims = rims;
    this.meanRimMm = rims.reduce((sum, { longMm }) => sum + longMm, 0) / rims.length;
  }

  /** What of others may lie alongside a piece at a place. */
  private near(laid: readonly Laid[], rim: Rim, x: number, y: number): Laid[] {
    const own = boxAt(rim.box, x, y);
    const reach = 2 * this.grownMm + WASTED_MM + 2 * STEPS_MM.first;
    return laid.filter((each) => !boxesApart(own, boxAt(each.rim.box, each.x, each.y), reach));
  }

  /** How much of a rim runs alongside what is there, mm; less than nothing where it lies deep in it, which is not followed far. */
  private beside(near: readonly Laid[], rim: Rim, x: number, y: number, leastMm: number): number {
    const { grownMm, rooms } = this;
    const room = rooms.at(x + (rim.box.minX + rim.box.maxX) / 2);
    const { places, everyMm } = rim;
    const least = leastMm / everyMm;
    let sum = 0;
    for (let i = 0; i < places.length; i++) {
      const u = x + places[i][0];
      const v = y + places[i][1];
      let mm = rooms.inside(room, u, v);
      for (const other of near) {
        const own = other.rim.field!.at(u - other.x, v - other.y) - grownMm;
        if (own < mm) mm = own;
      }
      sum +=
        mm < -BESIDE_MM
          ? DEEP
          : mm <= BESIDE_MM
            ? 1 - 0.5 * (mm / BESIDE_MM) ** 2
            : mm < WASTED_MM
              ? WASTED
              : 0;
      if (sum + (places.length - 1 - i) < least) return -Infinity;
    }
    return sum * everyMm;
  }

  /** The place about a place where most of a rim runs alongside what is there. */
  private settled(laid: readonly Laid[], rim: Rim, at: Point, firstMm: number): WayOn {
    let [x, y] = at;
    const near = this.near(laid, rim, x, y);
    let besideMm = this.beside(near, rim, x, y, 0);
    for (let step = firstMm; step > STEPS_MM.last;) {
      let moved = false;
      for (const [dx, dy] of SIDEWAYS) {
        const then = this.beside(near, rim, x + dx * step, y + dy * step, Math.max(0, besideMm));
        if (then <= besideMm) continue;
        [x, y, besideMm] = [x + dx * step, y + dy * step, then];
        moved = true;
      }
      // Far from any place where it may lie.
      if (!moved && besideMm === -Infinity) break;
      if (!moved) step /= 2;
    }
    return { rim, x, y, besideMm };
  }

  /**
   * The ways to fill a corner of what is free.
   *
   * @param edges along both of its edges, or along either where there is no way at all otherwise
   */
  private waysAt(
    laid: readonly Laid[],
    left: ReadonlyMap<string, number>,
    corner: RimCorner,
    edges: 'both' | 'either',
  ): WayOn[] {
    const same = (a: number, b: number, straight: boolean) =>
      turnBetween(a, b) < SAME_RAD[straight ? 'straight' : 'curved'] * (edges === 'either' ? EITHER : 1);
    const comes = (each: RimCorner) => each.leavesRad + each.withinRad;
    const fits = (own: RimCorner): boolean => {
      const leaving = same(own.leavesRad, corner.leavesRad, own.leavesStraight && corner.leavesStraight);
      const coming = same(comes(own), comes(corner), own.comesStraight && corner.comesStraight);
      return edges === 'both' ? leaving && coming : leaving || coming;
    };
    return this.rims.flatMap((rim) =>
      left.get(rim.kind) === 0
        ? []
        : rim.corners
            .filter(fits)
            .map((own) => this.settled(laid, rim, subtract(corner.at, own.at), STEPS_MM.first))
            .filter(({ besideMm }) => besideMm > 0),
    );
  }

  /**
   * The corners of what is free and the ways to fill them; what was known before the last piece was laid, and is not near it, stays.
   *
   * @yields after each corner
   */
  private *look(begun: Omit<Beginning, 'spots'>, before: readonly Spot[]): Generator<void, Spot[]> {
    const { laid, left, free } = begun;
    const last = laid.at(-1);
    const spots: Spot[] = [];
    for (const { outer, holes } of free)
      for (const corner of [outer, ...holes].flatMap((ring) =>
        rimCorners(ring, this.windowMm, BLUNTEST_RAD),
      )) {
        const known = last && before.find((spot) => isSame(spot.corner, corner));
        spots.push({
          corner,
          ways: known
            ? known.ways
                .filter(({ rim }) => left.get(rim.kind)! > 0)
                .map((way) =>
                  this.near([last], way.rim, way.x, way.y).length > 0
                    ? this.settled(laid, way.rim, [way.x, way.y], STEPS_MM.first)
                    : way,
                )
                .filter(({ besideMm }) => besideMm > 0)
            : this.waysAt(laid, left, corner, 'both'),
        });
        yield;
      }
    const missing = this.pieces.length - laid.length;
    if (missing > LAST_PIECES * this.pieces.length || spots.some(({ ways }) => ways.length > 0)) return spots;
    const again: Spot[] = [];
    for (const { corner } of spots) {
      again.push({ corner, ways: this.waysAt(laid, left, corner, 'either') });
      yield;
    }
    return again;
  }

  /** How much of all rims runs alongside others, without what corners cost that no piece fills. */
  private worth({ besideMm, longMm, spots }: Beginning): number {
    const end = this.rooms.rooms.at(-1)!.maxX - END_MM - HAIR_MM;
    const unfilled = spots.filter(({ corner, ways }) => ways.length === 0 && corner.at[0] < end).length;
    return (besideMm - UNFILLED * this.meanRimMm * unfilled) / longMm;
  }

  /** A beginning with one more piece. */
  private *with(begun: Beginning, { rim, x, y, besideMm }: WayOn): Generator<void, Beginning> {
    rim.field ??= new RimField(rim.ring, this.cellMm, this.grownMm + WASTED_MM);
    const taken = rim.takes.map((region) => placeRegion(shift(x, y), region));
    const then = {
      laid: [...begun.laid, { rim, x, y }],
      left: new Map(begun.left).set(rim.kind, begun.left.get(rim.kind)! - 1),
      free: difference(begun.free, taken).filter(
        ({ outer }) => Math.abs(ringArea(outer)) > NOTHING * this.sizeMm ** 2,
      ),
      besideMm: begun.besideMm + besideMm,
      longMm: begun.longMm + rim.longMm,
    };
    return { ...then, spots: yield* this.look(then, begun.spots) };
  }

  /** Moves what lies about the last piece to where most of its rim runs alongside the others. */
  private settle({ laid }: Beginning): void {
    const { rim, x, y } = laid.at(-1)!;
    const about = new Set(this.near(laid, rim, x, y));
    for (let i = laid.length - 1; i >= 0; i--) {
      if (!about.has(laid[i])) continue;
      const others = laid.filter((_, k) => k !== i);
      laid[i] = this.settled(others, laid[i].rim, [laid[i].x, laid[i].y], STEPS_MM.again);
    }
  }

  /** The ways on from a beginning, the best first: those of the corner with the fewest. */
  private waysOn({ spots }: Beginning): WayOn[] {
    const share = ({ besideMm, rim }: WayOn) => besideMm / rim.longMm;
    const best = ({ ways }: Spot) => ways.reduce((most, way) => Math.max(most, share(way)), 0);
    const [fewest] = spots
      .filter(({ ways }) => ways.length > 0)
      .sort((a, b) => a.ways.length - b.ways.length || best(b) - best(a));
    return fewest ? fewest.ways.toSorted((a, b) => share(b) - share(a)) : [];
  }

  /**
   * Follows the best beginnings to their end.
   *
   * @yields after each corner that is looked at
   */
  *followed(): Generator<void, LooselyLaid | undefined> {
    yield* this.prepare();
    const nothing = {
      laid: [],
      left: new Map([...this.lots].map(([kind, lot]) => [kind, lot.length])),
      free: this.rooms.free(),
      besideMm: 0,
      longMm: 0,
    };
    let begun: Beginning[] = [{ ...nothing, spots: yield* this.look(nothing, []) }];
    for (let count = 1; count <= this.pieces.length; count++) {
      const ways = begun
        .flatMap((from) => {
          const on: WayOn[] = [];
          for (const way of this.waysOn(from)) {
            if (on.length === WAYS_ON) break;
            if (!on.some((other) => lieAlike(other, way, this.windowMm))) on.push(way);
          }
          return on.map((way) => ({
            from,
            way,
            share: (from.besideMm + way.besideMm) / (from.longMm + way.rim.longMm),
          }));
        })
        .sort((a, b) => b.share - a.share);
      const next: Beginning[] = [];
      for (const { from, way, share } of ways) {
        if (next.length === LOOKED_AT || (count >= FEWEST_PIECES && share < LEAST_BESIDE)) break;
        const all = [...from.laid, way];
        const isKnown = next.some(({ laid }) =>
          laid.every((one) => all.some((other) => lieAlike(one, other, this.windowMm))),
        );
        if (!isKnown) next.push(yield* this.with(from, way));
      }
      if (next.length === 0) return undefined;
      begun = next.sort((a, b) => this.worth(b) - this.worth(a)).slice(0, FOLLOWED);
      for (const each of begun) {
        this.settle(each);
        yield;
      }
    }
    return this.laidBy(begun[0]);
  }

  private laidBy({ laid }: Beginning): LooselyLaid {
    const lots = new Map([...this.lots].map(([kind, lot]) => [kind, [...lot]]));
    const { apartMm, rooms } = this.rooms;
    const placed = laid.map(({ rim, x, y }): PlacedOnSheet => {
      const sheet = this.rooms.at(x + (rim.box.minX + rim.box.maxX) / 2);
      const piece = lots.get(rim.kind)!.pop()!;
      return { piece, sheet, placement: { ...rim.lies, dx: x - sheet * apartMm, dy: y } };
    });
    const last = rooms.length - 1;
    return {
      placed,
      sheets: rooms.length,
      extentMm: rooms[last].maxX - last * apartMm - this.sheet.gapMm / 2,
    };
  }
}

const SIDEWAYS = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const;

const lieAlike = (a: Laid, b: Laid, withinMm: number): boolean =>
  a.rim === b.rim && Math.hypot(a.x - b.x, a.y - b.y) < withinMm;

const isSame = (a: RimCorner, b: RimCorner): boolean =>
  distance(a.at, b.at) < 0.05 &&
  turnBetween(a.leavesRad, b.leavesRad) < 1e-3 &&
  turnBetween(a.withinRad, b.withinRad) < 1e-3;

/**
 * Pieces laid nearly as they were cut from sheets.
 *
 * @yields after each corner that is looked at
 * @returns undefined where no way was found: they were not cut so, or there was another width between them
 */
export function* loosePuzzle(
  pieces: readonly PackPiece[],
  sheet: SheetSpec,
  { slackMm, rimmed }: LooseCut,
): Generator<void, LooselyLaid | undefined> {
  const outlines = new Map<string, Region>();
  for (const [kind, [piece]] of byKind(pieces)) {
    const whole = wholeOutlines(piece.outlines);
    if (whole.length !== 1 || whole[0].holes.length > 0) return undefined;
    outlines.set(kind, whole[0]);
    yield;
  }
  const halfMm = sheet.gapMm / 2;
  const grownMm = halfMm + slackMm;
  let areaMm2 = 0;
  for (const [kind, lot] of byKind(pieces)) {
    areaMm2 += lot.length * areaOfRegions(offset([outlines.get(kind)!], grownMm));
    yield;
  }
  const beyondMm = rimmed ? 0 : halfMm;
  return yield* new Assembly(pieces, sheet, outlines, areaMm2, grownMm, beyondMm).followed();
}
