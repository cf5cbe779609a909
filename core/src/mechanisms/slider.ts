/**
 * Slider in a channel. A T-shaped slider lies on a panel under a bridge that is glued at both ends; its head and its knob
 * are wider than the channel and stop it.
 *
 * Closed-form limits: with a bridge h wide (along the travel) and a stem of h + T between head and knob, the travel is T.
 * The channel is wider than the stem by the clearance and narrower than head and knob by the stop on each side.
 */
import type { Joint } from '../design/design.ts';
import type { Gutter } from '../design/frames.ts';
import { compose, turn } from '../geometry/isometry.ts';
import { boxOf, polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { place } from '../geometry/isometry.ts';
import { choice, num, type Constraint, type Family, type Params } from './family.ts';
import { onPart, placeHandle } from './handles.ts';
import { framesOf, glueOn, NOTHING, onPanelRules, over, plate, rectangle, round, landing } from './pieces.ts';
import { length, pick } from './specs.ts';

const TURNS: Readonly<Record<string, number>> = { right: 0, up: 90, left: 180, down: 270 };
/** How much wider than the stem the channel is, mm. */
const CLEARANCE_MM = 1;
/** How far head and knob stand over the channel on each side, mm. */
const STOP_MM = 4;

/** The measures of a slider in mm; local x runs along its travel, from the middle of the bridge. */
export function sliderMeasures(params: Params) {
  const [stem, bridge, travel] = [num(params, 'stemMm'), num(params, 'bridgeMm'), num(params, 'travelMm')];
  const [head, knob] = [num(params, 'headMm'), num(params, 'knobMm')];
  const wide = stem + CLEARANCE_MM + 2 * STOP_MM;
  return {
    across: num(params, 'acrossMm'),
    along: num(params, 'alongMm'),
    turnDeg: TURNS[choice(params, 'direction')] ?? 0,
    stem,
    bridge,
    travel,
    head,
    knob,
    wide,
    land: num(params, 'landMm'),
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
  const box = boxOf(
    rectangle(m.back, -half, m.front + m.travel - m.back, 2 * half).map((p) => place(frame, p)),
  );
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
  specs: [
    pick('direction', 'Pulled', 'Which way the knob points.', {
      right: 'Right',
      up: 'Up',
      left: 'Left',
      down: 'Down',
    }),
    length('acrossMm', 'Bridge across', 'Middle of the bridge from the middle of the panel.', -600, 600),
    length('alongMm', 'Bridge up', 'Middle of the bridge from the lower edge of the panel.', 0, 1000),
    length('travelMm', 'Travel', 'Between the stops.', 2),
    length('stemMm', 'Stem', 'Width of the part that runs under the bridge.', 4),
    length('bridgeMm', 'Bridge', 'Width of the bridge along the travel.', 5),
    length('headMm', 'Head', 'Length of the head, which carries the picture.', 5),
    length('knobMm', 'Knob', 'Length of the knob.', 5),
    length('landMm', 'Glue land', 'Glued length of the bridge beside the channel.', 4, 60),
  ],
  defaults(gutter) {
    const wide = 2 * gutter.left.depthMm;
    const travel = Math.round(wide * 0.22);
    return {
      direction: 'right',
      acrossMm: Math.round(wide * 0.06),
      alongMm: Math.round(gutter.lengthMm * 0.5),
      travelMm: travel,
      stemMm: Math.round(Math.min(16, gutter.lengthMm * 0.12)),
      bridgeMm: 12,
      headMm: Math.round(wide * 0.16),
      knobMm: Math.max(5, Math.round(wide * 0.08)),
      landMm: 10,
    };
  },
  constraints,
  build(params, context) {
    const m = sliderMeasures(params);
    const { instanceId, gutter, stockId } = context;
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
    const sliding = plate(
      `${instanceId}/slider`,
      `${context.name} slider`,
      stockId,
      polyline(outline, true),
      { id: 'slider', name: 'slider', at: [m.back + 1, 0] },
      { glueZones: [{ id: 'keep-out', outline, face: 'back', kind: 'keepOut' }] },
    );
    const bridge = plate(
      `${instanceId}/bridge`,
      `${context.name} bridge`,
      stockId,
      polyline(rectangle(b0, -half, m.bridge, 2 * half), true),
      { id: 'bridge', name: 'bridge', at: [0, 0] },
      {
        glueZones: [
          { id: 'glue-low', outline: rectangle(b0, -half, m.bridge, m.land), face: 'back', kind: 'glue' },
          {
            id: 'glue-high',
            outline: rectangle(b0, m.channel / 2, m.bridge, m.land),
            face: 'back',
            kind: 'glue',
          },
          {
            id: 'keep-out',
            outline: rectangle(b0, -m.channel / 2, m.bridge, m.channel),
            face: 'back',
            kind: 'keepOut',
          },
        ],
      },
    );
    const channel: Joint = {
      id: `${instanceId}/channel`,
      kind: 'slide',
      partId: sliding.id,
      hostPartId: gutter.left.partId,
      placement: compose(gutter.left.frame, frame),
      at: [0, 0],
      face: 'front',
      directionDeg: m.turnDeg + (gutter.left.frame.angleRad * 180) / Math.PI,
      stops: { from: 0, to: m.travel },
      drive: { name: context.name, from: 0, to: m.travel, rest: 0, atOpeningDeg: 180 },
    };
    return {
      ...NOTHING,
      parts: [sliding, bridge],
      joints: [
        channel,
        over(glueOn(context, 'glue-low', bridge.id, 'glue-low', 'left', frame), 2),
        over(glueOn(context, 'glue-high', bridge.id, 'glue-high', 'left', frame), 2),
      ],
      hostLines: [
        landing(
          instanceId,
          rectangle(b0, -half, m.bridge, 2 * half).map((p) => place(frame, p)),
        ),
      ],
      panelFrames: framesOf([sliding, bridge]),
    };
  },
  handles(params, { instanceId }) {
    const m = sliderMeasures(params);
    return [
      placeHandle(instanceId, 'bridge', [m.across, m.along]),
      onPart(
        instanceId,
        'slider',
        'travel',
        'travel',
        [-m.bridge / 2 - m.travel, m.wide / 2],
        [1, 0],
        (to) => ({ travelMm: -to[0] - m.bridge / 2 }),
      ),
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
