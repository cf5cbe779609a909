/**
 * V-fold. Two panels share a centre crease and stand on the halves along feet that leave one point of the gutter at the
 * angles alpha1 (left) and alpha2 (right); panel k spans the angle beta_k from its foot to the centre crease.
 *
 * Closed-form limits. The four folds through the apex are a spherical four-bar with sides alpha1, alpha2, beta2, beta1:
 * - It closes flat with the panels folded outward when both ways round from the gutter to the crease agree:
 *   alpha1 + beta1 = alpha2 + beta2. The crease then lies at that angle from the gutter, so it must be under 180 deg.
 * - It opens to 180 deg when the panels are wide enough to span the feet: beta1 + beta2 >= alpha1 + alpha2, which with
 *   the first rule is beta1 >= alpha2. With equality everything lies flat at 180 deg.
 * - Closed, a panel point at distance r from the apex and angle gamma from its foot (towards the crease) lies
 *   r sin(alpha + gamma) from the gutter and r cos(alpha + gamma) along it from the apex.
 */
import { workOf } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import {
  alignSegment,
  compose,
  IDENTITY,
  place,
  turn,
  type Isometry,
  TURNED_ABOUT_Y,
} from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import { add, scale, type Point } from '../geometry/point.ts';
import { withoutDoubled, type Ring } from '../geometry/polygon.ts';
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
import { angle, length, measures, pick, tabs, yesNo, type Usual, shareOf } from './specs.ts';

const uneven = (params: Params): boolean => params.symmetric === false;
const footMm: Usual<number> = ({ sides, tall }) => Math.round(Math.min(sides * 0.5, tall * 0.5));

const SIZES = measures({
  pointing: pick('Pointing', 'Which way the V opens along the gutter.', {
    up: 'Up the gutter',
    down: 'Down the gutter',
  }),
  symmetric: yesNo('Symmetric', 'Both sides alike.', true),
  alongMm: length(
    'Apex',
    'From the lower end of the gutter to the point of the V.',
    shareOf('tall', 0.3),
    -200,
    1000,
  ),
  leftFootDeg: angle('Foot angle', 'Between the gutter and the left foot.', 50, 10, 150),
  rightFootDeg: angle('Right foot angle', 'Between the gutter and the right foot.', 50, 10, 150, uneven),
  panelDeg: angle('Panel angle', 'Between the left foot and the centre crease, on the panel.', 60, 5, 160),
  footMm: length('Foot length', 'Along the left foot.', footMm, 8),
  rightFootMm: length('Right foot length', 'Along the right foot.', footMm, 8, 600, uneven),
  creaseMm: length(
    'Crease height',
    'From the apex to the tip.',
    ({ sides, tall }) => Math.round(Math.min(sides * 0.55, tall * 0.6)),
    5,
  ),
  edgeMm: length(
    'Edge height',
    'From the end of the foot to the outer corner.',
    (_, usual) => Math.round(usual.footMm * 0.2),
    0,
  ),
  tabs: pick('Tabs', 'In front of the V, or behind it.', { outward: 'In front', inward: 'Behind' }),
  ...tabs(({ sides }) => Math.min(9, Math.max(5, Math.round(sides * 0.07))), 3),
});

const RAD = Math.PI / 180;

interface Side {
  readonly alpha: number;
  readonly beta: number;
  readonly foot: number;
}

interface Measures {
  readonly left: Side;
  readonly right: Side;
  readonly crease: number;
  readonly edge: number;
  readonly along: number;
  readonly tab: number;
  readonly taper: number;
  readonly tabsOut: boolean;
  readonly forward: boolean;
}

