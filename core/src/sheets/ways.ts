/**
 * The ways in which pieces may lie, and how deep two of them lie in each other. Outlines are grown by half the gap once, with the
 * slack that flattened curves need; everything between two outlines is worked out once for each relative quarter turn.
 */
import { place, placing, shift, turn, type Isometry } from '../geometry/isometry.ts';
import { covering } from '../geometry/covering.ts';
import { ended } from '../geometry/ended.ts';
import { keyholed } from '../geometry/keyhole.ts';
import { distance, distanceToSegment, type Point } from '../geometry/point.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import {
  areaOfRegions,
  counterClockwise,
  placeRegion,
  regionArea,
  ringArea,
  tidyRing,
  type Region,
  type Ring,
} from '../geometry/polygon.ts';
import { difference, offset, solid, union } from '../geometry/regions.ts';
import { FLATTEN_TOLERANCE_MM } from '../geometry/tolerances.ts';
import { Between, byQuarters } from './between.ts';
import { convolved } from './convolution.ts';
import { Kernel } from './kernel.ts';
import { PairField } from './pairField.ts';
import { kindOf, type PackPiece, type SheetSpec } from './pieces.ts';
import { Cover } from './sameCover.ts';

/** Rounded corners of grown outlines may lie so far inside the true ones, mm. */
const ARC_TOLERANCE_MM = 0.01;
/** What is pushed apart may lack this much where there is a gap, mm. */
const LACK_MM = 0.002;
/** Outlines are drawn with fewer corners, which lie beyond them by so much at most, mm. */
const SIMPLER_MM = 0.1;
/**
 * Outlines with more corners have fewer before they are grown, for that is a single step of the library, and a long one; they lie
 * beyond by so much more then, mm.
 */
const CORNERS_AT_ONCE = 200;
const THINNED_MM = 0.02;
/** Holes are larger by this where there is no gap, mm: more than what only touches overlaps by. */
const HOLE_PLAY_MM = 2e-5;
/** Straight outlines with fewer corners are left as they are. */
const MOST_CORNERS = 60;
/**
 * The lattice of fields has so many steps along a piece of middle size: the fewer pieces there are, the finer. What fits into another
 * piece with hardly any play is found by a fine one alone.
 */
const STEPS_A_PIECE = { fewest: 44, few: 22, many: 13 } as const;
const FEWEST_PIECES = 16;
/** Fields are kept until all of them have so many samples; of each about ten bytes are kept. */
const MOST_SAMPLES = 60e6;
/** More outlines as they lie at first than this there are never: thousands of kinds at dozens of angles are some hundred thousand. */
const MOST_BASES = 2 ** 24;
/** More pieces than this are many. */
export const MANY_PIECES = 400;
const LEAST_STEP_MM = 0.25;
/** What covers the same but for this is tried one way only; straight outlines may have to lie exactly. */
const SAME_STRAIGHT_MM = 1e-6;
/** Pieces without more area, or larger, are none, mm2 and mm. */
const LEAST_AREA_MM2 = 0.01;
const LARGEST_MM = 20_000;
/** Tried when a free piece fits none of the usual ways: steps of 5 degrees. */
const SLANTED_RAD = Array.from({ length: 72 }, (_, i) => (i * Math.PI) / 36);
/** Of slanted ways so many are kept. */
const MOST_SLANTED = 4;

/**
 * Angles at which a piece may lie, radians: with the grain both ways, or by quarters if free; of those that are told, what grain
 * allows.
 *
 * @param flip face down: its grain runs the other way then
 */
export function allowedAngles(piece: PackPiece, sheet: SheetSpec, flip = false): readonly number[] {
  const bound = piece.grainRad !== null && sheet.grainRad !== null;
  const first = bound ? sheet.grainRad - (flip ? -piece.grainRad : piece.grainRad) : 0;
  if (piece.turnsRad)
    return bound
      ? piece.turnsRad.filter((angle) => Math.abs(Math.sin(angle - first)) < ALONG_GRAIN)
      : piece.turnsRad;
  if (bound) return [first, first + Math.PI];
  return [0, 1, 2, 3].map((quarter) => (quarter * Math.PI) / 2);
}

