/** Where a glued piece lies on its panel, as a maker measures it: from the fold and the edges, and from the middle. */
import type { Design, GlueJoint } from '../design/design.ts';
import { mostUnder } from '../dieline/landing.ts';
import { panelAt, panelPlan, type Hinge, type Panel } from '../dieline/panels.ts';
import { compose, inverse, place, placing, turn, type Isometry } from '../geometry/isometry.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insidePoint, placeRegion } from '../geometry/polygon.ts';
import { solid } from '../geometry/regions.ts';
import { movedOnHost, onHostPlane } from '../mechanisms/anchored.ts';
import { expand } from '../mechanisms/expand.ts';

export const PANEL_SIDES = ['left', 'right', 'low', 'high'] as const;
export type PanelSide = (typeof PANEL_SIDES)[number];

/** A piece on its panel. Everything is in the piece's own upright axes, turned to the nearest quarter. */
export interface PieceMeasures {
  /** From each side of the panel to the nearest place of the piece, mm; negative where it stands beyond. */
  readonly mm: Readonly<Record<PanelSide, number>>;
  /** What each side is: the fold, or an edge. */
  readonly names: Readonly<Record<PanelSide, string>>;
  readonly piece: Box;
  readonly panel: Box;
  /** From those axes into the host's plane. */
  readonly axes: Isometry;
}

const EDGES: Readonly<Record<PanelSide, string>> = {
  left: 'left edge',
  right: 'right edge',
  low: 'lower edge',
  high: 'upper edge',
};
/** A fold this near to a side of the panel's box is that side, mm. */
const ALONG_MM = 0.6;

/** Whether a fold runs along a side of a box. */
function runsAlong(side: PanelSide, box: Box, from: Point, to: Point): boolean {
  const [k, at] = {
    left: [0, box.minX],
    right: [0, box.maxX],
    low: [1, box.minY],
    high: [1, box.maxY],
  }[side] as [0 | 1, number];
  return Math.abs(from[k] - at) < ALONG_MM && Math.abs(to[k] - at) < ALONG_MM;
}

/** What each side of a panel's box is: a fold that runs along it, else an edge; `back` carries the hinges into the box's axes. */
export function sideNames(
  box: Box,
  hinges: readonly Hinge[],
  back: Isometry,
): Readonly<Record<PanelSide, string>> {
  const name = (side: PanelSide): string =>
    hinges.some(({ from, to }) => runsAlong(side, box, place(back, from), place(back, to)))
      ? 'fold'
      : EDGES[side];
  return { left: name('left'), right: name('right'), low: name('low'), high: name('high') };
}

/** The panel of its host that a piece is glued to: the one that its zone overlaps most. */
export function panelUnder(
  design: Design,
  joint: GlueJoint,
): { panel: Panel; hinges: readonly Hinge[] } | undefined {
  const host = expand(design).parts.find((part) => part.id === joint.hostPartId);
  const zone = design.parts[joint.partId]?.glueZones[joint.zoneId];
  if (!host || !zone) return undefined;
  const plan = panelPlan(host);
  const landed = placeRegion(onHostPlane(design, joint), solid(zone.outline));
  const most = mostUnder(plan, landed);
  const index = most.areaMm2 > 0 ? most.index : panelAt(plan, insidePoint(landed));
  if (index < 0) return undefined;
  return {
    panel: plan.panels[index],
    hinges: plan.hinges.filter(({ left, right }) => left === index || right === index),
  };
}

/** Measures a glued piece on its panel; undefined when it lies on none. */
export function pieceMeasures(design: Design, joint: GlueJoint): PieceMeasures | undefined {
  const under = panelUnder(design, joint);
  const plain = expand(design).parts.find((part) => part.id === joint.partId);
  if (!under || !plain) return undefined;
  const placement = onHostPlane(design, joint);
  const quarter = Math.PI / 2;
  const axes = turn(Math.round(placement.angleRad / quarter) * quarter);
  const back = inverse(axes);
  const inAxes = compose(back, placement);
  const piece = boxOf(panelPlan(plain).panels.flatMap(({ region }) => region.outer.map(placing(inAxes))));
  const panel = boxOf(under.panel.region.outer.map(placing(back)));
  return {
    mm: {
      left: piece.minX - panel.minX,
      right: panel.maxX - piece.maxX,
      low: piece.minY - panel.minY,
      high: panel.maxY - piece.maxY,
    },
    names: sideNames(panel, under.hinges, back),
    piece,
    panel,
    axes,
  };
}

/** The joint with its piece moved by so much in the axes of its measures, mm. */
export const movedInAxes = (
  design: Design,
  joint: GlueJoint,
  { axes }: PieceMeasures,
  by: Point,
): GlueJoint => movedOnHost(design, joint, place({ ...axes, dx: 0, dy: 0 }, by));

/** The joint with its piece so far from a side of its panel, mm. */
export function atDistance(
  design: Design,
  joint: GlueJoint,
  measures: PieceMeasures,
  side: PanelSide,
  mm: number,
): GlueJoint {
  const by = mm - measures.mm[side];
  const moves: Readonly<Record<PanelSide, Point>> = {
    left: [by, 0],
    right: [-by, 0],
    low: [0, by],
    high: [0, -by],
  };
  return movedInAxes(design, joint, measures, moves[side]);
}

/** The joint with its piece in the middle of its panel, across or upwards. */
export const centred = (
  design: Design,
  joint: GlueJoint,
  measures: PieceMeasures,
  way: 'across' | 'up',
): GlueJoint => {
  const [a, b] = way === 'across' ? (['left', 'right'] as const) : (['low', 'high'] as const);
  return atDistance(design, joint, measures, a, (measures.mm[a] + measures.mm[b]) / 2);
};
