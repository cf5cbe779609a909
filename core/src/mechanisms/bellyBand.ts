/**
 * Belly band. A loose band round the closed card that keeps it shut, glued to itself; or a closing tab glued to the back
 * of the panel that goes round the open edge and tucks into a slit.
 *
 * Closed-form limits, for a card half of depth d that is t thick when closed, with the clearance k:
 * - the band's panels are d + k, t + k, d + k, t + k and the overlap: round the card once, and slid on and off;
 * - the closing tab's spine is t + k; its tongue reaches over the other half and goes TUCK mm into a slit there, which is
 *   as long as the tab is wide and a little more. On a half of the card the slit is cut where the tab meets it.
 */
import { workOf } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { alignSegment } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import { fit, type Fits } from '../stock/stock.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { ALONG_FOLD, handlesOf } from './handles.ts';
import { acrossAt, Making } from './making.ts';
import { round } from './pieces.ts';
import { length, measures, pick, up, shareOf } from './specs.ts';

const SIZES = measures({
  form: pick(
    'Form',
    'A loose band all round, or a tab glued to the back.',
    { band: 'Band', tab: 'Closing tab' },
    undefined,
    'tab',
  ),
  alongMm: up('Up', 'From the lower edge of the panel.', shareOf('tall', 0.4)),
  widthMm: length('Width', 'Of the band or tab.', shareOf('tall', 0.2), 6),
  thickMm: length('Card thickness', 'Of the closed card: see the thickness on Fold.', 3, 0.2, 40),
  clearanceMm: length('Clearance', 'So that it slides on and off.', 1, 0, 10),
  overlapMm: length('Glue overlap', 'Where the band is glued to itself, or the tab to the card.', 15, 5, 200),
  tongueMm: length('Tongue', 'How far the tab reaches over the front.', 30, 6, 200, (p) => p.form === 'tab'),
});

/** How far the tongue goes into its slit, mm. */
const TUCK_MM = 6;
/** So much of the card is left beyond an end of the slit at least, mm. */
const SLIT_WEB_MM = 1.5;
/** What the slit is longer than the tongue, which is put in and out of it again and again, mm. */
const slitPlay = (fits?: Fits): number => fit({ thicknessMm: 0 }, 'loose', fits).playMm;

/** The measures of a band or closing tab in mm. */
export function bellyBandMeasures(params: Params) {
  const sizes = SIZES.read(params);
  return {
    band: sizes.form !== 'tab',
    along: sizes.alongMm,
    width: sizes.widthMm,
    /** The slit lies so far from the open edge of the other half. */
    slit: sizes.tongueMm - TUCK_MM,
    thick: sizes.thickMm,
    clear: sizes.clearanceMm,
    overlap: sizes.overlapMm,
    tongue: sizes.tongueMm,
  };
}

function constraints(params: Params, gutter: Gutter, fits?: Fits): Constraint[] {
  const m = bellyBandMeasures(params);
  return [
    { overMm: -m.along, reason: 'It would lie below the lower edge of the card.' },
    {
      overMm: !m.band && gutter.facing?.openAt === 0 ? 1 : 0,
      reason: 'The tab goes round the open edge: turn it by a quarter, towards that edge.',
    },
    {
      overMm: m.along + m.width - gutter.lengthMm,
      reason: 'It would lie beyond the upper edge of the card.',
    },
    ...(m.band
      ? []
      : [
          {
            overMm: SLIT_WEB_MM + slitPlay(fits) / 2 - Math.min(m.along, gutter.lengthMm - m.along - m.width),
            reason: `Less than ${round(SLIT_WEB_MM)} mm of the card would be left beyond an end of the slit.`,
          },
        ]),
    {
      overMm: m.band
        ? m.overlap - (2 * gutter.left.depthMm - 4)
        : Math.max(m.overlap, m.tongue) - (2 * gutter.left.depthMm - 4),
      reason: 'The overlap or the tongue would be longer than the card is deep.',
    },
  ];
}

