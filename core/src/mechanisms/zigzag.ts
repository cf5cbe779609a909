/**
 * Zigzag strip (concertina). A strip of panels goes from the left half to the right one, k folds between them mountain and
 * valley in turn. Its feet lie at the distances a and b from the gutter. Closed, its panels lie outwards and inwards in turn,
 * beginning outwards: the outward ones together less the inward ones are b - a; flat open all together are a + b. So the
 * outward ones together are b long, the inward ones a. Both ends are halves of the panels of their way, so that for a = b
 * the strip is one half panel, k - 1 whole ones of width w = 2 a / k and one half. k is odd: with an even one the last
 * panel lies the way that its half does, and never leaves it.
 *
 * Closed-form limits for equal feet and an odd k, in the plane across the gutter. The folds are free to share the opening; paper shares it evenly
 * (the hinges lie alternately w/4 sin(b) above and below the chord between the feet, so equal folds are the least bent):
 * every panel leans b = 90 deg - theta / 2 from the chord.
 * - No fold ever reaches the halves: the lower ones stay over them because their distance from the middle, flat, is at
 *   most a - w/2.
 * - Closed, the folds lie alternately at a + w/2 and a - w/2 from the gutter: the first must stay inside the open edge, the
 *   second must not pass the gutter.
 *
 * Across a gatefold it goes from door to door, over a back of width W: n = k + 1 whole panels (n odd), their width from the
 * span. Closed, all lie one over the other between the feet, w = W - 2a; the doors open flat when n w >= W + 2a, and with
 * slack the strip would then dip under the card: so n w = W + 2a, w = 2 W / (n + 1), and the feet are at a = w (n - 1) / 4 on
 * the doors. The feet are D = W - 2 a cos(theta) apart; with equal folds the panels lean by b to either side of the strip's
 * own way, cos^2(b) = ((D / w)^2 - 1) / (n^2 - 1), and that way is turned by atan(tan(b) / n) out of the chord. Near closed
 * such a strip would run through door and back: paper is pressed aside there and leans on them.
 */
