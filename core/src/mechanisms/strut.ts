/**
 * Strut of a tent. A card that stands on its two open edges creeps apart: a strip with a tongue at each end goes through slits
 * in both halves and holds them at one angle. It is put in when the card stands, and taken out before it is closed.
 *
 * Closed-form limits, slits at distance a from the fold, the card held at the opening angle theta: the slits are
 * 2 a sin(theta / 2) apart, which is the length of the strip between the shoulders of its tongues.
 */
import type { Gutter } from '../design/frames.ts';
import { polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { fit, USUAL_WEB_MM } from '../stock/stock.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { ALONG_FOLD, handlesOf } from './handles.ts';
import { acrossAt, Making } from './making.ts';
import { round } from './pieces.ts';
import { ALONG, angle, length, measures, shareOf, widthOf } from './specs.ts';

const SIZES = measures({
  slitMm: length('Slits', 'From the fold to the slit in each half.', shareOf('depth', 0.7), 5),
  angleDeg: angle('Angle', 'At which the card is held open.', 60, 10, 150),
  alongMm: ALONG,
  widthMm: widthOf(0.2),
  tongueMm: length('Tongue', 'How far each end reaches through its slit.', 8, 3, 100),
  shoulderMm: length('Shoulder', 'By so much the strip is wider than its tongue, on each side.', 4, 1.5, 100),
});

/** The measures of a strut in mm and radians. */
export function strutMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const theta = (sizes.angleDeg * Math.PI) / 180;
  return {
    a: sizes.slitMm,
    theta,
    between: 2 * sizes.slitMm * Math.sin(theta / 2),
    along: sizes.alongMm,
    width: sizes.widthMm,
    tongue: sizes.tongueMm,
    shoulder: sizes.shoulderMm,
    tongueWide: sizes.widthMm - 2 * sizes.shoulderMm,
  };
}

function constraints(params: Params, gutter: Gutter): Constraint[] {
  const m = strutMeasures(params);
  const depth = Math.min(gutter.left.depthMm, gutter.right.depthMm);
  return [
    {
      overMm: m.a + 2 * USUAL_WEB_MM - depth,
      reason: `Less than ${round(2 * USUAL_WEB_MM)} mm of the half would be left beyond the slit: it would tear out.`,
    },
    { overMm: 4 - m.tongueWide, reason: 'With these shoulders the tongues would be narrower than 4 mm.' },
    {
      overMm: Math.max(
        USUAL_WEB_MM - m.along - m.shoulder,
        m.along + m.width - m.shoulder - gutter.lengthMm + USUAL_WEB_MM,
      ),
      reason: 'A slit would run out at an end of the card.',
    },
  ];
}

export const strut: Family = {
  id: 'strut',
  on: 'fold',
  title: 'Strut',
  purpose:
    'A strip through slits in both halves that holds a standing card at one angle; taken out to close it.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = strutMeasures(params);
    const made = new Making(context);
    const { slotMm, playMm } = fit(context.stock, 'loose', context.fits);
    const [low, high] = [m.shoulder, m.width - m.shoulder];
    const end = m.between + m.tongue;
    const outline: Point[] = [
      [0, 0],
      [m.between, 0],
      [m.between, low],
      [end, low],
      [end, high],
      [m.between, high],
      [m.between, m.width],
      [0, m.width],
      [0, high],
      [-m.tongue, high],
      [-m.tongue, low],
      [0, low],
    ];
    const { id } = made.part('strip', outline, {
      title: 'strip',
      grainRad: 0,
      panels: [['strip', 'strip', [m.between / 2, m.width / 2]]],
    });
    for (const [side, x] of [
      ['left', -m.a],
      ['right', m.a],
    ] as const) {
      const [from, to] = [m.along + low - playMm / 2, m.along + high + playMm / 2];
      const ring: Point[] = [
        [x - slotMm / 2, from],
        [x + slotMm / 2, from],
        [x + slotMm / 2, to],
        [x - slotMm / 2, to],
      ];
      made.line(`slit-${side}`, 'cut', polyline(ring, true), side);
      made.line(`tick-${side}`, 'mark', straight(...acrossAt(x + Math.sign(x) * 2, from, from + 3)), side);
    }
    // It is put in by hand when the card stands: it is not drawn with the card as it opens.
    return made.done({ loose: [id], takenOut: [id] });
  },
  handles(params, context) {
    const m = strutMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'slit', 'slits', [m.a, m.along + m.width / 2], { slitMm: [1, 0] }),
      handle(HOST_PART, 'along', 'place along the fold', [0, m.along], ALONG_FOLD),
      handle(HOST_PART, 'width', 'width', [m.a, m.along + m.width], { widthMm: [0, 1] }),
    ];
  },
  advice(params, gutter) {
    const m = strutMeasures(params);
    const depth = Math.min(gutter.left.depthMm, gutter.right.depthMm);
    return [
      `The strip is ${round(m.between)} mm long between its shoulders: twice the slits’ distance by the sine of half the angle.`,
      `Held at ${Math.round((m.theta * 180) / Math.PI)}° the card stands ${round(depth * Math.cos(m.theta / 2))} mm high on feet ${round(2 * depth * Math.sin(m.theta / 2))} mm apart.`,
      'Take it out before the card is closed.',
    ];
  },
};
