/**
 * Twisted prism: n sides, each a parallelogram with a diagonal, that stands tall and is pressed flat with a turn.
 *
 * Radius R = a / (2 sin(pi / n)). A valley side b and a mountain diagonal c of a state with height H and twist phi:
 * b^2 = H^2 + 4 R^2 sin^2(phi / 2), c^2 = H^2 + 4 R^2 sin^2(phi / 2 + pi / n). The same b and c stand in two states, whose twists
 * sum to pi - 2 pi / n. Flat (H0 = 0) at twist phi2 and tall at phi1: H1^2 = 4 R^2 cos(pi / n) sin(phi2 - pi / 2 + pi / n).
 * Between them paper must give: sides are short and diagonals long by
 * q = [(a^2 / sin(pi / n)) sin(phi + pi / n) - (c^2 - b^2)] / (2 (b + c)), most at phi = pi / 2 - pi / n, where it snaps.
 * Flat pattern: the upper edges shifted by e = (c^2 - b^2 - a^2) / 2 a, sqrt(b^2 - e^2) above the lower ones.
 * Diagonals may be arcs instead (bowedTwist.ts): then it stands exactly, and never lies quite flat.
 */
import { workOf, type DieLine } from '../../dieline/part.ts';
import type { Point } from '../../geometry/point.ts';
import type { Vec3 } from '../../geometry/rigid.ts';
import { minus3 } from '../../geometry/vector.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { round } from '../pieces.ts';
import { count, length, measures, yesNo } from '../specs.ts';
import { bowedTwist, flatSide } from './bowedTwist.ts';
import { evenly, foldDeg, normalOf, unbroken } from './angles.ts';
import { glueTabs, sheetPart } from './assembling.ts';
import { mm, sheetRules, tabOutside } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';

const SIZES = measures({
  sides: count('Sides', 'Of its base.', 6, 3, 12),
  sideMm: length('Side', 'Of the base.', 40, 8, 200),
  tallMm: length('Height', 'When it stands. Low ones snap softly, tall ones hard.', 35, 4, 300),
  bowMm: length(
    'Bow of the diagonals',
    'How far the arcs of its diagonals rise; 0 for straight ones.',
    0,
    0,
    40,
  ),
  pressed: yesNo(
    'Press it flat',
    'Fold up until it is pressed flat, not only until it stands.',
    true,
    // What is bowed never lies flat.
    ({ bowMm }) => !(Number(bowMm) > 0),
  ),
});

const RAD = Math.PI / 180;

/** Its measures in mm and radians. */
export function twistedMeasures(params: Params) {
  const { sides: n, sideMm: a, tallMm: tall, bowMm: bow, pressed: asksPressed } = SIZES.read(params);
  const pressed = asksPressed && bow === 0;
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

type Measures = ReturnType<typeof twistedMeasures>;

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
const MOMENTS = 91;

/** How a fold of the sheet turns. */
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
  return { deg: course[course.length - 1], course };
}

/** Panels of one side, by what they are joined by; gives back the panels at its lower edge, its upper edge, and both its sides. */
interface SidePanels {
  readonly base: string;
  readonly top: string;
  readonly first: string;
  readonly last: string;
}

/** The sides of straight diagonals, laid one after another. */
function straightSides(m: Measures, sheet: FoldedSheet): { turns: Turning; sides: readonly SidePanels[] } {
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
  return { turns: { side, base, top, strainMm }, sides };
}

/** On screen an arc is so many straight steps: as many as keep the panels of a prism few. */
const stepsOf = (n: number): number => (n <= 8 ? 6 : 4);

/** What can be said of a prism with bowed diagonals; nothing of one with straight ones. */
const bowedOf = (m: Measures) => (m.bow > 0 ? bowedTwist({ ...m, steps: stepsOf(m.n) }) : undefined);

/** Pressed, its base and top are so far apart at the end, mm: none of what is worked out may be nothing. */
const FLAT_MM = 1e-6;

