/**
 * How thick the closed card is where: paper summed over the layers at each place, dried adhesive and pads under glue, brads round
 * pivots.
 *
 * The thickest place is found exactly. Thickness is constant in each cell into which the outlines of all layers divide the
 * plane, and every cell has a corner that is a corner of an outline or a crossing of two of them. So those are looked at, a
 * hair to each of eight sides, the ones that could be thickest first.
 */
import { stockOf } from '../dieline/part.ts';
import { indexBoxes } from '../geometry/boxIndex.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import { place, type Isometry } from '../geometry/isometry.ts';
import { cross, subtract, type Point } from '../geometry/point.ts';
import {
  allRings,
  counterClockwise,
  insideRegion,
  levelCrossings,
  type Region,
  type Ring,
} from '../geometry/polygon.ts';
import { solid } from '../geometry/regions.ts';
import { move, RIGID_SIZE } from '../geometry/rigid.ts';
import { ADHESIVE_MM, BRAD } from '../stock/stock.ts';
import type { Brad } from '../stock/store.ts';
import type { PanelRef } from './panelRef.ts';
import { pointAt } from './pose.ts';
import type { Sweep } from './swept.ts';

/** Cells of the bulk map along each side of the closed card's box. */
export const BULK_GRID = 40;
/** A place is looked at so far beside a corner, mm. */
const BESIDE_MM = 0.004;
const SIDES = Array.from({ length: 8 }, (_, k): Point => {
  const angle = (Math.PI / 4) * k + Math.PI / 8;
  return [BESIDE_MM * Math.cos(angle), BESIDE_MM * Math.sin(angle)];
});

/** A panel as it lies in the closed card, in the card's plane. */
export interface ClosedPanel {
  readonly panel: PanelRef;
  readonly region: Region;
  readonly isCover: boolean;
}

export interface Bulk {
  /** The thickest place: paper, adhesive and brads summed over the layers there, and where it is. */
  readonly bulkMm: number;
  readonly bulkAt: Point;
  /** Thickness over a grid of BULK_GRID x BULK_GRID cells of the box, row by row from its low left corner, in mm. */
  readonly bulkMap: Float32Array;
}

/** Something of one thickness that lies in the closed card. */
interface Layer {
  readonly region: Region;
  readonly box: Box;
  readonly mm: number;
}

const layerOf = (region: Region, mm: number): Layer => ({ region, box: boxOf(region.outer), mm });

const disc = ([x, y]: Point, radius: number): Ring =>
  Array.from({ length: 24 }, (_, i): Point => {
    const angle = (2 * Math.PI * i) / 24;
    return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
  });

/** Where the pivots' brads are in the closed card. */
const bradsOf = (sweep: Sweep, toCard: Isometry): { readonly at: Point; readonly brad: Brad }[] =>
  sweep.linkage.links
    .filter((link) => link.kind === 'pivot')
    .map((link) => {
      const [x, y] = move(sweep.bodies, [link.inLeft[3], link.inLeft[7], 0], link.left * RIGID_SIZE);
      return { at: place(toCard, [x, y]), brad: sweep.linkage.brads[link.jointId ?? ''] ?? BRAD };
    });

/** All layers of the closed card, in its plane. */
function layersOf(sweep: Sweep, closed: readonly ClosedPanel[], toCard: Isometry): Layer[] {
  const layers = closed.flatMap(({ panel, region }): Layer[] => {
    const image = (p: Point): Point => {
      const [x, y] = pointAt(sweep, panel, p, 0);
      return place(toCard, [x, y]);
    };
    const glue = panel.part.glueZones.filter((zone) => zone.kind === 'glue');
    return [
      layerOf(region, stockOf(panel.part).thicknessMm),
      ...glue
        .filter((zone) =>
          zone.outline.some((p) => insideRegion(towardsMiddle(p, zone.outline), panel.region)),
        )
        .map((zone) =>
          layerOf(solid(counterClockwise(zone.outline.map(image))), zone.adhesiveMm ?? ADHESIVE_MM),
        ),
    ];
  });
  const brads = bradsOf(sweep, toCard).map(({ at, brad }) =>
    layerOf(solid(disc(at, brad.radiusMm)), brad.thicknessMm),
  );
  const pads = sweep.linkage.glued.flatMap(({ panel, zone, padMm }): Layer[] => {
    if (padMm === 0 || !closed.some((each) => each.panel === sweep.linkage.panels[panel])) return [];
    const ring = zone.map((p): Point => {
      const [x, y] = pointAt(sweep, sweep.linkage.panels[panel], p, 0);
      return place(toCard, [x, y]);
    });
    return [layerOf(solid(counterClockwise(ring)), padMm)];
  });
  return [...layers, ...brads, ...pads];
}

