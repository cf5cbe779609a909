/**
 * Wheel. A disc on a loose pivot turns behind an aperture and shows one picture after another; a finger notch lets its rim
 * be turned. Either under a cover plate, or behind the panel that it stands on.
 *
 * Closed-form limits, with disc radius r, aperture radius c at distance d from the pivot and n pictures:
 * - The aperture shows the disc only: d + c <= r - 2; it keeps clear of the pivot's head: d - c >= its radius.
 * - One picture at a time: c <= d sin(pi / n).
 * - The notch reaches over the rim by its depth.
 */
import type { Joint } from '../design/design.ts';
import type { Gutter } from '../design/frames.ts';
import type { DieLine } from '../dieline/part.ts';
import { BRAD, fit, USUAL_TAB_MM, USUAL_WEB_MM } from '../stock/stock.ts';
import { compose, shift } from '../geometry/isometry.ts';
import { circle, placePath, polyline, straight, type Path } from '../geometry/path.ts';
import { add, direction, scale, type Point } from '../geometry/point.ts';
import { choice, num, whole, type Constraint, type Family, type Params } from './family.ts';
import { onPart, placeHandle } from './handles.ts';
import {
  framesOf,
  glueOn,
  hostLine,
  NOTHING,
  onPanelRules,
  over,
  plate,
  rectangle,
  round,
  landing,
} from './pieces.ts';
import { count, length, pick } from './specs.ts';

/** The hole for a brad’s legs, which turn in it, mm. */
const PIVOT_RADIUS_MM = fit({ thicknessMm: 0 }).pivotMm;
/** How far the notch in a panel reaches beyond the rim, mm. */
const NOTCH_OVER_MM = 4;
/** How far the rim stays inside the sides of the cover that are glued, mm. */
const PLAY_MM = 1.5;

/** The measures of a wheel in mm, and where its pivot is on the panel. */
export function wheelMeasures(params: Params) {
  const r = num(params, 'radiusMm');
  const land = num(params, 'landMm');
  return {
    covered: choice(params, 'form') !== 'behind',
    across: num(params, 'acrossMm'),
    along: num(params, 'alongMm'),
    r,
    n: whole(params, 'pictures'),
    c: num(params, 'apertureMm') / 2,
    d: num(params, 'distanceMm'),
    notch: num(params, 'notchMm'),
    land,
    half: r + PLAY_MM + land,
  };
}

type Measures = ReturnType<typeof wheelMeasures>;

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = wheelMeasures(params);
  const reach = m.covered ? m.half : m.r;
  const box = {
    minX: m.across - reach,
    maxX: m.across + reach,
    minY: m.along - reach,
    maxY: m.along + reach,
  };
  return [
    ...onPanelRules(gutter, m.covered ? 'The cover' : 'The wheel', box, marginMm),
    { overMm: m.d + m.c + 2 - m.r, reason: 'The aperture would look past the rim of the wheel.' },
    { overMm: BRAD.radiusMm + m.c - m.d, reason: 'The aperture would show the head of the pivot.' },
    {
      overMm: m.c - m.d * Math.sin(Math.PI / m.n),
      reason: `With ${m.n} pictures the aperture would show two at once.`,
    },
    ...(m.covered
      ? [
          {
            overMm: USUAL_TAB_MM - m.land,
            reason: `The cover would be glued by less than ${USUAL_TAB_MM} mm.`,
          },
        ]
      : [
          {
            overMm: m.across + m.r + NOTCH_OVER_MM + USUAL_WEB_MM - gutter.left.depthMm,
            reason: `The finger notch would leave less than ${USUAL_WEB_MM} mm of paper to the edge of the panel.`,
          },
        ]),
    { overMm: m.notch + 2 - m.r, reason: 'The finger notch would reach the pivot.' },
  ];
}

/** The cover: a square with the finger notch bitten out of its right side, and its three glued sides. */
function coverOutline(m: Measures): Path {
  const { half, notch } = m;
  // The notch reaches `notch` over the rim, as a half ellipse of straight runs with an arc: a circle through its mouth.
  const depth = m.land + PLAY_MM + notch;
  const mouth = Math.max(9, notch + 5);
  return {
    start: [-half, -half],
    segments: [
      { kind: 'line', to: [half, -half] },
      { kind: 'line', to: [half, -mouth] },
      // Left of the way up: a bulge to the left is negative turning.
      { kind: 'arc', to: [half, mouth], bulge: -Math.min(2.5, depth / mouth) },
      { kind: 'line', to: [half, half] },
      { kind: 'line', to: [-half, half] },
      { kind: 'line', to: [-half, -half] },
    ],
  };
}

