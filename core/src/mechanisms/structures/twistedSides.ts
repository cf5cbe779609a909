/**
 * The sides of a twisted prism: how they are laid, how their folds turn until it stands and while it is pressed, and where their
 * corners then are. The closed forms are those of twistedPrism.ts and, where diagonals are bowed, of bowedTwist.ts.
 */
import type { Point } from '../../geometry/point.ts';
import type { Vec3 } from '../../geometry/rigid.ts';
import { minus3 } from '../../geometry/vector.ts';
import { evenly, foldDeg, normalOf, unbroken } from './angles.ts';
import { bowedTwist, flatSide } from './bowedTwist.ts';
import type { FoldedSheet } from './foldedSheet.ts';

/** What is asked of a twisted prism: so many sides, a long, tall when it stands, its diagonals bowed, and pressed in the end. */
export interface AskedTwist {
  readonly n: number;
  readonly a: number;
  readonly tall: number;
  readonly bow: number;
  readonly pressed: boolean;
}

/** Its measures in mm and radians. */
export function prismMeasures({ n, a, tall, bow, pressed }: AskedTwist) {
  const radius = a / (2 * Math.sin(Math.PI / n));
  const most = 2 * radius * Math.sqrt(Math.cos(Math.PI / n));
  const asked = Math.min(1, tall ** 2 / (4 * radius ** 2 * Math.cos(Math.PI / n)));
  const flat = Math.PI / 2 - Math.PI / n + Math.asin(asked);
  const twist = Math.PI - (2 * Math.PI) / n - flat;
  const b2 = tall ** 2 + 4 * radius ** 2 * Math.sin(twist / 2) ** 2;
  const c2 = tall ** 2 + 4 * radius ** 2 * Math.sin(twist / 2 + Math.PI / n) ** 2;
  const [b, c] = [Math.sqrt(b2), Math.sqrt(c2)];
  const shift = (c2 - b2 - a * a) / (2 * a);
  const q = (phi: number) =>
    ((a * a * Math.sin(phi + Math.PI / n)) / Math.sin(Math.PI / n) - (c2 - b2)) / (2 * (b + c));
  return {
    n,
    a,
    tall,
    bow,
    pressed,
    radius,
    most,
    flat,
    twist,
    b,
    c,
    shift,
    layer: Math.sqrt(Math.max(0, b2 - shift * shift)),
    q,
    worst: q(Math.PI / 2 - Math.PI / n),
    hole: radius * Math.abs(Math.cos(flat / 2 + Math.PI / n)),
  };
}

export type Measures = ReturnType<typeof prismMeasures>;

/** Corners below and above at a twist, on the way between the two states. */
function standing(
  { n, radius, b, q }: Measures,
  phi: number,
): { low: (i: number) => Vec3; high: (i: number) => Vec3 } {
  const height = Math.sqrt(Math.max(1e-12, (b - q(phi)) ** 2 - 4 * radius ** 2 * Math.sin(phi / 2) ** 2));
  const at = (angle: number, z: number): Vec3 => [radius * Math.cos(angle), radius * Math.sin(angle), z];
  const turn = (2 * Math.PI) / n;
  return { low: (i) => at(i * turn, 0), high: (i) => at(i * turn + phi, height) };
}

/** Turns of its folds at a twist, degrees: sides, diagonals, edges of the base and of the top. */
function turnsAt(m: Measures, phi: number) {
  const { low, high } = standing(m, phi);
  const lower = (i: number) => normalOf(low(i), low(i + 1), high(i + 1));
  const upper = (i: number) => normalOf(low(i), high(i + 1), high(i));
  const base: Vec3 = [0, 0, -1];
  const top: Vec3 = [0, 0, 1];
  return {
    side: foldDeg(lower(0), upper(1), minus3(high(1), low(1))),
    diagonal: foldDeg(upper(0), lower(0), minus3(high(1), low(0))),
    base: foldDeg(lower(0), base, minus3(low(1), low(0))),
    top: foldDeg(upper(0), top, minus3(high(0), high(1))),
  };
}

/** Moments of each of its two steps: half of all places of the travel. */
export const MOMENTS = 91;

/** How a fold of the sheet turns, and the angle that it keeps. */
interface Turn {
  readonly deg: number;
  readonly course: readonly number[];
}

/** How the folds round the sides turn, and by how much paper must give at each moment. */
interface Turning {
  readonly side: Turn;
  readonly base: Turn;
  readonly top: Turn;
  readonly strainMm: readonly number[];
}

/** Moments of the closing round base and top: as many as one step has, or as both where it is not pressed afterwards. */
const closingMoments = ({ pressed }: Measures): number => (pressed ? MOMENTS : 2 * MOMENTS - 1);

