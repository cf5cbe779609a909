/** Shapes of the drawing tools and places that they are drawn to: loaded when a tool is taken up. */
import {
  arcThrough,
  ellipse,
  regularPolygon,
  roundedRectangle,
  scallopedRectangle,
  star,
} from '@hollow-finch/core/drafting/shapes';
import { parallelFrom, snapNear, type Snap } from '@hollow-finch/core/drafting/snaps';
import type { Part } from '@hollow-finch/core/dieline/part';
import type { Path } from '@hollow-finch/core/geometry/path';
import { add, distance, scale, subtract, type Point } from '@hollow-finch/core/geometry/point';
import { drawnPath, LEAST_MM, snapped, type Pointed, type Shaped } from './drawGesture.ts';
import { partBox } from '../layout.ts';
import { cornered } from './pointsGesture.ts';

export { shapedAt } from '../shaping.ts';

/** What shapes are asked for beside their places. */
export interface ShapeSettings {
  /** Of a rectangle's corners, mm. */
  readonly radiusMm: number;
  readonly sides: number;
  readonly points: number;
  /** How far out a star's inner corners are, as a share of its tips. */
  readonly innerShare: number;
  /** How wide the bows of a scalloped outline are about, mm. */
  readonly bowMm: number;
  /** How wide bridges are that are drawn across a cut. */
  readonly bridgeMm: number;
}

export const USUAL_SETTINGS: ShapeSettings = {
  radiusMm: 0,
  sides: 6,
  points: 5,
  innerShare: 0.5,
  bowMm: 10,
  bridgeMm: 2,
};

/** The path of a drag from one place to another; undefined while it is too small to mean anything. */
export function shapePath(
  tool: Shaped,
  { from, to }: { readonly from: Point; readonly to: Point },
  settings: ShapeSettings,
): Path | undefined {
  const far = distance(from, to);
  if (far < LEAST_MM) return undefined;
  const low: Point = [Math.min(from[0], to[0]), Math.min(from[1], to[1])];
  const [w, h] = [Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])];
  const angle = Math.atan2(to[1] - from[1], to[0] - from[0]);
  const flat = w < LEAST_MM || h < LEAST_MM;
  switch (tool) {
    case 'curve': {
      // A curve begins as a gentle bow, to be drawn by its handles.
      const way = subtract(to, from);
      const aside: Point = [-0.25 * way[1], 0.25 * way[0]];
      return {
        start: from,
        segments: [
          {
            kind: 'cubic',
            c1: add(add(from, scale(way, 1 / 3)), aside),
            c2: add(add(from, scale(way, 2 / 3)), aside),
            to,
          },
        ],
      };
    }
    case 'rectangle':
      return flat ? undefined : roundedRectangle(low, w, h, settings.radiusMm);
    case 'ellipse':
      return flat ? undefined : ellipse([low[0] + w / 2, low[1] + h / 2], w / 2, h / 2);
    case 'polygon':
      return regularPolygon(from, far, settings.sides, angle);
    case 'star':
      return star(from, far, settings.innerShare * far, settings.points, angle);
    case 'scallop':
      return flat ? undefined : scallopedRectangle(low, w, h, settings.bowMm);
    default:
      return drawnPath({ from, to }, tool);
  }
}

/** The path of the places taken so far and where the hand is. */
export function pointsPath(tool: Pointed, placed: readonly Point[], to: Point): Path | undefined {
  if (tool === 'polyline') return cornered([...placed, to]);
  if (placed.length < 2) return cornered([...placed, to]);
  const [from, end] = placed;
  const through = placed[2] ?? to;
  return arcThrough(from, through, end);
}

/**
 * The place that a hand means, and what it is: a place of a line, a guide, on a way parallel to another, else the nearest whole
 * step of the grid.
 *
 * @param from where the line began
 * @param beside other parts, from whose planes `offset` leads to the one that is drawn in
 */
export function meantPlace(
  at: Point,
  paths: readonly Path[],
  reachMm: number,
  guides: readonly { readonly axis: 'x' | 'y'; readonly atMm: number }[],
  from: Point | undefined,
  beside: readonly { readonly part: Part; readonly offset: Point }[] = [],
): Snap {
  const near = snapNear(at, paths, reachMm, from);
  if (near) return near;
  for (const { part, offset } of beside) {
    const own = subtract(at, offset);
    const { minX, maxX, minY, maxY } = partBox(part);
    if (own[0] < minX - reachMm || own[0] > maxX + reachMm) continue;
    if (own[1] < minY - reachMm || own[1] > maxY + reachMm) continue;
    const there = snapNear(
      own,
      part.lines.map(({ path }) => path),
      reachMm,
    );
    if (there) return { ...there, at: add(there.at, offset), of: part.name };
  }
  const onGrid = snapped(at, [], reachMm, guides);
  if (guides.some(({ axis, atMm }) => onGrid[axis === 'x' ? 0 : 1] === atMm))
    return { at: onGrid, kind: 'guide' };
  const along = from && parallelFrom(at, paths, from, reachMm / 2);
  return along ?? { at: onGrid, kind: 'grid' };
}
