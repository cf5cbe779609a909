/** A drafted piece that catches or pokes out, made smaller until it stays inside the free area of the panel it is glued to. */
import { applyCommand } from '../design/commands.ts';
import { gluesOf, type Design, type DraftedPart } from '../design/design.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { place, type Isometry } from '../geometry/isometry.ts';
import { scalePath } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insidePoint, placeRegion, areaOfRegions, type Region } from '../geometry/polygon.ts';
import { difference } from '../geometry/regions.ts';
import { movedOnHost, onHostPlane } from '../mechanisms/anchored.ts';
import { expand } from '../mechanisms/expand.ts';
import { decorateMap } from '../motion/decorate.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import { mm, type Mend } from './finding.ts';
import { snapInside } from './pieceSnap.ts';

const about = (centre: Point, scale: number, [x, y]: Point): Point => [
  centre[0] + scale * (x - centre[0]),
  centre[1] + scale * (y - centre[1]),
];

/**
 * The largest scale (at most `most`, 1 unless said) at which regions shrunk about a point lie inside the free area, to a thousandth; undefined
 * when even a tenth is too large. Regions that are star-shaped about the point shrink into themselves, so bisection finds it.
 */
export function largestScale(
  free: readonly Region[],
  regions: readonly Region[],
  centre: Point,
  most = 1,
): number | undefined {
  const inside = (scale: number) => {
    const small = regions.map((region) => ({
      outer: region.outer.map((p) => about(centre, scale, p)),
      holes: [],
    }));
    return areaOfRegions(difference(small, free)) < 0.01;
  };
  if (inside(most)) return most;
  if (!inside(0.1)) return undefined;
  let [good, bad] = [0.1, most];
  while (bad - good > 0.001) {
    const middle = (good + bad) / 2;
    if (inside(middle)) good = middle;
    else bad = middle;
  }
  return good;
}

/** A drafted part with everything on it scaled about a point. */
export function scaledPart(part: DraftedPart, centre: Point, scale: number): DraftedPart {
  return {
    ...part,
    lines: Object.fromEntries(
      Object.entries(part.lines).map(([id, line]) => [
        id,
        { ...line, path: scalePath(line.path, centre, scale) },
      ]),
    ),
    glueZones: Object.fromEntries(
      Object.entries(part.glueZones).map(([id, zone]) => [
        id,
        { ...zone, outline: zone.outline.map((p) => about(centre, scale, p)) },
      ]),
    ),
  } as DraftedPart;
}

/** Where a glued piece may lie on its panel. */
export interface PieceRoom {
  /** The free area of the panel without the piece, in the host's plane. */
  readonly free: readonly Region[];
  /** The middle of its glue zone, in its own plane. */
  readonly centre: Point;
}

/** Pieces are enlarged so much at most. */
const MOST_SCALE = 4;

/**
 * The room that a drafted piece has on the panel it is glued to, computed without the piece.
 *
 * @param marginMm kept inside the card's open edges
 * @returns null when the joint is not glue of a drafted part onto a panel
 */
export function pieceRoom(design: Design, jointId: string, marginMm: number): PieceRoom | null {
  const joint = design.joints[jointId];
  if (!joint || joint.kind !== 'glue') return null;
  const zone = design.parts[joint.partId]?.glueZones[joint.zoneId];
  const expanded = expand(design);
  const plain = expanded.parts.find((p) => p.id === joint.partId);
  const host = expanded.parts.find((p) => p.id === joint.hostPartId);
  if (!zone || !plain || !host) return null;
  const centre = insidePoint({ outer: zone.outline, holes: [] });
  const onHost = place(onHostPlane(design, joint), centre);
  const without = applyCommand(design, { do: 'put', in: 'joints', id: joint.id, value: null }).design;
  const motion = sweep(linkageOf(expand(without)));
  const hostPanel = panelAt(panelPlan(host), onHost);
  const index = motion.linkage.panels.findIndex(
    (panel) => panel.part.id === host.id && panel.panel === hostPanel,
  );
  if (index < 0) return null;
  const { free } = decorateMap(motion, index, marginMm);
  return { free, centre };
}

/**
 * The largest legal scale of a piece about the middle of its glue zone, where it is glued now: up to four times, null when
 * none is legal.
 */
export function scaleInRoom(room: PieceRoom, part: Part, placement: Isometry): number | null {
  const piece = panelPlan(part).panels.map((panel) => placeRegion(placement, panel.region));
  return largestScale(room.free, piece, place(placement, room.centre), MOST_SCALE) ?? null;
}

/** Whole percents, rounded to the legal side, can be read and typed. */
export const wholePercent = (scale: number): number => Math.floor(scale * 100) / 100;

/** A drafted piece that is glued in one place, with its joint and the room that it has there; null when it is not. */
function gluedPiece(design: Design, partId: string) {
  const part = design.parts[partId];
  const joints = gluesOf(Object.values(design.joints)).filter((joint) => joint.partId === partId);
  const plain = expand(design).parts.find((p) => p.id === partId);
  if (!part || !plain || joints.length !== 1) return null;
  const [joint] = joints;
  const room = pieceRoom(design, joint.id, 0);
  return room && { part, plain, joint, room };
}

/** A piece that leaves the free area of its panel is moved back by this much at most, mm; else it is made smaller. */
const MOST_MOVE_MM = 25;

/** The smallest shift of a glued piece back into the free area of its panel, as a mend; null when there is none near by. */
export function pieceMoveMend(design: Design, partId: string): Mend | null {
  const piece = gluedPiece(design, partId);
  if (!piece) return null;
  const { part, plain, joint, room } = piece;
  const placement = onHostPlane(design, joint);
  const regions = panelPlan(plain).panels.map((panel) => placeRegion(placement, panel.region));
  const by = snapInside(room.free, regions, MOST_MOVE_MM);
  if (!by || Math.hypot(...by) < 1e-6) return null;
  const value = movedOnHost(design, joint, by);
  return {
    label: `Move ${part.name} ${mm(Math.hypot(...by))} into the free area`,
    command: { do: 'put', in: 'joints', id: joint.id, value },
  };
}

/** The largest scale of a glued piece that stays legal, as a mend; null when it is not glued to exactly one panel, or none fits. */
export function pieceScaleMend(design: Design, partId: string): Mend | null {
  const piece = gluedPiece(design, partId);
  if (!piece) return null;
  const { part, plain, joint, room } = piece;
  const largest = scaleInRoom(room, plain, onHostPlane(design, joint));
  if (!largest || largest >= 1) return null;
  const scale = wholePercent(largest);
  return {
    label: `Make ${part.name} ${Math.round(scale * 100)} % of its size`,
    command: { do: 'put', in: 'parts', id: partId, value: scaledPart(part, room.centre, scale) },
  };
}