export const bellyBand: Family = {
  id: 'bellyBand',
  on: 'panel',
  roundOpenEdge: true,
  title: 'Closing tab or band',
  purpose: 'A tab round the open edge, or a band round the closed card, that keeps it shut.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints: (params, gutter, _marginMm, fits) => constraints(params, gutter, fits),
  build(params, context) {
    const m = bellyBandMeasures(params);
    const made = new Making(context);
    const { gutter } = context;
    const spine = m.thick + m.clear;
    const depth = 2 * gutter.left.depthMm;
    const common = { title: '', widthMm: m.width, tabMm: m.overlap, taperMm: Math.min(2, m.width / 6) };
    if (m.band) {
      const { id } = made.strip('band', {
        ...common,
        panels: [
          { id: 'front', name: 'front', lengthMm: depth + m.clear },
          { id: 'edge', name: 'edge', lengthMm: spine },
          { id: 'back', name: 'back', lengthMm: depth + m.clear },
          { id: 'spine', name: 'spine', lengthMm: spine },
        ],
        folds: [1, 2, 3].map((i) => ({ id: `fold-${i}`, ...workOf('mountain') })),
        last: { id: 'overlap', name: 'overlap', foldId: 'fold-4', ...workOf('mountain'), face: 'front' },
      });
      // Round the card it is loose: it is not drawn with it.
      return made.done({ loose: [id] });
    }
    const part = made.strip('tab', {
      ...common,
      panels: [
        { id: 'spine', name: 'spine', lengthMm: spine },
        { id: 'tongue', name: 'tongue', lengthMm: m.tongue },
      ],
      folds: [{ id: 'over', ...workOf('mountain') }],
      first: { id: 'root', name: 'root', foldId: 'round', ...workOf('mountain'), face: 'front' },
    });
    // Round the open edge: of the left half of a card that is its other side.
    const side = gutter.facing?.openAt || 1;
    const x = side * gutter.left.depthMm;
    const [low, high] = [m.along, m.along + m.width];
    const fold = side > 0 ? acrossAt(x, low, high) : acrossAt(x, high, low);
    // Glued with its front to the back of the panel, its fold along the open edge.
    made.glue(part, alignSegment([0, 0], [0, m.width], ...fold, false), {
      zone: 'glue-root',
      mate: { lineId: 'round', hostLineId: made.id('landing') },
    });
    made.hand('close', part, { round: -1, over: -1 }, made.drive(0, 90, 0, 0));
    made.guide('landing', ...fold);
    // However far it is moved, the slit ends in the card.
    const over = slitPlay(context.fits) / 2;
    const within = (y: number) => Math.min(gutter.lengthMm - SLIT_WEB_MM, Math.max(SLIT_WEB_MM, y));
    const [from, to] = [within(low - over), within(high + over)];
    if (to - from > 1) made.line('slit', 'cut', straight(...acrossAt(x - side * m.slit, from, to)), 'facing');
    // Untucked while the card is opened.
    return made.done({ takenOut: [part.id] });
  },
  handles(params, context) {
    const m = bellyBandMeasures(params);
    const { gutter } = context;
    const x = (gutter.facing?.openAt || 1) * (gutter.left.depthMm - 1);
    return [handlesOf(context, params)(HOST_PART, 'place', 'place', [x, m.along], ALONG_FOLD)];
  },
  advice(params, gutter, _marginMm, fits) {
    const m = bellyBandMeasures(params);
    const slit = round(m.width + slitPlay(fits));
    const around = 2 * (2 * gutter.left.depthMm + m.clear) + 2 * (m.thick + m.clear);
    return m.band
      ? [
          `Flat, the band is ${round(around + m.overlap)} mm long, its overlap included.`,
          'Glue it to itself, never to the card.',
        ]
      : [
          `Its spine is ${round(m.thick + m.clear)} mm: the closed card and the clearance.`,
          gutter.facing
            ? `Its slit is cut in the other half, ${slit} mm long and ${round(m.slit)} mm from the open edge: the tongue goes ${TUCK_MM} mm into it.`
            : `Cut a slit ${slit} mm long for it, ${round(m.slit)} mm from the open edge of what it closes over.`,
        ];
  },
};