/** The sides of bowed diagonals: two fans of strips, whose arcs and rulings turn as each side bends by itself until it stands. */
function bowedSides(
  m: Measures,
  twist: ReturnType<typeof bowedTwist>,
  sheet: FoldedSheet,
): { turns: Turning; sides: readonly SidePanels[] } {
  const { n, a } = m;
  const steps = stepsOf(n);
  const stands = twist.tall();
  if (!stands)
    throw new RangeError('Bowed so far the diagonals do not close round base and top: bow them less.');
  const stood = twist.turnsAt(stands.twist, stands.height);
  const { axisMm } = twist.placed(stands.twist, stands.height);
  // Each side by itself: exact all the way from flat to as it stands.
  const moments = closingMoments(m);
  const alone = Array.from({ length: moments }, (_, i) =>
    i === 0 ? undefined : twist.sideAt(twist.openMm + (axisMm - twist.openMm) * (i / (moments - 1)) ** 2),
  );
  const inside = (key: 'crease' | 'below' | 'above', k: number) => ({
    ...turning(
      m,
      [stood[key][k]],
      alone.map((turns) => turns?.[key][k] ?? 0),
    ),
    ruling: true,
  });
  const [side, base, top] = (['side', 'base', 'top'] as const).map((key) => turning(m, [stood[key]]));
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
  return {
    turns: { side, base, top, strainMm: [] },
    sides,
  };
}

/** The sheet of sides with base, top and tabs; by how much its paper must give; and the scores of bowed diagonals. */
function sheetOf(m: Measures) {
  const { n, a, shift, layer } = m;
  const sheet = new FoldedSheet();
  const bowed = bowedOf(m);
  const { turns, sides } = bowed ? bowedSides(m, bowed, sheet) : straightSides(m, sheet);
  const { side, base, top, strainMm } = turns;
  const low = (i: number): Point => [i * a, 0];
  const high = (i: number): Point => [i * a + shift, layer];
  const polygon = (from: Point, to: Point): Point[] => {
    // A regular polygon on the right of the way from one corner to the other, turning left with that edge first.
    const out = [to, from];
    let [ux, uy] = [from[0] - to[0], from[1] - to[1]];
    for (let k = 2; k < n; k++) {
      const [c, s] = [Math.cos((2 * Math.PI) / n), Math.sin((2 * Math.PI) / n)];
      [ux, uy] = [c * ux - s * uy, s * ux + c * uy];
      const last = out[out.length - 1];
      out.push([last[0] + ux, last[1] + uy]);
    }
    return out;
  };
  const middle = Math.floor(n / 2);
  sheet.panel('base', polygon(low(middle), low(middle + 1)), { on: sides[middle].base, ...base });
  sheet.panel('top', polygon(high(middle + 1), high(middle)), { on: sides[middle].top, ...top });
  const depth = Math.min(9, 0.35 * a, 0.5 * layer);
  const seams: [string, string][] = [];
  sides.forEach((own, i) => {
    if (i === middle) return;
    sheet.tab(`base tab ${i + 1}`, tabOutside(low(i), low(i + 1), depth, depth), { on: own.base, ...base });
    sheet.tab(`top tab ${i + 1}`, tabOutside(high(i + 1), high(i), depth, depth), { on: own.top, ...top });
    seams.push([`base tab ${i + 1}`, 'base'], [`top tab ${i + 1}`, 'top']);
  });
  // Within the triangle that it is glued onto: as sharp at its upper end as that is there.
  const sharp = Math.acos(Math.min(1, (m.b ** 2 + m.c ** 2 - a ** 2) / (2 * m.b * m.c)));
  const sideDepth = Math.min(depth, 0.4 * a);
  sheet.tab(
    'side tab',
    tabOutside(high(0), low(0), sideDepth, Math.max(sideDepth, sideDepth / Math.tan(0.9 * sharp)), sideDepth),
    { on: sides[0].first, ...side },
  );
  seams.push(['side tab', sides[n - 1].last]);
  const arcs = bowed
    ? sides.map((_, i): DieLine => {
        const { end, bulge } = flatSide({ ...m, steps: 1 });
        return {
          id: `diagonal-${i + 1}`,
          ...workOf('score'),
          path: {
            start: low(i),
            segments: [{ kind: 'arc', to: [end[0] + i * a, end[1]], bulge }],
          },
        };
      })
    : [];
  return { sheet, seams, strainMm, arcs };
}

