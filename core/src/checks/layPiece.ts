/**
 * Laying a piece: on the panel that is pressed, upright for the reader, inside the free area, at its largest legal size, held
 * by what of it lies on the panel.
 */
import { applyCommand, type Command } from '../design/commands.ts';
import { gluesOf, type Design, type DraftedPart, type GlueJoint } from '../design/design.ts';
import { freshId } from '../design/ids.ts';
import { panelPlan } from '../dieline/panels.ts';
import { isCut, type DieLine, type GlueZone } from '../dieline/part.ts';
import { compose, inverse, turn, type Isometry } from '../geometry/isometry.ts';
import { boxOf, endOf, flatten, scalePath, type Path } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import {
  coarsened,
  insidePoint,
  insideRegion,
  placeRegion,
  largestRegion,
  tidyRing,
  type Region,
} from '../geometry/polygon.ts';
import { difference, intersection, offset, solid } from '../geometry/regions.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import { expand } from '../mechanisms/expand.ts';
import { decorateMap } from '../motion/decorate.ts';
import { linkageOf } from '../motion/linkage.ts';
import { pointAt } from '../motion/pose.ts';
import { sweep, type Sweep } from '../motion/sweep.ts';
import { catching } from './catching.ts';
import { closedOverhang } from './closedOverhang.ts';
import { checkContext } from './context.ts';
import { largestScale } from './pieceScale.ts';

/** A piece that was laid: the edit that does it, what it is called, and at which share of its drawn size. */
export interface Laid {
  readonly command: Command;
  readonly partId: string;
  readonly scale: number;
}

/** Why a piece cannot be laid there, in words. */
export interface NotLaid {
  readonly refused: string;
}

/** A piece is larger than the panel's longer side by at most this share when it arrives. */
const MOST_OF_PANEL = 1.2;
/** Places across and along a panel at which a piece is tried. */
const TRIED = [0.5, 0.3, 0.7];
/** The glue keeps so far from the edges of the piece and of the panel, mm. */
const GLUE_INSET_MM = 0.5;

/** The panel of a part, as an index into the linkage's panels, with the frame that things on it are anchored in. */
function panelIn(design: Design, motion: Sweep, partId: string, panelId: string) {
  const index = motion.linkage.panels.findIndex((panel) => panel.part.id === partId && panel.id === panelId);
  return index < 0
    ? null
    : { index, panel: motion.linkage.panels[index], frame: expand(design).panelFrames[partId]?.[panelId] };
}

/** The direction on a panel that points up for the reader when the design lies open: radians from x in the part's plane. */
export function upright(motion: Sweep, index: number): number {
  const panel = motion.linkage.panels[index];
  const at = insidePoint(panel.region);
  // Standing up it is the height that counts, lying flat the way to the upper edge.
  for (const deg of [180, 90]) {
    const here = pointAt(motion, panel, at, deg);
    const [x, y] = (
      [
        [1, 0],
        [0, 1],
      ] as Point[]
    ).map(([dx, dy]) => {
      const there = pointAt(motion, panel, [at[0] + dx, at[1] + dy], deg);
      return deg === 180 ? there[1] - here[1] : there[2] - here[2];
    });
    if (Math.hypot(x, y) > 0.5) return Math.atan2(y, x);
  }
  return Math.PI / 2;
}

/** A zone has at most so many corners. */
const MOST_CORNERS = 400;

/** A ring with no more corners than a zone may have: coarser by as little as that takes, and never by what the glue keeps off the edges. */
function thinned(ring: readonly Point[]): readonly Point[] {
  let coarse = ring;
  for (
    let toleranceMm = 0.005;
    coarse.length > MOST_CORNERS && toleranceMm < GLUE_INSET_MM;
    toleranceMm *= 1.6
  )
    coarse = coarsened(ring, toleranceMm);
  return coarse;
}

