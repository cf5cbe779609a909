/**
 * Belly band. A loose band round the closed card that keeps it shut, glued to itself; or a closing tab glued to the back
 * of the panel that goes round the open edge and tucks into a slit.
 *
 * Closed-form limits, for a card half of depth d that is t thick when closed, with the clearance k:
 * - the band's panels are d + k, t + k, d + k, t + k and the overlap: round the card once, and slid on and off;
 * - the closing tab's spine is t + k; its tongue reaches over the other half and goes TUCK mm into a slit there, which is
 *   as long as the tab is wide and a little more. On a half of the card the slit is cut where the tab meets it.
 */
import type { Gutter } from '../design/frames.ts';
import type { Joint } from '../design/design.ts';
import { alignSegment } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { choice, num, type Constraint, type Family, type Params } from './family.ts';
import { onHost } from './handles.ts';
import { glueOn, hostLine, NOTHING, round, strip } from './pieces.ts';
import { length, pick } from './specs.ts';

/** How far the tongue goes into its slit, and what the slit is longer than the tab, mm. */
const TUCK_MM = 6;
const SLIT_CLEARANCE_MM = 1;

/** The measures of a band or closing tab in mm. */
export const bellyBandMeasures = (params: Params) => ({
  band: choice(params, 'form') !== 'tab',
  along: num(params, 'alongMm'),
  width: num(params, 'widthMm'),
  /** The slit lies so far from the open edge of the other half. */
  slit: num(params, 'tongueMm') - TUCK_MM,
  thick: num(params, 'thickMm'),
  clear: num(params, 'clearanceMm'),
  overlap: num(params, 'overlapMm'),
  tongue: num(params, 'tongueMm'),
});