/** What lies within this of the grain lies along it (a sine). */
const ALONG_GRAIN = 1e-9;
/** One and the cosine between the normals of two edges, where a corner is sharper than is followed. */
const SHARPEST = 0.1;

/** An outline as it lies at first; ways are quarter turns of it. */
interface Base {
  readonly rings: readonly Ring[];
}

/** A piece about the middle of its box. */
interface Drawn {
  readonly middle: Point;
  readonly outlines: readonly Region[];
}

/** One way to lie: an outline, turned by quarters. */
export interface Way {
  /** All ways are numbered. */
  readonly id: number;
  readonly base: number;
  readonly quarter: number;
  readonly angleRad: number;
  readonly flip: boolean;
  /** The middle of the piece's own box, turned (over, too): it lies where the way does. */
  readonly middle: Point;
  /** The box of the true outline about that middle. */
  readonly box: Box;
  /** That of the grown one. */
  readonly grown: Box;
  /** Where its middle may lie on a sheet of its kind. */
  readonly room: Box;
}

/** Two ways whose outlines must be set against each other, or their depths worked out, before anything is told; that takes a while. */
export type Unmet = readonly [Way, Way];

const quarterTurned = (rings: readonly Ring[], quarter: number): Ring[] =>
  rings.map((ring) => ring.map(([x, y]) => byQuarters(x, y, quarter)));

/** Whether the boxes of two ways are apart, by so much, when the second is so far from the first. */
export const boxesOff = (a: Way, b: Way, dx: number, dy: number, byMm = 0): boolean =>
  dx + b.grown.minX >= a.grown.maxX + byMm ||
  dx + b.grown.maxX <= a.grown.minX - byMm ||
  dy + b.grown.minY >= a.grown.maxY + byMm ||
  dy + b.grown.maxY <= a.grown.minY - byMm;

/** Whether what a way takes up where it lies is apart from a box by so much. */
export const isOff = ({ grown }: Way, x: number, y: number, box: Box, byMm: number): boolean =>
  x + grown.maxX <= box.minX - byMm ||
  x + grown.minX >= box.maxX + byMm ||
  y + grown.maxY <= box.minY - byMm ||
  y + grown.minY >= box.maxY + byMm;

/** Whether a ring is more than a line. */
function isWide(ring: Ring): boolean {
  if (ring.length < 3) return false;
  const far = ring.reduce((best, p) => (distance(p, ring[0]) > distance(best, ring[0]) ? p : best), ring[0]);
  return ring.some((p) => distanceToSegment(p, ring[0], far) > 1e-3);
}

/** What regions cover together, with their holes; none where they cover nothing or cannot be put together. */
export function wholeOutlines(regions: readonly Region[]): Region[] {
  const tidy = (rings: readonly Ring[]) => rings.map((ring) => tidyRing(ring, 1e-4)).filter(isWide);
  const usable = regions.flatMap(({ outer, holes }) =>
    tidy([outer]).map((ring): Region => ({
      outer: counterClockwise(ring),
      holes: tidy(holes).map((hole) => [...counterClockwise(hole)].reverse()),
    })),
  );
  if (usable.length === 0) return [];
  try {
    return union(usable).filter((region) => regionArea(region) > LEAST_AREA_MM2);
  } catch {
    return [];
  }
}

/** A ring that turns left with its edges moved outwards; sharp corners are not followed to their tips. */
export function widened(ring: Ring, byMm: number): Ring {
  const normal = (a: Point, b: Point): Point => {
    const long = distance(a, b) || 1;
    return [(b[1] - a[1]) / long, (a[0] - b[0]) / long];
  };
  return ring.map((p, i) => {
    const [ux, uy] = normal(ring.at(i - 1)!, p);
    const [vx, vy] = normal(p, ring[(i + 1) % ring.length]);
    const share = byMm / Math.max(SHARPEST, 1 + ux * vx + uy * vy);
    return [p[0] + share * (ux + vx), p[1] + share * (uy + vy)];
  });
}

