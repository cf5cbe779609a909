/**
 * Floating layer (platform). A support strip stands across the gutter like a step (feet a and b, panels p and q = a + p - b);
 * from its ridge a plane reaches out on either side, each carried at its outer end by a leg that is glued to the half.
 *
 * Closed-form limits, in the plane across the gutter:
 * - Each side is a parallelogram with the support: the left leg is as long as p and stands as far from the support's left
 *   foot as the left plane is wide, so leg and panel stay parallel, and the plane stays parallel to its half. Its outer
 *   edge is T = F + (R - A) with F the leg's foot, A the support's foot and R the ridge; likewise on the right with q.
 * - Closed, the outer edge lies a + p + plane from the gutter: that is the reach.
 * - Open to 180 deg the planes float above the halves only when p > b; p = b would lay everything flat.
 */
import { workOf } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { alignSegment, shift } from '../geometry/isometry.ts';
import {
  HOST_PART,
  type BuildContext,
  type Constraint,
  type Contribution,
  type Family,
  type Handle,
  type Params,
} from './family.ts';
import { handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { round } from './pieces.ts';
import { ALONG, length, measures, tabs, widthOf, shareOf } from './specs.ts';
import { step, stepMeasures } from './step.ts';

/** The measures that are asked for. */
export const PLATFORM = {
  leftMm: length(
    'Left foot',
    'From the gutter to the support’s fold on the left half.',
    shareOf('reach', 0.1),
  ),
  rightMm: length(
    'Right foot',
    'From the gutter to the support’s fold on the right half.',
    shareOf('reach', 0.1),
  ),
  panelMm: length(
    'Height',
    'The support’s left panel, and the left leg: more than the right foot.',
    shareOf('reach', 0.2),
  ),
  planeLeftMm: length('Left plane', 'From the ridge to the left leg.', shareOf('reach', 0.38), 4),
  planeRightMm: length('Right plane', 'From the ridge to the right leg.', shareOf('reach', 0.38), 4),
  alongMm: ALONG,
  widthMm: widthOf(0.5),
  ...tabs(({ reach }) => Math.min(8, Math.max(5, Math.round(reach * 0.06))), 2),
};
const SIZES = measures(PLATFORM);

/** The support as the parameters of a glued-in step. */
const supportParams = (params: Params): Params => ({
  ...params,
  form: 'glued',
  parallel: false,
  tabs: 'outward',
});

interface Measures extends ReturnType<typeof stepMeasures> {
  readonly planeLeft: number;
  readonly planeRight: number;
}

/** The measures of a platform in mm, the derived ones included. */
export function platformMeasures(params: Params): Measures {
  const sizes = SIZES.read(params);
  return {
    ...stepMeasures(supportParams(params)),
    planeLeft: sizes.planeLeftMm,
    planeRight: sizes.planeRightMm,
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = platformMeasures(params);
  const sides = [
    ['left', m.planeLeft, m.a, gutter.left.depthMm, m.p],
    ['right', m.planeRight, m.b, gutter.right.depthMm, m.q],
  ] as const;
  return [
    ...step.constraints(supportParams(params), gutter, marginMm),
    {
      overMm: m.b + 1 - m.p,
      reason: 'The support would be too low: open flat, the planes would lie on the card.',
    },
    ...sides.flatMap(([name, plane, foot, depth, panel]): Constraint[] => [
      {
        overMm: m.a + m.p + plane - (gutter.reachMm - marginMm),
        reason: `Closed, the ${name} plane would reach past the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
        shownBy: 'overhang',
      },
      {
        overMm: foot + plane + m.tab - depth,
        reason: `The ${name} leg’s tab would stick out of the open edge.`,
        shownBy: 'landing',
      },
      {
        overMm: m.tab + 2 - plane,
        reason: `The ${name} plane would be so narrow that tabs lie on each other.`,
      },
      { overMm: m.tab + 1 - panel, reason: `The support is too low for the ${name} plane’s tab.` },
    ]),
  ];
}

/**
 * A plane with its leg and two tabs, from its foot (x = 0) over the leg to the hinge at the ridge for the left side;
 * the right side is the same laid out from the ridge to its foot.
 */
function wing(side: 'left' | 'right', m: Measures, made: Making) {
  const left = side === 'left';
  const panels = [
    { id: 'leg', name: 'leg', lengthMm: left ? m.p : m.q },
    { id: 'plane', name: 'plane', lengthMm: left ? m.planeLeft : m.planeRight },
  ];
  const ends = [
    { id: 'foot', name: 'foot tab', foldId: 'foot', ...workOf('valley'), face: 'back' },
    { id: 'ridge', name: 'ridge tab', foldId: 'hinge', ...workOf('mountain'), face: 'front' },
  ] as const;
  return made.strip(`${side}-plane`, {
    title: `${side} plane`,
    widthMm: m.width,
    tabMm: m.tab,
    taperMm: m.taper,
    panels: left ? panels : [...panels].reverse(),
    folds: [{ id: 'edge', ...workOf('mountain') }],
    first: left ? ends[0] : ends[1],
    last: left ? ends[1] : ends[0],
  });
}

function build(params: Params, context: BuildContext): Contribution {
  const m = platformMeasures(params);
  const made = new Making(context);
  const support = step.build(supportParams(params), { ...context, name: `${context.name} support` });
  made.include(support);
  const [base] = support.parts;
  for (const side of ['left', 'right'] as const) {
    const part = wing(side, m, made);
    const far = side === 'left' ? m.p + m.planeLeft : m.planeRight + m.q;
    const [footX, ridgeX] = side === 'left' ? [0, far] : [far, 0];
    const landX = side === 'left' ? -(m.a + m.planeLeft) : m.b + m.planeRight;
    made.glue(part, shift(landX - footX, m.along), {
      zone: 'glue-foot',
      id: `glue-${side}-foot`,
      side,
      mate: { lineId: 'foot', hostLineId: made.id(`landing-${side}-leg`) },
    });
    // The ridge tab is folded under the plane and lies face to face on the support, its hinge on the ridge.
    made.glue(part, alignSegment([ridgeX, 0], [ridgeX, m.width], [m.p, 0], [m.p, m.width], true), {
      zone: 'glue-ridge',
      id: `glue-${side}-ridge`,
      onto: base,
      mate: { lineId: 'hinge', hostLineId: 'ridge' },
    });
    made.guide(`landing-${side}-leg`, [landX, m.along], [landX, m.along + m.width], side);
  }
  return made.done({ gutters: support.gutters });
}

function handles(params: Params, context: BuildContext): Handle[] {
  const m = platformMeasures(params);
  const middleY = m.along + m.width / 2;
  const handle = handlesOf(context, params);
  return [
    ...step.handles(supportParams(params), context).map((own): Handle => ({
      ...own,
      // The support is never parallel: its ridge sets the height alone.
      drag: (to) => {
        const { parallel: _parallel, ...rest } = own.drag(to);
        return rest;
      },
    })),
    handle(HOST_PART, 'left-leg', 'left leg', [-(m.a + m.planeLeft), middleY], { planeLeftMm: [-1, 0] }),
    handle(HOST_PART, 'right-leg', 'right leg', [m.b + m.planeRight, middleY], { planeRightMm: [1, 0] }),
  ];
}

export const platform: Family = {
  id: 'platform',
  on: 'fold',
  title: 'Floating layer',
  purpose: 'A plane that floats above both halves on parallel supports; labels and pictures stand on it.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build,
  handles,
  advice(params, gutter, marginMm) {
    const m = platformMeasures(params);
    // Open flat the feet are a + b apart and the ridge stands over them: a triangle with sides p, q, a + b.
    const base = m.a + m.b;
    const along = (m.p * m.p - m.q * m.q + base * base) / (2 * base);
    const height = Math.sqrt(Math.max(0, m.p * m.p - along * along));
    const widest = round(gutter.reachMm - marginMm - m.a - m.p);
    return [
      `Open flat, the planes float ${round(height)} mm above the card.`,
      `With this support a plane may be ${widest} mm wide at most, or it pokes out when the card is closed.`,
    ];
  },
};
