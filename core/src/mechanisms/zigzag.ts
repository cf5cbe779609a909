/**
 * Zigzag strip (concertina). A strip of one half panel, k - 1 whole panels of width w and one half panel goes from the
 * left half to the right one, k folds between them mountain and valley in turn (k odd). Both feet lie at distance a from
 * the gutter, and the strip is as long as they are apart when the card lies flat: k w = 2 a.
 *
 * Closed-form limits, in the plane across the gutter. The folds are free to share the opening; paper shares it evenly
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
import { ALONG, count, length, measures, tabs, widthOf, shareOf } from './specs.ts';

const SIZES = measures({
  footMm: length(
    'Feet',
    'From the gutter to the fold at each end.',
    shareOf('depth', 0.55),
    2,
    600,
    (_params, gutter) => gutter.kind !== 'doors',
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

/**
 * The measures of a zigzag in mm: foot, panel width (derived), number of folds.
 *
 * @param spanMm width of the back when it goes from door to door; 0 over one fold
 */
export function zigzagMeasures(params: Params, spanMm = 0) {
  const sizes = SIZES.read(params);
  const k = sizes.folds;
  const across = (2 * spanMm) / (k + 2);
  const a = spanMm > 0 ? (across * k) / 4 : sizes.footMm;
  return {
    a,
    w: spanMm > 0 ? across : (2 * a) / k,
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
          overMm: m.a + m.w / 2 - (gutter.reachMm - marginMm),
          reason: `Closed, the outer folds would pass the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
          shownBy: 'overhang',
        },
        { overMm: m.k % 2 === 1 ? 0 : 1, reason: 'The number of folds must be odd, so that both ends rise.' },
      ];
  return [
    ...own,
    {
      overMm: m.a + m.tab - Math.min(gutter.left.depthMm, gutter.right.depthMm),
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
      panels: Array.from({ length: m.k + 1 }, (_, i) => ({
        id: `panel-${i}`,
        name: `panel ${i + 1}`,
        lengthMm: !m.spanMm && (i === 0 || i === m.k) ? m.w / 2 : m.w,
      })),
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
        foldX: side === 'left' ? 0 : (m.spanMm ? m.k + 1 : m.k) * m.w,
        x: side === 'left' ? -m.a : m.a,
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
        : [handle(HOST_PART, 'foot', 'feet', [-m.a, m.along + m.width / 2], { footMm: [-1, 0] })]),
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
      `Its panels are ${round(m.w)} mm wide (twice the feet by the folds); with ${m.k} folds the feet may be ${round(most)} mm from the gutter at most.`,
      `Its ${m.k - 1} inner freedoms are not held: the paper spreads the folds evenly, and is shown so.`,
      `A piece on a panel must be narrower than ${round(m.w)} mm, or it meets its neighbours when the card is closed.`,
    ];
  },
};
