/**
 * Twisted prism: n sides, each a parallelogram with a diagonal, that stands tall and is pressed flat with a turn.
 *
 * Radius R = a / (2 sin(pi / n)). A valley side b and a mountain diagonal c of a state with height H and twist phi:
 * b^2 = H^2 + 4 R^2 sin^2(phi / 2), c^2 = H^2 + 4 R^2 sin^2(phi / 2 + pi / n). The same b and c stand in two states, whose twists
 * sum to pi - 2 pi / n. Flat (H0 = 0) at twist phi2 and tall at phi1: H1^2 = 4 R^2 cos(pi / n) sin(phi2 - pi / 2 + pi / n).
 * Between them paper must give: sides are short and diagonals long by
 * q = [(a^2 / sin(pi / n)) sin(phi + pi / n) - (c^2 - b^2)] / (2 (b + c)), most at phi = pi / 2 - pi / n, where it snaps.
 * Flat pattern: the upper edges shifted by e = (c^2 - b^2 - a^2) / 2 a, sqrt(b^2 - e^2) above the lower ones.
 */
import type { Point } from '../../geometry/point.ts';
import type { Vec3 } from '../../geometry/rigid.ts';
import { minus3 } from '../../geometry/vector.ts';
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { round } from '../pieces.ts';
import { count, length, measures, yesNo } from '../specs.ts';
import { evenly, foldDeg, normalOf, unbroken } from './angles.ts';
import { glueTabs, sheetPart } from './assembling.ts';
import { mm, sheetRules, tabOutside } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';

const SIZES = measures({
  sides: count('Sides', 'Of its base.', 6, 3, 12),
  sideMm: length('Side', 'Of the base.', 40, 8, 200),
  tallMm: length('Height', 'When it stands. Low ones snap softly, tall ones hard.', 35, 4, 300),
  pressed: yesNo('Press it flat', 'Fold up until it is pressed flat, not only until it stands.', true),
});

const RAD = Math.PI / 180;

/** Its measures in mm and radians. */
export function twistedMeasures(params: Params) {
  const { sides: n, sideMm: a, tallMm: tall, pressed } = SIZES.read(params);
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

/** The sheet of sides with base, top and tabs. */
function sheetOf(m: Measures): { sheet: FoldedSheet; seams: readonly (readonly [string, string])[] } {
  const { n, a, shift, layer } = m;
  const path = Array.from({ length: MOMENTS }, (_, i) =>
    turnsAt(m, m.twist + ((m.flat - m.twist) * i) / (MOMENTS - 1)),
  );
  const courseOf = (key: keyof (typeof path)[number]) => {
    const pressed = unbroken(path.map((turns) => turns[key]));
    const closed = evenly(pressed[0], m.pressed ? MOMENTS : 2 * MOMENTS - 1);
    const course = m.pressed ? [...closed, ...pressed.slice(1)] : closed;
    return { deg: course[course.length - 1], course };
  };
  const [side, diagonal, base, top] = (['side', 'diagonal', 'base', 'top'] as const).map(courseOf);
  const sheet = new FoldedSheet();
  const low = (i: number): Point => [i * a, 0];
  const high = (i: number): Point => [i * a + shift, layer];
  for (let i = 0; i < n; i++) {
    if (i === 0) sheet.panel('lower 1', [low(0), low(1), high(1)]);
    else
      sheet.panel(`lower ${i + 1}`, [low(i), low(i + 1), high(i + 1)], { on: `upper ${i + 1}`, ...diagonal });
    if (i === 0) sheet.panel('upper 1', [low(0), high(1), high(0)], { on: 'lower 1', ...diagonal });
    if (i + 1 < n)
      sheet.panel(`upper ${i + 2}`, [low(i + 1), high(i + 2), high(i + 1)], {
        on: `lower ${i + 1}`,
        ...side,
      });
  }
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
  sheet.panel('base', polygon(low(middle), low(middle + 1)), { on: `lower ${middle + 1}`, ...base });
  sheet.panel('top', polygon(high(middle + 1), high(middle)), { on: `upper ${middle + 1}`, ...top });
  const depth = Math.min(9, 0.35 * a, 0.5 * layer);
  const seams: [string, string][] = [];
  for (let i = 0; i < n; i++) {
    if (i === middle) continue;
    sheet.tab(`base tab ${i + 1}`, tabOutside(low(i), low(i + 1), depth, depth), {
      on: `lower ${i + 1}`,
      ...base,
    });
    sheet.tab(`top tab ${i + 1}`, tabOutside(high(i + 1), high(i), depth, depth), {
      on: `upper ${i + 1}`,
      ...top,
    });
    seams.push([`base tab ${i + 1}`, 'base'], [`top tab ${i + 1}`, 'top']);
  }
  sheet.tab('side tab', tabOutside(high(0), low(0), Math.min(depth, 0.4 * a), depth), {
    on: 'upper 1',
    ...side,
  });
  seams.push(['side tab', `lower ${n}`]);
  return { sheet, seams };
}

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
    ];
  },
  build(params, context) {
    const m = twistedMeasures(params);
    const made = new Making(context);
    const { sheet, seams } = sheetOf(m);
    const glued = seams.map(([tab, onto]) => sheet.glue(tab, onto, 'front'));
    const part = sheetPart(made, 'prism', sheet);
    glueTabs(made, 'seam', part, glued);
    return made.standing(
      m.pressed
        ? ['Close it round its base and top', 'Press it flat with a turn']
        : ['Close it round its base and top'],
      m.pressed
        ? {
            strainMm: Array.from({ length: 2 * MOMENTS - 1 }, (_, i) =>
              i < MOMENTS ? 0 : m.q(m.twist + ((m.flat - m.twist) * (i - MOMENTS + 1)) / (MOMENTS - 1)),
            ),
          }
        : {},
    );
  },
  handles: () => [],
  advice(params) {
    const m = twistedMeasures(params);
    return [
      `It stands ${mm(m.tall)} high, twisted by ${round(m.twist / RAD)}°, and lies flat at ${round(m.flat / RAD)}°${m.hole > 0.5 ? `, with a hole ${mm(2 * m.hole)} across` : ''}.`,
      `On the way its sides are short, and its diagonals long, by up to ${mm(m.worst)} (${round((100 * m.worst) / m.b)} % of a side): the paper gives by so much, and it snaps.`,
      ...(m.worst > 0.04 * m.b ? ['That is much for stiff card: make it lower, and stack several.'] : []),
      'Sides are valleys, diagonals mountains; break all folds before it is closed.',
    ];
  },
};