/** The course of a fold: closed evenly or as is told, and then pressed along a path that begins where it stands. */
function turning(m: Measures, path: readonly number[], closing = evenly(path[0], closingMoments(m))): Turn {
  // Where a fold is half over either sign would do: on from how it was closed.
  const course = unbroken([...closing, ...path.slice(1)]);
  // Bowed, it springs back to where it stands.
  return { deg: m.bow > 0 ? path[0] : course[course.length - 1], course };
}

/** Where the corners of a panel of one of the sides should be at a moment of the pressing, in the order of its ring; by its id. */
type CornersAt = (id: string, moment: number) => readonly Vec3[] | undefined;

/** The sides as they are laid, how their folds turn, and where their corners should be while they are pressed. */
interface Sides {
  readonly turns: Turning;
  readonly sides: readonly SidePanels[];
  readonly cornersAt: CornersAt;
}

/** Panels of one side, by what they are joined by; gives back the panels at its lower edge, its upper edge, and both its sides. */
interface SidePanels {
  readonly base: string;
  readonly top: string;
  readonly first: string;
  readonly last: string;
}

/** Where paper need not give by more than rounding, it does not, mm. */
const EXACT_MM = 1e-9;

/** The sides of straight diagonals, laid one after another. */
export function straightSides(m: Measures, sheet: FoldedSheet): Sides {
  const { n, a, shift, layer } = m;
  const twistAt = (i: number) => m.twist + ((m.flat - m.twist) * i) / (MOMENTS - 1);
  const path = Array.from({ length: m.pressed ? MOMENTS : 1 }, (_, i) => turnsAt(m, twistAt(i)));
  const [side, diagonal, base, top] = (['side', 'diagonal', 'base', 'top'] as const).map((key) =>
    turning(
      m,
      path.map((turns) => turns[key]),
    ),
  );
  const low = (i: number): Point => [i * a, 0];
  const high = (i: number): Point => [i * a + shift, layer];
  const sides = Array.from({ length: n }, (_, i): SidePanels => {
    const [lower, upper] = [`lower ${i + 1}`, `upper ${i + 1}`];
    if (i === 0) sheet.panel(lower, [low(0), low(1), high(1)]);
    const above: Point[] = [low(i), high(i + 1), high(i)];
    if (i === 0) sheet.panel(upper, above, { on: lower, ...diagonal });
    else {
      sheet.panel(upper, above, { on: `lower ${i}`, ...side });
      sheet.panel(lower, [low(i), low(i + 1), high(i + 1)], { on: upper, ...diagonal });
    }
    return { base: lower, top: upper, first: upper, last: lower };
  });
  const strainMm = path.map((_, i) => m.q(twistAt(i)));
  const cornersAt: CornersAt = (id, moment) => {
    // In both its states it lies as its folds turn it.
    if (Math.abs(strainMm[moment]) < EXACT_MM) return undefined;
    const { low, high } = standing(m, twistAt(moment));
    const found = /^(lower|upper) (\d+)$/.exec(id);
    if (!found) return endCorners(m, id, low, high);
    const i = Number(found[2]) - 1;
    return found[1] === 'lower' ? [low(i), low(i + 1), high(i + 1)] : [low(i), high(i + 1), high(i)];
  };
  return { turns: { side, base, top, strainMm }, sides, cornersAt };
}

/** The corners of the base and the top, as they hang on the middle side. */
function endCorners(
  { n }: Measures,
  id: string,
  low: (i: number) => Vec3,
  high: (i: number) => Vec3,
): readonly Vec3[] | undefined {
  const middle = middleSide(n);
  const all = Array.from({ length: n }, (_, k) => k);
  if (id === 'base') return all.map((k) => low(middle + 1 - k));
  return id === 'top' ? all.map((k) => high(middle + k)) : undefined;
}
export const middleSide = (n: number): number => Math.floor(n / 2);

/** On screen an arc is so many straight steps: as many as keep the panels of a prism few. */
const stepsOf = (n: number): number => (n <= 8 ? 6 : 4);

/** What can be said of a prism with bowed diagonals; nothing of one with straight ones. */
export const bowedOf = (m: Measures) => (m.bow > 0 ? bowedTwist({ ...m, steps: stepsOf(m.n) }) : undefined);

/** Pressed, its base and top are so far apart at the end, mm: none of what is worked out may be nothing. */
export const FLAT_MM = 1e-6;

/** From one moment of the pressing to the next the twist changes by less. */
const PATH_REACH_RAD = 0.1;

/** A bowed prism pressed: at each height the twist at which its paper must give by the least. */
function pressedPath(
  twist: ReturnType<typeof bowedTwist>,
  stands: { readonly twist: number; readonly height: number },
): { twist: number; height: number; offMm: number }[] {
  const path: { twist: number; height: number; offMm: number }[] = [];
  for (let i = 1; i < MOMENTS; i++) {
    const height = Math.max(FLAT_MM, stands.height * (1 - i / (MOMENTS - 1)));
    path.push({ ...twist.leastAt(height, path.at(-1)?.twist ?? stands.twist, PATH_REACH_RAD), height });
  }
  return path;
}