export const wheel: Family = {
  id: 'wheel',
  on: 'panel',
  title: 'Wheel',
  purpose: 'A disc on a pivot that shows one picture after another through an aperture.',
  specs: [
    pick('form', 'Form', 'Under a cover plate, or behind the panel with the aperture cut in it.', {
      cover: 'Under a cover',
      behind: 'Behind the panel',
    }),
    length('acrossMm', 'Pivot across', 'From the middle of the panel.', -600, 600),
    length('alongMm', 'Pivot up', 'From the lower edge of the panel.', 0, 1000),
    length('radiusMm', 'Radius', 'Of the disc.', 8),
    count('pictures', 'Pictures', 'Equal sectors on the disc.', 2, 24),
    length('apertureMm', 'Aperture', 'Its diameter.', 3),
    length('distanceMm', 'Aperture’s place', 'From the pivot up to the middle of the aperture.', 4),
    length('notchMm', 'Finger notch', 'How far it reaches over the rim.', 2, 60),
    length('landMm', 'Glue land', 'Of the cover, beside the disc.', 3, 60, (p) => p.form !== 'behind'),
  ],
  defaults(gutter) {
    const room = Math.min(gutter.left.depthMm, gutter.lengthMm / 2) - 4;
    const r = Math.round(room - 8);
    return {
      form: 'cover',
      acrossMm: 0,
      alongMm: Math.round(gutter.lengthMm / 2),
      radiusMm: r,
      pictures: 8,
      apertureMm: Math.floor(r * 0.38),
      distanceMm: Math.round(r * 0.66),
      notchMm: 6,
      landMm: 6,
    };
  },
  constraints,
  build(params, context) {
    const m = wheelMeasures(params);
    const { instanceId, gutter, stockId } = context;
    const centre: Point = [m.across, m.along];
    const sectors = Array.from({ length: m.n }, (_, i): DieLine => {
      // Pictures are centred on the aperture when the wheel is at rest.
      const way = direction(Math.PI / 2 + ((i + 0.5) * 2 * Math.PI) / m.n);
      return {
        id: `sector-${i + 1}`,
        layer: 'guide',
        path: straight(scale(way, PIVOT_RADIUS_MM + 2), scale(way, m.r - 1)),
      };
    });
    const disc = plate(
      `${instanceId}/disc`,
      `${context.name} disc`,
      stockId,
      circle([0, 0], m.r),
      { id: 'disc', name: 'disc', at: [0, -m.r / 2] },
      {
        lines: [{ id: 'pivot', layer: 'cut', path: circle([0, 0], PIVOT_RADIUS_MM) }, ...sectors],
        glueZones: [
          { id: 'keep-out', outline: rectangle(-m.r, -m.r, 2 * m.r, 2 * m.r), face: 'back', kind: 'keepOut' },
        ],
      },
    );
    const at = shift(...centre);
    const aperture = circle([0, m.d], m.c);
    const hole = placePath(at, circle([0, 0], PIVOT_RADIUS_MM));
    const pivot: Joint = {
      id: `${instanceId}/pivot`,
      kind: 'pivot',
      partId: disc.id,
      hostPartId: gutter.left.partId,
      placement: compose(gutter.left.frame, at),
      at: [0, 0],
      face: m.covered ? 'front' : 'back',
      stops: null,
      drive: { name: context.name, from: 0, to: 360, rest: 0, atOpeningDeg: 180 },
    };
    const onHost = [
      hostLine('left', `${instanceId}/pivot-hole`, 'cut', hole),
      hostLine('left', `${instanceId}/rim`, 'guide', placePath(at, circle([0, 0], m.r))),
    ];
    if (!m.covered)
      return {
        ...NOTHING,
        parts: [disc],
        joints: [pivot],
        hostLines: [
          ...onHost,
          hostLine('left', `${instanceId}/aperture`, 'cut', placePath(at, aperture)),
          hostLine(
            'left',
            `${instanceId}/notch`,
            'cut',
            placePath(at, polyline(rectangle(m.r - m.notch, -9, m.notch + NOTCH_OVER_MM, 18), true)),
          ),
        ],
        panelFrames: framesOf([disc]),
      };
    const { half, land } = m;
    const cover = plate(
      `${instanceId}/cover`,
      `${context.name} cover`,
      stockId,
      coverOutline(m),
      { id: 'cover', name: 'cover', at: [-half + 1, 0] },
      {
        lines: [
          { id: 'aperture', layer: 'cut', path: aperture },
          { id: 'pivot', layer: 'cut', path: circle([0, 0], PIVOT_RADIUS_MM) },
        ],
        glueZones: [
          { id: 'glue-left', outline: rectangle(-half, -half, land, 2 * half), face: 'back', kind: 'glue' },
          {
            id: 'glue-low',
            outline: rectangle(-half + land, -half, 2 * half - land, land),
            face: 'back',
            kind: 'glue',
          },
          {
            id: 'glue-high',
            outline: rectangle(-half + land, half - land, 2 * half - land, land),
            face: 'back',
            kind: 'glue',
          },
        ],
      },
    );
    return {
      ...NOTHING,
      parts: [disc, cover],
      joints: [
        pivot,
        ...['left', 'low', 'high'].map((side) =>
          over(glueOn(context, `glue-${side}`, cover.id, `glue-${side}`, 'left', at), 2),
        ),
      ],
      hostLines: [
        ...onHost,
        landing(
          instanceId,
          rectangle(-half, -half, 2 * half, 2 * half).map((p) => add(p, centre)),
        ),
      ],
      panelFrames: framesOf([disc, cover]),
    };
  },
  handles(params, { instanceId }) {
    const m = wheelMeasures(params);
    return [
      placeHandle(instanceId, 'pivot', [m.across, m.along]),
      onPart(instanceId, 'disc', 'radius', 'radius', [m.r, 0], [1, 0], (to) => ({ radiusMm: to[0] })),
    ];
  },
  advice(params) {
    const m = wheelMeasures(params);
    return [
      `With ${m.n} pictures an aperture ${round(m.d)} mm from the pivot may be ${round(2 * m.d * Math.sin(Math.PI / m.n))} mm wide at most.`,
      'The pivot must stay loose: allow play. Brads and their like are not for children under three.',
    ];
  },
};
