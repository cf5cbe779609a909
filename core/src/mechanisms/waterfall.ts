/**
 * Waterfall. Flaps are glued by their upper edges to the bands of a scored strip, which goes over the upper edge of a holder
 * and down behind it. Pulling the strip down turns one flap after another over the edge.
 *
 * Closed-form limits, with n flaps of height h on bands of length s:
 * - band k turns while the pull goes from k s to (k + 1) s; all but the last are turned after (n - 1) s;
 * - a turned flap stands h over the edge just after it turned, and goes down by s with each next one;
 * - the strip in front is n s long, scored over (n - 1) s, and the holder covers at least that;
 * - behind, the pull must reach below the holder and below the lowest flap, (n - 1) s + h under the edge, by a grip: what is
 *   pulled must be graspable; it then moves (n - 1) s further, out over the edge of the card if need be.
 * While a band turns its paper bends round the edge; it is shown as a plate.
 */
import type { Gutter } from '../design/frames.ts';
import { USUAL_TAB_MM } from '../stock/stock.ts';
import { workOf, type DieLine } from '../dieline/part.ts';
import { compose, placing, shift } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf } from './handles.ts';
import { boxRound, Making } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, count, length, measures, up, shareOf } from './specs.ts';

const SIZES = measures({
  acrossMm: across('Across', 'Middle of the strip from the middle of the panel.'),
  edgeMm: up(
    'Edge',
    'From the lower edge of the panel up to the edge of the holder.',
    ({ tall }, { flapMm }) => Math.round(tall - flapMm - 4),
  ),
  flaps: count('Flaps', 'How many.', 4, 2, 12),
  spacingMm: length(
    'Spacing',
    'Length of a band: each pull by it turns one flap.',
    ({ tall }) => Math.max(8, Math.round(tall * 0.07)),
    5,
    100,
  ),
  flapMm: length('Flap height', 'From its glued edge down.', shareOf('tall', 0.3), 8),
  flapWidthMm: length('Flap width', 'Across.', shareOf('wide', 0.5), 8),
  stripMm: length('Strip width', 'Narrower than the flaps.', (_, { flapWidthMm }) => flapWidthMm - 20, 6),
  glueMm: length('Glue band', 'Glued part of each flap: narrower than the spacing.', 6, 4, 40),
  holderMm: length('Holder', 'Height of the holder below its edge.', (_, { spacingMm }) => 4 * spacingMm, 6),
  gripMm: length(
    'Grip',
    'How far the strip reaches below the flaps, to be grasped.',
    shareOf('tall', 0.1),
    6,
    100,
  ),
});

/** How much wider than the strip the holder is on each side, glued, mm. */
const HOLDER_LAND_MM = 8;
/** Play of the strip in the holder on each side, mm. */
const PLAY_MM = 1;

