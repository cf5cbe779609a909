/**
 * Slider in a channel. A T-shaped slider lies on a panel under a bridge that is glued at both ends; its head and its knob
 * are wider than the channel and stop it.
 *
 * Closed-form limits: with a bridge h wide (along the travel) and a stem of h + T between head and knob, the travel is T.
 * The channel is wider than the stem by the clearance and narrower than head and knob by the stop on each side.
 */
import type { Gutter } from '../design/frames.ts';
import { compose, placing, turn } from '../geometry/isometry.ts';
import { boxOf } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { Making } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, length, measures, pick, up, shareOf } from './specs.ts';

const SIZES = measures({
  direction: pick('Pulled', 'Which way the knob points.', {
    right: 'Right',
    up: 'Up',
    left: 'Left',
    down: 'Down',
  }),
  acrossMm: across(
    'Bridge across',
    'Middle of the bridge from the middle of the panel.',
    shareOf('wide', 0.06),
  ),
  alongMm: up('Bridge up', 'Middle of the bridge from the lower edge of the panel.', shareOf('tall', 0.5)),
  travelMm: length('Travel', 'Between the stops.', shareOf('wide', 0.22)),
  stemMm: length(
    'Stem',
    'Width of the part that runs under the bridge.',
    ({ tall }) => Math.round(Math.min(16, tall * 0.12)),
    4,
  ),
  bridgeMm: length('Bridge', 'Width of the bridge along the travel.', 12, 5),
  headMm: length('Head', 'Length of the head, which carries the picture.', shareOf('wide', 0.16), 5),
  knobMm: length('Knob', 'Length of the knob.', ({ wide }) => Math.max(5, Math.round(wide * 0.08)), 5),
  landMm: length('Glue land', 'Glued length of the bridge beside the channel.', 10, 4, 60),
});

const TURNS: Readonly<Record<string, number>> = { right: 0, up: 90, left: 180, down: 270 };
/** How much wider than the stem the channel is, mm. */
const CLEARANCE_MM = 1;
/** How far head and knob stand over the channel on each side, mm. */
const STOP_MM = 4;

/** The measures of a slider in mm; local x runs along its travel, from the middle of the bridge. */
export function sliderMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const { stemMm: stem, bridgeMm: bridge, travelMm: travel, headMm: head, knobMm: knob } = sizes;
  const wide = stem + CLEARANCE_MM + 2 * STOP_MM;
  return {
    across: sizes.acrossMm,
    along: sizes.alongMm,
    turnDeg: TURNS[sizes.direction] ?? 0,
    stem,
    bridge,
    travel,
    head,
    knob,
    wide,
    land: sizes.landMm,
    /** Ends of the slider at rest, of its head and knob. */
    back: -bridge / 2 - travel - head,
    front: bridge / 2 + knob,
    channel: stem + CLEARANCE_MM,
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = sliderMeasures(params);
  const frame = turn((m.turnDeg * Math.PI) / 180, m.across, m.along);
  const half = Math.max(m.wide / 2, m.channel / 2 + m.land);
  const box = boxOf(rectangle(m.back, -half, m.front + m.travel - m.back, 2 * half).map(placing(frame)));
  return [
    ...onPanelRules(gutter, 'The slider, pulled out,', box, marginMm),
    { overMm: STOP_MM + 2 - m.land, reason: 'The bridge has no room to be glued beside the head’s way.' },
  ];
}

export const slider: Family = {
  id: 'slider',
  on: 'panel',
  title: 'Slider',
  purpose: 'A piece that slides under a bridge between two stops, pulled by its knob.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = sliderMeasures(params);
    const made = new Making(context);
    const { frame: host } = context.gutter.left;
    const frame = turn((m.turnDeg * Math.PI) / 180, m.across, m.along);
    const [stem, wide, half] = [m.stem / 2, m.wide / 2, m.channel / 2 + m.land];
    const [b0, b1] = [-m.bridge / 2, m.bridge / 2];
    const outline: Point[] = [
      [m.back, -wide],
      [b0 - m.travel, -wide],
      [b0 - m.travel, -stem],
      [b1, -stem],
      [b1, -wide],
      [m.front, -wide],
      [m.front, wide],
      [b1, wide],
      [b1, stem],
      [b0 - m.travel, stem],
      [b0 - m.travel, wide],
      [m.back, wide],
    ];
    const sliding = made.plate('slider', outline, { at: [m.back + 1, 0], keepOut: outline });
    const bar = rectangle(b0, -half, m.bridge, 2 * half);
    const bridge = made.plate('bridge', bar, {
      at: [0, 0],
      glue: {
        'glue-low': rectangle(b0, -half, m.bridge, m.land),
        'glue-high': rectangle(b0, m.channel / 2, m.bridge, m.land),
      },
      keepOut: rectangle(b0, -m.channel / 2, m.bridge, m.channel),
    });
    made.join({
      id: 'channel',
      kind: 'slide',
      partId: sliding.id,
      hostPartId: context.gutter.left.partId,
      placement: compose(host, frame),
      at: [0, 0],
      face: 'front',
      directionDeg: m.turnDeg + (host.angleRad * 180) / Math.PI,
      stops: { from: 0, to: m.travel },
      drive: made.drive(0, m.travel),
    });
    for (const zone of ['glue-low', 'glue-high']) made.glue(bridge, frame, { zone, layers: 2 });
    made.landing(bar, frame);
    return made.done();
  },
  handles(params, context) {
    const m = sliderMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'bridge', [m.across, m.along], OVER_PANEL),
      handle('slider', 'travel', 'travel', [-m.bridge / 2 - m.travel, m.wide / 2], { travelMm: [-1, 0] }),
    ];
  },
  advice(params) {
    const m = sliderMeasures(params);
    return [
      `It travels ${round(m.travel)} mm: head and knob stop at the bridge, ${STOP_MM} mm wider on each side.`,
      'Glue the two ends of the bridge only: glue in the channel locks the slider.',
    ];
  },
};
