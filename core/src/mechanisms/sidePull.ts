/**
 * Sideways pull. A strip lies folded in a Z on a panel: a glued base, a middle, and a pull that is held parallel to the
 * base. Pulling it out sideways opens the fold between base and middle like a card, and a V-fold across that fold throws a
 * flag up.
 *
 * Closed-form limits, with a middle of length m that has turned by psi (0 folded over the base, 180 deg pulled out):
 * - the pull has moved by m (1 - cos psi), 2 m in all;
 * - the flag's crease lies as that of a V-fold (vfold.ts) opened to psi: with 45 deg feet it swings from straight across the
 *   fold to along it;
 * - folded, the flag lies in the pocket between base and middle: its height is at most m, and its base's, less the margin.
 */
import { workOf } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { shift } from '../geometry/isometry.ts';
import { placePath } from '../geometry/path.ts';
import { HOST_PART, type BuildContext, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf, OVER_PANEL } from './handles.ts';
import { Making, zonesOf } from './making.ts';
import { onPanelRules, rectangle, round } from './pieces.ts';
import { across, length, measures, tabs, up, shareOf } from './specs.ts';
import { vfold } from './vfold.ts';

const SIZES = measures({
  acrossMm: across(
    'Fold across',
    'From the middle of the panel to the fold where the flag stands.',
    ({ wide }) => -Math.round(wide * 0.12),
  ),
  alongMm: up('Up', 'From the lower edge of the panel to the strip.', ({ tall }, { widthMm }) =>
    Math.round((tall - widthMm) / 2),
  ),
  widthMm: length('Strip width', 'Along the folds.', shareOf('tall', 0.5), 10),
  baseMm: length('Base', 'The glued part.', shareOf('wide', 0.28), 6),
  middleMm: length(
    'Middle',
    'Turns over as it is pulled; the pull moves twice as far.',
    shareOf('wide', 0.26),
    6,
  ),
  pullMm: length('Pull', 'What is held and pulled.', shareOf('wide', 0.28), 6),
  flagMm: length(
    'Flag',
    'Height of the flag along its crease.',
    (_, { middleMm }) => Math.round(middleMm * 0.85),
    4,
  ),
  apexMm: length(
    'Flag’s place',
    'From the lower end of the fold to its point.',
    (_, { widthMm }) => Math.round(widthMm * 0.42),
    0,
    600,
  ),
  footMm: length(
    'Flag’s feet',
    'Length of each foot.',
    (_, { middleMm, widthMm }) => Math.round(Math.min(middleMm * 0.8, widthMm * 0.4)),
    6,
  ),
  edgeMm: length('Flag’s edge', 'Height of its outer edges.', 4, 0, 200),
  ...tabs(5, 1.5),
});

/** The measures of a sideways pull in mm. */
export function sidePullMeasures(params: Params) {
  const sizes = SIZES.read(params);
  return {
    across: sizes.acrossMm,
    along: sizes.alongMm,
    base: sizes.baseMm,
    middle: sizes.middleMm,
    pull: sizes.pullMm,
    width: sizes.widthMm,
    flag: sizes.flagMm,
  };
}

type Measures = ReturnType<typeof sidePullMeasures>;

/** The fold between base and middle as a gutter for the flag, in the strip's plane. */
function pocket(m: Measures, stripId: string): Gutter {
  const side = (depthMm: number) => ({ partId: stripId, frame: shift(m.base, 0), depthMm });
  return {
    kind: 'fold',
    partId: stripId,
    lineId: 'pocket',
    name: 'the pocket',
    lengthMm: m.width,
    left: side(m.base),
    right: side(m.middle),
    reachMm: Math.min(m.base, m.middle),
    lowMm: 0,
    highMm: m.width,
  };
}

/** The measures of the flag as a V-fold: what it has no field for is fixed, the others have the same names. */
const flagParams = (params: Params, m: Measures): Params => ({
  ...params,
  pointing: 'up',
  symmetric: true,
  alongMm: params.apexMm,
  leftFootDeg: 45,
  rightFootDeg: 45,
  panelDeg: 45,
  rightFootMm: params.footMm,
  creaseMm: m.flag,
  tabs: 'outward',
});

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = sidePullMeasures(params);
  const box = {
    minX: m.across - m.base,
    maxX: m.across + m.middle + m.pull,
    minY: m.along,
    maxY: m.along + m.width,
  };
  return [
    ...onPanelRules(gutter, 'The strip, pulled out,', box, marginMm),
    {
      overMm: m.middle - m.base,
      reason: `The middle is longer than the base (${round(m.base)} mm): folded, it would reach past it and show.`,
    },
    {
      overMm: m.flag - (Math.min(m.base, m.middle) - 1),
      reason: `The flag is longer than the pocket between base and middle, ${round(Math.min(m.base, m.middle))} mm deep.`,
    },
    ...vfold.constraints(flagParams(params, m), pocket(m, ''), 1),
  ];
}

const flagContext = (context: BuildContext, m: Measures): BuildContext => ({
  ...context,
  instanceId: `${context.instanceId}/flag`,
  name: `${context.name} flag`,
  gutter: pocket(m, `${context.instanceId}/strip`),
});

export const sidePull: Family = {
  id: 'sidePull',
  on: 'panel',
  title: 'Sideways pull',
  purpose: 'Pulling a Z-folded strip out sideways throws a flag up.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = sidePullMeasures(params);
    const made = new Making(context);
    const flag = vfold.build(flagParams(params, m), flagContext(context, m));
    // The flag's landings are drawn in the pocket's coordinates.
    const landings = flag.hostLines.map(({ line }) => ({
      ...line,
      path: placePath(shift(m.base, 0), line.path),
    }));
    const glued = rectangle(0, 0, m.base, m.width);
    const strip = made.strip(
      'strip',
      {
        widthMm: m.width,
        tabMm: 0,
        taperMm: 0,
        panels: [
          { id: 'base', name: 'base', lengthMm: m.base },
          { id: 'middle', name: 'middle', lengthMm: m.middle },
          { id: 'pull', name: 'pull', lengthMm: m.pull },
        ],
        folds: [
          { id: 'pocket', ...workOf('valley') },
          { id: 'turn', ...workOf('mountain') },
        ],
      },
      ({ part }) => ({
        ...part,
        glueZones: zonesOf({ glue: { 'glue-base': glued } }),
        lines: [...part.lines, ...landings],
      }),
    );
    const corner = shift(m.across - m.base, m.along);
    made.glue(strip, corner, { zone: 'glue-base' });
    made.hand('pull', strip, { pocket: 1, turn: -1 }, made.drive(180, 0));
    // Its landings are drawn on the strip already.
    made.include({ ...flag, hostLines: [] });
    made.landing(glued, corner);
    return made.done();
  },
  handles(params, context) {
    const m = sidePullMeasures(params);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'place', 'fold', [m.across, m.along], OVER_PANEL),
      handle('strip', 'middle', 'length of the middle', [m.base + m.middle, m.width / 2], {
        middleMm: [1, 0],
      }),
      handle('flag/vee', 'flag-height', 'flag height', [0, m.flag], { flagMm: [0, 1] }),
    ];
  },
  advice(params) {
    const m = sidePullMeasures(params);
    return [
      `The pull moves ${round(2 * m.middle)} mm, twice the middle.`,
      `The flag may be ${round(Math.min(m.base, m.middle) - 1)} mm high at most: it must slide into the pocket.`,
      'Glue the base only; glue between base and middle locks the pull.',
    ];
  },
};
