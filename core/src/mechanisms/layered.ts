/**
 * Layered picture. Nested shapes of equal borders, each glued on the one below it; as solid mats, or as frames that leave
 * the one below in sight. A mirrored twin can be made for the facing page.
 *
 * Closed-form limits: the border is the same all round (an inward offset of the outline), so n layers need n - 1 borders on
 * every side and a middle that is left: a rectangle w by h needs 2 (n - 1) border < min(w, h), a circle or hexagon
 * likewise by its inner width. Frames have one outline, and each upper window is a border wider: so every frame shows one
 * border, and is glued on the one below by at least that, which must be wide enough to glue.
 */
import type { Gutter } from '../design/frames.ts';
import { USUAL_TAB_MM } from '../stock/stock.ts';
import type { Part } from '../dieline/part.ts';
import { IDENTITY, shift } from '../geometry/isometry.ts';
import { circle, flatten, polyline, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { boxRound, Making } from './making.ts';
import { onPanelRules, rectangle, regular, round } from './pieces.ts';
import { across, count, length, measures, pick, up, yesNo, shareOf } from './specs.ts';

const SIZES = measures({
  shape: pick('Shape', 'Of every layer.', { rectangle: 'Rectangle', circle: 'Circle', hexagon: 'Hexagon' }),
  form: pick('Form', 'Whole mats, or frames that show the layer below.', { mats: 'Mats', frames: 'Frames' }),
  acrossMm: across('Across', 'Middle from the middle of the panel.'),
  alongMm: up('Up', 'Middle from the lower edge of the panel.', ({ tall }) => Math.round(tall / 2)),
  widthMm: length('Width', 'Of the largest layer.', shareOf('half', 1.5), 8),
  heightMm: length(
    'Height',
    'Of the largest layer.',
    shareOf('tall', 0.7),
    8,
    600,
    (p) => p.shape === 'rectangle',
  ),
  layers: count('Layers', 'How many.', 3, 2, 8),
  borderMm: length('Border', 'That each layer shows all round.', 6, 1, 60),
  twin: yesNo('Mirrored twin', 'Cut every layer twice, for the facing page.', false),
});

/** Glue keeps so far from the edges of a layer, mm. */
const GLUE_INSET_MM = 0.3;

/** The measures of a layered picture in mm. */
export function layeredMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const { shape, widthMm: width } = sizes;
  return {
    shape,
    frames: sizes.form === 'frames',
    twin: sizes.twin,
    across: sizes.acrossMm,
    along: sizes.alongMm,
    width,
    height: shape === 'rectangle' ? sizes.heightMm : width,
    n: sizes.layers,
    border: sizes.borderMm,
  };
}

type Measures = ReturnType<typeof layeredMeasures>;

/** The outline of a layer, `inset` inside the largest one, round the origin. */
function outlineOf(m: Measures, inset: number): Path {
  const [w, h] = [m.width - 2 * inset, m.height - 2 * inset];
  if (m.shape === 'circle') return circle([0, 0], w / 2);
  // A hexagon's inner width is that between two sides.
  if (m.shape === 'hexagon')
    return polyline(regular([0, 0], w / 2 / Math.cos(Math.PI / 6), 6, Math.PI / 6), true);
  return polyline(rectangle(-w / 2, -h / 2, w, h), true);
}

/** Corners of a layer's outline drawn in by `inset`; a circle as 48 of them on it. */
const insetRing = (m: Measures, inset: number): Point[] =>
  m.shape === 'circle'
    ? regular([0, 0], m.width / 2 - inset, 48)
    : [...flatten(outlineOf(m, inset))].slice(0, -1);

/** Where a frame is glued: all round between its outline and its window, in pieces side by side. */
function borderRings(m: Measures, window: number): Point[][] {
  const [outer, inner] = [insetRing(m, GLUE_INSET_MM), insetRing(m, window - GLUE_INSET_MM)];
  const pieces = m.shape === 'circle' ? 4 : outer.length;
  const each = outer.length / pieces;
  return Array.from({ length: pieces }, (_, k) => {
    const at = (ring: Point[]) =>
      Array.from({ length: each + 1 }, (_, i) => ring[(k * each + i) % ring.length]);
    return [...at(outer), ...at(inner).reverse()];
  });
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = layeredMeasures(params);
  const reach = m.shape === 'hexagon' ? m.width / 2 / Math.cos(Math.PI / 6) : m.height / 2;
  const box = boxRound([m.across, m.along], m.width / 2, -reach, reach);
  return [
    ...onPanelRules(gutter, 'The picture', box, marginMm),
    {
      overMm: 2 * (m.n - 1) * m.border + 4 - Math.min(m.width, m.height),
      reason: `With ${m.n} layers and this border nothing is left in the middle.`,
    },
    ...(m.frames
      ? [
          {
            overMm: USUAL_TAB_MM + 2 * GLUE_INSET_MM - m.border,
            reason: `Frames are glued by their border: it must be ${round(USUAL_TAB_MM + 2 * GLUE_INSET_MM)} mm wide at least.`,
          },
        ]
      : []),
  ];
}

export const layered: Family = {
  id: 'layered',
  on: 'panel',
  title: 'Layered picture',
  purpose: 'Nested shapes with equal borders, as mats or frames, one on the other.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = layeredMeasures(params);
    const made = new Making(context);
    const layers = Array.from({ length: m.n }, (_, i): Part => {
      const inset = m.frames ? 0 : i * m.border;
      const window = m.frames && i > 0 ? (m.n - i) * m.border : 0;
      const rings = window > 0 ? borderRings(m, window) : [insetRing(m, inset + GLUE_INSET_MM)];
      return made.plate(`layer-${i + 1}`, outlineOf(m, inset), {
        title: `layer ${i + 1}`,
        panel: 'layer',
        at: [-m.width / 2 + inset + 0.8, 0],
        cuts: window > 0 ? { window: outlineOf(m, window) } : {},
        glue: Object.fromEntries(rings.map((ring, k) => [k === 0 ? 'glue' : `glue-${k + 1}`, ring])),
        quantity: m.twin ? 2 : 1,
      });
    });
    layers.forEach((part, i) =>
      part.glueZones.forEach(({ id: zone }, k) => {
        const id = k === 0 ? `glue-${i + 1}` : `glue-${i + 1}-${k + 1}`;
        if (i === 0) made.glue(part, shift(m.across, m.along), { zone, id });
        else made.glue(part, IDENTITY, { zone, id, onto: layers[i - 1] });
      }),
    );
    made.guide('middle', [m.across - 3, m.along], [m.across + 3, m.along]);
    return made.done({ flat: layers.map((part) => part.id) });
  },
  handles(params, context) {
    const m = layeredMeasures(params);
    const handle = handlesOf(context, params);
    const right = m.across + m.width / 2;
    return [
      handle(HOST_PART, 'place', 'middle', [m.across, m.along], OVER_PANEL),
      m.shape === 'rectangle'
        ? handle(HOST_PART, 'size', 'size', [right, m.along + m.height / 2], {
            widthMm: [2, 0],
            heightMm: [0, 2],
          })
        : handle(HOST_PART, 'size', 'size', [right, m.along], { widthMm: [2, 0] }),
    ];
  },
  advice(params) {
    const m = layeredMeasures(params);
    const least = Math.min(m.width, m.height);
    return [
      `With ${m.n} layers the border may be ${round((least - 4) / (2 * m.n - 2))} mm at most.`,
      `Stacked, it is ${m.n} layers thick: see the thickness on Fold.`,
    ];
  },
};
