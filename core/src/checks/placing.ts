/**
 * Placing a glued piece by what lies round it: its panel's sides and middle, its neighbours on the panel, the middles between
 * them, and guides. A place is one reference across and one upwards, each with a distance.
 */
import { gluesOf, type Design, type GlueJoint } from '../design/design.ts';
import { panelPlan, type Panel } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { isClosedPath } from '../geometry/curve.ts';
import { inverse, place, placing, turn, type Isometry } from '../geometry/isometry.ts';
import { boxCentre, boxOf, boxOfPaths, type Box, type Path } from '../geometry/path.ts';
import { insideRegion, insideRing } from '../geometry/polygon.ts';
import { expand } from '../mechanisms/expand.ts';
import { movedInAxes, panelUnder, pieceMeasures, sideNames, type PieceMeasures } from './pieceMeasures.ts';
import {
  referencesAlong,
  SPANS,
  type Held,
  type Neighbour,
  type Reference,
  type References,
  type Way,
} from './references.ts';

export interface Surroundings extends References {
  readonly measures: PieceMeasures;
}

/** What else is glued to a panel of a part; `back` carries its plane into the axes of the boxes. */
function neighboursOf(
  design: Design,
  hostPartId: string,
  exceptPartId: string | null,
  { region }: Pick<Panel, 'region'>,
  back: Isometry,
): Neighbour[] {
  const expanded = expand(design);
  const seen = new Set<string>();
  return gluesOf(expanded.joints).flatMap((other): Neighbour[] => {
    const { id, partId, placement } = other;
    if (other.hostPartId !== hostPartId || partId === exceptPartId || partId === hostPartId) return [];
    const part = expanded.parts.find((each) => each.id === partId);
    if (!part) return [];
    const zone = part.glueZones.find((each) => each.id === other.zoneId);
    const { panels } = panelPlan(part);
    // Of a folded part only what lies on the panel is beside the piece: of each tab its zone; a piece is one thing, however it is glued.
    const isPiece = panels.length === 1;
    const outline = isPiece ? panels[0].region.outer : zone?.outline;
    if (!outline || (isPiece && seen.has(partId))) return [];
    const onHost = outline.map(placing(placement));
    if (!insideRegion(boxCentre(boxOf(onHost)), region)) return [];
    seen.add(partId);
    return [{ id: isPiece ? partId : id, name: part.name, box: boxOf(onHost.map(placing(back))) }];
  });
}

/** What is glued beside a piece, on the same panel. */
function besidePiece(design: Design, joint: GlueJoint, back: Isometry): Neighbour[] {
  const under = panelUnder(design, joint);
  return under ? neighboursOf(design, joint.hostPartId, joint.partId, under.panel, back) : [];
}

/**
 * What a glued piece can be placed by; undefined when it lies on no panel.
 *
 * @param guides upright and level lines in the plane of its host
 */
export function surroundings(
  design: Design,
  joint: GlueJoint,
  guides: readonly { readonly id: string; readonly axis: 'x' | 'y'; readonly atMm: number }[] = [],
): Surroundings | undefined {
  const measures = pieceMeasures(design, joint);
  if (!measures) return undefined;
  const back = inverse(measures.axes);
  const neighbours = besidePiece(design, joint, back);
  // A guide of the host, in the piece's axes: those are turned by quarters at most.
  const inAxes = guides.map(({ id, axis, atMm }) => {
    const [a, b] = ([-1, 1] as const).map((t) => place(back, axis === 'x' ? [atMm, t] : [t, atMm]));
    const level = Math.abs(a[0] - b[0]) < Math.abs(a[1] - b[1]);
    return { id, way: (level ? 'across' : 'up') as Way, at: level ? a[0] : a[1] };
  });
  const along = (way: Way) =>
    referencesAlong(
      way,
      measures,
      neighbours,
      inAxes.filter((guide) => guide.way === way),
    );
  return { measures, across: along('across'), up: along('up') };
}

/**
 * What lines of a part can be placed by: the sides and the middle of the panel that they lie in, other closed lines in it, what is
 * glued to it, and guides. Without a panel round them (an outline by itself) all other closed lines and guides are left.
 *
 * @param lineIds the lines that are placed together
 * @param guides upright and level lines in the part's plane
 */
export function lineSurroundings(
  design: Design,
  partId: string,
  lineIds: readonly string[],
  guides: Parameters<typeof surroundings>[2] = [],
): (References & { readonly measures: Measured }) | undefined {
  const part = expand(design).parts.find(({ id }) => id === partId);
  const own = part?.lines.filter(({ id }) => lineIds.includes(id)) ?? [];
  if (!part || own.length === 0) return undefined;
  const piece = boxOfPaths(own.map(({ path }) => path));
  const others: Part = { ...part, lines: part.lines.filter(({ id }) => !lineIds.includes(id)) };
  const plan = panelPlan(others);
  const middle = boxCentre(piece);
  const within = plan.panels
    .map((panel, index) => ({ panel, index }))
    .filter(({ panel }) => insideRing(middle, panel.region.outer))
    .sort((a, b) => a.panel.areaMm2 - b.panel.areaMm2)[0];
  const lines = others.lines.flatMap(({ id, path, fold, role }): Neighbour[] => {
    if (fold || role || !isClosedPath(path)) return [];
    const box = boxOfPaths([path]);
    if (within && (plan.outlineLineIds.has(id) || !insideRing(boxCentre(box), within.panel.region.outer)))
      return [];
    return [{ id: `line:${id}`, name: lineName(path, box), box }];
  });
  const glued = within
    ? neighboursOf(design, partId, null, { region: { ...within.panel.region, holes: [] } }, UNTURNED)
    : [];
  const panel = within && boxOf(within.panel.region.outer);
  const hinges = plan.hinges.filter(({ left, right }) => left === within?.index || right === within?.index);
  const along = (way: Way) =>
    referencesAlong(
      way,
      panel && { panel, names: sideNames(panel, hinges, UNTURNED) },
      [...glued, ...lines],
      guides
        .filter(({ axis }) => axis === (way === 'across' ? 'x' : 'y'))
        .map(({ id, atMm }) => ({ id, at: atMm })),
    );
  return { measures: { piece }, across: along('across'), up: along('up') };
}