/** A diagonal bows by this share of its length at most: more would not turn where it should. */
const MOST_BOW = 0.09;

/** By how much the paper of bowed diagonals would have to give when it is pressed quite flat, mm. */
const flattenedMm = (m: Measures, bowed: ReturnType<typeof bowedTwist>): number =>
  bowed.leastAt(FLAT_MM, m.flat).offMm;

export const twistedPrism: Family = {
  id: 'twistedPrism',
  on: 'table',
  title: 'Twisted prism',
  purpose: 'Sides with diagonal folds that twist: it stands tall, and is pressed flat with a turn.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints(params) {
    const m = twistedMeasures(params);
    return [
      ...sheetRules({ 'A side': m.layer }, [(m.n + 0.5) * m.a, m.layer + 4 * m.radius]),
      {
        overMm: m.tall - m.most,
        reason: `So tall it cannot be pressed flat: at most ${round(m.most)} mm with these sides. Stack several low ones.`,
      },
      {
        overMm: m.bow - MOST_BOW * Math.hypot(m.a + m.shift, m.layer),
        reason: `The diagonals would bow too far: at most ${round(MOST_BOW * Math.hypot(m.a + m.shift, m.layer))} mm.`,
      },
    ];
  },
  build(params, context) {
    const m = twistedMeasures(params);
    const made = new Making(context);
    const { sheet, seams, strainMm, arcs } = sheetOf(m);
    const glued = seams.map(([tab, onto]) => sheet.glue(tab, onto, 'front'));
    const part = sheetPart(made, 'prism', sheet, { lines: arcs });
    glueTabs(made, 'seam', part, glued);
    return made.standing(
      m.pressed
        ? ['Close it round its base and top', 'Press it flat with a turn']
        : ['Close it round its base and top'],
      m.pressed ? { strainMm: [...Array.from({ length: MOMENTS - 1 }, () => 0), ...strainMm] } : {},
    );
  },
  handles: () => [],
  advice(params) {
    const m = twistedMeasures(params);
    const bowed = bowedOf(m);
    if (bowed) {
      const stands = bowed.tall();
      if (!stands) return ['Bowed so far the diagonals do not close round base and top: bow them less.'];
      return [
        `It stands ${mm(stands.height)} high, twisted by ${round(stands.twist / RAD)}°: there its bowed sides close.`,
        `It cannot lie flat: a curved fold never turns by 180°. Pressed quite flat its paper would have to give by ${mm(flattenedMm(m, bowed))}.`,
        'Sides are valleys, the arcs mountains; bend all folds before it is closed, the arcs with the fingers.',
      ];
    }
    return [
      `It stands ${mm(m.tall)} high, twisted by ${round(m.twist / RAD)}°, and lies flat at ${round(m.flat / RAD)}°${m.hole > 0.5 ? `, with a hole ${mm(2 * m.hole)} across` : ''}.`,
      `On the way its sides are short, and its diagonals long, by up to ${mm(m.worst)} (${round((100 * m.worst) / m.b)} % of a side): the paper gives by so much, and it snaps.`,
      ...(m.worst > 0.04 * m.b ? ['That is much for stiff card: make it lower, and stack several.'] : []),
      'Sides are valleys, diagonals mountains; break all folds before it is closed.',
    ];
  },
};