import { workOf } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { ALONG_FOLD, handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { alongRules, round } from './pieces.ts';
import { ALONG, count, length, measures, since, tabs, widthOf, shareOf } from './specs.ts';

const SIZES = measures({
  footMm: length(
    'Left foot',
    'From the gutter to the fold at the left end.',
    shareOf('depth', 0.55),
    2,
    600,
    (_params, gutter) => gutter.kind !== 'doors',
  ),
  rightMm: since(
    length(
      'Right foot',
      'From the gutter to the fold at the right end.',
      (_, { footMm }) => footMm,
      2,
      600,
      (_params, gutter) => gutter.kind !== 'doors',
    ),
    ({ footMm }) => Number(footMm),
  ),
  folds: count(
    'Folds',
    'Between the ends: an odd number over one fold, an even one from door to door.',
    ({ gutter }) => (gutter.spanMm ? 4 : 5),
    2,
    16,
  ),
  alongMm: ALONG,
  widthMm: widthOf(0.4),
  ...tabs(8, 2),
});

/** The panels of a strip with k folds between feet at a and b: outward ones together b, inward ones a; the first and the last are halves. */
const panelsBetween = (a: number, b: number, k: number): number[] =>
  Array.from({ length: k + 1 }, (_, i) => {
    const whole = (i % 2 === 0 ? b : a) / (k / 2);
    return i === 0 || i === k ? whole / 2 : whole;
  });

/** How far from the gutter its folds lie when the card is closed, the feet left out. */
function closedFolds({ a, panels }: { a: number; panels: readonly number[] }): number[] {
  let at = a;
  return panels.slice(0, -1).map((width, i) => (at += i % 2 === 0 ? width : -width));
}

/**
 * The measures of a zigzag in mm: foot, panel width (derived), number of folds.
 *
 * @param spanMm width of the back when it goes from door to door; 0 over one fold
 */
export function zigzagMeasures(params: Params, spanMm = 0) {
  const sizes = SIZES.read(params);
  const k = sizes.folds;
  const across = (2 * spanMm) / (k + 2);
  const [a, b] = spanMm > 0 ? [(across * k) / 4, (across * k) / 4] : [sizes.footMm, sizes.rightMm];
  const panels = spanMm > 0 ? Array.from({ length: k + 1 }, () => across) : panelsBetween(a, b, k);
  return {
    a,
    b,
    /** The widths of its panels, from the left foot to the right one. */
    panels,
    /** That of a whole panel; of the narrower ones where they are of two widths. */
    w: spanMm > 0 ? across : (2 * Math.min(a, b)) / k,
    k,
    spanMm,
    along: sizes.alongMm,
    width: sizes.widthMm,
    tab: sizes.tabMm,
    taper: sizes.taperMm,
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = zigzagMeasures(params, gutter.spanMm);
  const own: Constraint[] = gutter.spanMm
    ? [{ overMm: m.k % 2 === 0 ? 0 : 1, reason: 'From door to door the number of folds must be even.' }]
    : [
        {
          overMm: Math.max(...closedFolds(m)) - (gutter.reachMm - marginMm),
          reason: `Closed, the outer folds would pass the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
          shownBy: 'overhang',
        },
        {
          overMm: -Math.min(...closedFolds(m)),
          reason: 'Closed, a fold would pass the gutter: bring the feet nearer to each other, or out.',
        },
        {
          overMm: m.k % 2 === 1 ? 0 : 1,
          reason:
            'With an odd number of panels the last one would lie flat on its half all the way: make the number of folds odd, or glue that panel down.',
        },
      ];
  return [
    ...own,
    {
      overMm: Math.max(m.a + m.tab - gutter.left.depthMm, m.b + m.tab - gutter.right.depthMm),
      reason: 'A tab would stick out of the open edge.',
      shownBy: 'landing',
    },
    { overMm: 2 * m.taper - (m.width - 4), reason: 'The tapered tab would end in less than 4 mm.' },
    ...alongRules(gutter, m.along, m.width),
  ];
}

export const zigzag: Family = {
  id: 'zigzag',
  on: 'fold',
  acrossDoors: true,
  title: 'Zigzag strip',
  purpose:
    'A concertina from half to half, or from door to door; its panels spread as the card opens and carry pieces.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = zigzagMeasures(params, context.gutter.spanMm);
    const made = new Making(context);
    const part = made.strip('strip', {
      widthMm: m.width,
      tabMm: m.tab,
      taperMm: m.taper,
      panels: m.panels.map((lengthMm, i) => ({ id: `panel-${i}`, name: `panel ${i + 1}`, lengthMm })),
      folds: Array.from({ length: m.k }, (_, i) => ({
        id: `fold-${i + 1}`,
        ...workOf(i % 2 === 0 ? 'mountain' : 'valley'),
      })),
      first: { id: 'left', name: 'left tab', foldId: 'foot-left', ...workOf('valley'), face: 'back' },
      last: { id: 'right', name: 'right tab', foldId: 'foot-right', ...workOf('valley'), face: 'back' },
    });
    for (const side of ['left', 'right'] as const)
      made.foot(part, {
        zoneId: `glue-${side}`,
        foldId: `foot-${side}`,
        side,
        foldX: side === 'left' ? 0 : m.panels.reduce((sum, width) => sum + width, 0),
        x: side === 'left' ? -m.a : m.b,
        along: m.along,
        widthMm: m.width,
        under: false,
        landing: side,
      });
    return made.done({ loose: [part.id], leaning: m.spanMm ? [part.id] : [] });
  },
  handles(params, context) {
    const m = zigzagMeasures(params, context.gutter.spanMm);
    const handle = handlesOf(context, params);
    return [
      ...(m.spanMm
        ? []
        : [
            handle(HOST_PART, 'foot', 'left foot', [-m.a, m.along + m.width / 2], { footMm: [-1, 0] }),
            handle(HOST_PART, 'right', 'right foot', [m.b, m.along + m.width / 2], { rightMm: [1, 0] }),
          ]),
      handle(HOST_PART, 'along', 'place along the fold', [0, m.along], ALONG_FOLD),
      handle(HOST_PART, 'width', 'width', [0, m.along + m.width], { widthMm: [0, 1] }),
    ];
  },
  advice(params, gutter, marginMm) {
    const m = zigzagMeasures(params, gutter.spanMm);
    const most = (gutter.reachMm - marginMm) / (1 + 1 / m.k);
    if (gutter.spanMm)
      return [
        `Over a back of ${round(gutter.spanMm)} mm its ${m.k + 1} panels are ${round(m.w)} mm wide, its feet ${round(m.a)} mm from the back: so it is stretched when the doors lie flat.`,
        'Nearly closed it leans on the doors and the back; it is shown as if it spread evenly.',
        `A piece on a panel must be narrower than ${round(m.w)} mm, or it meets its neighbours when the card is closed.`,
      ];
    return [
      Math.abs(m.a - m.b) < 1e-6
        ? `Its panels are ${round(m.w)} mm wide (twice the feet by the folds); with ${m.k} folds the feet may be ${round(most)} mm from the gutter at most.`
        : `Its panels are ${m.panels.map(round).join(', ')} mm wide, from left to right: those that lie outwards are as long together as the right foot is far, the others as the left one.`,
      `Its ${m.k - 1} inner freedoms are not held: the paper spreads the folds evenly, and is shown so.`,
      `A piece on a panel must be narrower than ${round(m.w)} mm, or it meets its neighbours when the card is closed.`,
    ];
  },
};
