/**
 * Where a panel may be decorated: the area of its plane in which a flat piece glued to it neither pokes out when the card
 * is closed nor runs into anything on the way.
 *
 * At each opening every other panel meets the plane along stretches of a line. A flat piece catches exactly when it crosses
 * such a stretch; over the travel the stretches sweep an area, which is forbidden. Between two solved openings a stretch is
 * taken to move straight. What is left of the closed card, less the swept area, and connected with the panel, is free.
 * Where another panel only touches the plane, along a fold or a foot, and stands up from it on the piece's side, that line
 * is a barrier too: paper cannot reach across it.
 */
import { inverse, place, type Isometry } from '../geometry/isometry.ts';
import { distance, type Point } from '../geometry/point.ts';
import { counterClockwise, regionArea, areaOfRegions, type Region, type Ring } from '../geometry/polygon.ts';
import { difference, intersection, offset, solid, union, unionOfMany } from '../geometry/regions.ts';
import { invert, move, RIGID_SIZE, type Rigid, type Vec3 } from '../geometry/rigid.ts';
import { cross3, dot3 } from '../geometry/vector.ts';
import { flatPanelsOf, type FlatPanel } from './flatPanels.ts';
import { onLine, pose, reaches, ringInSpace, section, type PosedPanel } from './crossing.ts';
import { isCover, type PanelRef } from './linkage.ts';
import { POSES, type Sweep } from './sweep.ts';

export interface DecorateMap {
  /** The free area in the plane of the panel's part, connected with the panel. */
  readonly free: readonly Region[];
  /** What limits it: the closed card less the margin, and what other panels sweep. */
  readonly closedCard: readonly Region[];
  readonly swept: readonly Region[];
}

const BARRIER_MM = 0.1;
/** A panel that rises less than this from the plane lies on it. */
const STANDS_UP_MM = 0.5;
/** Sections shorter than this are touching. */
const LEAST_MM = 0.02;

/** A stretch of a line in the panel's part plane. */
type Stretch = readonly [Point, Point];

/** The panel itself at one opening: posed, and the way from space back into its part's plane. */
interface OwnPlane {
  readonly posed: PosedPanel;
  readonly toBody: Rigid;
  readonly toPart: Isometry;
  /** +1 when the panel's front looks along its body's normal, else -1. */
  readonly front: 1 | -1;
}

const bodyOffset = (sweep: Sweep, panel: PanelRef, deg: number): number =>
  (deg * sweep.linkage.bodyCount + panel.body) * RIGID_SIZE;

function ownPlaneAt(sweep: Sweep, flat: FlatPanel, panel: PanelRef, deg: number): OwnPlane {
  const at = bodyOffset(sweep, panel, deg);
  return {
    posed: pose(flat, sweep.bodies, at),
    toBody: invert(sweep.bodies.slice(at, at + RIGID_SIZE)),
    toPart: inverse(panel.placement),
    front: panel.placement.flip ? -1 : 1,
  };
}

/** The stretches in which another panel stands through this one's plane, in this panel's part plane. */
function stretchesOf(own: OwnPlane, other: PosedPanel): Stretch[] {
  const line = cross3(own.posed.normal, other.normal);
  const size = Math.sqrt(dot3(line, line));
  if (size < 1e-7) return [];
  const along: Vec3 = [line[0] / size, line[1] / size, line[2] / size];
  // A panel that only touches the plane (along a shared fold) does not stand through it.
  const { under, over } = reaches(other, own.posed);
  if (Math.min(under, over) <= LEAST_MM) return [];
  const marks = section(other, own.posed, along);
  const inPart = (t: number): Point => {
    const [x, y] = move(own.toBody, onLine(own.posed, other, along, t));
    return place(own.toPart, [x, y]);
  };
  const found: Stretch[] = [];
  for (let i = 0; i + 1 < marks.length; i += 2)
    if (marks[i + 1] - marks[i] > LEAST_MM) found.push([inPart(marks[i]), inPart(marks[i + 1])]);
  return found;
}

/** The edges along which another panel touches this one's plane while it stands up on its front side, in its part plane. */
function barriersOf(own: OwnPlane, other: PosedPanel): Stretch[] {
  const local = ringInSpace(other, 0).map((p) => move(own.toBody, p));
  if (Math.max(...local.map((p) => own.front * p[2])) < STANDS_UP_MM) return [];
  const found: Stretch[] = [];
  local.forEach((p, i) => {
    const q = local[(i + 1) % local.length];
    if (Math.abs(p[2]) < LEAST_MM && Math.abs(q[2]) < LEAST_MM)
      found.push([place(own.toPart, [p[0], p[1]]), place(own.toPart, [q[0], q[1]])]);
  });
  return found;
}