/** The measures of a waterfall in mm. */
export function waterfallMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const { flaps: n, spacingMm: s, holderMm: holder, gripMm: grip } = sizes;
  return {
    across: sizes.acrossMm,
    edge: sizes.edgeMm,
    n,
    s,
    h: sizes.flapMm,
    flapWidth: sizes.flapWidthMm,
    width: sizes.stripMm,
    band: Math.min(s - 1, sizes.glueMm),
    holder,
    grip,
    pull: Math.max(holder, (n - 1) * s + sizes.flapMm) + grip,
    travel: (n - 1) * s,
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = waterfallMeasures(params);
  const half = Math.max(m.flapWidth / 2, m.width / 2 + PLAY_MM + HOLDER_LAND_MM);
  // At rest the strip lies inside; a hand pulls it out.
  const low = -m.pull;
  const box = boxRound([m.across, m.edge], half, low, m.h);
  return [
    ...onPanelRules(gutter, 'The waterfall, its flaps turned and its strip at rest,', box, marginMm),
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
function pulledStrip(m: ReturnType<typeof waterfallMeasures>, made: Making) {
  const [x0, x1] = [-m.width / 2, m.width / 2];
  const bands = Array.from({ length: m.n }, (_, k) => k);
  return made.part('strip', rectangle(x0, -m.n * m.s, m.width, m.n * m.s + m.pull), {
    grainRad: 0,
    lines: bands.map((k): DieLine => ({
      id: `score-${k}`,
      ...workOf('mountain'),
      path: straight([x0, -k * m.s], [x1, -k * m.s]),
    })),
    keepOut: rectangle(x0, -m.n * m.s, m.width, m.n * m.s),
    panels: [
      ['pull', 'pull', [0, m.pull / 2]],
      ...bands.map((k) => [`band-${k}`, `band ${k + 1}`, [0, -(k + 0.5) * m.s]] as const),
    ],
  });
}

export const waterfall: Family = {
  id: 'waterfall',
  on: 'panel',
  title: 'Waterfall',
  purpose: 'Pulling a strip turns one flap after another over the edge of a holder.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = waterfallMeasures(params);
    const made = new Making(context);
    const { left: host } = context.gutter;
    const at = shift(m.across, m.edge);
    const pulled = pulledStrip(m, made);
    const reach = m.width / 2 + PLAY_MM + HOLDER_LAND_MM;
    const outline = rectangle(-reach, -m.holder, 2 * reach, m.holder);
    const holder = made.plate('holder', outline, {
      at: [-reach + 1, -1],
      glue: {
        'glue-left': rectangle(-reach, -m.holder, HOLDER_LAND_MM, m.holder),
        'glue-right': rectangle(reach - HOLDER_LAND_MM, -m.holder, HOLDER_LAND_MM, m.holder),
      },
      keepOut: rectangle(-m.width / 2 - PLAY_MM, -m.holder, m.width + 2 * PLAY_MM, m.holder),
    });
    const flaps = Array.from({ length: m.n }, (_, k) =>
      made.plate(`flap-${k + 1}`, rectangle(-m.flapWidth / 2, -m.h, m.flapWidth, m.h), {
        title: `flap ${k + 1}`,
        panel: 'flap',
        at: [-m.flapWidth / 2 + 1, -m.h / 2],
        glue: { glue: rectangle(-m.width / 2, -m.band, m.width, m.band) },
      }),
    );
    const edge = (y: number): readonly [Point, Point] => [
      [-m.width / 2, y],
      [m.width / 2, y],
    ];
    const [from, to] = edge(0).map(placing(compose(host.frame, at)));
    const wrap = (id: string, lead: number, bandMm: number, startMm: number, layers: number): void =>
      made.join({
        id,
        kind: 'wrap',
        partId: pulled.id,
        hostPartId: host.partId,
        slot: [from, to],
        on: edge(lead),
        within: [0, lead - bandMm / 2],
        bandMm,
        startMm,
        layers,
        drive: made.drive(0, m.travel),
      });
    wrap('over-pull', m.pull, m.pull, -m.pull, 1);
    // The uppermost flap lies on top of all others.
    flaps.forEach((_, k) => wrap(`over-${k + 1}`, -k * m.s, m.s, k * m.s, 1 + 2 * (m.n - k)));
    flaps.forEach((flap, k) =>
      made.glue(flap, shift(0, -k * m.s), { id: `glue-flap-${k + 1}`, onto: pulled }),
    );
    for (const zone of ['glue-left', 'glue-right']) made.glue(holder, at, { zone, layers: 2 * m.n + 4 });
    made.landing(outline, at);
    return made.done();
  },
  handles(params, context) {
    const m = waterfallMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'edge of the holder', [m.across, m.edge], {
        acrossMm: [1, 0],
        edgeMm: [0, 1],
      }),
      handle('strip', 'spacing', 'spacing', [0, -m.s], { spacingMm: [0, -1] }),
      handle('flap-1', 'flap', 'flap size', [m.flapWidth / 2, -m.h], {
        flapWidthMm: [2, 0],
        flapMm: [0, -1],
      }),
    ];
  },
  advice(params, gutter, marginMm) {
    const m = waterfallMeasures(params);
    return [
      `Pull the strip ${round(m.travel)} mm: ${m.n - 1} flaps turn, one every ${round(m.s)} mm.`,
      `Over the edge a flap may be ${round(gutter.lengthMm - marginMm - m.edge)} mm high at most.`,
      `At rest its end shows ${round(m.grip)} mm below the flaps; pulled out it reaches ${round(Math.max(0, m.pull + m.travel - m.edge))} mm past the panel’s lower edge.`,
      `The strip is ${round(m.n * m.s + m.pull)} mm long. Glue flaps on their bands only, the holder at its two ends only.`,
    ];
  },
};
