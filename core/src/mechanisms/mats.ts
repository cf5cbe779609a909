/**
 * Mats. Sheets of equal margins on a panel, each next one smaller by a step, one stock each, corners rounded if wished, an
 * aperture cut through the uppermost ones. A mat is a place to build on, and its thickness counts.
 *
 * Closed-form limits, panel w by h, n mats, margin e to the panel's edge, step s, corner radius r: the k-th mat is
 * w - 2 (e + k s) by h - 2 (e + k s), and its corners have the radius max(0, r - k s), so that the border is the same all
 * round. An aperture leaves a land of (mat's size - aperture) / 2 round it, which has to hold.
 */
import type { Gutter } from '../design/frames.ts';
import type { Part } from '../dieline/part.ts';
import { IDENTITY, shift } from '../geometry/isometry.ts';
import { circle, flatten, polyline, type Path, type Segment } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { USUAL_TAB_MM, USUAL_WEB_MM } from '../stock/stock.ts';
import { MM_PER_INCH } from '../units/length.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { rectangle, regular, round } from './pieces.ts';
import { count, length, measures, pick, shareOf, since, stock, usually, yesNo } from './specs.ts';

/** How wide the border of each mat is, by the schools that makers follow. */
const SCHOOLS = { threeMm: 3, sixMm: 6, eighthInch: MM_PER_INCH / 8, quarterInch: MM_PER_INCH / 4 } as const;

const isOwn = ({ school }: Params): boolean => school === 'own';
const hasAperture = ({ aperture }: Params): boolean => aperture !== 'none';
/** Whether there are two frames for a pane to lie between. */
const hasPane = (params: Params): boolean => hasAperture(params) && Number(params.mats) >= 2;

const SIZES = measures({
  mats: count('Mats', 'How many, one on the other.', 1, 1, 4),
  school: pick('Border', 'Of every mat, to the panel’s edge and to the mat below.', {
    threeMm: '3 mm',
    sixMm: '6 mm',
    eighthInch: '1/8 in',
    quarterInch: '1/4 in',
    own: 'Own',
  }),
  edgeMm: length('To the panel’s edge', 'Border round the lowest mat.', 3, 0, 200, isOwn),
  stepMm: length('Each next one', 'By so much each mat is smaller all round.', 3, 0.5, 100, isOwn),
  radiusMm: length('Corner radius', 'Of the lowest mat; 0 is square.', 0, 0, 200),
  glued: pick('Glued', 'Round its edge leaves the middle free for what moves behind it.', {
    edge: 'Round the edge',
    all: 'All over',
  }),
  aperture: pick('Aperture', 'A window in the middle.', {
    none: 'None',
    rectangle: 'Rectangle',
    circle: 'Circle',
  }),
  openMm: length('Aperture width', 'Or the circle’s diameter.', shareOf('half', 0.8), 4, 600, hasAperture),
  openHeightMm: length(
    'Aperture height',
    'Of the window.',
    shareOf('tall', 0.4),
    4,
    600,
    ({ aperture }) => aperture === 'rectangle',
  ),
  through: count(
    'Through how many',
    'Mats that the aperture goes through, from the uppermost down.',
    1,
    1,
    4,
  ),
  film: since(
    yesNo(
      'Film window',
      'A pane between the two uppermost mats, behind the aperture of both.',
      false,
      hasPane,
    ),
    () => false,
  ),
  paneStock: usually(
    stock('Stock of the pane', 'Film or vellum.', (params) => hasPane(params) && params.film === true),
    'frost-film',
  ),
  stock2: stock('Stock of mat 2', 'Of the second mat from below.', ({ mats }) => Number(mats) >= 2),
  stock3: stock('Stock of mat 3', 'Of the third mat from below.', ({ mats }) => Number(mats) >= 3),
  stock4: stock('Stock of mat 4', 'Of the fourth mat from below.', ({ mats }) => Number(mats) >= 4),
});