/** A closed line in words, by its size. */
const lineName = (path: Path, { minX, maxX, minY, maxY }: Box): string => {
  const what =
    path.segments.every(({ kind }) => kind === 'arc') && path.segments.length === 2 ? 'circle' : 'shape';
  const mm = (value: number) => Math.round(value * 10) / 10;
  return `the ${what} of ${mm(maxX - minX)} mm × ${mm(maxY - minY)} mm`;
};

const UNTURNED = turn(0);

/** What distances are counted from: the box of what is placed. */
export type Measured = Pick<PieceMeasures, 'piece'>;

/** Where the held side or middle of a piece is along a way. */
const heldAt = ({ piece }: Measured, way: Way, held: Held): number => {
  const [low, high] = [piece[SPANS[way].low], piece[SPANS[way].high]];
  return held === 'min' ? low : held === 'max' ? high : (low + high) / 2;
};

/** How far a piece is from a reference now, mm. */
export const distanceTo = (measures: Measured, way: Way, { held, at, sign }: Reference): number =>
  sign * (heldAt(measures, way, held) - at);

/** The joint with its piece so far from a reference, along one way. */
export function atReference(
  design: Design,
  joint: GlueJoint,
  measures: PieceMeasures,
  way: Way,
  reference: Reference,
  mm: number,
): GlueJoint {
  const by = reference.sign * (mm - distanceTo(measures, way, reference));
  return movedInAxes(design, joint, measures, way === 'across' ? [by, 0] : [0, by]);
}

/** Where a dragged piece was drawn to. */
export interface Snapped {
  readonly joint: GlueJoint;
  /** What it was drawn to, in words; none where it was only rounded to the grid. */
  readonly words: readonly string[];
}

/**
 * Draws a piece to what lies round it: the middle first, then middles between neighbours, sides and what lies in line with
 * them; else to a grid of distances from its fold (or left edge) and lower edge.
 *
 * @param nearMm how near it must be
 * @param gridMm the grid in the person's unit
 */
export function snappedPiece(
  design: Design,
  joint: GlueJoint,
  nearMm: number,
  gridMm: number,
  guides: Parameters<typeof surroundings>[2] = [],
): Snapped {
  const around = surroundings(design, joint, guides);
  if (!around) return { joint, words: [] };
  const { measures } = around;
  const words: string[] = [];
  const shift = (['across', 'up'] as const).map((way) => {
    const off = (reference: Reference) => Math.abs(distanceTo(measures, way, reference));
    const near = around[way].filter((reference) => off(reference) < nearMm);
    if (near.length > 0) {
      const rank = ({ id }: Reference) => (id === 'middle' ? 0 : id.startsWith('between') ? 1 : 2);
      const best = near.reduce((a, b) => ((rank(b) - rank(a) || off(b) - off(a)) < 0 ? b : a));
      words.push(best.snap);
      return -best.sign * distanceTo(measures, way, best);
    }
    const [low, high] = SPANS[way].sides;
    const { names, mm } = measures;
    const side = names[high] === 'fold' && names[low] !== 'fold' ? high : low;
    return (side === low ? 1 : -1) * (Math.round(mm[side] / gridMm) * gridMm - mm[side]);
  });
  return { joint: movedInAxes(design, joint, measures, [shift[0], shift[1]]), words };
}

/** Distances to what is nearest round a piece along each way: to a neighbour that lies beside it, or to the panel's side. */
export interface NearestGaps {
  readonly mm: Readonly<Record<'left' | 'right' | 'low' | 'high', number>>;
  /** Where each gap ends, in the axes of the measures. */
  readonly to: Readonly<Record<'left' | 'right' | 'low' | 'high', number>>;
}

/** The gaps between a piece and what lies beside it at its own height, or above and below it at its own width. */
export function nearestGaps(design: Design, joint: GlueJoint, measures: PieceMeasures): NearestGaps {
  const { piece, panel } = measures;
  const neighbours = besidePiece(design, joint, inverse(measures.axes)).map(({ box }) => box);
  const beside = neighbours.filter((box) => box.minY < piece.maxY && box.maxY > piece.minY);
  const over = neighbours.filter((box) => box.minX < piece.maxX && box.maxX > piece.minX);
  const to = {
    left: Math.max(panel.minX, ...beside.map(({ maxX }) => maxX).filter((x) => x <= piece.minX)),
    right: Math.min(panel.maxX, ...beside.map(({ minX }) => minX).filter((x) => x >= piece.maxX)),
    low: Math.max(panel.minY, ...over.map(({ maxY }) => maxY).filter((y) => y <= piece.minY)),
    high: Math.min(panel.maxY, ...over.map(({ minY }) => minY).filter((y) => y >= piece.maxY)),
  };
  return {
    to,
    mm: {
      left: piece.minX - to.left,
      right: to.right - piece.maxX,
      low: piece.minY - to.low,
      high: to.high - piece.maxY,
    },
  };
}
