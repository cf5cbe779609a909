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
import type { Family, Params } from '../family.ts';
import { Making } from '../making.ts';
import { round } from '../pieces.ts';
import { count, length, measures, yesNo } from '../specs.ts';
import { bowedTwist, flatSide } from './bowedTwist.ts';
import { glueTabs, sheetPart } from './assembling.ts';
import { mm, sheetRules, tabOutside } from './fitting.ts';
import { FoldedSheet } from './foldedSheet.ts';
import {
  bowedOf,
  bowedSides,
  FLAT_MM,
  middleSide,
  MOMENTS,
  straightSides,
  prismMeasures,
  type Measures,
} from './twistedSides.ts';

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
  pressed: yesNo('Press it flat', 'Fold up until it is pressed flat, not only until it stands.', true),
});

const RAD = Math.PI / 180;

/** Its measures in mm and radians. */
export function twistedMeasures(params: Params): Measures {
  const { sides: n, sideMm: a, tallMm: tall, bowMm: bow, pressed } = SIZES.read(params);
  return prismMeasures({ n, a, tall, bow, pressed });
}

/** The sheet of sides with base, top and tabs; by how much its paper must give; and the scores of bowed diagonals. */
function sheetOf(m: Measures) {
  const { n, a, shift, layer } = m;
  const sheet = new FoldedSheet();
  const bowed = bowedOf(m);
  const { turns, sides, cornersAt } = bowed ? bowedSides(m, bowed, sheet) : straightSides(m, sheet);
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
  const middle = middleSide(n);
  sheet.panel('base', polygon(low(middle), low(middle + 1)), { on: sides[middle].base, ...base });
  sheet.panel('top', polygon(high(middle + 1), high(middle)), { on: sides[middle].top, ...top });
  // Two tabs share a corner of the base: in a triangle they must slope more.
  const slope = Math.max(1, Math.tan(Math.PI / n));
  const depth = Math.min(9, 0.35 * a, 0.5 * layer, (0.45 * a) / slope);
  const seams: [string, string][] = [];
  sides.forEach((own, i) => {
    if (i === middle) return;
    sheet.tab(`base tab ${i + 1}`, tabOutside(low(i), low(i + 1), depth, slope * depth), {
      on: own.base,
      ...base,
    });
    sheet.tab(`top tab ${i + 1}`, tabOutside(high(i + 1), high(i), depth, slope * depth), {
      on: own.top,
      ...top,
    });
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
  if (m.pressed)
    sheet.giving(2 * MOMENTS - 1, (id, moment) =>
      moment < MOMENTS - 1 ? undefined : cornersAt(id, moment - (MOMENTS - 1)),
    );
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
        ? [
            'Close it round its base and top',
            m.bow > 0 ? 'Press it down with a turn: it springs back' : 'Press it flat with a turn',
          ]
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
        `It cannot lie flat: a curved fold never turns by 180°. Pressed quite flat its paper would have to give by ${mm(flattenedMm(m, bowed))}, and it springs back.`,
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
