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
import type { DieLine } from '../dieline/part.ts';
import { isOneSheet, type Gutter } from '../design/frames.ts';
import { compose, IDENTITY, shift, type Isometry } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import {
  choice,
  num,
  type BuildContext,
  type Constraint,
  type Contribution,
  type Family,
  type Handle,
  type Params,
} from './family.ts';
import { alongHandle, onHost, onPart, widthHandle } from './handles.ts';
import { foot, NOTHING, round, strip } from './pieces.ts';
import { ALONG, length, pick, WIDTH } from './specs.ts';
import { tabSpecs } from './tabSpecs.ts';

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
  const cutIn = choice(params, 'form') === 'cutIn';
  const [a, b] = [num(params, 'leftMm'), num(params, 'rightMm')];
  const parallel = cutIn || params.parallel === true;
  const p = parallel ? b : num(params, 'panelMm');
  return {
    a,
    b,
    p,
    q: a + p - b,
    along: num(params, 'alongMm'),
    width: num(params, 'widthMm'),
    tab: num(params, 'tabMm'),
    taper: num(params, 'taperMm'),
    cutIn,
    tabsOut: choice(params, 'tabs') !== 'inward',
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = stepMeasures(params);
  const depth = gutter.reachMm;
  const rules: Constraint[] = [
    {
      overMm: m.a + m.p - (depth - marginMm),
      reason: `Closed, the ridge would reach past the open edge (${depth} mm deep, ${marginMm} mm margin).`,
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
  const [bottom, top] = [m.along, m.along + m.width];
  const ridge = m.b - m.a;
  const line = (id: string, layer: DieLine['layer'], from: Point, to: Point) => ({
    side: 'left' as const,
    line: { id: `${instanceId}/${id}`, layer, path: straight(from, to) },
  });
  return {
    parts: [],
    joints: [],
    hostLines: [
      line('slit-low', 'cut', [-m.a, bottom], [m.b, bottom]),
      line('slit-high', 'cut', [-m.a, top], [m.b, top]),
      line('foot-left', 'valley', [-m.a, bottom], [-m.a, top]),
      line('ridge', 'mountain', [ridge, bottom], [ridge, top]),
      line('foot-right', 'valley', [m.b, bottom], [m.b, top]),
    ],
    hostMarks: [
      {
        side: 'left',
        mark: {
          id: `${instanceId}/back`,
          name: 'step, left panel',
          at: [(ridge - m.a) / 2, (bottom + top) / 2],
        },
      },
      {
        side: 'left',
        mark: {
          id: `${instanceId}/front`,
          name: 'step, right panel',
          at: [(ridge + m.b) / 2, (bottom + top) / 2],
        },
      },
    ],
    gutterGaps: [{ fromMm: bottom, toMm: top }],
    panelFrames: {
      [partId]: {
        [`${instanceId}/back`]: compose(frame, shift(-m.a, bottom)),
        [`${instanceId}/front`]: compose(frame, shift(ridge, bottom)),
      },
    },
    gutters: stepGutters(m, context, {
      partId,
      frame: compose(frame, shift(-m.a, bottom)),
      linePrefix: `${instanceId}/`,
    }),
  };
}

function buildGlued(m: Measures, context: BuildContext): Contribution {
  const { instanceId } = context;
  const under = !m.tabsOut;
  const end = (side: 'left' | 'right') => ({
    id: side,
    name: `${side} tab`,
    foldId: `foot-${side}`,
    layer: under ? ('mountain' as const) : ('valley' as const),
    face: under ? ('front' as const) : ('back' as const),
  });
  const made = strip({
    id: `${instanceId}/strip`,
    name: `${context.name} strip`,
    stockId: context.stockId,
    widthMm: m.width,
    tabMm: m.tab,
    taperMm: m.taper,
    panels: [
      { id: 'back', name: 'left panel', lengthMm: m.p },
      { id: 'front', name: 'right panel', lengthMm: m.q },
    ],
    folds: [{ id: 'ridge', layer: 'mountain' }],
    first: end('left'),
    last: end('right'),
  });
  const feet = (['left', 'right'] as const).map((side) =>
    foot(context, {
      partId: made.part.id,
      zoneId: `glue-${side}`,
      foldId: `foot-${side}`,
      side,
      foldX: side === 'left' ? 0 : m.p + m.q,
      x: side === 'left' ? -m.a : m.b,
      along: m.along,
      widthMm: m.width,
      under,
      landing: side,
    }),
  );
  return {
    ...NOTHING,
    parts: [made.part],
    joints: feet.map(({ joint }) => joint),
    hostLines: feet.map(({ line }) => line),
    panelFrames: { [made.part.id]: made.frames },
    // Tabs under the step lie where something at its feet would be glued.
    gutters: stepGutters(m, context, { partId: made.part.id, frame: IDENTITY, linePrefix: '' }).filter(
      (g) => m.tabsOut || g.lineId === 'ridge',
    ),
  };
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
  const { instanceId } = context;
  const middleY = m.along + m.width / 2;
  const list: Handle[] = [
    onHost(instanceId, 'left', 'left foot', [-m.a, middleY], [1, 0], (to) => ({ leftMm: -to[0] })),
    onHost(instanceId, 'right', 'right foot', [m.b, middleY], [1, 0], (to) => ({ rightMm: to[0] })),
    alongHandle(instanceId, m.along, 'place along the gutter'),
    widthHandle(instanceId, m.along, m.width),
  ];
  if (!m.cutIn)
    list.push(
      onPart(instanceId, 'strip', 'ridge', 'ridge', [m.p, m.width / 2], [1, 0], (to) => ({
        parallel: false,
        panelMm: to[0],
      })),
      onPart(instanceId, 'strip', 'tab', 'tab depth', [-m.tab, m.width / 2], [1, 0], (to) => ({
        tabMm: -to[0],
      })),
    );
  return list;
}

export const step: Family = {
  id: 'step',
  on: 'fold',
  title: 'Step',
  purpose:
    'A box-like step that rises across the gutter as the card opens; its faces can stay parallel to the halves.',
  specs: [
    pick('form', 'Form', 'Cut from the card itself, or a separate strip glued in.', {
      glued: 'Glued in',
      cutIn: 'Cut in',
    }),
    length('leftMm', 'Left foot', 'From the gutter to the fold on the left half.'),
    length('rightMm', 'Right foot', 'From the gutter to the fold on the right half.'),
    {
      key: 'parallel',
      label: 'Parallel',
      kind: 'flag',
      hint: 'Keep each face parallel to the half opposite it.',
      shown: (p) => p.form !== 'cutIn',
    },
    length(
      'panelMm',
      'Left panel',
      'From the left foot to the ridge.',
      2,
      600,
      (p) => p.form !== 'cutIn' && p.parallel !== true,
    ),
    ALONG,
    WIDTH,
    pick(
      'tabs',
      'Tabs',
      'Turned away from the gutter, or hidden under the step.',
      { outward: 'Outward', inward: 'Under the step' },
      (p) => p.form !== 'cutIn',
    ),
    ...tabSpecs((p) => p.form !== 'cutIn'),
  ],
  defaults(gutter) {
    const depth = Math.min(gutter.left.depthMm, gutter.right.depthMm);
    const foot = Math.round(depth * 0.24);
    const width = Math.round(gutter.lengthMm * 0.4);
    return {
      form: 'glued',
      leftMm: foot,
      rightMm: foot,
      parallel: true,
      panelMm: foot,
      alongMm: Math.round((gutter.lengthMm - width) / 2),
      widthMm: width,
      tabs: 'outward',
      tabMm: Math.min(10, Math.max(5, Math.round(depth * 0.08))),
      taperMm: 2,
    };
  },
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