/** The measures of a V-fold in mm and radians, the derived angle beta2 = alpha1 + beta1 - alpha2 included. */
export function vfoldMeasures(params: Params): Measures {
  const sizes = SIZES.read(params);
  const alpha1 = sizes.leftFootDeg * RAD;
  const beta1 = sizes.panelDeg * RAD;
  const symmetric = !uneven(params);
  const alpha2 = symmetric ? alpha1 : sizes.rightFootDeg * RAD;
  const foot1 = sizes.footMm;
  return {
    left: { alpha: alpha1, beta: beta1, foot: foot1 },
    right: {
      alpha: alpha2,
      beta: alpha1 + beta1 - alpha2,
      foot: symmetric ? foot1 : sizes.rightFootMm,
    },
    crease: sizes.creaseMm,
    edge: sizes.edgeMm,
    along: sizes.alongMm,
    tab: sizes.tabMm,
    taper: sizes.taperMm,
    tabsOut: sizes.tabs !== 'inward',
    forward: sizes.pointing !== 'down',
  };
}

/** The ends of a panel in the part's plane; `sign` -1 for the left panel (x < 0), +1 for the right. */
function panelPoints(side: Side, m: Measures, sign: -1 | 1): { foot: Point; corner: Point; crease: Point } {
  const foot: Point = [sign * side.foot * Math.sin(side.beta), side.foot * Math.cos(side.beta)];
  return { foot, corner: add(foot, [0, m.edge]), crease: [0, m.crease] };
}

/** Where a panel's corners lie when the card is closed: distance from the gutter and place along it from the apex. */
function closedPoints(side: Side, m: Measures): { from: number; along: number }[] {
  const { foot, corner, crease } = panelPoints(side, m, 1);
  return [foot, corner, crease].map((p) => {
    const gamma = side.beta - Math.atan2(p[0], p[1]);
    const r = Math.hypot(p[0], p[1]);
    return { from: r * Math.sin(side.alpha + gamma), along: r * Math.cos(side.alpha + gamma) };
  });
}

