/**
 * Interlocking strips (bent-strip stand). A base strip with pairs of slits lies on a panel; two longer strips are bent over
 * it, their end tabs in the slits, and stand as arches. It is put together when the card is open, and taken out to close it.
 *
 * A bent strip is an elastica, the curve of least bending (geometry/elastica.ts), not an arc. Curved paper is drawn with its
 * rulings as flat facets, which are brought to the least sum of squared turns. The search begins at an even bend: all n - 1
 * folds turn by the same phi, c = f sin(n phi / 2) / sin(phi / 2) for facets f long between slits c apart.
 * - It must be longer than the slits are apart, and not so long that it bends more than half round: n phi < 180 deg + its
 *   ends would lean outwards.
 */
import { elastica } from '../geometry/elastica.ts';
import { fit } from '../stock/stock.ts';
import type { Gutter } from '../design/frames.ts';
import type { DieLine } from '../dieline/part.ts';
import { shift } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { acrossAt, boxRound, Making } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, count, length, measures, up, shareOf } from './specs.ts';

const SIZES = measures({
  acrossMm: across('Across', 'Middle of the base from the middle of the panel.'),
  alongMm: up('Up', 'From the lower edge of the panel to the base strip.', ({ tall }, { widthMm }) =>
    Math.round((tall - widthMm) / 2),
  ),
  spanMm: length('Span', 'Between the slits of the outer strip.', shareOf('half', 1.3), 20),
  archMm: length(
    'Outer strip',
    'Length of the outer strip between its tabs.',
    (_, { spanMm }) => Math.round(spanMm * 1.3),
    20,
  ),
  innerMm: length(
    'Step',
    'How much further in the inner strip’s slits are on each side.',
    (_, { spanMm }) => Math.round(spanMm * 0.12),
    3,
    200,
  ),
  facets: count('Rulings', 'Flat facets that the curve is drawn with; an even number.', 8, 4, 16),
  widthMm: length('Width', 'Of all strips.', shareOf('tall', 0.3), 12),
  endMm: length('Ends', 'Of the base strip, beyond the outer slits.', 12, 3, 100),
});

/** How far an end tab goes through its slit, and by how much it is narrower than the strip on each side, mm. */
const TAB_MM = 6;
const SHOULDER_MM = 3;

/** Fold angle of a regular chain of n facets f long whose ends are c apart: bisection on c / f = sin(n x) / sin(x), x = phi / 2. */
export function evenBend(n: number, f: number, c: number): number {
  let [low, high] = [1e-9, Math.PI / n];
  for (let i = 0; i < 80; i++) {
    const x = (low + high) / 2;
    if (Math.sin(n * x) / Math.sin(x) > c / f) low = x;
    else high = x;
  }
  return low + high;
}

/** The measures of a bent-strip stand in mm and radians. */
export function bentStandMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const { spanMm: span, archMm: arch, innerMm: step } = sizes;
  return {
    across: sizes.acrossMm,
    along: sizes.alongMm,
    n: sizes.facets,
    span,
    /** Slit distance and length of the outer arch and of the inner one. */
    arches: [
      { span, lengthMm: arch },
      { span: span - 2 * step, lengthMm: arch - 2 * step },
    ],
    width: sizes.widthMm,
    end: sizes.endMm,
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = bentStandMeasures(params);
  const box = boxRound([m.across, m.along], m.span / 2 + m.end, 0, m.width);
  return [
    ...onPanelRules(gutter, 'The base strip', box, marginMm),
    ...m.arches.flatMap(({ span, lengthMm }, i): Constraint[] => {
      const name = i === 0 ? 'outer' : 'inner';
      const most = (Math.PI / 2) * span;
      return [
        {
          overMm: 1.02 * span - lengthMm,
          reason: `The ${name} strip is too short to arch between its slits.`,
        },
        {
          overMm: lengthMm - most,
          reason: `The ${name} strip is so long that its ends would lean outwards.`,
        },
        { overMm: 20 - span, reason: `The ${name} slits are too near to each other.` },
      ];
    }),
    {
      overMm: m.n % 2,
      reason: 'The number of facets must be even, so that the arch has a fold in its middle.',
    },
    { overMm: 2 * SHOULDER_MM + 6 - m.width, reason: 'The end tabs would be narrower than 6 mm.' },
  ];
}