/** The rectangle of an offcut without what there is of it, drawn wider: what no piece may lie on. */
export function besideOffcut({ widthMm, heightMm, outline = [] }: SheetSpec): Region[] {
  const wide = 10 + Math.max(widthMm, heightMm);
  const all: Ring = [
    [-wide, -wide],
    [widthMm + wide, -wide],
    [widthMm + wide, heightMm + wide],
    [-wide, heightMm + wide],
  ];
  return difference([solid(all)], [solid(counterClockwise(outline))]);
}

export class Ways {
  /** The step of all fields, mm. */
  readonly h: number;
  private ownKernel: Kernel | undefined;
  private readonly bases: Base[] = [];
  private readonly drawnOf = new Map<string, Drawn>();
  private readonly grownRings = new Map<string, readonly Ring[]>();
  private readonly baseOf = new Map<string, number>();
  private readonly waysOf = new Map<string, readonly Way[]>();
  private readonly fields = new Map<number, PairField>();
  private samples = 0;
  /** By the numbers of both ways. */
  private betweens: Between[][] = [];
  private count = 0;
  private readonly leastAreaMm2: number;

  /** @param kinds the kinds of sheets; the gap is that of the first */
  constructor(
    pieces: readonly PackPiece[],
    readonly kinds: readonly SheetSpec[],
  ) {
    const areas = pieces
      .map(({ outlines }) => areaOfRegions(outlines))
      .filter((area) => area > 0 && area < LARGEST_MM ** 2);
    const mean = areas.reduce((sum, area) => sum + area, 0) / Math.max(1, areas.length);
    this.leastAreaMm2 = areas.reduce((least, area) => Math.min(least, area), Infinity);
    const count = pieces.length > MANY_PIECES ? 'many' : pieces.length > FEWEST_PIECES ? 'few' : 'fewest';
    this.h = Math.max(LEAST_STEP_MM, Math.sqrt(mean) / STEPS_A_PIECE[count]);
  }

  /** Its memory holds the coarse samples of all fields; made when it is first asked for. */
  get kernel(): Kernel {
    return (this.ownKernel ??= new Kernel());
  }

  /** The outlines of a piece about the middle of their box, made whole: what crosses itself is filled; none without any area. */
  private drawn(piece: PackPiece): Drawn {
    const known = this.drawnOf.get(piece.partId);
    if (known) return known;
    const points = piece.outlines.flatMap(({ outer }) => outer);
    let made: Drawn = { middle: [0, 0], outlines: [] };
    if (points.length > 0 && points.every((p) => p.every(Number.isFinite))) {
      const { minX, maxX, minY, maxY } = boxOf(points);
      const middle: Point = [(minX + maxX) / 2, (minY + maxY) / 2];
      const largest = Math.max(maxX - minX, maxY - minY);
      const outlines =
        largest > LARGEST_MM
          ? []
          : wholeOutlines(piece.outlines.map((region) => placeRegion(shift(-middle[0], -middle[1]), region)));
      made = { middle, outlines };
    }
    this.drawnOf.set(piece.partId, made);
    return made;
  }

