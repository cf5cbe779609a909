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
import type { DieLine, Part } from '../dieline/part.ts';
import type { Joint } from '../design/design.ts';
import type { Gutter } from '../design/frames.ts';
import { alignSegment, compose, IDENTITY, shift } from '../geometry/isometry.ts';
import { polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import {
  choice,
  HOST_PART,
  num,
  type BuildContext,
  type Constraint,
  type Contribution,
  type Family,
  type Handle,
  type Params,
} from './family.ts';
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
    },
    { overMm: m.b - m.p, reason: 'The panels would be too short to let the card open flat.' },
    { overMm: 2 - m.q, reason: 'The right panel would be narrower than 2 mm.' },
    { overMm: -m.along, reason: 'It would stick out below the end of the gutter.' },
    {
      overMm: m.along + m.width - gutter.lengthMm,
      reason: 'It would stick out beyond the end of the gutter.',
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
      { overMm: left, reason: `The left tab would ${where}.` },
      { overMm: right, reason: `The right tab would ${where}.` },
    );
  }
  return rules;
}

function buildCutIn(m: Measures, { instanceId, gutter }: BuildContext): Contribution {
  if (gutter.left.partId !== gutter.right.partId || gutter.left.frame !== gutter.right.frame)
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
    gutters: [],
  };
}

function buildGlued(m: Measures, context: BuildContext): Contribution {
  const { instanceId, gutter } = context;
  const { p, q, width, tab, taper } = m;
  const far = p + q;
  const footLayer = m.tabsOut ? 'valley' : 'mountain';
  const tabLeft: Point[] = [
    [0, 0],
    [0, width],
    [-tab, width - taper],
    [-tab, taper],
  ];
  const tabRight: Point[] = [
    [far, 0],
    [far + tab, taper],
    [far + tab, width - taper],
    [far, width],
  ];
  const partId = `${instanceId}/strip`;
  const landing = (side: 'left' | 'right', x: number) => ({
    side,
    line: {
      id: `${instanceId}/landing-${side}`,
      layer: 'guide' as const,
      path: straight([x, m.along], [x, m.along + width]),
    },
  });
  const face = m.tabsOut ? 'back' : 'front';
  const part: Part = {
    id: partId,
    name: `${context.name} strip`,
    stockId: context.stockId,
    grainRad: Math.PI / 2,
    quantity: 1,
    lines: [
      {
        id: 'outline',
        layer: 'cut',
        path: polyline(
          [[0, 0], [far, 0], tabRight[1], tabRight[2], [far, width], [0, width], tabLeft[2], tabLeft[3]],
          true,
        ),
      },
      { id: 'foot-left', layer: footLayer, path: straight([0, 0], [0, width]) },
      { id: 'ridge', layer: 'mountain', path: straight([p, 0], [p, width]) },
      { id: 'foot-right', layer: footLayer, path: straight([far, 0], [far, width]) },
    ],
    glueZones: [
      { id: 'glue-left', outline: tabLeft, face, kind: 'glue' },
      { id: 'glue-right', outline: tabRight, face, kind: 'glue' },
    ],
    marks: [
      { id: 'tab-left', name: 'left tab', at: [-tab / 2, width / 2] },
      { id: 'back', name: 'left panel', at: [p / 2, width / 2] },
      { id: 'front', name: 'right panel', at: [p + q / 2, width / 2] },
      { id: 'tab-right', name: 'right tab', at: [far + tab / 2, width / 2] },
    ],
  };
  const joint = (side: 'left' | 'right', partX: number, hostX: number): Joint => ({
    id: `${instanceId}/glue-${side}`,
    kind: 'glue',
    partId,
    zoneId: `glue-${side}`,
    hostPartId: gutter[side].partId,
    placement: compose(
      gutter[side].frame,
      alignSegment([partX, 0], [partX, width], [hostX, m.along], [hostX, m.along + width], !m.tabsOut),
    ),
    mate: { lineId: `foot-${side}`, hostLineId: `${instanceId}/landing-${side}` },
  });
  return {
    parts: [part],
    joints: [joint('left', 0, -m.a), joint('right', far, m.b)],
    hostLines: [landing('left', -m.a), landing('right', m.b)],
    hostMarks: [],
    gutterGaps: [],
    panelFrames: { [partId]: { back: shift(0, 0), front: shift(p, 0) } },
    gutters: m.tabsOut ? footGutters(m, context, partId) : [],
  };
}