/** A corner of a ring drawn in a little, so that it lies inside. */
function towardsMiddle(p: Point, ring: Ring): Point {
  const [x, y] = ring.reduce((sum, q) => [sum[0] + q[0] / ring.length, sum[1] + q[1] / ring.length], [0, 0]);
  return [p[0] + 0.1 * (x - p[0]), p[1] + 0.1 * (y - p[1])];
}

/** Corners of all outlines, and where two of them cross. */
function cornersOf(layers: readonly Layer[]): Point[] {
  const edges: { a: Point; b: Point; layer: number }[] = [];
  const corners: Point[] = [];
  layers.forEach(({ region }, layer) => {
    for (const ring of [region.outer, ...region.holes])
      ring.forEach((a, i) => {
        corners.push(a);
        edges.push({ a, b: ring[(i + 1) % ring.length], layer });
      });
  });
  const boxes = edges.map(({ a, b }) => boxOf([a, b]));
  const index = indexBoxes(boxes)!;
  edges.forEach((p, i) => {
    const { minX, minY, maxX, maxY } = boxes[i];
    for (const j of index.search(minX, minY, maxX, maxY)) {
      const q = edges[j];
      if (j <= i || q.layer === p.layer) continue;
      const [r, s] = [subtract(p.b, p.a), subtract(q.b, q.a)];
      const denominator = cross(r, s);
      if (Math.abs(denominator) < 1e-12) continue;
      const t = cross(subtract(q.a, p.a), s) / denominator;
      const u = cross(subtract(q.a, p.a), r) / denominator;
      if (t > 0 && t < 1 && u > 0 && u < 1) corners.push([p.a[0] + t * r[0], p.a[1] + t * r[1]]);
    }
  });
  return corners;
}

/** Adds a layer to the cells of a grid over a box whose middles it covers: row by row, between where its rims cross the row. */
function addLayer({ region, box: own, mm }: Layer, box: Box, map: Float32Array): void {
  const cellX = (box.maxX - box.minX) / BULK_GRID;
  const cellY = (box.maxY - box.minY) / BULK_GRID;
  const first = (v: number, from: number, cell: number) => Math.max(0, Math.ceil((v - from) / cell - 0.5));
  const last = (v: number, from: number, cell: number) =>
    Math.min(BULK_GRID - 1, Math.ceil((v - from) / cell - 0.5) - 1);
  const rings = allRings([region]);
  for (let j = first(own.minY, box.minY, cellY); j <= last(own.maxY, box.minY, cellY); j++) {
    const y = box.minY + (j + 0.5) * cellY;
    const marks = rings.flatMap((ring) => levelCrossings(ring, y)).sort((p, q) => p - q);
    for (let c = 0; c + 1 < marks.length; c += 2)
      for (let i = first(marks[c], box.minX, cellX); i <= last(marks[c + 1], box.minX, cellX); i++)
        map[j * BULK_GRID + i] += mm;
  }
}

/** The thickness of the closed card: over a grid for drawing, and exactly where it is thickest. */
export function bulkOf(sweep: Sweep, closed: readonly ClosedPanel[], toCard: Isometry, box: Box): Bulk {
  const layers = layersOf(sweep, closed, toCard);
  const bulkMap = new Float32Array(BULK_GRID * BULK_GRID);
  if (layers.length === 0) return { bulkMm: 0, bulkAt: [0, 0], bulkMap };
  const index = indexBoxes(layers.map(({ box: own }) => own))!;
  const boxesAt = ([x, y]: Point): Layer[] => index.search(x, y, x, y).map((i) => layers[i]);
  const thicknessAt = (p: Point, among = boxesAt(p)): number =>
    among.reduce((sum, { region, mm }) => (insideRegion(p, region) ? sum + mm : sum), 0);
  for (const layer of layers) addLayer(layer, box, bulkMap);
  // What boxes say is never less than what there is: the most promising corners come first.
  const near = ([x, y]: Point): Layer[] =>
    index.search(x - BESIDE_MM, y - BESIDE_MM, x + BESIDE_MM, y + BESIDE_MM).map((i) => layers[i]);
  const corners = cornersOf(layers)
    .map((at) => {
      const among = near(at);
      return { at, among, most: among.reduce((sum, { mm }) => sum + mm, 0) };
    })
    .sort((p, q) => q.most - p.most);
  let [bulkMm, bulkAt]: [number, Point] = [0, [0, 0]];
  for (const { at, among, most } of corners) {
    if (most <= bulkMm + 1e-9) break;
    for (const [dx, dy] of SIDES) {
      const p: Point = [at[0] + dx, at[1] + dy];
      const mm = thicknessAt(p, among);
      if (mm > bulkMm + 1e-9) [bulkMm, bulkAt] = [mm, p];
    }
  }
  return { bulkMm, bulkAt, bulkMap };
}