/** What of a piece lies on a panel, drawn in a little: where it is glued, in the piece's own plane. */
export function zoneUnder(
  piece: readonly Region[],
  placement: Isometry,
  panel: Region,
): readonly Point[] | undefined {
  const on = offset(
    intersection(
      piece.map((region) => placeRegion(placement, region)),
      [panel],
    ),
    -GLUE_INSET_MM,
  );
  if (on.length === 0) return undefined;
  const whole = largestRegion(on);
  // Glue has one outline: where there is a window, it is left open upwards.
  const top = boxOf(whole.outer).maxY + 1;
  const open = whole.holes.map((hole): Region => {
    const { minX, maxX, minY } = boxOf(hole);
    return solid([
      [minX, minY],
      [maxX, minY],
      [maxX, top],
      [minX, top],
    ]);
  });
  const parts = open.length > 0 ? difference([whole], open) : [whole];
  if (parts.length === 0) return undefined;
  return thinned(tidyRing(placeRegion(inverse(placement), largestRegion(parts)).outer, 1e-4));
}

/** The outline of a drafted part as it stands: what a copy of it as a piece is made of. */
const outlinesOf = (paths: readonly Path[]): Region[] =>
  paths.map((path) => solid([...flatten(path)].slice(0, -1)));

/** The paper of a piece: its outline, the first of its lines, less the windows that are cut in it. */
function windowed(lines: readonly DieLine[]): Region[] {
  const [outline, ...rest] = lines;
  const [region] = outlinesOf([outline.path]);
  const windows = rest.filter(
    (line) => isCut(line) && distance(line.path.start, endOf(line.path)) <= SNAP_MM,
  );
  return windows.length === 0 ? [region] : difference([region], outlinesOf(windows.map(({ path }) => path)));
}

/** A drafted part from an outline, with the zone by which it is glued. */
const pieceFrom = (
  id: string,
  name: string,
  stockId: string,
  lines: DraftedPart['lines'],
  zone: GlueZone,
): DraftedPart => ({
  id,
  name,
  stockId,
  grainRad: null,
  quantity: 1,
  lines,
  glueZones: { [zone.id]: zone },
  marks: {},
});

/**
 * Lays a piece on a panel.
 *
 * @param drawn the piece's lines, its outline first, upright about the origin
 * @returns the edit, or why there is no room
 */
export function layPiece(
  design: Design,
  partId: string,
  panelId: string,
  {
    name,
    stockId,
    lines,
  }: { readonly name: string; readonly stockId: string; readonly lines: DraftedPart['lines'] },
): Laid | NotLaid {
  const motion = sweep(linkageOf(expand(design)));
  const found = panelIn(design, motion, partId, panelId);
  if (!found) return { refused: 'That panel is not there any more: choose another one.' };
  const { index, panel, frame } = found;
  const map = decorateMap(motion, index, design.settings.reachMarginMm);
  // Where something is glued already, nothing else can be.
  const taken = motion.linkage.glued
    .filter(({ host, onHostFront }) => host === index && onHostFront)
    .map(({ zone, placement }) => placeRegion(placement, solid(zone)));
  const free = taken.length > 0 ? difference(map.free, taken) : map.free;
  const paths = Object.values(lines).map((line) => line.path);
  const outline = outlinesOf(paths.slice(0, 1));
  const size = boxOf(outline[0].outer);
  const room = boxOf(panel.region.outer);
  const most =
    (MOST_OF_PANEL * Math.max(room.maxX - room.minX, room.maxY - room.minY)) /
    Math.max(size.maxX - size.minX, size.maxY - size.minY);
  const angle = upright(motion, index) - Math.PI / 2;
  let best: { scale: number; at: Isometry } | undefined;
  for (const u of TRIED)
    for (const v of TRIED) {
      const at: Point = [room.minX + u * (room.maxX - room.minX), room.minY + v * (room.maxY - room.minY)];
      if (!insideRegion(at, panel.region)) continue;
      const placement = turn(angle, ...at);
      const scale = largestScale(
        free,
        outline.map((region) => placeRegion(placement, region)),
        at,
        most,
      );
      if (scale && (!best || scale > best.scale * 1.02)) best = { scale, at: placement };
    }
  if (!best)
    return {
      refused: `There is no room for a piece on ${panel.part.name}: it would catch or poke out at any size.`,
    };
  const placement = best.at;
  const made = (scale: number): Laid | undefined => {
    const scaled = Object.fromEntries(
      Object.entries(lines).map(([id, line]) => [id, { ...line, path: scalePath(line.path, [0, 0], scale) }]),
    );
    const regions = windowed(Object.values(scaled));
    const ring = zoneUnder(regions, placement, panel.region);
    if (!ring) return undefined;
    const id = freshId('p', design.parts);
    const zone: GlueZone = { id: 'z1', outline: ring, face: 'back', kind: 'glue' };
    const joint = jointOf(freshId('j', design.joints), id, panel.part.id, panelId, frame, placement);
    return {
      partId: id,
      scale,
      command: {
        do: 'all',
        commands: [
          { do: 'put', in: 'parts', id, value: pieceFrom(id, name, stockId, scaled, zone) as never },
          { do: 'put', in: 'joints', id: joint.id, value: joint },
        ],
      },
    };
  };
  const before = new Set(catchesIn(design));
  const isFree = ({ command }: Laid): boolean =>
    catchesIn(applyCommand(design, command).design).every((key) => before.has(key));
  // The free area is sampled: the last word is the motion's with the piece in it.
  for (let scale = Math.floor(best.scale * 100) / 100; scale >= 0.1; scale = Math.floor(scale * 90) / 100) {
    const laid = made(scale);
    if (!laid) break;
    if (isFree(laid)) return laid;
  }
  return {
    refused: `There is no room for a piece on ${panel.part.name}: it would catch or be held by nothing.`,
  };
}

