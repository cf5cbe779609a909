/**
 * A sheet cut into pieces, put together again: where pieces without a gap have exactly the area of whole sheets, they can only fill
 * them, and then every corner of what is still free is filled by a corner of a piece. An edge of that piece runs on along the edge
 * of what is free: few pieces can, in few ways. So corners are filled one after another, that with the fewest ways first, and the
 * last piece is taken back where a corner has none. Corners are where others are already, so that nothing adds up.
 */
import { place, placing, turn, type Isometry } from '../geometry/isometry.ts';
import { boxesApart, boxOf } from '../geometry/path.ts';
import { add, distance, distanceToSegment, subtract, type Point } from '../geometry/point.ts';
import {
  allRings,
  areaOfRegions,
  counterClockwise,
  ringArea,
  type Region,
  type Ring,
} from '../geometry/polygon.ts';
import { difference, offset, solid } from '../geometry/regions.ts';
import { byKind, type PackPiece, type PlacedOnSheet, type SheetSpec } from './pieces.ts';
import { perimeterOf, wrapped } from './rims.ts';
import { faultsOfPacking } from './validity.ts';
import { allowedAngles } from './ways.ts';

/** Places nearer than this are one, mm. */
const SAME_MM = 2e-3;
/** What lies beside an edge by less lies on it, mm. */
const BESIDE_MM = 3e-3;
/** What is between two pieces and thinner than twice this is nothing, mm. */
const HAIR_MM = 1e-3;
/** Angles that differ by less are one, rad. */
const SAME_RAD = 4e-3;
/** Of what is free, so many corners are looked at, the sharpest first; blunter ones are not. */
const CORNERS = 12;
const BLUNTEST_RAD = 2.8;
/** So many pieces may be laid at most, all that are taken back counted too, and so many pieces be there. */
const MOST_LAID = 3_000;
const MOST_PIECES = 120;
/** Sheets lie so far from each other while they are filled, in their widths. */
const APART = 2;

/** Corners this near to an edge lie on it, mm; they are moved onto it to this, in so many rounds at most. */
const CONTACT_MM = 6e-3;
const CLOSE_MM = 1e-4;
const ROUNDS = 2_000;
const ROUNDS_A_REPORT = 40;
/** A corner that stays so far from an edge does not lie on it, mm. */
const ONLY_NEAR_MM = 3e-4;

/** A corner of a ring that turns left: its place, the way to the next one, and the angle within. */
interface Corner {
  readonly at: Point;
  readonly rad: number;
  readonly longMm: number;
  readonly withinRad: number;
}

function cornersOf(ring: Ring): Corner[] {
  return ring.map((at, i) => {
    const [from, to] = [ring.at(i - 1)!, ring[(i + 1) % ring.length]];
    const [u, v] = [subtract(to, at), subtract(from, at)];
    const rad = Math.atan2(u[1], u[0]);
    return { at, rad, longMm: Math.hypot(u[0], u[1]), withinRad: wrapped(Math.atan2(v[1], v[0]) - rad) };
  });
}

/** One of some alike pieces as it may lie: about its own origin, turned. */
interface Shape {
  readonly kind: string;
  readonly lies: Isometry;
  readonly ring: Ring;
  readonly corners: readonly Corner[];
}

/** A ring without corners that lie on the line of their neighbours, or at the tip of a sliver. */
function cleaned(ring: Ring): Ring {
  const out = [...ring];
  for (let i = 0, kept = 0; kept < out.length && out.length > 2;) {
    const [a, b, c] = [
      out[(i + out.length - 1) % out.length],
      out[i % out.length],
      out[(i + 1) % out.length],
    ];
    const [u, v] = [subtract(b, a), subtract(c, b)];
    const [long, next] = [Math.hypot(...u), Math.hypot(...v)];
    const beside = Math.abs(u[0] * v[1] - u[1] * v[0]) / (Math.max(long, next) || 1);
    if (Math.min(long, next) < SAME_MM || beside < BESIDE_MM) {
      out.splice(i % out.length, 1);
      kept = 0;
      i = Math.max(0, (i % (out.length + 1)) - 1);
    } else {
      i = (i + 1) % out.length;
      kept += 1;
    }
  }
  return out;
}

/** Whether what is free, or lies out of it, is more than rounding leaves. */
const isMore = ({ outer }: Region): boolean => Math.abs(ringArea(outer)) > BESIDE_MM * perimeterOf(outer);

const isRing = (ring: Ring): boolean => ring.length > 2;

/** Places that are known exactly, found again by others close to them. */
class Places {
  private readonly cells = new Map<string, Point>();

  private static key(x: number, y: number): string {
    return `${x} ${y}`;
  }

  add(point: Point): void {
    const key = Places.key(Math.round(point[0] / SAME_MM), Math.round(point[1] / SAME_MM));
    if (!this.cells.has(key)) this.cells.set(key, point);
  }

