/**
 * Waterfall. Flaps are glued by their upper edges to the bands of a scored strip, which goes over the upper edge of a holder
 * and down behind it. Pulling the strip down turns one flap after another over the edge.
 *
 * Closed-form limits, with n flaps of height h on bands of length s:
 * - band k turns while the pull goes from k s to (k + 1) s; all but the last are turned after (n - 1) s;
 * - a turned flap stands h over the edge just after it turned, and goes down by s with each next one;
 * - the strip in front is n s long, scored over (n - 1) s, and the holder covers at least that;
 * - behind, the pull must be longer than the holder is high by a grip; it then moves (n - 1) s below.
 * While a band turns its paper bends round the edge; it is shown as a plate.
 */
import type { Gutter } from '../design/frames.ts';
import { USUAL_TAB_MM } from '../stock/stock.ts';
import type { Joint } from '../design/design.ts';
import type { DieLine, GlueZone, PanelMark, Part } from '../dieline/part.ts';
import { compose, shift, turn } from '../geometry/isometry.ts';
import { place } from '../geometry/isometry.ts';
import { polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { num, whole, type Constraint, type Family, type Params } from './family.ts';
import { onHost, onPart } from './handles.ts';
import { framesOf, glueOn, NOTHING, onPanelRules, over, plate, rectangle, round, landing } from './pieces.ts';
import { count, length } from './specs.ts';

/** How much wider than the strip the holder is on each side, glued, mm. */
const HOLDER_LAND_MM = 8;
/** Height of a layer, as the folded shape is drawn, mm. */
const LAYER_MM = 0.3;
/** Play of the strip in the holder on each side, mm. */
const PLAY_MM = 1;

/** The measures of a waterfall in mm. */
export function waterfallMeasures(params: Params) {
  const [n, s] = [whole(params, 'flaps'), num(params, 'spacingMm')];
  const holder = num(params, 'holderMm');
  const grip = num(params, 'gripMm');
  return {
    across: num(params, 'acrossMm'),
    edge: num(params, 'edgeMm'),
    n,
    s,
    h: num(params, 'flapMm'),
    flapWidth: num(params, 'flapWidthMm'),
    width: num(params, 'stripMm'),
    band: Math.min(s - 1, num(params, 'glueMm')),
    holder,
    grip,
    pull: holder + grip,
    travel: (n - 1) * s,
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = waterfallMeasures(params);
  const half = Math.max(m.flapWidth / 2, m.width / 2 + PLAY_MM + HOLDER_LAND_MM);
  const box = {
    minX: m.across - half,
    maxX: m.across + half,
    minY: m.edge - Math.max(m.pull + m.travel, (m.n - 1) * m.s + m.h),
    maxY: m.edge + m.h,
  };
  return [
    ...onPanelRules(gutter, 'The waterfall, flaps turned and strip pulled out,', box, marginMm),
    {
      overMm: m.s + 3 - m.h,
      reason: 'The flaps would be shorter than their spacing: nothing would be covered.',
    },
    { overMm: m.width + 2 - m.flapWidth, reason: 'The strip would show beside the flaps.' },
    { overMm: 5 - m.s, reason: 'The bands would be too narrow to glue to.' },
    {
      overMm: USUAL_TAB_MM - m.band,
      reason: `Less than ${USUAL_TAB_MM} mm would be glued on each band.`,
    },
    {
      overMm: (m.n - 1) * m.s - m.holder,
      reason: `The holder must cover the scored length of the strip, ${round((m.n - 1) * m.s)} mm.`,
    },
  ];
}

/** The strip: y = 0 at the edge at rest, bands below it, the pull above (it goes over the edge and down behind). */
function stripPart(m: ReturnType<typeof waterfallMeasures>, id: string, name: string, stockId: string): Part {
  const [x0, x1] = [-m.width / 2, m.width / 2];
  const low = -m.n * m.s;
  const scores = Array.from({ length: m.n }, (_, k): DieLine => ({
    id: `score-${k}`,
    layer: 'mountain',
    path: straight([x0, -k * m.s], [x1, -k * m.s]),
  }));
  const marks: PanelMark[] = [
    { id: 'pull', name: 'pull', at: [0, m.pull / 2] },
    ...Array.from({ length: m.n }, (_, k): PanelMark => ({
      id: `band-${k}`,
      name: `band ${k + 1}`,
      at: [0, -(k + 0.5) * m.s],
    })),
  ];
  const keepOut: GlueZone = {
    id: 'keep-out',
    outline: rectangle(x0, low, m.width, m.n * m.s),
    face: 'back',
    kind: 'keepOut',
  };
  return {
    id,
    name,
    stockId,
    grainRad: 0,
    quantity: 1,
    lines: [
      { id: 'outline', layer: 'cut', path: polyline(rectangle(x0, low, m.width, m.n * m.s + m.pull), true) },
      ...scores,
    ],
    glueZones: [keepOut],
    marks,
  };
}

export const waterfall: Family = {
  id: 'waterfall',
  on: 'panel',
  title: 'Waterfall',
  purpose: 'Pulling a strip turns one flap after another over the edge of a holder.',
  specs: [
    length('acrossMm', 'Across', 'Middle of the strip from the middle of the panel.', -600, 600),
    length('edgeMm', 'Edge', 'From the lower edge of the panel up to the edge of the holder.', 0, 1000),
    count('flaps', 'Flaps', 'How many.', 2, 12),
    length('spacingMm', 'Spacing', 'Length of a band: each pull by it turns one flap.', 5, 100),
    length('flapMm', 'Flap height', 'From its glued edge down.', 8),
    length('flapWidthMm', 'Flap width', 'Across.', 8),
    length('stripMm', 'Strip width', 'Narrower than the flaps.', 6),
    length('glueMm', 'Glue band', 'Glued part of each flap: narrower than the spacing.', 4, 40),
    length('holderMm', 'Holder', 'Height of the holder below its edge.', 6),
    length('gripMm', 'Grip', 'How far the strip shows below the holder.', 6, 100),
  ],
  defaults(gutter) {
    const tall = gutter.lengthMm;
    const wide = 2 * gutter.left.depthMm;
    const spacing = Math.max(8, Math.round(tall * 0.07));
    const flap = Math.round(tall * 0.3);
    const width = Math.round(wide * 0.5);
    return {
      acrossMm: 0,
      edgeMm: Math.round(tall - flap - 4),
      flaps: 4,
      spacingMm: spacing,
      flapMm: flap,
      flapWidthMm: width,
      stripMm: width - 20,
      glueMm: 6,
      holderMm: 4 * spacing,
      gripMm: Math.round(tall * 0.1),
    };
  },
  constraints,
  build(params, context) {
    const m = waterfallMeasures(params);
    const { instanceId, gutter, stockId } = context;
    const pulled = stripPart(m, `${instanceId}/strip`, `${context.name} strip`, stockId);
    const at = shift(m.across, m.edge);
    const reach = m.width / 2 + PLAY_MM + HOLDER_LAND_MM;
    const land = (id: string, x: number): GlueZone => ({
      id,
      outline: rectangle(x, -m.holder, HOLDER_LAND_MM, m.holder),
      face: 'back',
      kind: 'glue',
    });
    const holder = plate(
      `${instanceId}/holder`,
      `${context.name} holder`,
      stockId,
      polyline(rectangle(-reach, -m.holder, 2 * reach, m.holder), true),
      { id: 'holder', name: 'holder', at: [-reach + 1, -1] },
      {
        glueZones: [
          land('glue-left', -reach),
          land('glue-right', reach - HOLDER_LAND_MM),
          {
            id: 'keep-out',
            outline: rectangle(-m.width / 2 - PLAY_MM, -m.holder, m.width + 2 * PLAY_MM, m.holder),
            face: 'back',
            kind: 'keepOut',
          },
        ],
      },
    );
    const flaps = Array.from({ length: m.n }, (_, k) =>
      plate(
        `${instanceId}/flap-${k + 1}`,
        `${context.name} flap ${k + 1}`,
        stockId,
        polyline(rectangle(-m.flapWidth / 2, -m.h, m.flapWidth, m.h), true),
        { id: 'flap', name: `flap ${k + 1}`, at: [-m.flapWidth / 2 + 1, -m.h / 2] },
        {
          glueZones: [
            {
              id: 'glue',
              outline: rectangle(-m.width / 2, -m.band, m.width, m.band),
              face: 'back',
              kind: 'glue',
            },
          ],
        },
      ),
    );
    const onHost = compose(gutter.left.frame, at);
    const edge = (y: number): readonly [Point, Point] => [
      [-m.width / 2, y],
      [m.width / 2, y],
    ];
    const slot = edge(0).map((p) => place(onHost, p)) as unknown as readonly [Point, Point];
    const drive = { name: context.name, from: 0, to: m.travel, rest: 0, atOpeningDeg: 180 };
    const wrap = (id: string, lead: number, bandMm: number, startMm: number, layers: number): Joint => ({
      id: `${instanceId}/${id}`,
      kind: 'wrap',
      partId: pulled.id,
      hostPartId: gutter.left.partId,
      slot,
      on: edge(lead),
      within: [0, lead - bandMm / 2],
      bandMm,
      startMm,
      layers,
      // Room below the edge for all flaps once they are turned.
      heightMm: (2 * m.n + 4) * LAYER_MM,
      drive,
    });
    return {
      ...NOTHING,
      parts: [pulled, holder, ...flaps],
      joints: [
        wrap('over-pull', m.pull, m.pull, -m.pull, 1),
        // The uppermost flap lies on top of all others.
        ...flaps.map((_, k) => wrap(`over-${k + 1}`, -k * m.s, m.s, k * m.s, 1 + 2 * (m.n - k))),
        ...flaps.map((flap, k): Joint => ({
          id: `${instanceId}/glue-flap-${k + 1}`,
          kind: 'glue',
          partId: flap.id,
          zoneId: 'glue',
          hostPartId: pulled.id,
          placement: shift(0, -k * m.s),
          mate: null,
        })),
        over(glueOn(context, 'glue-left', holder.id, 'glue-left', 'left', at), 2 * m.n + 4),
        over(glueOn(context, 'glue-right', holder.id, 'glue-right', 'left', at), 2 * m.n + 4),
      ],
      hostLines: [
        landing(
          instanceId,
          rectangle(-reach, -m.holder, 2 * reach, m.holder).map((p) => place(at, p)),
        ),
      ],
      panelFrames: {
        ...framesOf([holder, ...flaps]),
        [pulled.id]: Object.fromEntries(pulled.marks.map((mark) => [mark.id, turn(0)])),
      },
    };
  },
  handles(params, { instanceId }) {
    const m = waterfallMeasures(params);
    return [
      onHost(instanceId, 'place', 'edge of the holder', [m.across, m.edge], null, (to) => ({
        acrossMm: to[0],
        edgeMm: to[1],
      })),
      onPart(instanceId, 'strip', 'spacing', 'spacing', [0, -m.s], [0, 1], (to) => ({ spacingMm: -to[1] })),
      onPart(instanceId, 'flap-1', 'flap', 'flap size', [m.flapWidth / 2, -m.h], null, (to) => ({
        flapWidthMm: 2 * to[0],
        flapMm: -to[1],
      })),
    ];
  },
  advice(params, gutter, marginMm) {
    const m = waterfallMeasures(params);
    return [
      `Pull the strip ${round(m.travel)} mm: ${m.n - 1} flaps turn, one every ${round(m.s)} mm.`,
      `Over the edge a flap may be ${round(gutter.lengthMm - marginMm - m.edge)} mm high at most.`,
      `The strip is ${round(m.n * m.s + m.pull)} mm long. Glue flaps on their bands only, the holder at its two ends only.`,
    ];
  },
};
