/**
 * Wheel. A disc on a loose pivot turns behind an aperture and shows one picture after another; a finger notch lets its rim
 * be turned. Either under a cover plate, or behind the panel that it stands on.
 *
 * Closed-form limits, with disc radius r, aperture radius c at distance d from the pivot and n pictures:
 * - The aperture shows the disc only: d + c <= r - 2; it keeps clear of the pivot's head: d - c >= its radius.
 * - One picture at a time: c <= d sin(pi / n).
 * - The notch reaches over the rim by its depth.
 */
import type { Gutter } from '../design/frames.ts';
import { workOf, type DieLine } from '../dieline/part.ts';
import { BRAD, fit, USUAL_TAB_MM, USUAL_WEB_MM, type Fits } from '../stock/stock.ts';
import { compose, shift } from '../geometry/isometry.ts';
import { circle, placePath, straight, type Path } from '../geometry/path.ts';
import { direction, scale } from '../geometry/point.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { boxRound, Making } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, count, length, measures, pick, up } from './specs.ts';

const SIZES = measures({
  form: pick('Form', 'Under a cover plate, or behind the panel with the aperture cut in it.', {
    cover: 'Under a cover',
    behind: 'Behind the panel',
  }),
  acrossMm: across('Pivot across', 'From the middle of the panel.'),
  alongMm: up('Pivot up', 'From the lower edge of the panel.', ({ tall }) => Math.round(tall / 2)),
  radiusMm: length(
    'Radius',
    'Of the disc.',
    ({ half, tall }) => Math.round(Math.min(half, tall / 2) - 12),
    8,
  ),
  pictures: count('Pictures', 'Equal sectors on the disc.', 8, 2, 24),
  apertureMm: length('Aperture', 'Its diameter.', (_, { radiusMm }) => Math.floor(radiusMm * 0.38), 3),
  distanceMm: length(
    'Aperture’s place',
    'From the pivot up to the middle of the aperture.',
    (_, { radiusMm }) => Math.round(radiusMm * 0.66),
    4,
  ),
  notchMm: length('Finger notch', 'How far it reaches over the rim.', 6, 2, 60),
  landMm: length('Glue land', 'Of the cover, beside the disc.', 6, 3, 60, (p) => p.form !== 'behind'),
});

/** The hole for a brad’s legs, which turn in it, mm. */
const pivotRadius = (fits: Fits): number => fit({ thicknessMm: 0 }, 'loose', fits).pivotMm;
/** How far the notch in a panel reaches beyond the rim, mm. */
const NOTCH_OVER_MM = 4;
/** How far the rim stays inside the sides of the cover that are glued, mm. */
const PLAY_MM = 1.5;

/** The measures of a wheel in mm, and where its pivot is on the panel. */
export function wheelMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const { radiusMm: r, landMm: land } = sizes;
  return {
    covered: sizes.form !== 'behind',
    across: sizes.acrossMm,
    along: sizes.alongMm,
    r,
    n: sizes.pictures,
    c: sizes.apertureMm / 2,
    d: sizes.distanceMm,
    notch: sizes.notchMm,
    land,
    half: r + PLAY_MM + land,
  };
}

type Measures = ReturnType<typeof wheelMeasures>;

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = wheelMeasures(params);
  const box = boxRound([m.across, m.along], m.covered ? m.half : m.r);
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
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = wheelMeasures(params);
    const made = new Making(context);
    const pivotMm = pivotRadius(context.fits);
    const { left: host } = context.gutter;
    const sectors = Array.from({ length: m.n }, (_, i): DieLine => {
      // Pictures are centred on the aperture when the wheel is at rest.
      const way = direction(Math.PI / 2 + ((i + 0.5) * 2 * Math.PI) / m.n);
      return {
        id: `sector-${i + 1}`,
        ...workOf('mark'),
        path: straight(scale(way, pivotMm + 2), scale(way, m.r - 1)),
      };
    });
    const at = shift(m.across, m.along);
    const aperture = circle([0, m.d], m.c);
    const pivot = circle([0, 0], pivotMm);
    const disc = made.plate('disc', circle([0, 0], m.r), {
      at: [0, -m.r / 2],
      cuts: { pivot },
      lines: sectors,
      keepOut: rectangle(-m.r, -m.r, 2 * m.r, 2 * m.r),
    });
    made.join({
      id: 'pivot',
      kind: 'pivot',
      partId: disc.id,
      hostPartId: host.partId,
      placement: compose(host.frame, at),
      at: [0, 0],
      face: m.covered ? 'front' : 'back',
      stops: null,
      drive: made.drive(0, 360),
    });
    made.cut('pivot-hole', pivot, at);
    made.line('rim', 'mark', placePath(at, circle([0, 0], m.r)));
    if (!m.covered) {
      made.cut('aperture', aperture, at);
      made.cut('notch', rectangle(m.r - m.notch, -9, m.notch + NOTCH_OVER_MM, 18), at);
      return made.done();
    }
    const { half, land } = m;
    const glue = {
      'glue-left': rectangle(-half, -half, land, 2 * half),
      'glue-low': rectangle(-half + land, -half, 2 * half - land, land),
      'glue-high': rectangle(-half + land, half - land, 2 * half - land, land),
    };
    const cover = made.plate('cover', coverOutline(m), {
      at: [-half + 1, 0],
      cuts: { aperture, pivot },
      glue,
    });
    for (const zone of Object.keys(glue)) made.glue(cover, at, { zone, layers: 2 });
    made.landing(rectangle(-half, -half, 2 * half, 2 * half), at);
    return made.done();
  },
  handles(params, context) {
    const m = wheelMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'pivot', [m.across, m.along], OVER_PANEL),
      handle('disc', 'radius', 'radius', [m.r, 0], { radiusMm: [1, 0] }),
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