  /** Grown outlines as rings; what of a hole is left is kept where a piece may fit in. */
  private *grown(regions: readonly Region[], grownMm: number, simplerMm: number): Generator<void, Ring[]> {
    const simple = (ring: Ring): Ring => (simplerMm > 0 ? covering(ring, simplerMm) : ring);
    // What a hole's ring covers is the paper round it.
    const simpleHole = (ring: Ring): Ring => counterClockwise(simple([...counterClockwise(ring)].reverse()));
    const thinned = (ring: Ring): Ring =>
      simplerMm > 0 && ring.length > CORNERS_AT_ONCE ? covering(ring, THINNED_MM) : ring;
    let whole = regions;
    if (grownMm > 0) {
      const fewer = regions.map(({ outer, holes }) => ({ outer: thinned(outer), holes: holes.map(thinned) }));
      yield;
      whole = offset(fewer, grownMm, ARC_TOLERANCE_MM);
    }
    yield;
    return whole.map(({ outer, holes }) => {
      const kept = holes.filter((hole) => Math.abs(ringArea(hole)) > this.leastAreaMm2).map(simpleHole);
      const rim = simple(counterClockwise(outer));
      if (kept.length === 0) return rim;
      // What fits a hole exactly touches it on all sides.
      const wide = grownMm > 0 ? kept : kept.map((hole) => widened(hole, HOLE_PLAY_MM));
      return keyholed({ outer: rim, holes: wide });
    });
  }

  /** The outlines of a piece as they lie in a way, about the middle of its box. */
  private turned(piece: PackPiece, angleRad: number, flip: boolean): Region[] {
    return this.drawn(piece).outlines.map((region) => placeRegion({ ...turn(angleRad), flip }, region));
  }

  /** A piece's outlines grown, as they are drawn and about the middle of their box: turned they are what they would be grown turned. */
  private *grownOf(piece: PackPiece): Generator<void, readonly Ring[]> {
    const known = this.grownRings.get(piece.partId);
    if (known) return known;
    const { outlines } = this.drawn(piece);
    const { gapMm } = this.kinds[0];
    // Without a gap, straight outlines may touch: nothing is added to them.
    const slackMm =
      (piece.straight ? 0 : FLATTEN_TOLERANCE_MM) + (gapMm > 0 ? ARC_TOLERANCE_MM + LACK_MM : 0);
    const many = gapMm > 0 || !piece.straight || outlines.some(({ outer }) => outer.length > MOST_CORNERS);
    const rings = yield* this.grown(outlines, gapMm / 2 + slackMm, many ? SIMPLER_MM : 0);
    this.grownRings.set(piece.partId, rings);
    return rings;
  }

  private base(piece: PackPiece, angleRad: number, flip: boolean): number {
    const key = `${piece.partId}@${angleRad}@${flip}`;
    const known = this.baseOf.get(key);
    if (known !== undefined) return known;
    const lies = { ...turn(angleRad), flip };
    const rings = ended(this.grownOf(piece)).map((ring) => placeRegion(lies, solid(ring)).outer);
    this.bases.push({ rings });
    this.baseOf.set(key, this.bases.length - 1);
    return this.bases.length - 1;
  }

  /** A way to lie, at an angle that is so many quarters from that of an outline; none where it does not fit. */
  private way(
    piece: PackPiece,
    kind: number,
    angleRad: number,
    flip: boolean,
    of: number,
    quarter: number,
  ): Way[] {
    const sheet = this.kinds[kind];
    const { middle, outlines } = this.drawn(piece);
    if (outlines.length === 0) return [];
    const lies = { ...turn(angleRad), flip };
    const box = boxOf(outlines.flatMap(({ outer }) => outer.map(placing(lies))));
    const room = {
      minX: sheet.marginMm - box.minX,
      minY: sheet.marginMm - box.minY,
      maxX: sheet.widthMm - sheet.marginMm - box.maxX,
      maxY: sheet.heightMm - sheet.marginMm - box.maxY,
    };
    if (room.maxX < room.minX - 1e-9 || room.maxY < room.minY - 1e-9) return [];
    const base = this.base(piece, of, flip);
    return [
      {
        id: this.count++,
        base,
        quarter,
        angleRad,
        flip,
        middle: place(lies, middle),
        box,
        grown: boxOf(quarterTurned(this.bases[base].rings, quarter).flat()),
        room: { ...room, maxX: Math.max(room.minX, room.maxX), maxY: Math.max(room.minY, room.maxY) },
      },
    ];
  }