  near([x, y]: Point): Point | undefined {
    const [i, j] = [Math.round(x / SAME_MM), Math.round(y / SAME_MM)];
    for (const dx of [0, -1, 1])
      for (const dy of [0, -1, 1]) {
        const found = this.cells.get(Places.key(i + dx, j + dy));
        if (found && distance(found, [x, y]) < SAME_MM) return found;
      }
    return undefined;
  }
}

/** A piece laid at a corner of what is free. */
interface Try {
  readonly shape: Shape;
  readonly by: Point;
  /** Whether it fills the corner. */
  readonly fills: boolean;
}

/** How many sheets pieces may be that were cut into them without a gap; 0 where they are none, or it is not worth a try. */
export function mayBePuzzle(pieces: readonly PackPiece[], sheet: SheetSpec): number {
  const { widthMm, heightMm, marginMm, gapMm, outline, count = Infinity } = sheet;
  if (gapMm > 0 || outline || pieces.length < 2 || pieces.length > MOST_PIECES) return 0;
  if (pieces.some(({ outlines }) => outlines.length !== 1 || outlines[0].holes.length > 0)) return 0;
  const areaMm2 = Math.max(0, widthMm - 2 * marginMm) * Math.max(0, heightMm - 2 * marginMm);
  const sum = pieces.reduce((total, { outlines }) => total + areaOfRegions(outlines), 0);
  const sheets = Math.round(sum / areaMm2);
  const slack = BESIDE_MM * pieces.reduce((total, { outlines }) => total + perimeterOf(outlines[0].outer), 0);
  return sheets >= 1 && sheets <= count && Math.abs(sum - sheets * areaMm2) < slack ? sheets : 0;
}

/**
 * Pieces laid so that they fill whole sheets, looked for to the end or until too many were laid.
 *
 * @param sheets how many sheets they fill (mayBePuzzle)
 * @yields after each piece
 * @returns undefined where no way was found
 */
export function* puzzle(
  pieces: readonly PackPiece[],
  sheet: SheetSpec,
  sheets: number,
): Generator<void, PlacedOnSheet[] | undefined> {
  const left = byKind(pieces);
  const shapes = [...left].flatMap(([kind, [piece]]) =>
    (piece.mirror ? [false, true] : [false]).flatMap((flip) =>
      allowedAngles(piece, sheet, flip).map((angle): Shape => {
        const lies = { ...turn(angle), flip };
        const ring = counterClockwise(cleaned(piece.outlines[0].outer).map(placing(lies)));
        return { kind, lies, ring, corners: cornersOf(ring) };
      }),
    ),
  );
  const apartMm = APART * sheet.widthMm;
  const whole = Array.from({ length: sheets }, (_, k): Region => {
    const [x0, y0] = [k * apartMm + sheet.marginMm, sheet.marginMm];
    const [x1, y1] = [k * apartMm + sheet.widthMm - sheet.marginMm, sheet.heightMm - sheet.marginMm];
    return solid([
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ]);
  });
  const places = new Places();
  for (const { outer } of whole) outer.forEach((p) => places.add(p));

  /** The ways in which a corner can be filled, or begun to be. */
  const tries = (corner: Corner): Try[] =>
    shapes.flatMap((shape) => {
      if (left.get(shape.kind)!.length === 0) return [];
      return shape.corners.flatMap((own): Try[] => {
        if (own.withinRad > corner.withinRad + SAME_RAD) return [];
        const off = Math.abs(Math.sin((own.rad - corner.rad) / 2)) * 2;
        const along = Math.min(own.longMm, corner.longMm);
        if (off > SAME_RAD || off * along > BESIDE_MM) return [];
        const fills = Math.abs(own.withinRad - corner.withinRad) < SAME_RAD;
        return [{ shape, by: subtract(corner.at, own.at), fills }];
      });
    });
  /** What is free after a piece is laid; undefined where it does not fit. */
  const laid = (free: readonly Region[], { shape, by }: Try): Region[] | undefined => {
    const own = [solid(shape.ring.map((p) => add(p, by)))];
    if (difference(own, free).some(isMore)) return undefined;
    const then = difference(free, own);
    // A hair between a piece and what it lies against is nothing: drawn in and out again it is gone.
    const tidy = then.some(({ holes }) => holes.length > 0) ? offset(offset(then, -HAIR_MM), HAIR_MM) : then;
    const known = (ring: Ring): Ring => cleaned(cleaned(ring).map((p) => places.near(p) ?? p));
    return tidy
      .filter(isMore)
      .map(({ outer, holes }): Region => ({ outer: known(outer), holes: holes.map(known).filter(isRing) }))
      .filter(({ outer }) => isRing(outer));
  };
  const done: { shape: Shape; by: Point; piece: PackPiece }[] = [];
  let [count, placed]: [number, PlacedOnSheet[]] = [0, []];
  function* placedAs(): Generator<void, PlacedOnSheet[]> {
    // As they are drawn: corners that were left out for being hardly any count here.
    const rings = done.map(({ shape: { lies }, by, piece }) =>
      counterClockwise(piece.outlines[0].outer.map((p) => add(place(lies, p), by))),
    );
    const shifts = yield* pressing(
      rings,
      whole.map(({ outer }) => outer),
    );
    return done.map(({ shape: { lies }, by, piece }, i) => {
      const on = Math.floor((rings[i][0][0] + SAME_MM) / apartMm);
      const [dx, dy] = add(by, shifts[i]);
      return { piece, sheet: on, placement: { ...lies, dx: dx - on * apartMm, dy } };
    });
  }
  function* fill(free: readonly Region[]): Generator<void, boolean> {
    if (done.length === pieces.length) {
      // Pieces may have been taken for each other that differ by a hair: the final say tells.
      placed = yield* placedAs();
      const faults = yield* faultsOfPacking(placed, sheet);
      return faults.length === 0;
    }
    const corners = allRings(free)
      .flatMap(cornersOf)
      .filter(({ withinRad }) => withinRad < BLUNTEST_RAD)
      .sort((a, b) => a.withinRad - b.withinRad)
      .slice(0, CORNERS);
    let fewest: Try[] | undefined;
    for (const corner of corners) {
      const ways = tries(corner);
      if (!fewest || ways.length < fewest.length) fewest = ways;
      if (fewest.length === 0) return false;
    }
    for (const way of (fewest ?? []).sort((a, b) => Number(b.fills) - Number(a.fills))) {
      if (++count > MOST_LAID) return false;
      yield;
      const then = laid(free, way);
      if (!then) continue;
      const alike = left.get(way.shape.kind)!;
      const piece = alike.pop()!;
      done.push({ ...way, piece });
      for (const p of way.shape.ring) places.add(add(p, way.by));
      if (yield* fill(then)) return true;
      done.pop();
      alike.push(piece);
    }
    return false;
  }
  return (yield* fill(whole)) ? placed : undefined;
}