/** A pane reaches so far beyond the aperture on each side at least, and is held by as much. */
const PANE_LAND_MM = USUAL_TAB_MM;

/** Glue keeps so far from the edges of a mat, mm; and so wide is the band of it round the edge. */
const GLUE_INSET_MM = 0.3;
const BAND_MM = 8;

/** The measures of a set of mats on a panel, in mm. */
export function matMeasures(params: Params, gutter: Gutter) {
  const sizes = SIZES.read(params);
  const { school } = sizes;
  const own = school === 'own';
  const edge = own ? sizes.edgeMm : SCHOOLS[school];
  const step = own ? sizes.stepMm : SCHOOLS[school];
  return {
    n: sizes.mats,
    edge,
    step,
    allOver: sizes.glued === 'all',
    radius: sizes.radiusMm,
    aperture: sizes.aperture,
    open: sizes.openMm,
    openHeight: sizes.aperture === 'circle' ? sizes.openMm : sizes.openHeightMm,
    pane: hasPane(params) && sizes.film,
    /** The lowest mat that the aperture goes through, from 0. */
    cutFrom: sizes.aperture === 'none' ? Infinity : Math.max(0, sizes.mats - sizes.through),
    width: (k: number) => 2 * gutter.left.depthMm - 2 * (edge + k * step),
    height: (k: number) => gutter.lengthMm - 2 * (edge + k * step),
    cornerRadius: (k: number) => Math.max(0, sizes.radiusMm - k * step),
  };
}

type Measures = ReturnType<typeof matMeasures>;

/** A rectangle round the origin with rounded corners: quarter circles of bulge tan(pi / 8). */
function rounded(w: number, h: number, radius: number): Path {
  if (radius < 1e-6) return polyline(rectangle(-w / 2, -h / 2, w, h), true);
  const [x, y] = [w / 2, h / 2];
  const r = Math.min(radius, x, y);
  const bulge = Math.tan(Math.PI / 8);
  const segments: Segment[] = [];
  const corners: [Point, Point][] = [
    [
      [x - r, -y],
      [x, -y + r],
    ],
    [
      [x, y - r],
      [x - r, y],
    ],
    [
      [-x + r, y],
      [-x, y - r],
    ],
    [
      [-x, -y + r],
      [-x + r, -y],
    ],
  ];
  for (const [from, to] of corners) segments.push({ kind: 'line', to: from }, { kind: 'arc', to, bulge });
  return { start: corners[3][1], segments };
}

const outlineOf = (m: Measures, k: number, inset = 0): Path =>
  rounded(m.width(k) - 2 * inset, m.height(k) - 2 * inset, Math.max(0, m.cornerRadius(k) - inset));

const apertureOf = (m: Measures): Path =>
  m.aperture === 'circle'
    ? circle([0, 0], m.open / 2)
    : polyline(rectangle(-m.open / 2, -m.openHeight / 2, m.open, m.openHeight), true);

/** Corners of a mat's outline, the same number on each side, for the bands of glue round an aperture. */
function ringOf(m: Measures, k: number, inset: number): Point[] {
  const [x, y] = [m.width(k) / 2 - inset, m.height(k) / 2 - inset];
  // What the corners round off is left out: it is little, and the glue stays on the mat.
  const cut = m.cornerRadius(k) * (1 - Math.SQRT1_2);
  return [
    [-x + cut, -y + cut],
    [x - cut, -y + cut],
    [x - cut, y - cut],
    [-x + cut, y - cut],
  ];
}

/** The four bands between a ring of four corners and one inside it. */
const bandsBetween = (outer: readonly Point[], inner: readonly Point[]): Point[][] =>
  [0, 1, 2, 3].map((i) => [outer[i], outer[(i + 1) % 4], inner[(i + 1) % 4], inner[i]]);