  /**
   * All ways in which a piece fits on a kind of sheet: the usual ones, else slanted ones if it may turn freely; none when it is too
   * large. Of ways that cover the same the first: a rectangle need not be tried upside down as well.
   */
  of(piece: PackPiece, kind = 0): readonly Way[] {
    return this.waysOf.get(`${kind}@${kindOf(piece)}`) ?? ended(this.working(piece, kind));
  }

  /**
   * As `of`: outlines of hundreds of corners take some time before their ways are known.
   *
   * @yields some hundredths of a second apart at the most
   */
  *working(piece: PackPiece, kind = 0): Generator<void, readonly Way[]> {
    const key = `${kind}@${kindOf(piece)}`;
    const known = this.waysOf.get(key);
    if (known) return known;
    if (this.drawn(piece).outlines.length > 0) {
      yield;
      yield* this.grownOf(piece);
      yield;
    }
    const faces = piece.mirror ? [false, true] : [false];
    const covered: Cover[] = [];
    let ways: readonly Way[] = [];
    for (const flip of faces) ways = [...ways, ...(yield* this.usual(piece, kind, flip, covered))];
    const isFree = !piece.turnsRad && (piece.grainRad === null || this.kinds[kind].grainRad === null);
    if (ways.length === 0 && isFree) ways = faces.flatMap((flip) => this.slanted(piece, kind, flip));
    this.waysOf.set(key, ways);
    return ways;
  }

  /** The usual ways on one face but for those that cover what is covered already, which is added to. */
  private *usual(piece: PackPiece, kind: number, flip: boolean, covered: Cover[]): Generator<void, Way[]> {
    const firsts: number[] = [];
    const ways: Way[] = [];
    const sameMm = piece.straight ? SAME_STRAIGHT_MM : FLATTEN_TOLERANCE_MM;
    const quartersFrom = (first: number, angle: number) => (angle - first) / (Math.PI / 2);
    for (const angle of allowedAngles(piece, this.kinds[kind], flip)) {
      yield;
      const own = new Cover(this.turned(piece, angle, flip));
      if (covered.some((before) => before.isSameAs(own, sameMm))) continue;
      covered.push(own);
      // A quarter turn of a way that is known already needs no outline of its own.
      let first = firsts.find((each) => {
        const quarters = quartersFrom(each, angle);
        return Math.abs(quarters - Math.round(quarters)) <= 1e-9;
      });
      if (first === undefined) firsts.push((first = angle));
      const quarter = ((Math.round(quartersFrom(first, angle)) % 4) + 4) % 4;
      ways.push(...this.way(piece, kind, angle, flip, first, quarter));
    }
    return ways;
  }

  /** The first few ways that fit on one face when it may be turned by any of many angles. */
  private slanted(piece: PackPiece, kind: number, flip: boolean): Way[] {
    const ways: Way[] = [];
    for (const angle of SLANTED_RAD) {
      ways.push(...this.way(piece, kind, angle, flip, angle, 0));
      if (ways.length >= MOST_SLANTED) break;
    }
    return ways;
  }

  /** The way in which a piece lies where a placement puts it, with the place of its middle; undefined where it is none. */
  lyingAt(
    piece: PackPiece,
    kind: number,
    { angleRad, flip, dx, dy }: Isometry,
  ): { way: Way; x: number; y: number } | undefined {
    const same = (way: Way) => way.flip === flip && Math.abs(Math.sin((way.angleRad - angleRad) / 2)) < 1e-9;
    const way = this.of(piece, kind).find(same) ?? this.way(piece, kind, angleRad, flip, angleRad, 0).at(0);
    return way && { way, x: dx + way.middle[0], y: dy + way.middle[1] };
  }