function constraints(params: Params, gutter: Gutter): Constraint[] {
  const m = bellyBandMeasures(params);
  return [
    { overMm: -m.along, reason: 'It would lie below the lower edge of the card.' },
    {
      overMm: m.along + m.width - gutter.lengthMm,
      reason: 'It would lie beyond the upper edge of the card.',
    },
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
  title: 'Closing tab or band',
  purpose: 'A tab round the open edge, or a band round the closed card, that keeps it shut.',
  specs: [
    pick('form', 'Form', 'A loose band all round, or a tab glued to the back.', {
      band: 'Band',
      tab: 'Closing tab',
    }),
    length('alongMm', 'Up', 'From the lower edge of the panel.', 0, 1000),
    length('widthMm', 'Width', 'Of the band or tab.', 6),
    length('thickMm', 'Card thickness', 'Of the closed card: see the thickness on Fold.', 0.2, 40),
    length('clearanceMm', 'Clearance', 'So that it slides on and off.', 0, 10),
    length('overlapMm', 'Glue overlap', 'Where the band is glued to itself, or the tab to the card.', 5, 200),
    length('tongueMm', 'Tongue', 'How far the tab reaches over the front.', 6, 200, (p) => p.form === 'tab'),
  ],
  defaults(gutter) {
    return {
      form: 'tab',
      alongMm: Math.round(gutter.lengthMm * 0.4),
      widthMm: Math.round(gutter.lengthMm * 0.2),
      thickMm: 3,
      clearanceMm: 1,
      overlapMm: 15,
      tongueMm: 30,
    };
  },
  constraints: (params, gutter) => constraints(params, gutter),
  build(params, context) {
    const m = bellyBandMeasures(params);
    const { instanceId, gutter } = context;
    const spine = m.thick + m.clear;
    const depth = 2 * gutter.left.depthMm;
    const partId = `${instanceId}/${m.band ? 'band' : 'tab'}`;
    const common = {
      id: partId,
      name: context.name,
      stockId: context.stockId,
      widthMm: m.width,
      tabMm: m.overlap,
      taperMm: Math.min(2, m.width / 6),
    };
    if (m.band) {
      const made = strip({
        ...common,
        panels: [
          { id: 'front', name: 'front', lengthMm: depth + m.clear },
          { id: 'edge', name: 'edge', lengthMm: spine },
          { id: 'back', name: 'back', lengthMm: depth + m.clear },
          { id: 'spine', name: 'spine', lengthMm: spine },
        ],
        folds: [1, 2, 3].map((i) => ({ id: `fold-${i}`, layer: 'mountain' as const })),
        last: { id: 'overlap', name: 'overlap', foldId: 'fold-4', layer: 'mountain', face: 'front' },
      });
      // Round the card it is loose: it is not drawn with it.
      return { ...NOTHING, parts: [made.part], panelFrames: { [partId]: made.frames }, loose: [partId] };
    }
    const made = strip({
      ...common,
      panels: [
        { id: 'spine', name: 'spine', lengthMm: spine },
        { id: 'tongue', name: 'tongue', lengthMm: m.tongue },
      ],
      folds: [{ id: 'over', layer: 'mountain' }],
      first: { id: 'root', name: 'root', foldId: 'round', layer: 'mountain', face: 'front' },
    });
    // Round the open edge: of the left half of a card that is its other side.
    const side = gutter.facing?.openAt ?? 1;
    const x = side * gutter.left.depthMm;
    const [low, high] = [m.along, m.along + m.width];
    const fold: [Point, Point] =
      side > 0
        ? [
            [x, low],
            [x, high],
          ]
        : [
            [x, high],
            [x, low],
          ];
    const line = `${instanceId}/landing`;
    const slitX = x - side * m.slit;
    const half = SLIT_CLEARANCE_MM / 2;
    const slit = hostLine(
      'facing',
      `${instanceId}/slit`,
      'cut',
      straight([slitX, low - half], [slitX, high + half]),
    );
    const closing: Joint = {
      id: `${instanceId}/close`,
      kind: 'hand',
      partId,
      hostPartId: gutter.left.partId,
      folds: [
        { lineId: 'round', factor: -1 },
        { lineId: 'over', factor: -1 },
      ],
      drive: { name: context.name, from: 0, to: 90, rest: 0, atOpeningDeg: 0 },
    };
    return {
      ...NOTHING,
      parts: [made.part],
      joints: [
        // Glued with its front to the back of the panel, its fold along the open edge.
        glueOn(
          context,
          'glue-root',
          partId,
          'glue-root',
          'left',
          alignSegment([0, 0], [0, m.width], ...fold, false),
          { lineId: 'round', hostLineId: line },
        ),
        closing,
      ],
      hostLines: [hostLine('left', line, 'guide', straight(...fold)), slit],
      panelFrames: { [partId]: made.frames },
      // Untucked while the card is opened.
      takenOut: [partId],
    };
  },
  handles(params, { instanceId, gutter }) {
    const m = bellyBandMeasures(params);
    return [
      onHost(
        instanceId,
        'place',
        'place',
        [(gutter.facing?.openAt ?? 1) * (gutter.left.depthMm - 1), m.along],
        [0, 1],
        (to) => ({
          alongMm: to[1],
        }),
      ),
    ];
  },
  advice(params, gutter) {
    const m = bellyBandMeasures(params);
    const around = 2 * (2 * gutter.left.depthMm + m.clear) + 2 * (m.thick + m.clear);
    return m.band
      ? [
          `Flat, the band is ${round(around + m.overlap)} mm long, its overlap included.`,
          'Glue it to itself, never to the card.',
        ]
      : [
          `Its spine is ${round(m.thick + m.clear)} mm: the closed card and the clearance.`,
          gutter.facing
            ? `Its slit is cut in the other half, ${round(m.width + SLIT_CLEARANCE_MM)} mm long and ${round(m.slit)} mm from the open edge: the tongue goes ${TUCK_MM} mm into it.`
            : `Cut a slit ${round(m.width + SLIT_CLEARANCE_MM)} mm long for it, ${round(m.slit)} mm from the open edge of what it closes over.`,
        ];
  },
};