/** What catches, and what pokes out of the closed card, by key. */
function catchesIn(design: Design): string[] {
  const context = checkContext(design);
  return [catching, closedOverhang].flatMap((rule) => rule.run(context).map(({ key }) => key));
}

/** Glue of a piece at a placement in its host's plane: anchored to the panel where it has a frame. */
export const jointOf = (
  id: string,
  partId: string,
  hostPartId: string,
  panelId: string,
  frame: Isometry | undefined,
  placement: Isometry,
): GlueJoint => ({
  id,
  kind: 'glue',
  partId,
  zoneId: 'z1',
  hostPartId,
  mate: null,
  as: 'piece',
  ...(frame ? { onPanel: panelId, placement: compose(inverse(frame), placement) } : { placement }),
});

/** By which end a piece is glued. */
export type GluedBy = 'all' | 'low' | 'high' | 'left' | 'right';

/**
 * The zone of a glued piece made anew for where it lies: all of what is on the panel, or a band along one end of that, as
 * seen on the piece.
 *
 * @param bandMm how wide the band is; nothing smaller than what lies there
 * @returns undefined when nothing of the piece lies on a panel
 */
export function gluedBy(
  design: Design,
  jointId: string,
  by: GluedBy,
  bandMm: number,
): readonly Point[] | undefined {
  const expanded = expand(design);
  const joint = gluesOf(expanded.joints).find((glue) => glue.id === jointId);
  const [plain, host] = [joint?.partId, joint?.hostPartId].map((id) =>
    expanded.parts.find((p) => p.id === id),
  );
  if (!joint || !plain || !host) return undefined;
  const piece = panelPlan(plain).panels.map((panel) => panel.region);
  const zones = panelPlan(host).panels.flatMap((panel): Region[] => {
    const ring = zoneUnder(piece, joint.placement, panel.region);
    return ring ? [solid(ring)] : [];
  });
  if (zones.length === 0) return undefined;
  const all = largestRegion(zones);
  if (by === 'all') return all.outer;
  const { minX, minY, maxX, maxY } = boxOf(all.outer);
  const cut = {
    low: [minX, minY, maxX, Math.min(maxY, minY + bandMm)],
    high: [minX, Math.max(minY, maxY - bandMm), maxX, maxY],
    left: [minX, minY, Math.min(maxX, minX + bandMm), maxY],
    right: [Math.max(minX, maxX - bandMm), minY, maxX, maxY],
  }[by];
  const band = solid([
    [cut[0], cut[1]],
    [cut[2], cut[1]],
    [cut[2], cut[3]],
    [cut[0], cut[3]],
  ]);
  const kept = intersection([all], [band]);
  if (kept.length === 0) return undefined;
  return tidyRing(largestRegion(kept).outer, 1e-4);
}