/** Where a mat is glued: all over, or in four pieces round its edge or its aperture. */
function glueOf(m: Measures, k: number): Point[][] {
  if (m.allOver && k < m.cutFrom) return [[...flatten(outlineOf(m, k, GLUE_INSET_MM))].slice(0, -1)];
  const outer = ringOf(m, k, GLUE_INSET_MM);
  const [x, y] = [m.open / 2 + GLUE_INSET_MM, m.openHeight / 2 + GLUE_INSET_MM];
  const band = Math.min(BAND_MM, (Math.min(m.width(k), m.height(k)) - 2) / 2);
  // What lies over a pane is glued beside it.
  if (m.pane && k === m.n - 1) {
    const [u, v] = [paneHalf(m, 0) + GLUE_INSET_MM, paneHalf(m, 1) + GLUE_INSET_MM];
    const beside = rectangle(-u, -v, 2 * u, 2 * v);
    return bandsBetween(outer, beside);
  }
  const inner: Point[] = !m.allOver
    ? ringOf(m, k, k < m.cutFrom ? band : Math.min(band, landOf(m, k) - GLUE_INSET_MM))
    : m.aperture === 'circle'
      ? regular([0, 0], x / Math.cos(Math.PI / 4), 4, (-3 * Math.PI) / 4)
      : [
          [-x, -y],
          [x, -y],
          [x, y],
          [-x, y],
        ];
  return bandsBetween(outer, inner);
}

/** Half of the pane's width (0) or height (1): the aperture, and on each side half of the land, but enough to be held. */
const paneHalf = (m: Measures, axis: 0 | 1): number => {
  const [open, mat] = axis === 0 ? [m.open, m.width(m.n - 1)] : [m.openHeight, m.height(m.n - 1)];
  return open / 2 + Math.max(PANE_LAND_MM, Math.min(BAND_MM, (mat - open) / 4));
};

/** How much of a mat is left round the aperture where there is least, mm. */
const landOf = (m: Measures, k: number): number =>
  Math.min(m.width(k) - m.open, m.height(k) - m.openHeight) / 2;

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = matMeasures(params, gutter);
  const top = m.n - 1;
  // Glue round a circle keeps to the square about it.
  const needed = m.aperture === 'circle' ? (m.open / 2) * (Math.SQRT2 - 1) + USUAL_WEB_MM : USUAL_WEB_MM;
  return [
    {
      overMm: 4 - Math.min(m.width(top), m.height(top)),
      reason: `With ${m.n} mats and these borders nothing is left in the middle.`,
    },
    {
      overMm: marginMm - m.edge,
      reason: `The lowest mat would reach into the ${round(marginMm)} mm that stay free at the panel’s edges.`,
    },
    {
      overMm: 2 * m.radius - Math.min(m.width(0), m.height(0)),
      reason: 'The corners would run into each other.',
    },
    ...(m.aperture === 'none'
      ? []
      : [
          {
            overMm: needed - landOf(m, top),
            reason: `The aperture would leave less than ${round(needed)} mm of the uppermost mat round it.`,
          },
        ]),
    ...(m.pane
      ? [
          {
            overMm:
              USUAL_TAB_MM +
              2 * GLUE_INSET_MM -
              Math.min(m.width(top) / 2 - paneHalf(m, 0), m.height(top) / 2 - paneHalf(m, 1)),
            reason: `Beside the pane less than ${round(USUAL_TAB_MM)} mm would be left to glue the uppermost mat by: make the aperture smaller.`,
          },
          {
            overMm: m.cutFrom > m.n - 2 ? 1 : 0,
            reason: 'A pane is seen through both frames: let the aperture go through two mats at least.',
          },
        ]
      : []),
  ];
}

