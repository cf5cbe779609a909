/**
 * Easel. A strut hinged to a panel carries a display panel at its middle; the display's lower edge stands against a stop.
 *
 * Closed-form limits, with a display of length L, a strut of L / 2, and the stop at distance s from the strut's fold: fold,
 * middle and lower edge make an isosceles triangle, so the display leans acos(s / L) from the panel and its upper edge
 * stands over the fold, at the height sqrt(L^2 - s^2). Lying flat, the lower edge is L from the fold.
 */
import { workOf } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { compose, place, turn, type Isometry } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { acrossAt, boxRound, Making } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, length, measures, tabs, up, shareOf } from './specs.ts';

const SIZES = measures({
  acrossMm: across('Across', 'Middle of the display from the middle of the panel.'),
  alongMm: up('Fold', 'From the lower edge of the panel up to the strut’s fold.', shareOf('tall', 0.86)),
  displayMm: length('Display', 'Length of the display; the strut is half of it.', shareOf('tall', 0.75), 12),
  widthMm: length('Width', 'Of display and strut.', shareOf('half', 1.4), 8),
  stopMm: length(
    'Stop',
    'From the strut’s fold: it sets the tilt.',
    (_, { displayMm }) => Math.round(displayMm * 0.6),
    4,
  ),
  ...tabs(10, 3),
});

const RAD = Math.PI / 180;
/** Width of the stop, mm. */
const STOP_MM = 6;

/** The measures of an easel in mm and radians. */
export function easelMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const { displayMm: L, stopMm: s } = sizes;
  return {
    across: sizes.acrossMm,
    along: sizes.alongMm,
    L,
    s,
    width: sizes.widthMm,
    tab: sizes.tabMm,
    taper: sizes.taperMm,
    tilt: Math.acos(Math.min(1, Math.max(0, s / L))),
  };
}

type Measures = ReturnType<typeof easelMeasures>;

/** Local coordinates (x away from the strut's fold, y across) into those of the panel: x goes down, towards the reader. */
const frameOf = (m: Measures): Isometry => turn(-Math.PI / 2, m.across - m.width / 2, m.along);

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = easelMeasures(params);
  const box = boxRound([m.across, m.along], m.width / 2, -m.L, m.tab);
  return [
    ...onPanelRules(gutter, 'The easel, lying flat,', box, marginMm),
    {
      overMm: m.s - 0.96 * m.L,
      reason: 'The stop is so far out that the display would lie nearly flat and slip.',
    },
    {
      overMm: 0.1 * m.L - m.s,
      reason: 'The stop is so near to the fold that the display would stand upright and fall over.',
    },
    {
      overMm: STOP_MM + 2 + m.s - m.L,
      reason: 'The stop would lie under the display’s lower edge when it is flat.',
    },
    { overMm: 2 * m.taper - (m.width - 4), reason: 'The tapered tab would end in less than 4 mm.' },
  ];
}

export const easel: Family = {
  id: 'easel',
  on: 'panel',
  title: 'Easel',
  purpose: 'A display panel that stands up at a chosen tilt against a stop.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = easelMeasures(params);
    const made = new Making(context);
    const { left: host } = context.gutter;
    const local = frameOf(m);
    const onHost = (p: Point): Point => place(compose(host.frame, local), p);
    const flap = m.L / 2 - 1;
    const strut = made.strip('strut', {
      widthMm: m.width,
      tabMm: m.tab,
      taperMm: m.taper,
      panels: [
        { id: 'strut', name: 'strut', lengthMm: m.L / 2 },
        { id: 'flap', name: 'flap', lengthMm: flap },
      ],
      folds: [{ id: 'middle', ...workOf('valley') }],
      first: { id: 'foot', name: 'foot tab', foldId: 'foot', ...workOf('valley'), face: 'back' },
    });
    const display = made.plate('display', rectangle(-m.L / 2, 0, m.L, m.width), {
      at: [1, m.width / 2],
      glue: { glue: rectangle(-flap, 0, flap, m.width) },
      keepOut: rectangle(0, 0, m.L / 2, m.width),
    });
    const bar = rectangle(m.s, 0, STOP_MM, m.width);
    const stop = made.plate('stop', bar, { at: [m.s + STOP_MM / 2, m.width / 2], glue: { glue: bar } });
    made.glue(strut, local, {
      zone: 'glue-foot',
      mate: { lineId: 'foot', hostLineId: made.id('landing-foot') },
    });
    // Lying flat the flap is folded back over the strut, and the display lies on the flap's back.
    made.glue(
      display,
      { angleRad: Math.PI, flip: true, dx: m.L / 2, dy: 0 },
      { id: 'glue-display', onto: strut },
    );
    made.glue(stop, local, { id: 'glue-stop' });
    made.join({
      id: 'rest',
      kind: 'rest',
      partId: display.id,
      hostPartId: host.partId,
      slot: [onHost([m.L, m.width]), onHost([m.L, 0])],
      on: acrossAt(m.L / 2, m.width, 0),
      within: [m.L / 2 - 1, m.width / 2],
      leanDeg: 45,
      stops: { from: m.s - m.L - 1e-6, to: 1e-6 },
      drive: made.drive(0, m.s - m.L),
    });
    made.guide('landing-foot', place(local, [0, 0]), place(local, [0, m.width]));
    made.landing(bar, local, 'landing-stop');
    return made.done();
  },
  handles(params, context) {
    const m = easelMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'strut’s fold', [m.across, m.along], OVER_PANEL),
      handle(HOST_PART, 'stop', 'stop', [m.across, m.along - m.s], { stopMm: [0, -1] }),
      handle('display', 'display', 'display length', [m.L / 2, m.width / 2], { displayMm: [2, 0] }),
    ];
  },
  advice(params, _gutter, marginMm) {
    const m = easelMeasures(params);
    return [
      `With the stop ${round(m.s)} mm from the fold the display leans ${round(m.tilt / RAD)}° and stands ${round(Math.sqrt(m.L * m.L - m.s * m.s))} mm high.`,
      `The display may be ${round(m.along - marginMm)} mm long at most.`,
      'Glue the upper half of the display only.',
    ];
  },
};
