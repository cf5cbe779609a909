/**
 * Step (parallel fold). A strip stands across the gutter: it leaves the left half at distance a from the gutter and the
 * right half at distance b, with panels p (from the left foot to the ridge) and q (from the ridge to the right foot).
 *
 * Closed-form limits, in the plane across the gutter:
 * - The card closes flat when both ways from the gutter to the ridge are equally long: a + p = b + q.
 * - Closed, the ridge lies a + p from the gutter: that is the reach.
 * - Open to 180 deg the feet are a + b apart, so p + q >= a + b; with the first rule p >= b. p = b (then q = a) is the
 *   parallelogram: each panel stays parallel to the opposite half and the step lies flat when the card lies open.
 * - The cut-in form has no other paper than the card's own: p + q = a + b, so p = b, q = a and the ridge is scored at b - a.
 */
import { workOf, type Layer } from '../dieline/part.ts';
import { isOneSheet, type Gutter } from '../design/frames.ts';
import { compose, IDENTITY, shift, type Isometry } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import {
  HOST_PART,
  type BuildContext,
  type Constraint,
  type Contribution,
  type Family,
  type Handle,
  type Params,
} from './family.ts';
import { ALONG_FOLD, handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { round } from './pieces.ts';
import { ALONG, length, measures, pick, tabs, widthOf, yesNo, type Usual, shareOf } from './specs.ts';

const isGlued = (params: Params): boolean => params.form !== 'cutIn';
const footMm: Usual<number> = shareOf('sides', 0.24);

/** The measures that are asked for. */
export const STEP = {
  form: pick('Form', 'Cut from the card itself, or a separate strip glued in.', {
    glued: 'Glued in',
    cutIn: 'Cut in',
  }),
  leftMm: length('Left foot', 'From the gutter to the fold on the left half.', footMm),
  rightMm: length('Right foot', 'From the gutter to the fold on the right half.', footMm),
  parallel: yesNo('Parallel', 'Keep each face parallel to the half opposite it.', true, isGlued),
  panelMm: length(
    'Left panel',
    'From the left foot to the ridge.',
    footMm,
    2,
    600,
    (p) => isGlued(p) && p.parallel !== true,
  ),
  alongMm: ALONG,
  widthMm: widthOf(0.4),
  tabs: pick(
    'Tabs',
    'Turned away from the gutter, or hidden under the step.',
    { outward: 'Outward', inward: 'Under the step' },
    isGlued,
  ),
  ...tabs(({ sides }) => Math.min(10, Math.max(5, Math.round(sides * 0.08))), 2, isGlued),
};
const SIZES = measures(STEP);

interface Measures {
  readonly a: number;
  readonly b: number;
  readonly p: number;
  readonly q: number;
  readonly along: number;
  readonly width: number;
  readonly tab: number;
  readonly taper: number;
  readonly cutIn: boolean;
  readonly tabsOut: boolean;
}

/** The measures of a step in mm, the derived ones included. */
export function stepMeasures(params: Params): Measures {
  const sizes = SIZES.read(params);
  const { leftMm: a, rightMm: b } = sizes;
  const cutIn = sizes.form === 'cutIn';
  const p = cutIn || sizes.parallel ? b : sizes.panelMm;
  return {
    a,
    b,
    p,
    q: a + p - b,
    along: sizes.alongMm,
    width: sizes.widthMm,
    tab: sizes.tabMm,
    taper: sizes.taperMm,
    cutIn,
    tabsOut: sizes.tabs !== 'inward',
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = stepMeasures(params);
  const depth = gutter.reachMm;
  const rules: Constraint[] = [
    {
      overMm: m.a + m.p - (depth - marginMm),
      reason: `Closed, the ridge would reach past the open edge (${round(depth)} mm deep, ${marginMm} mm margin).`,
      shownBy: 'overhang',
    },
    { overMm: m.b - m.p, reason: 'The panels would be too short to let the card open flat.' },
    { overMm: 2 - m.q, reason: 'The right panel would be narrower than 2 mm.' },
    { overMm: -m.along, reason: 'It would stick out below the end of the gutter.', shownBy: 'landing' },
    {
      overMm: m.along + m.width - gutter.lengthMm,
      reason: 'It would stick out beyond the end of the gutter.',
      shownBy: 'landing',
    },
  ];
  if (m.cutIn) {
    rules.push({ overMm: 2 - m.along, reason: 'The slit would run into the edge of the card.' });
    rules.push({
      overMm: m.along + m.width - (gutter.lengthMm - 2),
      reason: 'The slit would run into the edge of the card.',
    });
  } else {
    rules.push({
      overMm: 2 * m.taper - (m.width - 4),
      reason: 'The tapered tab would end in less than 4 mm.',
    });
    const [left, right] = m.tabsOut
      ? [m.a + m.tab - gutter.left.depthMm, m.b + m.tab - gutter.right.depthMm]
      : [m.tab - m.a, m.tab - m.b];
    const where = m.tabsOut ? 'stick out of the open edge' : 'cross the gutter';
    rules.push(
      { overMm: left, reason: `The left tab would ${where}.`, shownBy: 'landing' },
      { overMm: right, reason: `The right tab would ${where}.`, shownBy: 'landing' },
    );
  }
  return rules;
}

function buildCutIn(m: Measures, context: BuildContext): Contribution {
  const { instanceId, gutter } = context;
  if (!isOneSheet(gutter))
    throw new RangeError(
      'A cut-in step needs one sheet that runs across the fold; take the glued-in form here.',
    );
  const { frame, partId } = gutter.left;
  const made = new Making(context);
  const [bottom, top] = [m.along, m.along + m.width];
  const ridge = m.b - m.a;
  const line = (id: string, layer: Layer, from: Point, to: Point) => made.line(id, layer, straight(from, to));
  line('slit-low', 'cut', [-m.a, bottom], [m.b, bottom]);
  line('slit-high', 'cut', [-m.a, top], [m.b, top]);
  line('foot-left', 'valley', [-m.a, bottom], [-m.a, top]);
  line('ridge', 'mountain', [ridge, bottom], [ridge, top]);
  line('foot-right', 'valley', [m.b, bottom], [m.b, top]);
  const mark = (id: string, name: string, x: number) => ({
    side: 'left' as const,
    mark: { id: made.id(id), name, at: [x, (bottom + top) / 2] as const },
  });
  return made.done({
    hostMarks: [
      mark('back', 'step, left panel', (ridge - m.a) / 2),
      mark('front', 'step, right panel', (ridge + m.b) / 2),
    ],
    gutterGaps: [{ fromMm: bottom, toMm: top }],
    panelFrames: {
      [partId]: {
        [made.id('back')]: compose(frame, shift(-m.a, bottom)),
        [made.id('front')]: compose(frame, shift(ridge, bottom)),
      },
    },
    gutters: stepGutters(m, context, {
      partId,
      frame: compose(frame, shift(-m.a, bottom)),
      linePrefix: `${instanceId}/`,
    }),
  });
}

function buildGlued(m: Measures, context: BuildContext): Contribution {
  const made = new Making(context);
  const under = !m.tabsOut;
  const sides = ['left', 'right'] as const;
  const [first, last] = sides.map((side) => ({
    id: side,
    name: `${side} tab`,
    foldId: `foot-${side}`,
    ...workOf(under ? 'mountain' : 'valley'),
    face: under ? ('front' as const) : ('back' as const),
  }));
  const part = made.strip('strip', {
    widthMm: m.width,
    tabMm: m.tab,
    taperMm: m.taper,
    panels: [
      { id: 'back', name: 'left panel', lengthMm: m.p },
      { id: 'front', name: 'right panel', lengthMm: m.q },
    ],
    folds: [{ id: 'ridge', ...workOf('mountain') }],
    first,
    last,
  });
  for (const side of sides)
    made.foot(part, {
      zoneId: `glue-${side}`,
      foldId: `foot-${side}`,
      side,
      foldX: side === 'left' ? 0 : m.p + m.q,
      x: side === 'left' ? -m.a : m.b,
      along: m.along,
      widthMm: m.width,
      under,
      landing: side,
    });
  // Tabs under the step lie where something at its feet would be glued.
  const own = stepGutters(m, context, { partId: part.id, frame: IDENTITY, linePrefix: '' });
  return made.done({ gutters: own.filter((g) => m.tabsOut || g.lineId === 'ridge') });
}

/**
 * The folds on which more mechanisms may stand: at the step's feet, between each panel and the half that it stands on, and
 * inside the ridge. Seen from inside, the sheet lies face down and its right panel to the left.
 */
function stepGutters(
  m: Measures,
  { gutter, name }: BuildContext,
  own: { readonly partId: string; readonly frame: Isometry; readonly linePrefix: string },
): Gutter[] {
  const { partId, linePrefix } = own;
  /** A side on the step's own paper, laid out from its left foot. */
  const onStep = (frame: Isometry, depthMm: number) => ({
    partId,
    frame: compose(own.frame, frame),
    depthMm,
  });
  const along = {
    kind: 'fold' as const,
    lengthMm: m.width,
    lowMm: gutter.lowMm - m.along,
    highMm: gutter.highMm - m.along,
  };
  return [
    {
      ...along,
      partId,
      lineId: `${linePrefix}foot-left`,
      name: `the left foot of ${name}`,
      left: {
        partId: gutter.left.partId,
        frame: compose(gutter.left.frame, shift(-m.a, m.along)),
        depthMm: gutter.left.depthMm - m.a,
      },
      right: onStep(IDENTITY, m.p),
      reachMm: gutter.reachMm - m.a,
    },
    {
      ...along,
      partId,
      lineId: `${linePrefix}foot-right`,
      name: `the right foot of ${name}`,
      left: onStep(shift(m.p + m.q, 0), m.q),
      right: {
        partId: gutter.right.partId,
        frame: compose(gutter.right.frame, shift(m.b, m.along)),
        depthMm: gutter.right.depthMm - m.b,
      },
      reachMm: gutter.reachMm - m.b,
    },
    {
      ...along,
      partId,
      lineId: `${linePrefix}ridge`,
      name: `inside the ridge of ${name}`,
      left: onStep(fromInside(m.p), m.q),
      right: onStep(fromInside(m.p), m.p),
      // Closed, the feet and what lies there are beyond the shorter panel.
      reachMm: Math.min(m.p, m.q),
    },
  ];
}

/** Mechanism coordinates seen from the back of the strip, the ridge as their y axis: x runs the other way. */
const fromInside = (ridgeMm: number): Isometry => ({ angleRad: Math.PI, flip: true, dx: ridgeMm, dy: 0 });

function handles(params: Params, context: BuildContext): Handle[] {
  const m = stepMeasures(params);
  const middleY = m.along + m.width / 2;
  const handle = handlesOf(context, params);
  const list = [
    handle(HOST_PART, 'left', 'left foot', [-m.a, middleY], { leftMm: [-1, 0] }),
    handle(HOST_PART, 'right', 'right foot', [m.b, middleY], { rightMm: [1, 0] }),
    handle(HOST_PART, 'along', 'place along the gutter', [0, m.along], ALONG_FOLD),
    handle(HOST_PART, 'width', 'width', [0, m.along + m.width], { widthMm: [0, 1] }),
  ];
  if (m.cutIn) return list;
  const ridge = handle('strip', 'ridge', 'ridge', [m.p, m.width / 2], { panelMm: [1, 0] });
  return [
    ...list,
    // Dragged, the faces are parallel no longer.
    { ...ridge, drag: ([x]) => ({ parallel: false, panelMm: x }) },
    handle('strip', 'tab', 'tab depth', [-m.tab, m.width / 2], { tabMm: [-1, 0] }),
  ];
}

export const step: Family = {
  id: 'step',
  on: 'fold',
  title: 'Step',
  purpose:
    'A box-like step that rises across the gutter as the card opens; its faces can stay parallel to the halves.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build: (params, context) => {
    const m = stepMeasures(params);
    return m.cutIn ? buildCutIn(m, context) : buildGlued(m, context);
  },
  handles,
  advice(params, gutter, marginMm) {
    const m = stepMeasures(params);
    const depth = gutter.reachMm;
    return [
      `Closed, the ridge lies ${round(m.a + m.p)} mm from the gutter; on a card ${round(depth)} mm deep it may lie ${round(depth - marginMm)} mm away at most.`,
      m.p === m.b
        ? 'Left panel = right foot and right panel = left foot: each face stays parallel to the opposite half, and the card opens flat.'
        : `The panels are ${round(m.p + m.q - m.a - m.b)} mm longer than the feet are apart: at 180° the step still stands.`,
    ];
  },
};
