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
import type { Joint } from '../design/design.ts';
import type { Part } from '../dieline/part.ts';
import { shift } from '../geometry/isometry.ts';
import { circle, flatten, polyline, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { USUAL_TAB_MM } from '../stock/stock.ts';
import { choice, flag, num, whole, type Constraint, type Family, type Params } from './family.ts';
import { onHost, placeHandle } from './handles.ts';
import {
  framesOf,
  glueOn,
  hostLine,
  NOTHING,
  onPanelRules,
  plate,
  rectangle,
  regular,
  round,
} from './pieces.ts';
import { count, length, pick } from './specs.ts';

/** Glue keeps so far from the edges of a layer, mm. */
const GLUE_INSET_MM = 0.3;

/** The measures of a layered picture in mm. */
export const layeredMeasures = (params: Params) => ({
  shape: choice(params, 'shape'),
  frames: choice(params, 'form') === 'frames',
  twin: flag(params, 'twin'),
  across: num(params, 'acrossMm'),
  along: num(params, 'alongMm'),
  width: num(params, 'widthMm'),
  height: choice(params, 'shape') === 'rectangle' ? num(params, 'heightMm') : num(params, 'widthMm'),
  n: whole(params, 'layers'),
  border: num(params, 'borderMm'),
});

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
  const box = {
    minX: m.across - m.width / 2,
    maxX: m.across + m.width / 2,
    minY: m.along - reach,
    maxY: m.along + reach,
  };
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
  specs: [
    pick('shape', 'Shape', 'Of every layer.', {
      rectangle: 'Rectangle',
      circle: 'Circle',
      hexagon: 'Hexagon',
    }),
    pick('form', 'Form', 'Whole mats, or frames that show the layer below.', {
      mats: 'Mats',
      frames: 'Frames',
    }),
    length('acrossMm', 'Across', 'Middle from the middle of the panel.', -600, 600),
    length('alongMm', 'Up', 'Middle from the lower edge of the panel.', 0, 1000),
    length('widthMm', 'Width', 'Of the largest layer.', 8),
    length('heightMm', 'Height', 'Of the largest layer.', 8, 600, (p) => p.shape === 'rectangle'),
    count('layers', 'Layers', 'How many.', 2, 8),
    length('borderMm', 'Border', 'That each layer shows all round.', 1, 60),
    {
      key: 'twin',
      label: 'Mirrored twin',
      hint: 'Cut every layer twice, for the facing page.',
      kind: 'flag',
    },
  ],
  defaults(gutter) {
    return {
      shape: 'rectangle',
      form: 'mats',
      acrossMm: 0,
      alongMm: Math.round(gutter.lengthMm / 2),
      widthMm: Math.round(gutter.left.depthMm * 1.5),
      heightMm: Math.round(gutter.lengthMm * 0.7),
      layers: 3,
      borderMm: 6,
      twin: false,
    };
  },
  constraints,
  build(params, context) {
    const m = layeredMeasures(params);
    const { instanceId, stockId } = context;
    const made = Array.from({ length: m.n }, (_, i): Part => {
      const inset = m.frames ? 0 : i * m.border;
      const window = m.frames && i > 0 ? (m.n - i) * m.border : 0;
      const rings = window > 0 ? borderRings(m, window) : [insetRing(m, inset + GLUE_INSET_MM)];
      return plate(
        `${instanceId}/layer-${i + 1}`,
        `${context.name} layer ${i + 1}`,
        stockId,
        outlineOf(m, inset),
        { id: 'layer', name: `layer ${i + 1}`, at: [-m.width / 2 + inset + 0.8, 0] },
        {
          lines: window > 0 ? [{ id: 'window', layer: 'cut', path: outlineOf(m, window) }] : [],
          glueZones: rings.map((outline, k) => ({
            id: k === 0 ? 'glue' : `glue-${k + 1}`,
            outline,
            face: 'back',
            kind: 'glue',
          })),
          quantity: m.twin ? 2 : 1,
        },
      );
    });
    const joints = made.flatMap((part, i) =>
      part.glueZones.map((zone, k): Joint => {
        const id = k === 0 ? `glue-${i + 1}` : `glue-${i + 1}-${k + 1}`;
        return i === 0
          ? glueOn(context, id, part.id, zone.id, 'left', shift(m.across, m.along))
          : {
              id: `${instanceId}/${id}`,
              kind: 'glue',
              partId: part.id,
              zoneId: zone.id,
              hostPartId: made[i - 1].id,
              placement: shift(0, 0),
              mate: null,
            };
      }),
    );
    return {
      ...NOTHING,
      parts: made,
      joints,
      hostLines: [
        hostLine(
          'left',
          `${instanceId}/middle`,
          'guide',
          polyline([
            [m.across - 3, m.along],
            [m.across + 3, m.along],
          ]),
        ),
      ],
      panelFrames: framesOf(made),
    };
  },
  handles(params, { instanceId }) {
    const m = layeredMeasures(params);
    return [
      placeHandle(instanceId, 'middle', [m.across, m.along]),
      m.shape === 'rectangle'
        ? onHost(
            instanceId,
            'size',
            'size',
            [m.across + m.width / 2, m.along + m.height / 2],
            null,
            (to) => ({
              widthMm: 2 * (to[0] - m.across),
              heightMm: 2 * (to[1] - m.along),
            }),
          )
        : onHost(instanceId, 'size', 'size', [m.across + m.width / 2, m.along], [1, 0], (to) => ({
            widthMm: 2 * (to[0] - m.across),
          })),
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