export const bentStand: Family = {
  id: 'bentStand',
  on: 'panel',
  title: 'Interlocking strips',
  purpose: 'Bent strips whose tabs sit in the slits of a base: a stand of curved panels.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = bentStandMeasures(params);
    const made = new Making(context);
    const half = m.span / 2 + m.end;
    const at = shift(m.across, m.along);
    const { slotMm, playMm } = fit(context.stock, 'close', context.fits);
    const [low, high] = [SHOULDER_MM, m.width - SHOULDER_MM];
    const slits = Object.fromEntries(
      m.arches.flatMap(({ span }, i) =>
        ([-1, 1] as const).map((side) => [
          `slit-${i}-${side < 0 ? 'left' : 'right'}`,
          rectangle((side * span - slotMm) / 2, low - playMm / 2, slotMm, high - low + playMm),
        ]),
      ),
    );
    const outline = rectangle(-half, 0, 2 * half, m.width);
    const base = made.plate('base', outline, {
      at: [-half + 1, 1],
      cuts: slits,
      glue: { glue: rectangle(-half + 0.5, 0.5, m.end - 4, m.width - 1) },
      keepOut: rectangle(-m.span / 2 - 2, 0, m.span + 4, m.width),
    });
    made.glue(base, at);
    const strips = m.arches.map(({ lengthMm, span }, i) => {
      const f = lengthMm / m.n;
      const id = i === 0 ? 'outer' : 'inner';
      /** An end with its tab, from x outwards by `out`, read upwards. */
      const end = (x: number, out: number): Point[] => [
        [x, 0],
        [x, low],
        [x + out, low + 1],
        [x + out, high - 1],
        [x, high],
        [x, m.width],
      ];
      const part = made.part(id, [...end(lengthMm, TAB_MM), ...end(0, -TAB_MM).reverse()], {
        title: `${id} strip`,
        grainRad: Math.PI / 2,
        lines: Array.from({ length: m.n - 1 }, (_, k): DieLine => ({
          id: `ruling-${k + 1}`,
          // The ruling of a bend: drawn, but neither scored nor marked.
          process: 'mark',
          // Unbent by itself: it bends as paper does, with the least of all bending, and not as an arc.
          fold: { sense: 'mountain', restDeg: 0 },
          path: straight([(k + 1) * f, 0], [(k + 1) * f, m.width]),
        })),
        panels: Array.from({ length: m.n }, (_, k) => [
          `facet-${k + 1}`,
          `facet ${k + 1}`,
          [(k + 0.5) * f, m.width / 2],
        ]),
      });
      // Tabs go down through the slits: the end facet leans by half of all the bend from the base. It lies on the right of
      // the line and rises: a valley.
      const lean = ((m.n - 1) * evenBend(m.n, f, span) * 90) / Math.PI;
      const tab = (side: string, x: number, at: number, within: number, ends: [number, number]): void =>
        made.cross(
          `${i}-${side}`,
          [base, acrossAt(x, ...ends)],
          [part, acrossAt(at, ...ends), [within, m.width / 2]],
          lean,
        );
      tab('left', -span / 2, 0, f / 2, [0, m.width]);
      tab('right', span / 2, lengthMm, lengthMm - f / 2, [m.width, 0]);
      return part.id;
    });
    // The tabs go through the base and the panel under it.
    for (const [id, ring] of Object.entries(slits)) made.cut(id, ring, at);
    made.landing(outline, at);
    return made.done({ loose: strips, takenOut: strips });
  },
  handles(params, context) {
    const m = bentStandMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'base', [m.across, m.along], OVER_PANEL),
      handle(HOST_PART, 'span', 'span', [m.across + m.span / 2, m.along + m.width / 2], { spanMm: [2, 0] }),
      handle('outer', 'arch', 'strip length', [m.arches[0].lengthMm, m.width / 2], { archMm: [1, 0] }),
    ];
  },
  advice(params) {
    const m = bentStandMeasures(params);
    const { riseMm, endRad, leastRadiusMm } = elastica(m.arches[0].lengthMm, m.span);
    return [
      `The outer strip stands ${round(riseMm)} mm high, leans ${round((endRad * 180) / Math.PI)}° at its slits, and bends to a radius of ${round(leastRadiusMm)} mm at its top.`,
      'It does not fold flat: put the strips in when the card is open, take them out before it is closed.',
      'The curve is drawn with flat facets between its rulings.',
    ];
  },
};