/** Room for the tab at the apex: the angle between the foot and the gutter on the side where the tab lies. */
function apexInset(side: Side, m: Measures): number {
  const room = m.tabsOut ? Math.PI - side.alpha : side.alpha;
  return 1.5 + (room < Math.PI / 2 ? m.tab / Math.tan(room) : 0);
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = vfoldMeasures(params);
  const rules: Constraint[] = [
    {
      overMm: (m.left.alpha + m.left.beta) / RAD - 178,
      unit: 'deg',
      reason: 'Closed, the crease would swing across the gutter (foot and panel angle together over 178°).',
    },
    {
      overMm: (m.right.alpha - m.left.beta) / RAD,
      unit: 'deg',
      reason: 'The panels would be too narrow to let the card open flat.',
    },
    { overMm: 3 - m.right.beta / RAD, unit: 'deg', reason: 'The right panel would be narrower than 3°.' },
  ];
  for (const [name, side, depth] of [
    ['left', m.left, gutter[m.forward ? 'left' : 'right'].depthMm],
    ['right', m.right, gutter[m.forward ? 'right' : 'left'].depthMm],
  ] as const) {
    for (const point of closedPoints(side, m)) {
      const y = m.along + (m.forward ? point.along : -point.along);
      rules.push(
        {
          overMm: point.from - (gutter.reachMm - marginMm),
          reason: `Closed, the ${name} panel would reach past the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
          shownBy: 'overhang',
        },
        {
          overMm: gutter.lowMm + marginMm - y,
          reason: `Closed, the ${name} panel would stick out at the lower edge of the card.`,
          shownBy: 'overhang',
        },
        {
          overMm: y - (gutter.highMm - marginMm),
          reason: `Closed, the ${name} panel would stick out at the upper edge of the card.`,
          shownBy: 'overhang',
        },
      );
    }
    rules.push({
      overMm: apexInset(side, m) + m.taper + 4 - side.foot,
      reason: `The ${name} tab would be shorter than 4 mm.`,
    });
    for (const corner of tabOutline(side, m, -1)) {
      const onCard = place(alignFoot(side, m, -1), corner);
      const y = m.along + (m.forward ? onCard[1] : -onCard[1]);
      rules.push(
        {
          overMm: -onCard[0] - depth,
          reason: `The ${name} tab would stick out at the open edge.`,
          shownBy: 'landing',
        },
        { overMm: -y, reason: `The ${name} tab would stick out at the lower edge.`, shownBy: 'landing' },
        {
          overMm: y - gutter.lengthMm,
          reason: `The ${name} tab would stick out at the upper edge.`,
          shownBy: 'landing',
        },
      );
    }
  }
  rules.push(
    { overMm: -m.along, reason: 'The apex would lie below the gutter.' },
    { overMm: m.along - gutter.lengthMm, reason: 'The apex would lie above the gutter.' },
  );
  return rules;
}

/** Corners of a glue tab: at the apex, at the foot's end, and the two outer ones drawn in. */
function tabOutline(side: Side, m: Measures, sign: -1 | 1): Point[] {
  const dir: Point = [sign * Math.sin(side.beta), Math.cos(side.beta)];
  const out: Point = [sign * Math.cos(side.beta), -Math.sin(side.beta)];
  const inset = apexInset(side, m);
  const at = (along: number, away: number): Point => add(scale(dir, along), scale(out, away));
  return [at(0, 0), at(side.foot, 0), at(side.foot - m.taper, m.tab), at(inset, m.tab)];
}

/** The placement of the part with one foot on its landing line, apex at the origin of mechanism coordinates. */
function alignFoot(side: Side, m: Measures, sign: -1 | 1): Isometry {
  const onPart: Point = [sign * Math.sin(side.beta), Math.cos(side.beta)];
  const onCard: Point = [sign * Math.sin(side.alpha), Math.cos(side.alpha)];
  return alignSegment([0, 0], onPart, [0, 0], onCard, !m.tabsOut);
}

/** Mechanism coordinates of the V (apex at the origin, pointing up the gutter) into those of the gutter. */
const apexFrame = (m: Measures): Isometry => turn(m.forward ? 0 : Math.PI, 0, m.along);

function build(params: Params, context: BuildContext): Contribution {
  const m = vfoldMeasures(params);
  const made = new Making(context);
  const left = panelPoints(m.left, m, -1);
  const right = panelPoints(m.right, m, 1);
  const ends = { left: tabOutline(m.left, m, -1), right: tabOutline(m.right, m, 1) };
  const corners: Ring = [
    [0, 0],
    ends.right[3],
    ends.right[2],
    right.foot,
    right.corner,
    [0, m.crease],
    left.corner,
    left.foot,
    ends.left[2],
    ends.left[3],
  ];
  const outline = withoutDoubled(corners, 1e-6);
  const footLayer = m.tabsOut ? 'valley' : 'mountain';
  const face = m.tabsOut ? 'back' : 'front';
  const mid = (...points: Point[]): Point => scale(points.reduce(add), 1 / points.length);
  const part = made.part('vee', outline, {
    title: 'panels',
    grainRad: Math.PI / 2,
    lines: [
      { id: 'foot-left', ...workOf(footLayer), path: straight([0, 0], left.foot) },
      { id: 'crease', ...workOf('mountain'), path: straight([0, 0], [0, m.crease]) },
      { id: 'foot-right', ...workOf(footLayer), path: straight([0, 0], right.foot) },
    ],
    zones: [
      { id: 'glue-left', outline: [...ends.left].reverse(), face, kind: 'glue' },
      { id: 'glue-right', outline: ends.right, face, kind: 'glue' },
    ],
    panels: [
      ['tab-left', 'left tab', mid(...ends.left), 'tab'],
      ['left', 'left panel', mid([0, 0], left.foot, [0, m.crease])],
      ['right', 'right panel', mid([0, 0], right.foot, [0, m.crease])],
      ['tab-right', 'right tab', mid(...ends.right), 'tab'],
    ],
  });
  const toGutter = apexFrame(m);
  for (const [name, side, sign] of [
    ['left', m.left, -1],
    ['right', m.right, 1],
  ] as const) {
    // Pointing down the gutter the V is turned by half a turn, so that its left panel stands on the right half.
    const on = m.forward ? name : name === 'left' ? 'right' : 'left';
    made.glue(part, compose(toGutter, alignFoot(side, m, sign)), {
      zone: `glue-${name}`,
      side: on,
      mate: { lineId: `foot-${name}`, hostLineId: made.id(`landing-${name}`) },
    });
    const foot: Point = [sign * side.foot * Math.sin(side.alpha), side.foot * Math.cos(side.alpha)];
    made.guide(`landing-${name}`, place(toGutter, [0, 0]), place(toGutter, foot), on);
  }
  return made.done({
    panelFrames: { [part.id]: { left: IDENTITY, right: IDENTITY } },
    gutters: [creaseGutter(m, context, part.id)],
  });
}

/** The inside of the centre crease, where more mechanisms may stand: seen from the back, the right panel to the left. */
function creaseGutter(m: Measures, { name, gutter }: BuildContext, partId: string): Gutter {
  const side = ({ foot, beta }: Side) => ({
    partId,
    frame: TURNED_ABOUT_Y,
    depthMm: foot * Math.sin(beta),
  });
  const [left, right] = [side(m.right), side(m.left)];
  return {
    kind: 'fold',
    partId,
    lineId: 'crease',
    name: `inside the crease of ${name}`,
    lengthMm: m.crease,
    left,
    right,
    reachMm: Math.min(left.depthMm, right.depthMm),
    lowMm: 0,
    highMm: Math.min(m.crease, gutter.highMm),
  };
}

function handles(params: Params, context: BuildContext): Handle[] {
  const m = vfoldMeasures(params);
  const toGutter = apexFrame(m);
  const footOnCard: Point = [-m.left.foot * Math.sin(m.left.alpha), m.left.foot * Math.cos(m.left.alpha)];
  const left = panelPoints(m.left, m, -1);
  const handle = handlesOf(context, params);
  return [
    handle(HOST_PART, 'along', 'apex on the gutter', [0, m.along], ALONG_FOLD),
    {
      id: `${context.instanceId}/foot`,
      label: 'foot angle and length',
      partId: HOST_PART,
      at: place(toGutter, footOnCard),
      axis: null,
      drag(to) {
        const x = m.forward ? -to[0] : to[0];
        const y = m.forward ? to[1] - m.along : m.along - to[1];
        return { leftFootDeg: Math.atan2(x, y) / RAD, footMm: Math.hypot(x, y) };
      },
    },
    handle('vee', 'crease', 'crease height', [0, m.crease], { creaseMm: [0, 1] }),
    handle('vee', 'edge', 'outer edge height', left.corner, { edgeMm: [0, 1] }),
  ];
}

export const vfold: Family = {
  id: 'vfold',
  on: 'fold',
  title: 'V-fold',
  purpose:
    'Two panels with a crease between them that rise and swing as the card opens; the tip travels far.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build,
  handles,
  advice(params, gutter, marginMm) {
    const m = vfoldMeasures(params);
    const sum = (m.left.alpha + m.left.beta) / RAD;
    const reach = Math.max(...[m.left, m.right].flatMap((side) => closedPoints(side, m).map((p) => p.from)));
    const depth = gutter.reachMm;
    const lies = (m.left.beta + m.right.beta - m.left.alpha - m.right.alpha) / RAD;
    return [
      `Closed, the crease lies at ${sum.toFixed(1)}° from the gutter and the V reaches ${reach.toFixed(1)} mm of the ${(depth - marginMm).toFixed(1)} mm allowed.`,
      lies < 0.05
        ? 'Foot and panel angles add up alike: the V lies flat when the card is open at 180°.'
        : `The panels are ${lies.toFixed(1)}° wider than the feet: at 180° the V still stands.`,
    ];
  },
};