/** The folds at the step's feet, between each panel and the half that it stands on: more mechanisms may stand there. */
function footGutters(m: Measures, { gutter, name }: BuildContext, partId: string): Gutter[] {
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
      lineId: 'foot-left',
      name: `the left foot of ${name}`,
      left: {
        partId: gutter.left.partId,
        frame: compose(gutter.left.frame, shift(-m.a, m.along)),
        depthMm: gutter.left.depthMm - m.a,
      },
      right: { partId, frame: IDENTITY, depthMm: m.p },
      reachMm: gutter.reachMm - m.a,
    },
    {
      ...along,
      partId,
      lineId: 'foot-right',
      name: `the right foot of ${name}`,
      left: { partId, frame: shift(m.p + m.q, 0), depthMm: m.q },
      right: {
        partId: gutter.right.partId,
        frame: compose(gutter.right.frame, shift(m.b, m.along)),
        depthMm: gutter.right.depthMm - m.b,
      },
      reachMm: gutter.reachMm - m.b,
    },
  ];
}

function handles(params: Params, context: BuildContext): Handle[] {
  const m = stepMeasures(params);
  const { instanceId } = context;
  const middleY = m.along + m.width / 2;
  const card = (
    id: string,
    label: string,
    at: Point,
    axis: Point | null,
    drag: (to: Point) => Params,
  ): Handle => ({
    id: `${instanceId}/${id}`,
    label,
    partId: HOST_PART,
    at,
    axis,
    drag,
  });
  const list: Handle[] = [
    card('left', 'left foot', [-m.a, middleY], [1, 0], (to) => ({ leftMm: -to[0] })),
    card('right', 'right foot', [m.b, middleY], [1, 0], (to) => ({ rightMm: to[0] })),
    card('along', 'place along the gutter', [0, m.along], [0, 1], (to) => ({ alongMm: to[1] })),
    card('width', 'width', [0, m.along + m.width], [0, 1], (to) => ({ widthMm: to[1] - m.along })),
  ];
  if (!m.cutIn) {
    const partId = `${instanceId}/strip`;
    list.push(
      {
        id: `${instanceId}/ridge`,
        label: 'ridge',
        partId,
        at: [m.p, m.width / 2],
        axis: [1, 0],
        drag: (to) => ({ parallel: false, panelMm: to[0] }),
      },
      {
        id: `${instanceId}/tab`,
        label: 'tab depth',
        partId,
        at: [-m.tab, m.width / 2],
        axis: [1, 0],
        drag: (to) => ({ tabMm: -to[0] }),
      },
    );
  }
  return list;
}

export const step: Family = {
  id: 'step',
  on: 'fold',
  title: 'Step',
  purpose:
    'A box-like step that rises across the gutter as the card opens; its faces can stay parallel to the halves.',
  specs: [
    {
      key: 'form',
      label: 'Form',
      kind: 'choice',
      hint: 'Cut from the card itself, or a separate strip glued in.',
      choices: [
        { value: 'glued', label: 'Glued in' },
        { value: 'cutIn', label: 'Cut in' },
      ],
    },
    {
      key: 'leftMm',
      label: 'Left foot',
      kind: 'length',
      minMm: 2,
      maxMm: 600,
      hint: 'From the gutter to the fold on the left half.',
    },
    {
      key: 'rightMm',
      label: 'Right foot',
      kind: 'length',
      minMm: 2,
      maxMm: 600,
      hint: 'From the gutter to the fold on the right half.',
    },
    {
      key: 'parallel',
      label: 'Parallel',
      kind: 'flag',
      hint: 'Keep each face parallel to the half opposite it.',
      shown: (p) => p.form !== 'cutIn',
    },
    {
      key: 'panelMm',
      label: 'Left panel',
      kind: 'length',
      minMm: 2,
      maxMm: 600,
      hint: 'From the left foot to the ridge.',
      shown: (p) => p.form !== 'cutIn' && p.parallel !== true,
    },
    {
      key: 'alongMm',
      label: 'Place',
      kind: 'length',
      minMm: -200,
      maxMm: 1000,
      hint: 'From the lower end of the gutter to the step.',
    },
    { key: 'widthMm', label: 'Width', kind: 'length', minMm: 4, maxMm: 1000, hint: 'Along the gutter.' },
    {
      key: 'tabs',
      label: 'Tabs',
      kind: 'choice',
      hint: 'Turned away from the gutter, or hidden under the step.',
      shown: (p) => p.form !== 'cutIn',
      choices: [
        { value: 'outward', label: 'Outward' },
        { value: 'inward', label: 'Under the step' },
      ],
    },
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
      tabMm: Math.min(10, Math.max(4, Math.round(depth * 0.08))),
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

const round = (mm: number): string => String(Math.round(mm * 10) / 10);
