/**
 * Interlocking strips (bent-strip stand). A base strip with pairs of slits lies on a panel; two longer strips are bent over
 * it, their end tabs in the slits, and stand as arches. It is put together when the card is open, and taken out to close it.
 *
 * Closed-form limits. A strip of n facets f long between slits c apart bends most evenly: all its n - 1 folds turn by the
 * same phi, the corners lie on a circle, and c = f sin(n phi / 2) / sin(phi / 2). It stands
 * f sin(n phi / 4)^2 / sin(phi / 2) high in the middle (n even). Curved paper is drawn with its rulings as flat facets.
 * - It must be longer than the slits are apart, and not so long that it bends more than half round: n phi < 180 deg + its
 *   ends would lean outwards.
 */
import { stockById } from '../stock/stock.ts';
import type { Gutter } from '../design/frames.ts';
import type { Joint } from '../design/design.ts';
import type { DieLine, Part } from '../dieline/part.ts';
import { place, shift } from '../geometry/isometry.ts';
import { placePath, polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { num, whole, type Constraint, type Family, type Params } from './family.ts';
import { onHost, onPart, placeHandle } from './handles.ts';
import {
  framesOf,
  glueOn,
  hostLine,
  NOTHING,
  onPanelRules,
  plate,
  rectangle,
  round,
  landing,
} from './pieces.ts';
import { count, length } from './specs.ts';

/** How far an end tab goes through its slit, and by how much it is narrower than the strip on each side, mm. */
const TAB_MM = 6;
const SHOULDER_MM = 3;
const SLIT_CLEARANCE_MM = 0.5;

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
  const [n, span, arch, step] = [
    whole(params, 'facets'),
    num(params, 'spanMm'),
    num(params, 'archMm'),
    num(params, 'innerMm'),
  ];
  return {
    across: num(params, 'acrossMm'),
    along: num(params, 'alongMm'),
    n,
    span,
    /** Slit distance and length of the outer arch and of the inner one. */
    arches: [
      { span, lengthMm: arch },
      { span: span - 2 * step, lengthMm: arch - 2 * step },
    ],
    width: num(params, 'widthMm'),
    end: num(params, 'endMm'),
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = bentStandMeasures(params);
  const half = m.span / 2 + m.end;
  const box = {
    minX: m.across - half,
    maxX: m.across + half,
    minY: m.along,
    maxY: m.along + m.width,
  };
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
  specs: [
    length('acrossMm', 'Across', 'Middle of the base from the middle of the panel.', -600, 600),
    length('alongMm', 'Up', 'From the lower edge of the panel to the base strip.', 0, 1000),
    length('spanMm', 'Span', 'Between the slits of the outer strip.', 20),
    length('archMm', 'Outer strip', 'Length of the outer strip between its tabs.', 20),
    length('innerMm', 'Step', 'How much further in the inner strip’s slits are on each side.', 3, 200),
    count('facets', 'Rulings', 'Flat facets that the curve is drawn with; an even number.', 4, 16),
    length('widthMm', 'Width', 'Of all strips.', 12),
    length('endMm', 'Ends', 'Of the base strip, beyond the outer slits.', 3, 100),
  ],
  defaults(gutter) {
    const span = Math.round(gutter.left.depthMm * 1.3);
    const width = Math.round(gutter.lengthMm * 0.3);
    return {
      acrossMm: 0,
      alongMm: Math.round((gutter.lengthMm - width) / 2),
      spanMm: span,
      archMm: Math.round(span * 1.3),
      innerMm: Math.round(span * 0.12),
      facets: 8,
      widthMm: width,
      endMm: 12,
    };
  },
  constraints,
  build(params, context) {
    const m = bentStandMeasures(params);
    const { instanceId, stockId } = context;
    const half = m.span / 2 + m.end;
    const at = shift(m.across, m.along);
    const slitWidth = stockById(stockId).thicknessMm + SLIT_CLEARANCE_MM;
    const [low, high] = [SHOULDER_MM, m.width - SHOULDER_MM];
    const slits = m.arches.flatMap(({ span }, i) =>
      ([-1, 1] as const).map((side): DieLine => ({
        id: `slit-${i}-${side < 0 ? 'left' : 'right'}`,
        layer: 'cut',
        path: polyline(
          rectangle((side * span) / 2 - slitWidth / 2, low - 0.25, slitWidth, high - low + SLIT_CLEARANCE_MM),
          true,
        ),
      })),
    );
    const base = plate(
      `${instanceId}/base`,
      `${context.name} base`,
      stockId,
      polyline(rectangle(-half, 0, 2 * half, m.width), true),
      { id: 'base', name: 'base', at: [-half + 1, 1] },
      {
        lines: slits,
        glueZones: [
          {
            id: 'glue',
            outline: rectangle(-half + 0.5, 0.5, m.end - 4, m.width - 1),
            face: 'back',
            kind: 'glue',
          },
          {
            id: 'keep-out',
            outline: rectangle(-m.span / 2 - 2, 0, m.span + 4, m.width),
            face: 'back',
            kind: 'keepOut',
          },
        ],
      },
    );
    const strips = m.arches.map(({ lengthMm, span }, i) => {
      const f = lengthMm / m.n;
      const phi = evenBend(m.n, f, span);
      const outline: Point[] = [
        [0, 0],
        [lengthMm, 0],
        [lengthMm, low],
        [lengthMm + TAB_MM, low + 1],
        [lengthMm + TAB_MM, high - 1],
        [lengthMm, high],
        [lengthMm, m.width],
        [0, m.width],
        [0, high],
        [-TAB_MM, high - 1],
        [-TAB_MM, low + 1],
        [0, low],
      ];
      const part: Part = {
        id: `${instanceId}/${i === 0 ? 'outer' : 'inner'}`,
        name: `${context.name} ${i === 0 ? 'outer' : 'inner'} strip`,
        stockId,
        grainRad: Math.PI / 2,
        quantity: 1,
        lines: [
          { id: 'outline', layer: 'cut', path: polyline(outline, true) },
          ...Array.from({ length: m.n - 1 }, (_, k): DieLine => ({
            id: `ruling-${k + 1}`,
            layer: 'mountain',
            path: straight([(k + 1) * f, 0], [(k + 1) * f, m.width]),
          })),
        ],
        glueZones: [],
        marks: Array.from({ length: m.n }, (_, k) => ({
          id: `facet-${k + 1}`,
          name: `facet ${k + 1}`,
          at: [(k + 0.5) * f, m.width / 2] as const,
        })),
      };
      // Tabs go down through the slits: the end facet leans by half of all the bend from the base.
      const lean = ((m.n - 1) * phi * 90) / Math.PI;
      const tab = (side: 'left' | 'right'): Joint => {
        const left = side === 'left';
        const x = left ? -span / 2 : span / 2;
        const end = left ? 0 : lengthMm;
        return {
          id: `${instanceId}/${i}-${side}`,
          kind: 'cross',
          partId: part.id,
          hostPartId: base.id,
          // The strip's facet lies on the right of the line and rises: a valley.
          slot: left
            ? [
                [x, 0],
                [x, m.width],
              ]
            : [
                [x, m.width],
                [x, 0],
              ],
          on: left
            ? [
                [end, 0],
                [end, m.width],
              ]
            : [
                [end, m.width],
                [end, 0],
              ],
          within: [left ? f / 2 : lengthMm - f / 2, m.width / 2],
          leanDeg: lean,
          stops: null,
          drive: null,
        };
      };
      return { part, tabs: [tab('left'), tab('right')] };
    });
    return {
      ...NOTHING,
      parts: [base, ...strips.map(({ part }) => part)],
      joints: [glueOn(context, 'glue', base.id, 'glue', 'left', at), ...strips.flatMap(({ tabs }) => tabs)],
      hostLines: [
        // The tabs go through the base and the panel under it.
        ...slits.map((line) => hostLine('left', `${instanceId}/${line.id}`, 'cut', placePath(at, line.path))),
        landing(
          instanceId,
          rectangle(-half, 0, 2 * half, m.width).map((p) => place(at, p)),
        ),
      ],
      panelFrames: framesOf([base, ...strips.map(({ part }) => part)]),
      loose: strips.map(({ part }) => part.id),
      takenOut: strips.map(({ part }) => part.id),
    };
  },
  handles(params, { instanceId }) {
    const m = bentStandMeasures(params);
    return [
      placeHandle(instanceId, 'base', [m.across, m.along]),
      onHost(instanceId, 'span', 'span', [m.across + m.span / 2, m.along + m.width / 2], [1, 0], (to) => ({
        spanMm: 2 * (to[0] - m.across),
      })),
      onPart(
        instanceId,
        'outer',
        'arch',
        'strip length',
        [m.arches[0].lengthMm, m.width / 2],
        [1, 0],
        (to) => ({ archMm: to[0] }),
      ),
    ];
  },
  advice(params) {
    const m = bentStandMeasures(params);
    const f = m.arches[0].lengthMm / m.n;
    const phi = evenBend(m.n, f, m.span);
    return [
      `The outer strip bends by ${round((phi * 180) / Math.PI)}° at each ruling and stands ${round((f * Math.sin((m.n * phi) / 4) ** 2) / Math.sin(phi / 2))} mm high.`,
      'It does not fold flat: put the strips in when the card is open, take them out before it is closed.',
      'The curve is drawn with flat facets between its rulings.',
    ];
  },
};