/**
 * Pieces that fill sheets moved by the little that puts every corner that lies on an edge truly on it: contact after contact is
 * closed by moving both by half, until all are closed (Gauss and Seidel's way of least squares).
 *
 * @param rings each piece where it lies, turning left
 * @param sheets the sheets round them, which stay
 * @yields again and again
 * @returns how far each piece is moved, mm
 */
export function* pressing(rings: readonly Ring[], sheets: readonly Ring[]): Generator<void, Point[]> {
  interface Contact {
    readonly a: number;
    readonly b: number | undefined;
    readonly normal: Point;
    readonly gapMm: number;
  }
  const boxes = rings.map((ring) => boxOf(ring));
  const contacts: Contact[] = [];
  const against = (a: number, b: number | undefined, ring: Ring): void => {
    const box = b === undefined ? boxOf(ring) : boxes[b];
    const near = rings[a].filter(
      ([x, y]) =>
        x > box.minX - CONTACT_MM &&
        x < box.maxX + CONTACT_MM &&
        y > box.minY - CONTACT_MM &&
        y < box.maxY + CONTACT_MM,
    );
    for (const [i, from] of ring.entries()) {
      const to = ring[(i + 1) % ring.length];
      if (boxesApart(boxes[a], boxOf([from, to]), CONTACT_MM)) continue;
      const long = distance(from, to);
      if (long < CONTACT_MM) continue;
      const normal: Point = [(to[1] - from[1]) / long, (from[0] - to[0]) / long];
      for (const p of near) {
        if (distanceToSegment(p, from, to) > CONTACT_MM) continue;
        const [x, y] = subtract(p, from);
        contacts.push({ a, b, normal, gapMm: x * normal[0] + y * normal[1] });
      }
    }
  };
  for (const a of rings.keys()) {
    rings.forEach((ring, b) => a !== b && !boxesApart(boxes[a], boxes[b], CONTACT_MM) && against(a, b, ring));
    for (const sheet of sheets) against(a, undefined, sheet);
    yield;
  }
  const shifts = rings.map((): [number, number] => [0, 0]);
  const offOf = ({ a, b, normal, gapMm }: Contact): number => {
    const to = b === undefined ? [0, 0] : shifts[b];
    return gapMm + (shifts[a][0] - to[0]) * normal[0] + (shifts[a][1] - to[1]) * normal[1];
  };
  function* closing(some: readonly Contact[]): Generator<void, void> {
    for (let round = 0; round < ROUNDS; round++) {
      let worst = 0;
      for (const contact of some) {
        const { a, b, normal } = contact;
        const off = offOf(contact);
        worst = Math.max(worst, Math.abs(off));
        const share = b === undefined ? off : off / 2;
        shifts[a][0] -= share * normal[0];
        shifts[a][1] -= share * normal[1];
        if (b === undefined) continue;
        shifts[b][0] += share * normal[0];
        shifts[b][1] += share * normal[1];
      }
      if (worst < CLOSE_MM) break;
      if (round % ROUNDS_A_REPORT === 0) yield;
    }
  }
  yield* closing(contacts);
  // What does not close with the others only lies near that edge: so does a corner at the end of a very short side.
  const held = contacts.filter((contact) => Math.abs(offOf(contact)) < ONLY_NEAR_MM);
  if (held.length < contacts.length) yield* closing(held);
  return shifts;
}