export const mats: Family = {
  id: 'mats',
  on: 'panel',
  title: 'Mats',
  purpose: 'Sheets with equal borders on a panel, inside or outside: to frame it, and to build on.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = matMeasures(params, context.gutter);
    const made = new Making(context);
    const middle = shift(0, context.gutter.lengthMm / 2);
    const sheets = Array.from({ length: m.n }, (_, k): Part => {
      const cut = k >= m.cutFrom;
      const stockId = k === 0 ? '' : String(params[`stock${k + 1}`] ?? '');
      const glue = Object.fromEntries(
        glueOf(m, k).map((ring, i) => [i === 0 ? 'glue' : `glue-${i + 1}`, ring]),
      );
      return made.plate(`mat-${k + 1}`, outlineOf(m, k), {
        title: m.n === 1 ? 'mat' : `mat ${k + 1}`,
        panel: 'mat',
        at: [0, m.height(k) / 2 - 0.8],
        cuts: cut ? { aperture: apertureOf(m) } : {},
        glue,
        ...(stockId === '' ? {} : { stockId }),
      });
    });
    const flat = sheets.map((part) => part.id);
    sheets.forEach((part, k) =>
      part.glueZones.forEach(({ id: zone }, i) => {
        const id = i === 0 ? `glue-${k + 1}` : `glue-${k + 1}-${i + 1}`;
        if (k === 0) made.glue(part, middle, { zone, id });
        else made.glue(part, IDENTITY, { zone, id, onto: sheets[k - 1] });
      }),
    );
    if (m.pane) {
      const [x, y] = [paneHalf(m, 0), paneHalf(m, 1)];
      const [u, v] = [m.open / 2 + GLUE_INSET_MM, m.openHeight / 2 + GLUE_INSET_MM];
      const far = rectangle(-x + 0.2, -y + 0.2, 2 * x - 0.4, 2 * y - 0.4);
      const near = rectangle(-u, -v, 2 * u, 2 * v);
      const rings = bandsBetween(far, near);
      const paneStock = String(params.paneStock ?? '');
      const pane = made.plate('pane', rectangle(-x, -y, 2 * x, 2 * y), {
        title: 'pane',
        panel: 'pane',
        at: [0, 0],
        glue: Object.fromEntries(rings.map((ring, i) => [i === 0 ? 'glue' : `glue-${i + 1}`, ring])),
        ...(paneStock === '' ? {} : { stockId: paneStock }),
      });
      pane.glueZones.forEach(({ id: zone }, i) =>
        made.glue(pane, IDENTITY, { zone, id: `glue-pane-${i + 1}`, onto: sheets[m.n - 2] }),
      );
      flat.push(pane.id);
    }
    // Ticks at the middle of each side, under the mat, and the outline of what covers them.
    const [x, y, mid] = [m.width(0) / 2, m.height(0) / 2, context.gutter.lengthMm / 2];
    const ticks: [string, Point, Point][] = [
      ['left', [-x + 1, mid], [-x + 4, mid]],
      ['right', [x - 4, mid], [x - 1, mid]],
      ['low', [0, mid - y + 1], [0, mid - y + 4]],
      ['high', [0, mid + y - 4], [0, mid + y - 1]],
    ];
    for (const [id, from, to] of ticks) made.guide(`tick-${id}`, from, to);
    return made.done({ flat });
  },
  handles(params, context) {
    const m = matMeasures(params, context.gutter);
    const handle = handlesOf(context, params);
    const mid = context.gutter.lengthMm / 2;
    return m.aperture === 'none'
      ? []
      : [
          handle(
            HOST_PART,
            'aperture',
            'aperture',
            [m.open / 2, mid + (m.aperture === 'circle' ? 0 : m.openHeight / 2)],
            m.aperture === 'circle' ? { openMm: [2, 0] } : { openMm: [2, 0], openHeightMm: [0, 2] },
          ),
        ];
  },
  advice(params, gutter) {
    const m = matMeasures(params, gutter);
    return [
      ...Array.from(
        { length: m.n },
        (_, k) =>
          `${m.n === 1 ? 'The mat' : `Mat ${k + 1}`} is ${round(m.width(k))} mm wide and ${round(m.height(k))} mm high.`,
      ),
      'Build on it: choose it, then add a mechanism or a piece.',
    ];
  },
};
