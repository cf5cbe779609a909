/**
 * Stand-up insert (pop-up window). A panel hinged across the right half is pulled up by a small gusset triangle from the
 * left half as the card opens.
 *
 * It is a V-fold (vfold.ts) with the right foot square to the gutter (alpha2 = 90 deg): the panel is its right side, the
 * gusset its left one, with alpha1 the gusset's foot angle and beta2 the panel's slant next to the gutter.
 * - It closes flat when alpha1 + beta1 = 90 deg + beta2: the gusset's own angle follows.
 * - It opens flat when beta1 >= 90 deg, so alpha1 <= beta2; and beta2 <= 90 deg, or the feet are too far round.
 * - Closed, a panel point x from the gutter and h over the foot lies x from the gutter and h below the foot.
 */
import { workOf } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { alignSegment, IDENTITY } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import { add, middle, scale, type Point } from '../geometry/point.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { rectangle, round } from './pieces.ts';
import { angle, length, measures, tabs, yesNo, shareOf } from './specs.ts';

const SIZES = measures({
  alongMm: length(
    'Foot',
    'From the lower end of the fold to the panel’s foot.',
    shareOf('tall', 0.55),
    -200,
    1000,
  ),
  widthMm: length(
    'Width',
    'From the gutter along the foot.',
    ({ gutter }) => Math.round(Math.min(gutter.reachMm, gutter.right.depthMm) * 0.6),
    10,
  ),
  heightMm: length('Height', 'Of the panel over its foot.', shareOf('tall', 0.4), 5),
  slantDeg: angle('Slant', 'Between the foot and the panel’s edge at the gutter.', 70, 20, 88),
  gussetMm: length(
    'Gusset',
    'Length of the gusset along its foot and along the panel.',
    ({ tall }, { heightMm }) => Math.round(Math.min(heightMm * 0.6, tall * 0.28)),
    4,
  ),
  gussetDeg: angle('Gusset foot', 'Between the gutter and the gusset’s foot.', 50, 15, 88),
  window: yesNo('Window', 'Cut the panel out to a frame.', true),
  borderMm: length('Border', 'Of the window.', 8, 2, 100, (p) => p.window === true),
  ...tabs(6, 2),
});

const RAD = Math.PI / 180;

/** The measures of a stand-up insert in mm and radians. */
export function standUpMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const [slant, alpha1] = [sizes.slantDeg * RAD, sizes.gussetDeg * RAD];
  return {
    along: sizes.alongMm,
    width: sizes.widthMm,
    height: sizes.heightMm,
    slant,
    alpha1,
    beta1: Math.PI / 2 + slant - alpha1,
    gusset: sizes.gussetMm,
    window: sizes.window,
    border: sizes.borderMm,
    tab: sizes.tabMm,
    taper: sizes.taperMm,
  };
}

type Measures = ReturnType<typeof standUpMeasures>;

/** Where the panel's slanting edge is at its top. */
const shoulder = (m: Measures): number => m.height / Math.tan(m.slant);

/** How far from the gutter the gusset's tab begins, along its foot. */
const tabInset = (m: Measures): number => 1.5 + m.tab / Math.tan(Math.min(Math.PI / 2, m.alpha1));

