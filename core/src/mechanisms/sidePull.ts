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
import type { Gutter } from '../design/frames.ts';
import type { Joint } from '../design/design.ts';
import type { Part } from '../dieline/part.ts';
import { shift } from '../geometry/isometry.ts';
import { placePath } from '../geometry/path.ts';
import { num, type BuildContext, type Constraint, type Family, type Params } from './family.ts';
import { onPart, placeHandle } from './handles.ts';
import { framesOf, glueOn, NOTHING, onPanelRules, rectangle, round, strip, landing } from './pieces.ts';
import { length } from './specs.ts';
import { tabSpecs } from './tabSpecs.ts';
import { vfold } from './vfold.ts';

/** The measures of a sideways pull in mm. */
export function sidePullMeasures(params: Params) {
  return {
    across: num(params, 'acrossMm'),
    along: num(params, 'alongMm'),
    base: num(params, 'baseMm'),
    middle: num(params, 'middleMm'),
    pull: num(params, 'pullMm'),
    width: num(params, 'widthMm'),
    flag: num(params, 'flagMm'),
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

const flagParams = (params: Params, m: Measures): Params => ({
  pointing: 'up',
  symmetric: true,
  alongMm: num(params, 'apexMm'),
  leftFootDeg: 45,
  rightFootDeg: 45,
  panelDeg: 45,
  footMm: num(params, 'footMm'),
  rightFootMm: num(params, 'footMm'),
  creaseMm: m.flag,
  edgeMm: num(params, 'edgeMm'),
  tabs: 'outward',
  tabMm: num(params, 'tabMm'),
  taperMm: num(params, 'taperMm'),
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
  specs: [
    length(
      'acrossMm',
      'Fold across',
      'From the middle of the panel to the fold where the flag stands.',
      -600,
      600,
    ),
    length('alongMm', 'Up', 'From the lower edge of the panel to the strip.', 0, 1000),
    length('widthMm', 'Strip width', 'Along the folds.', 10),
    length('baseMm', 'Base', 'The glued part.', 6),
    length('middleMm', 'Middle', 'Turns over as it is pulled; the pull moves twice as far.', 6),
    length('pullMm', 'Pull', 'What is held and pulled.', 6),
    length('flagMm', 'Flag', 'Height of the flag along its crease.', 4),
    length('apexMm', 'Flag’s place', 'From the lower end of the fold to its point.', 0, 600),
    length('footMm', 'Flag’s feet', 'Length of each foot.', 6),
    length('edgeMm', 'Flag’s edge', 'Height of its outer edges.', 0, 200),
    ...tabSpecs(),
  ],
  defaults(gutter) {
    const wide = 2 * gutter.left.depthMm;
    const middle = Math.round(wide * 0.26);
    const width = Math.round(gutter.lengthMm * 0.5);
    return {
      acrossMm: -Math.round(wide * 0.12),
      alongMm: Math.round((gutter.lengthMm - width) / 2),
      widthMm: width,
      baseMm: Math.round(wide * 0.28),
      middleMm: middle,
      pullMm: Math.round(wide * 0.28),
      flagMm: Math.round(middle * 0.85),
      apexMm: Math.round(width * 0.42),
      footMm: Math.round(Math.min(middle * 0.8, width * 0.4)),
      edgeMm: 4,
      tabMm: 5,
      taperMm: 1.5,
    };
  },
  constraints,
  build(params, context) {
    const m = sidePullMeasures(params);
    const { instanceId, gutter } = context;
    const made = strip({
      id: `${instanceId}/strip`,
      name: `${context.name} strip`,
      stockId: context.stockId,
      widthMm: m.width,
      tabMm: 0,
      taperMm: 0,
      panels: [
        { id: 'base', name: 'base', lengthMm: m.base },
        { id: 'middle', name: 'middle', lengthMm: m.middle },
        { id: 'pull', name: 'pull', lengthMm: m.pull },
      ],
      folds: [
        { id: 'pocket', layer: 'valley' },
        { id: 'turn', layer: 'mountain' },
      ],
    });
    const zone = rectangle(0, 0, m.base, m.width);
    const flag = vfold.build(flagParams(params, m), flagContext(context, m));
    // The flag's landings are drawn in the pocket's coordinates.
    const landings = flag.hostLines.map(({ line }) => ({
      ...line,
      path: placePath(shift(m.base, 0), line.path),
    }));
    const stripPart: Part = {
      ...made.part,
      glueZones: [{ id: 'glue-base', outline: zone, face: 'back', kind: 'glue' }],
      lines: [...made.part.lines, ...landings],
    };
    const corner = shift(m.across - m.base, m.along);
    const pulling: Joint = {
      id: `${instanceId}/pull`,
      kind: 'hand',
      partId: stripPart.id,
      hostPartId: gutter.left.partId,
      folds: [
        { lineId: 'pocket', factor: 1 },
        { lineId: 'turn', factor: -1 },
      ],
      drive: { name: context.name, from: 180, to: 0, rest: 180, atOpeningDeg: 180 },
    };
    return {
      ...NOTHING,
      parts: [stripPart, ...flag.parts],
      joints: [
        glueOn(context, 'glue-base', stripPart.id, 'glue-base', 'left', corner),
        pulling,
        ...flag.joints,
      ],
      hostLines: [landing(instanceId, rectangle(m.across - m.base, m.along, m.base, m.width))],
      panelFrames: { [stripPart.id]: made.frames, ...framesOf(flag.parts), ...flag.panelFrames },
      gutters: [],
    };
  },
  handles(params, context) {
    const m = sidePullMeasures(params);
    const { instanceId } = context;
    return [
      placeHandle(instanceId, 'fold', [m.across, m.along]),
      onPart(
        instanceId,
        'strip',
        'middle',
        'length of the middle',
        [m.base + m.middle, m.width / 2],
        [1, 0],
        (to) => ({ middleMm: to[0] - m.base }),
      ),
      onPart(instanceId, 'flag/vee', 'flag-height', 'flag height', [0, m.flag], [0, 1], (to) => ({
        flagMm: to[1],
      })),
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
