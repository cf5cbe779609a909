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
import type { Gutter } from '../design/frames.ts';
import { num, whole, type Constraint, type Family, type Params } from './family.ts';
import { alongHandle, onHost, widthHandle } from './handles.ts';
import { alongRules, foot, NOTHING, round, strip } from './pieces.ts';
import { ALONG, count, length, WIDTH } from './specs.ts';
import { tabSpecs } from './tabSpecs.ts';

/**
 * The measures of a zigzag in mm: foot, panel width (derived), number of folds.
 *
 * @param spanMm width of the back when it goes from door to door; 0 over one fold
 */
export function zigzagMeasures(params: Params, spanMm = 0) {
  const k = whole(params, 'folds');
  const across = (2 * spanMm) / (k + 2);
  const a = spanMm > 0 ? (across * k) / 4 : num(params, 'footMm');
  return {
    a,
    w: spanMm > 0 ? across : (2 * a) / k,
    k,
    spanMm,
    along: num(params, 'alongMm'),
    width: num(params, 'widthMm'),
    tab: num(params, 'tabMm'),
    taper: num(params, 'taperMm'),
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
  specs: [
    length(
      'footMm',
      'Feet',
      'From the gutter to the fold at each end.',
      2,
      600,
      (_params, gutter) => gutter.kind !== 'doors',
    ),
    count(
      'folds',
      'Folds',
      'Between the ends: an odd number over one fold, an even one from door to door.',
      2,
      16,
    ),
    ALONG,
    WIDTH,
    ...tabSpecs(),
  ],
  defaults(gutter) {
    const depth = Math.min(gutter.reachMm, gutter.left.depthMm, gutter.right.depthMm);
    const a = Math.round(depth * 0.55);
    const width = Math.round(gutter.lengthMm * 0.4);
    return {
      footMm: a,
      folds: gutter.spanMm ? 4 : 5,
      alongMm: Math.round((gutter.lengthMm - width) / 2),
      widthMm: width,
      tabMm: 8,
      taperMm: 2,
    };
  },
  constraints,
  build(params, context) {
    const m = zigzagMeasures(params, context.gutter.spanMm);
    const { instanceId } = context;
    const made = strip({
      id: `${instanceId}/strip`,
      name: `${context.name} strip`,
      stockId: context.stockId,
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
        layer: i % 2 === 0 ? 'mountain' : 'valley',
      })),
      first: { id: 'left', name: 'left tab', foldId: 'foot-left', layer: 'valley', face: 'back' },
      last: { id: 'right', name: 'right tab', foldId: 'foot-right', layer: 'valley', face: 'back' },
    });
    const feet = (['left', 'right'] as const).map((side) =>
      foot(context, {
        partId: made.part.id,
        zoneId: `glue-${side}`,
        foldId: `foot-${side}`,
        side,
        foldX: side === 'left' ? 0 : (m.spanMm ? m.k + 1 : m.k) * m.w,
        x: side === 'left' ? -m.a : m.a,
        along: m.along,
        widthMm: m.width,
        under: false,
        landing: side,
      }),
    );
    return {
      ...NOTHING,
      parts: [made.part],
      joints: feet.map((f) => f.joint),
      hostLines: feet.map((f) => f.line),
      panelFrames: { [made.part.id]: made.frames },
      loose: [made.part.id],
      leaning: m.spanMm ? [made.part.id] : [],
    };
  },
  handles(params, { instanceId, gutter }) {
    const m = zigzagMeasures(params, gutter.spanMm);
    const middle = m.along + m.width / 2;
    return [
      ...(m.spanMm
        ? []
        : [onHost(instanceId, 'foot', 'feet', [-m.a, middle], [1, 0], (to) => ({ footMm: -to[0] }))]),
      alongHandle(instanceId, m.along),
      widthHandle(instanceId, m.along, m.width),
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