/** The corners of the gusset's tab from where its foot begins, by the ways along the foot and to the tab's edge. */
const gussetTabBy = (m: Measures, foot: Point, deep: Point): Point[] => [
  [0, 0],
  scale(foot, m.gusset),
  add(scale(foot, m.gusset - m.taper), scale(deep, m.tab)),
  add(scale(foot, tabInset(m)), scale(deep, m.tab)),
];

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = standUpMeasures(params);
  // On the card: how far from the gutter, and how far above where the foot begins.
  const [sin, cos] = [Math.sin(m.alpha1), Math.cos(m.alpha1)];
  const gussetLies = gussetTabBy(m, [sin, cos], [cos, -sin]);
  return [
    {
      overMm: m.width - (gutter.reachMm - marginMm),
      reason: `Closed, the panel would reach past the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
      shownBy: 'overhang',
    },
    {
      overMm: gutter.lowMm + marginMm - (m.along - m.height),
      reason: 'Closed, the panel would stick out at the lower edge of the card.',
      shownBy: 'overhang',
    },
    { overMm: m.along - gutter.lengthMm, reason: 'The foot would lie beyond the end of the fold.' },
    {
      overMm: m.slant / RAD - 90,
      unit: 'deg',
      reason: 'With a slant of more than a right angle the card would not open flat.',
    },
    {
      overMm: (m.alpha1 - m.slant) / RAD,
      unit: 'deg',
      reason: 'The gusset would be too narrow to let the card open flat.',
    },
    {
      overMm: shoulder(m) + 5 - m.width,
      reason: 'The panel would come to a point: make it wider or steeper.',
    },
    {
      overMm: m.gusset * Math.sin(m.slant) - m.height,
      reason: 'The gusset would be longer than the panel’s edge.',
    },
    {
      overMm: Math.max(...gussetLies.map(([out]) => out)) - gutter.left.depthMm,
      reason: 'The gusset’s tab would stick out of the open edge.',
      shownBy: 'landing',
    },
    {
      overMm: -Math.min(...gussetLies.map(([, up]) => m.along + up)),
      reason: 'The gusset’s tab would stick out at the lower edge.',
      shownBy: 'landing',
    },
    {
      overMm: m.along + m.gusset * Math.cos(m.alpha1) - gutter.lengthMm,
      reason: 'The gusset’s foot would run past the end of the fold.',
    },
    {
      overMm: m.tab - m.along,
      reason: 'The panel’s tab would stick out at the lower edge.',
      shownBy: 'landing',
    },
    {
      overMm: m.taper + 4 + tabInset(m) - m.gusset,
      reason: 'The gusset’s tab would end in less than 4 mm.',
    },
    {
      overMm: m.window ? 2 * m.border + 4 - Math.min(m.height, m.width - shoulder(m)) : 0,
      reason: 'The window’s border leaves no window.',
    },
  ];
}

/** The part's plane: apex at the origin, the crease along +y, the panel to the right, the gusset to the left. */
function layout(m: Measures) {
  // The foot makes the angle `slant` with the crease on the right.
  const footDir: Point = [Math.sin(m.slant), Math.cos(m.slant)];
  const up: Point = [-Math.cos(m.slant), Math.sin(m.slant)];
  const onPanel = (x: number, h: number): Point => add(scale(footDir, x), scale(up, h));
  const gussetDir: Point = [-Math.sin(m.beta1), Math.cos(m.beta1)];
  const gussetOut: Point = [-Math.cos(m.beta1), -Math.sin(m.beta1)];
  const crest: Point = [0, m.gusset];
  const gussetEnd = scale(gussetDir, m.gusset);
  const gussetTab = gussetTabBy(m, gussetDir, gussetOut);
  const panelTab: Point[] = [
    [0, 0],
    onPanel(1.5 + m.taper, -m.tab),
    onPanel(m.width - m.taper, -m.tab),
    onPanel(m.width, 0),
  ];
  return { onPanel, crest, gussetEnd, gussetTab, panelTab };
}

export const standUp: Family = {
  id: 'standUp',
  on: 'fold',
  title: 'Stand-up insert',
  purpose: 'A panel or window that a small gusset pulls upright as the card opens.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = standUpMeasures(params);
    const made = new Making(context);
    const { onPanel, crest, gussetEnd, gussetTab, panelTab } = layout(m);
    const shoulderX = shoulder(m);
    const outline = [
      ...panelTab,
      onPanel(m.width, m.height),
      onPanel(shoulderX, m.height),
      crest,
      gussetEnd,
      gussetTab[2],
      gussetTab[3],
    ];
    const window = rectangle(
      shoulderX + m.border,
      m.border,
      m.width - shoulderX - 2 * m.border,
      m.height - 2 * m.border,
    ).map(([x, h]) => onPanel(x, h));
    const part = made.part('insert', outline, {
      title: 'panel',
      // The grain runs along the panel's foot, its longest fold.
      grainRad: Math.atan2(onPanel(1, 0)[1], onPanel(1, 0)[0]),
      lines: [
        { id: 'foot-right', ...workOf('valley'), path: straight([0, 0], onPanel(m.width, 0)) },
        { id: 'crease', ...workOf('mountain'), path: straight([0, 0], crest) },
        { id: 'foot-left', ...workOf('valley'), path: straight([0, 0], gussetEnd) },
      ],
      cuts: m.window ? { window } : {},
      glue: { 'glue-left': [...gussetTab].reverse(), 'glue-right': panelTab },
      panels: [
        ['tab-left', 'gusset tab', scale(gussetTab.reduce(add), 1 / 4), 'tab'],
        ['gusset', 'gusset', scale(add(crest, gussetEnd), 1 / 3)],
        ['panel', 'panel', onPanel(m.width - 0.5, 0.5)],
        ['tab-right', 'panel tab', middle(onPanel(m.width / 2, 0), onPanel(m.width / 2, -m.tab)), 'tab'],
      ],
    });
    const onHalf: Point = [0, m.along];
    const gussetFoot: Point = [-m.gusset * Math.sin(m.alpha1), m.along + m.gusset * Math.cos(m.alpha1)];
    for (const [side, end, foot] of [
      ['left', gussetEnd, gussetFoot],
      ['right', onPanel(m.width, 0), [m.width, m.along]],
    ] as const) {
      made.glue(part, alignSegment([0, 0], end, onHalf, foot, false), {
        zone: `glue-${side}`,
        side,
        mate: { lineId: `foot-${side}`, hostLineId: made.id(`landing-${side}`) },
      });
      made.guide(`landing-${side}`, onHalf, foot, side);
    }
    const panel = alignSegment([0, 0], [1, 0], [0, 0], onPanel(1, 0), false);
    return made.done({ panelFrames: { [part.id]: { panel, gusset: IDENTITY } } });
  },
  handles(params, context) {
    const m = standUpMeasures(params);
    const { onPanel, crest } = layout(m);
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'along', 'foot', [m.width, m.along], { alongMm: [0, 1], widthMm: [1, 0] }),
      handle('insert', 'height', 'height', onPanel(m.width, m.height), {
        heightMm: [-Math.cos(m.slant), Math.sin(m.slant)],
      }),
      handle('insert', 'gusset', 'gusset length', crest, { gussetMm: [0, 1] }),
    ];
  },
  advice(params, gutter, marginMm) {
    const m = standUpMeasures(params);
    return [
      `Closed, the panel lies below its foot: with the foot at ${round(m.along)} mm it may be ${round(m.along - gutter.lowMm - marginMm)} mm high at most.`,
      `The gusset opens by ${round(m.beta1 / RAD)}°; at ${round(m.slant / RAD)}° or less at its foot the card opens flat.`,
    ];
  },
};