  /** What stands in the way on a kind of sheet: what an offcut lacks, grown so that its margin is kept. */
  lacking(kind: number): Way | undefined {
    const sheet = this.kinds[kind];
    if (!sheet.outline) return undefined;
    const key = `offcut@${kind}`;
    let base = this.baseOf.get(key);
    if (base === undefined) {
      const wantedMm = Math.max(0, sheet.marginMm - sheet.gapMm / 2);
      const simplerMm = sheet.outline.length > MOST_CORNERS ? SIMPLER_MM : 0;
      // Without a margin, straight outlines may be touched: nothing is added to them.
      const grownMm = wantedMm + (wantedMm > 0 ? ARC_TOLERANCE_MM + LACK_MM : 0);
      this.bases.push({ rings: ended(this.grown(besideOffcut(sheet), grownMm, simplerMm)) });
      base = this.bases.length - 1;
      this.baseOf.set(key, base);
    }
    const box = boxOf(this.bases[base].rings.flat());
    const none = { minX: 0, minY: 0, maxX: 0, maxY: 0 };
    return {
      id: this.count++,
      base,
      quarter: 0,
      angleRad: 0,
      flip: false,
      middle: [0, 0],
      box,
      grown: box,
      room: none,
    };
  }

  /** The grown outline of a way, about its middle; of what turns left the left side is covered. */
  ringsOf({ base, quarter }: Way): Ring[] {
    return quarterTurned(this.bases[base].rings, quarter);
  }

  /**
   * Forgets all fields where they have become too many to be kept; they are worked out again when they are asked for. For moments at
   * which none of them is in use.
   */
  spare(): void {
    if (this.samples <= MOST_SAMPLES) return;
    this.fields.clear();
    this.betweens = [];
    this.samples = 0;
    this.ownKernel = undefined;
  }

  /** The field of two ways; that of the second against the first where that one is kept. */
  between(a: Way, b: Way): Between {
    return this.met(a, b) ?? ended(this.meeting(a, b));
  }

  /** The field of two ways where it is known already. */
  met(a: Way, b: Way): Between | undefined {
    return this.betweens[a.id]?.[b.id];
  }

  /** The same where its depth is known, too. */
  deep(a: Way, b: Way): Between | undefined {
    const known = this.met(a, b);
    return known?.field.isDeep ? known : undefined;
  }

  /**
   * As `between`: two outlines of hundreds of corners take a tenth of a second.
   *
   * @yields some milliseconds apart
   */
  *meeting(a: Way, b: Way): Generator<void, Between> {
    const known = this.met(a, b);
    if (known) return known;
    const made = yield* a.base > b.base ? this.fieldOf(b, a, -1) : this.fieldOf(a, b, 1);
    return ((this.betweens[a.id] ??= [])[b.id] = made);
  }

  /**
   * As `between`, with its depth.
   *
   * @yields some milliseconds apart
   */
  *deepening(a: Way, b: Way): Generator<void, Between> {
    const between = yield* this.meeting(a, b);
    yield* between.field.deepening();
    return between;
  }

  private *fieldOf(a: Way, b: Way, sign: 1 | -1): Generator<void, Between> {
    const turned = (b.quarter - a.quarter + 4) & 3;
    const key = (a.base * MOST_BASES + b.base) * 4 + turned;
    let field = this.fields.get(key);
    if (!field) {
      const [fixed, moves] = [this.bases[a.base].rings, quarterTurned(this.bases[b.base].rings, turned)];
      field = new PairField(yield* convolved(fixed, moves, this.h));
      this.fields.set(key, field);
      this.samples += field.columns * field.rows;
    }
    return new Between(field, a.quarter, sign);
  }

  /** How deep b lies in a exactly; `out` is given the shift of b that frees it. */
  exact(a: Way, b: Way, x: number, y: number, out: { x: number; y: number }): number {
    const between = this.between(a, b);
    const { field, quarter, sign } = between;
    const depth = field.exact(between.across(x, y), between.along(x, y), out);
    const [u, v] = byQuarters(out.x, out.y, quarter);
    out.x = sign * u;
    out.y = sign * v;
    return depth;
  }
}
