/**
 * Riser in a box. A parallel step (left foot a, right foot b) hides an arm that is hinged to the right half at c from the
 * gutter, inside the box, and comes out through a slot in the top panel at distance e from the ridge.
 *
 * Closed-form limits, in the plane across the gutter: foot C = (c, 0), slot S = (b - e + a cos theta, a sin theta). With
 * k = b - e - c the arm's length inside is |CS|^2 = k^2 + a^2 + 2 k a cos theta: a + k when closed, |a - k| when open flat.
 * So it rises by 2 k out of the box as the card opens (k < a).
 * - It must not leave the slot: longer than a + k by a few millimetres.
 * - Closed it lies flat from c to c + length: inside the open edge.
 * - It must be narrower than the box.
 */
import type { Gutter } from '../design/frames.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { round } from './pieces.ts';
import { prop, slotted } from './prop.ts';
import { length, measures, tabOf, tabs, usually, shareOf } from './specs.ts';
import { STEP, step, stepMeasures } from './step.ts';

const SIZES = measures({
  leftMm: usually(STEP.leftMm, shareOf('depth', 0.3)),
  rightMm: usually(STEP.rightMm, shareOf('depth', 0.34)),
  alongMm: STEP.alongMm,
  widthMm: STEP.widthMm,
  ...tabs(tabOf(0.07, 10), 2),
  armFootMm: length(
    'Arm’s foot',
    'From the gutter to the arm’s fold on the right half.',
    shareOf('depth', 0.06),
    1,
  ),
  slotMm: length('Slot', 'From the ridge back to the slot in the top.', shareOf('depth', 0.06), 1),
  armMm: length(
    'Arm',
    'Length of the arm from its foot.',
    ({ depth }, { leftMm, rightMm, slotMm, armFootMm }) =>
      Math.round(leftMm + (rightMm - slotMm - armFootMm) + depth * 0.2),
    4,
  ),
  armWidthMm: length('Arm width', 'Narrower than the box.', (_, { widthMm }) => Math.round(widthMm * 0.5), 4),
});

/** How far a tongue must reach through its slot at least, mm. */
const HOLD_MM = 4;

const boxParams = (params: Params): Params => ({ ...params, form: 'glued', parallel: true, tabs: 'outward' });

/** The measures of a riser in mm. */
export function riserMeasures(params: Params) {
  const box = stepMeasures(boxParams(params));
  const { armFootMm: c, slotMm: e, armMm: arm, armWidthMm: armWidth } = SIZES.read(params);
  return { ...box, c, e, k: box.b - e - c, arm, armWidth };
}

/** How far the arm stands out of its slot while the card is so far open, mm: its length less what is inside, |CS|. */
export const riserOut = ({ a, k, arm }: ReturnType<typeof riserMeasures>, openingDeg: number): number =>
  arm - Math.sqrt(k * k + a * a + 2 * k * a * Math.cos((openingDeg * Math.PI) / 180));

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = riserMeasures(params);
  return [
    ...step.constraints(boxParams(params), gutter, marginMm),
    {
      overMm: m.k + 1 - m.a,
      reason: 'The arm would turn over inside the box: bring its slot nearer to above its foot.',
    },
    {
      overMm: 1 - m.k,
      reason:
        'The arm would sink as the card opens: move its foot nearer to the gutter, or the slot to the ridge.',
    },
    {
      overMm: m.a + m.k + HOLD_MM - m.arm,
      reason: 'The arm would slip out of its slot when the card is closed.',
    },
    {
      overMm: m.c + m.arm - (gutter.reachMm - marginMm),
      reason: `Closed, the arm would reach past the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
      shownBy: 'overhang',
    },
    { overMm: m.armWidth + 6 - m.width, reason: 'The arm must be narrower than the box’s inside.' },
    { overMm: m.c + 2 - m.b, reason: 'The arm’s foot would lie outside the box.' },
    { overMm: m.e + 2 - m.p, reason: 'The slot would run into the fold of the top panel.' },
    { overMm: m.c + m.tab + 0.5 - m.b, reason: 'The arm’s tab would lie under the box’s foot.' },
    { overMm: 2 * m.taper - (m.armWidth - 4), reason: 'The arm’s tapered tab would end in less than 4 mm.' },
  ];
}

export const riser: Family = {
  id: 'riser',
  on: 'fold',
  title: 'Riser in a box',
  purpose: 'A step hides an arm that slides up out of its top as the card opens.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = riserMeasures(params);
    const box = step.build(boxParams(params), { ...context, name: `${context.name} box` });
    const inset = (m.width - m.armWidth) / 2;
    const arm = prop(context, {
      id: 'arm',
      title: 'arm',
      panel: { id: 'arm', name: 'arm' },
      widthMm: m.armWidth,
      lengthMm: m.arm,
      tabMm: m.tab,
      taperMm: m.taper,
      side: 'right',
      x: m.c,
      along: m.along + inset,
      hostId: box.parts[0].id,
      slotX: m.p - m.e,
      low: inset,
      upMm: m.a,
    });
    const made = new Making(context);
    made.include(box, (part) => slotted(part, arm.slot, 'back', m.p / 2));
    made.include(arm.contribution);
    return made.done({ gutters: box.gutters });
  },
  handles(params, context) {
    const m = riserMeasures(params);
    const handle = handlesOf(context, params);
    return [
      ...step.handles(boxParams(params), context).filter(({ partId }) => partId === HOST_PART),
      handle(HOST_PART, 'arm-foot', 'arm’s foot', [m.c, m.along + m.width / 2], { armFootMm: [1, 0] }),
      handle('strip', 'slot', 'slot', [m.p - m.e, m.width / 2], { slotMm: [-1, 0] }),
      handle('arm', 'arm', 'arm length and width', [m.arm, m.armWidth], {
        armMm: [1, 0],
        armWidthMm: [0, 1],
      }),
    ];
  },
  atOpening: (params, openingDeg) => [
    `At ${Math.round(openingDeg)}° the arm stands ${round(riserOut(riserMeasures(params), openingDeg))} mm out of the box.`,
  ],
  advice(params, gutter, marginMm) {
    const m = riserMeasures(params);
    return [
      `The arm rises ${round(2 * m.k)} mm out of the box as the card opens, to ${round(riserOut(m, 180))} mm above its top.`,
      `It may be ${round(gutter.reachMm - marginMm - m.c)} mm long at most, or it pokes out when the card is closed.`,
      'No glue on the arm but its foot: glue in the slot locks it.',
    ];
  },
};