/** The sides of bowed diagonals: two fans of strips, whose arcs and rulings turn as each side bends by itself until it stands. */
export function bowedSides(m: Measures, twist: ReturnType<typeof bowedTwist>, sheet: FoldedSheet): Sides {
  const { n, a } = m;
  const steps = stepsOf(n);
  const stands = twist.tall();
  if (!stands)
    throw new RangeError('Bowed so far the diagonals do not close round base and top: bow them less.');
  const pressing = m.pressed ? pressedPath(twist, stands) : [];
  const way = [stands, ...pressing];
  const path = way.map((at) => twist.turnsAt(at.twist, at.height));
  const { axisMm } = twist.placed(stands.twist, stands.height);
  // Each side by itself: exact all the way from flat to as it stands.
  const moments = closingMoments(m);
  const alone = Array.from({ length: moments }, (_, i) =>
    i === 0 ? undefined : twist.sideAt(twist.openMm + (axisMm - twist.openMm) * (i / (moments - 1)) ** 2),
  );
  const inside = (key: 'crease' | 'below' | 'above', k: number) => ({
    ...turning(
      m,
      path.map((turns) => turns[key][k]),
      alone.map((turns) => turns?.[key][k] ?? 0),
    ),
    ruling: true,
  });
  const [side, base, top] = (['side', 'base', 'top'] as const).map((key) =>
    turning(
      m,
      path.map((turns) => turns[key]),
    ),
  );
  const crease = Array.from({ length: steps }, (_, k) => inside('crease', k));
  const below = Array.from({ length: steps - 1 }, (_, k) => inside('below', k));
  const above = Array.from({ length: steps - 1 }, (_, k) => inside('above', k));
  const { p, q, arc } = flatSide({ ...m, steps });
  const sides = Array.from({ length: n }, (_, i): SidePanels => {
    const at = ([x, y]: Point): Point => [x + i * a, y];
    const [lower, upper] = ['lower', 'upper'].map(
      (word) => (k: number) => `${word} ${i + 1}, strip ${k + 1}`,
    );
    const lowerRing = (k: number): Point[] => [at(p), at(arc[k + 1]), at(arc[k])];
    const upperRing = (k: number): Point[] => [at(q), at(arc[k]), at(arc[k + 1])];
    if (i === 0) sheet.panel(lower(0), lowerRing(0));
    else {
      sheet.panel(upper(0), upperRing(0), { on: `lower ${i}, strip ${steps}`, ...side });
      sheet.panel(lower(0), lowerRing(0), { on: upper(0), ...crease[0] });
    }
    for (let k = 0; k < steps; k++) {
      if (k > 0) sheet.panel(lower(k), lowerRing(k), { on: lower(k - 1), ...below[k - 1] });
      if (k > 0 || i === 0) sheet.panel(upper(k), upperRing(k), { on: lower(k), ...crease[k] });
    }
    for (let k = 1; k < steps; k++) sheet.seam(upper(k - 1), upper(k), above[k - 1]);
    return { base: lower(0), top: upper(steps - 1), first: upper(0), last: lower(steps - 1) };
  });
  // Where the paper of a side is off, both ends of its arc are drawn into its corners.
  const places = way.map(({ twist: turn, height }) => {
    const here = twist.placed(turn, height);
    const off = [minus3(here.a, here.points[0]), minus3(here.end, here.points[steps])];
    const points = here.points.map(
      (x, k) => x.map((v, d) => v + (1 - k / steps) * off[0][d] + (k / steps) * off[1][d]) as unknown as Vec3,
    );
    return { ...here, points };
  });
  const cornersAt: CornersAt = (id, moment) => {
    const { a: low, p: nextLow, q: high, points } = places[moment];
    const turned = ([x, y, z]: Vec3, i: number): Vec3 => {
      const [c, s] = [Math.cos((2 * Math.PI * i) / n), Math.sin((2 * Math.PI * i) / n)];
      return [c * x - s * y, s * x + c * y, z];
    };
    const found = /^(lower|upper) (\d+), strip (\d+)$/.exec(id);
    if (!found)
      return endCorners(
        m,
        id,
        (i) => turned(low, i),
        (i) => turned(high, i),
      );
    const [i, k] = [Number(found[2]) - 1, Number(found[3]) - 1];
    const ring =
      found[1] === 'lower' ? [nextLow, points[k + 1], points[k]] : [high, points[k], points[k + 1]];
    return ring.map((p) => turned(p, i));
  };
  const strainMm = m.pressed ? [0, ...pressing.map(({ offMm }) => offMm)] : [];
  return { turns: { side, base, top, strainMm }, sides, cornersAt };
}