/** The area between two positions of a stretch, whichever way its ends run; a thin one when it hardly moved. */
function sweptBetween(one: Stretch, two: Stretch): Region[] {
  const straight =
    (two[0][0] - one[0][0]) ** 2 + (two[0][1] - one[0][1]) ** 2 <=
    (two[1][0] - one[0][0]) ** 2 + (two[1][1] - one[0][1]) ** 2;
  const [c, d] = straight ? two : [two[1], two[0]];
  const triangles: Ring[] = [
    [one[0], one[1], d],
    [one[0], d, c],
  ];
  return triangles.map((ring) => solid(counterClockwise(ring))).filter((region) => regionArea(region) > 1e-6);
}

/** A stretch as a thin strip, so that it forbids even where it stands still. */
function thin([a, b]: Stretch): Region {
  const length = distance(a, b) || 1;
  const [nx, ny] = [
    (-(b[1] - a[1]) / length) * (BARRIER_MM / 2),
    ((b[0] - a[0]) / length) * (BARRIER_MM / 2),
  ];
  return solid(
    counterClockwise([
      [a[0] + nx, a[1] + ny],
      [a[0] - nx, a[1] - ny],
      [b[0] - nx, b[1] - ny],
      [b[0] + nx, b[1] + ny],
    ]),
  );
}

/** The closed card's outline, shrunk by the margin, in a panel's part plane. */
function closedCardOn(sweep: Sweep, panel: PanelRef, marginMm: number): Region[] {
  const { panels } = sweep.linkage;
  const back = invert(sweep.bodies.slice(panel.body * RIGID_SIZE, (panel.body + 1) * RIGID_SIZE));
  const toPart = inverse(panel.placement);
  const covers = panels.filter(isCover);
  const outlines = covers.map((cover) =>
    solid(
      counterClockwise(
        cover.region.outer.map((p): Point => {
          const [x, y] = place(cover.placement, p);
          const [u, v] = move(back, move(sweep.bodies, [x, y, 0], cover.body * RIGID_SIZE));
          return place(toPart, [u, v]);
        }),
      ),
    ),
  );
  return offset(union(outlines), -marginMm);
}

/**
 * Computes where a panel may be decorated on its front.
 *
 * @param panelIndex index into the linkage's panels
 * @param marginMm kept inside the edges of the closed card
 * @returns free area and what limits it, in the plane of the panel's part
 */
export function decorateMap(sweep: Sweep, panelIndex: number, marginMm: number): DecorateMap {
  const { panels, attached } = sweep.linkage;
  const panel = panels[panelIndex];
  const flat = flatPanelsOf(sweep.linkage);
  // The panel's own plane at every opening, computed once for all the others.
  const own = Array.from({ length: POSES }, (_, deg) => ownPlaneAt(sweep, flat[panelIndex], panel, deg));
  const swept: Region[] = [];
  // Most barriers stand still over the travel: one of each place is enough.
  const standing = new Map<string, Stretch>();
  panels.forEach((other, k) => {
    if (k === panelIndex || other.body === panel.body || !attached[other.body]) return;
    let before: Stretch[] = [];
    for (let deg = 1; deg < POSES - 1; deg++) {
      const posed = pose(flat[k], sweep.bodies, bodyOffset(sweep, other, deg));
      const now = stretchesOf(own[deg], posed);
      swept.push(...now.map(thin));
      for (const barrier of barriersOf(own[deg], posed))
        standing.set(
          barrier
            .flat()
            .map((v) => v.toFixed(1))
            .join(),
          barrier,
        );
      // The same number of stretches as before: each has moved on. Else some began or ended here.
      if (now.length === before.length)
        now.forEach((stretch, i) => swept.push(...sweptBetween(before[i], stretch)));
      before = now;
    }
  });
  const barriers = [...standing.values()].map(thin);
  const closedCard = closedCardOn(sweep, panel, marginMm);
  const joined = unionOfMany(swept);
  const free = difference(closedCard, [...joined, ...barriers]).filter(
    (region) => areaOfRegions(intersection([region], [panel.region])) > 1,
  );
  return { free, closedCard, swept: joined };
}
