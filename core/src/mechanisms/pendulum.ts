/**
 * Pendulum. A bob on a rod swings on a loose pivot between two wings; a cover with an aperture shows the bob and hides the
 * pivot.
 *
 * Closed-form limits, with rod length l from pivot to bob, bob radius c, and wings whose inner edges are g to either side:
 * - The bob meets a wing at the swing phi with l sin(phi) + c = g: phi = asin((g - c) / l).
 * - The aperture of radius h round the bob at rest hides the pivot's head: l - h >= its radius; it shows the bob: h > c.
 */
import type { Gutter } from '../design/frames.ts';
import { BRAD, fit, USUAL_TAB_MM, type Fits } from '../stock/stock.ts';
import { compose, IDENTITY, shift } from '../geometry/isometry.ts';
import { circle } from '../geometry/path.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { boxRound, Making } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, length, measures, up, shareOf } from './specs.ts';

const SIZES = measures({
  acrossMm: across('Pivot across', 'From the middle of the panel.'),
  alongMm: up('Pivot up', 'From the lower edge of the panel.', shareOf('tall', 0.82)),
  rodMm: length('Rod', 'From the pivot to the middle of the bob.', shareOf('tall', 0.5), 8),
  bobMm: length('Bob', 'Its diameter.', ({ tall }) => Math.round(Math.min(26, tall * 0.2)), 4),
  wingsMm: length(
    'Between the wings',
    'Room for the swing.',
    ({ half }, { rodMm, bobMm, wingMm }) =>
      2 * Math.min(Math.round(rodMm * 0.5 + bobMm / 2), Math.floor(half - 2 - wingMm)),
    6,
  ),
  wingMm: length('Wing', 'Glued width of each wing.', 10, 4, 60),
  apertureMm: length('Aperture', 'Its diameter.', (_, { bobMm }) => bobMm + 4, 4),
});

const RAD = Math.PI / 180;
const pivotRadius = (fits: Fits): number => fit({ thicknessMm: 0 }, 'loose', fits).pivotMm;
/** Half the width of the rod, and how far it runs on above the pivot, mm. */
const ROD_MM = 4;
const HEAD_MM = 7;
/** Room under the bob inside the cover, mm. */
const FLOOR_MM = 6;

/** The measures of a pendulum in mm and radians. */
export function pendulumMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const [l, c, g] = [sizes.rodMm, sizes.bobMm / 2, sizes.wingsMm / 2];
  return {
    across: sizes.acrossMm,
    along: sizes.alongMm,
    l,
    c,
    g,
    h: sizes.apertureMm / 2,
    wing: sizes.wingMm,
    swing: Math.asin(Math.min(1, Math.max(0, (g - c) / l))),
    low: -l - c - FLOOR_MM,
    high: HEAD_MM + FLOOR_MM,
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = pendulumMeasures(params);
  const reach = m.g + m.wing;
  const box = boxRound([m.across, m.along], reach, m.low, m.high);
  return [
    ...onPanelRules(gutter, 'The pendulum’s cover', box, marginMm),
    { overMm: m.c + 1 - m.g, reason: 'The bob has no room to swing between the wings.' },
    {
      overMm: m.g - m.c - m.l * Math.sin(80 * RAD),
      reason: 'The wings are so far apart that the bob would swing over.',
    },
    { overMm: BRAD.radiusMm + m.h - m.l, reason: 'The aperture would show the head of the pivot.' },
    { overMm: m.c + 1 - m.h, reason: 'The aperture would hide the bob’s edge.' },
    { overMm: ROD_MM + 1 - m.c, reason: 'The bob would be narrower than its rod.' },
    { overMm: USUAL_TAB_MM - m.wing, reason: `The wings would be glued by less than ${USUAL_TAB_MM} mm.` },
    { overMm: m.h + 2 - reach, reason: 'The aperture would cut through the cover’s sides.' },
    { overMm: m.h - m.c - FLOOR_MM + 2, reason: 'The aperture would cut through the cover’s lower edge.' },
  ];
}

export const pendulum: Family = {
  id: 'pendulum',
  on: 'panel',
  title: 'Pendulum',
  purpose: 'A bob that swings behind a round aperture; the pivot stays hidden.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = pendulumMeasures(params);
    const made = new Making(context);
    const { left: host } = context.gutter;
    const at = shift(m.across, m.along);
    const pivot = circle([0, 0], pivotRadius(context.fits));
    // The rod's sides meet the bob's circle at height -y.
    const y = -m.l + Math.sqrt(m.c * m.c - ROD_MM * ROD_MM);
    // The bob's arc the long way round, from the left side of the rod over the bottom to its right side.
    const sweep = 2 * Math.PI - 2 * Math.asin(ROD_MM / m.c);
    const bob = made.plate(
      'bob',
      {
        start: [ROD_MM, HEAD_MM],
        segments: [
          { kind: 'line', to: [-ROD_MM, HEAD_MM] },
          { kind: 'line', to: [-ROD_MM, y] },
          { kind: 'arc', to: [ROD_MM, y], bulge: Math.tan(sweep / 4) },
          { kind: 'line', to: [ROD_MM, HEAD_MM] },
        ],
      },
      { at: [0, -m.l], cuts: { pivot } },
    );
    const swingDeg = m.swing / RAD;
    made.join({
      id: 'pivot',
      kind: 'pivot',
      partId: bob.id,
      hostPartId: host.partId,
      placement: compose(host.frame, at),
      at: [0, 0],
      face: 'front',
      stops: { from: -swingDeg - 1e-6, to: swingDeg + 1e-6 },
      drive: made.drive(-swingDeg, swingDeg, 0),
    });
    const reach = m.g + m.wing;
    const tall = m.high - m.low;
    const sides = { left: -reach, right: m.g };
    // The hanger's wings are strips that keep the cover off the bob and stop it.
    const wings = Object.entries(sides).map(([side, x]) => {
      const outline = rectangle(x, m.low, m.wing, tall);
      const rest = { title: `${side} wing`, panel: 'wing', at: [x + 1, 0], glue: { glue: outline } } as const;
      return { side, part: made.plate(`wing-${side}`, outline, rest) };
    });
    const outline = rectangle(-reach, m.low, 2 * reach, tall);
    const cover = made.plate('cover', outline, {
      at: [-reach + 1, 0],
      cuts: { aperture: circle([0, -m.l], m.h) },
      glue: Object.fromEntries(
        Object.entries(sides).map(([side, x]) => [`glue-${side}`, rectangle(x, m.low, m.wing, tall)]),
      ),
      keepOut: rectangle(-m.g, m.low, 2 * m.g, tall),
    });
    for (const { side, part } of wings) made.glue(part, at, { id: `glue-wing-${side}` });
    for (const { side, part } of wings)
      made.glue(cover, IDENTITY, { zone: `glue-${side}`, id: `glue-cover-${side}`, onto: part });
    made.cut('pivot-hole', pivot, at);
    made.landing(outline, at);
    return made.done();
  },
  handles(params, context) {
    const m = pendulumMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'pivot', [m.across, m.along], OVER_PANEL),
      handle('bob', 'rod', 'rod length', [0, -m.l], { rodMm: [0, -1] }),
      handle(HOST_PART, 'wings', 'room between the wings', [m.across + m.g, m.along - m.l / 2], {
        wingsMm: [2, 0],
      }),
    ];
  },
  advice(params) {
    const m = pendulumMeasures(params);
    return [
      `The bob swings ${round(m.swing / RAD)}° to either side before it meets a wing.`,
      'Glue the wings only; the pivot must hang loose. Small parts are not for children under three.',
    ];
  },
};
