/**
 * What shows through apertures that should not: glue tabs (raw glue when their glued face is seen) and pivots. Looked at as
 * a person does, along rays: through the card's own apertures from outside when it is closed, and through every panel's
 * apertures from its front when the card is open.
 */
import { inverse, place } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { boxCentre, boxOf, flatten, pathLength, polyline } from '../geometry/path.ts';
import { distanceToRing, insideRing, ringArea, type Ring } from '../geometry/polygon.ts';
import { invert, move, type Vec3 } from '../geometry/rigid.ts';
import { CARD_ID } from '../design/frames.ts';
import { isCut, stockOf } from '../dieline/part.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import { BRAD } from '../stock/stock.ts';
import { panelPlan } from '../dieline/panels.ts';
import type { PanelRef } from '../motion/linkage.ts';
import { meetRay, placementAt } from '../motion/pose.ts';
import type { Sweep } from '../motion/sweep.ts';
import { findingOf, type CheckContext, type Finding, type Rule } from './finding.ts';

/** Where layers still have an order: a little way in from closed and from flat. */
const CLOSED_DEG = 3;
const OPEN_DEG = 177;
/** Holes narrower than this are slits and slots, smaller ones pin holes: nobody looks through them. */
const NARROW_MM = 3;
const SMALL_MM2 = 8;
/** Rays through an aperture on a grid of this many a side. */
const RAYS = 9;

interface Seen {
  readonly panel: PanelRef;
  readonly at: Point;
  /** Whether the seen place is glue that lies bare, or the bare back of a stock that is good on one side only. */
  readonly rawGlue: boolean;
  readonly bareBack: boolean;
}

const isAperture = (ring: Ring): boolean => {
  const area = Math.abs(ringArea(ring));
  const around = pathLength(polyline(ring, true));
  return area > SMALL_MM2 && (2 * area) / around > NARROW_MM / 2;
};

/** A panel with its placement at an opening and the way back, made once per opening. */
interface Posed {
  readonly panel: PanelRef;
  readonly body: Float64Array;
  readonly back: Float64Array;
  /** Its front's normal in space: the paper's own front, whichever way its body lies. */
  readonly front: Vec3;
}

function posedAt(motion: Sweep, deg: number): Posed[] {
  return motion.linkage.panels
    .filter((panel) => motion.linkage.attached[panel.body])
    .map((panel) => {
      const body = placementAt(motion, panel.body, deg);
      const sign = panel.placement.flip ? -1 : 1;
      return { panel, body, back: invert(body), front: [sign * body[2], sign * body[6], sign * body[10]] };
    });
}

/** The first panel that a ray from a point meets beyond the panel it starts on, and where in its part. */
function firstHit(posed: readonly Posed[], from: Posed, start: Vec3, way: Vec3): Seen | undefined {
  let best: { seen: Seen; far: number; layer: number } | undefined;
  for (const one of posed) {
    if (one.panel === from.panel) continue;
    const met = meetRay(one.panel, one.back, start, way, 1e-6);
    if (!met) continue;
    const { far, inPart: at, sense } = met;
    // In one plane the layers tell which lies beyond: those on the far side of the panel that is looked through.
    const towards = sense > 0 ? -1 : 1;
    const layer = one.panel.liftLayers * towards;
    const own = from.panel.body === one.panel.body ? from.panel.liftLayers * towards : Infinity;
    if (far < -0.01 || (far < 0.01 && layer >= own)) continue;
    if (best && (far > best.far + 0.01 || (far > best.far - 0.01 && layer < best.layer))) continue;
    if (panelPlan(one.panel.part).panelContaining(at) !== one.panel.panel) continue;
    // The front is seen when it looks against the ray.
    const front = one.front[0] * way[0] + one.front[1] * way[1] + one.front[2] * way[2] < 0;
    const rawGlue = one.panel.part.glueZones.some(
      (zone) => zone.kind === 'glue' && (zone.face === 'front') === front && insideRing(at, zone.outline),
    );
    const bareBack = !front && !stockOf(one.panel.part).twoSided;
    best = { seen: { panel: one.panel, at, rawGlue, bareBack }, far, layer };
  }
  return best?.seen;
}

/** How bad it is to see something: raw glue most, then a tab, then a bare back; 0 for the picture. */
const rankOf = (seen: Seen | undefined): number =>
  !seen ? 0 : seen.rawGlue ? 3 : isTab(seen.panel) ? 2 : seen.bareBack ? 1 : 0;

const isTab = (panel: PanelRef): boolean => panel.role === 'tab';

interface Look {
  readonly posed: Posed;
  readonly hole: Ring;
  readonly state: 'closed' | 'open';
}

/** Apertures to look through, and in which state. */
function looks(closed: readonly Posed[], open: readonly Posed[]): Look[] {
  const holesOf = (posed: Posed, state: Look['state']) =>
    posed.panel.region.holes.filter(isAperture).map((hole): Look => ({ posed, hole, state }));
  const covers = closed.filter(({ panel }) => panel.part.id === CARD_ID);
  return [...covers.flatMap((one) => holesOf(one, 'closed')), ...open.flatMap((one) => holesOf(one, 'open'))];
}

/** What of tabs, raw glue and pivots is seen through one aperture. */
function through(motion: Sweep, look: Look, posed: readonly Posed[]): { seen?: Seen; pivot?: Point } {
  const { posed: from, hole, state } = look;
  // Closed, one looks at the card's back; open, at the panel's front, into the paper.
  const sense = state === 'closed' ? 1 : -1;
  const way: Vec3 = [sense * from.front[0], sense * from.front[1], sense * from.front[2]];
  const box = boxOf(hole);
  let seen: Seen | undefined;
  for (let i = 0; i < RAYS; i++)
    for (let j = 0; j < RAYS; j++) {
      const p: Point = [
        box.minX + ((i + 0.5) / RAYS) * (box.maxX - box.minX),
        box.minY + ((j + 0.5) / RAYS) * (box.maxY - box.minY),
      ];
      if (!insideRing(p, hole)) continue;
      const [x, y] = place(from.panel.placement, p);
      const hit = firstHit(posed, from, move(from.body, [x, y, 0]), way);
      if (hit && rankOf(hit) > rankOf(seen)) seen = hit;
    }
  const pivot = motion.linkage.links
    .filter((link) => link.kind === 'pivot')
    .map((link): { at: Point; headMm: number } => {
      const host = posed.find((one) => one.panel.body === link.left);
      const inSpace = host ? move(host.body, [link.inLeft[3], link.inLeft[7], 0]) : ([0, 0, 0] as const);
      const [x, y] = move(from.back, inSpace);
      const { radiusMm } = motion.linkage.brads[link.jointId ?? ''] ?? BRAD;
      return { at: place(inverse(from.panel.placement), [x, y]), headMm: radiusMm };
    })
    // Its head is seen as soon as it reaches over the edge of the aperture.
    .find(({ at, headMm }) => insideRing(at, hole) || distanceToRing(at, hole) < headMm)?.at;
  return { seen: rankOf(seen) > 0 ? seen : undefined, pivot };
}

/** The line that cuts an aperture, by which it is known wherever it is moved. */
const lineOfHole = ({ part }: PanelRef, hole: Ring): string =>
  part.lines.find((line) => isCut(line) && flatten(line.path).some((p) => distanceToRing(p, hole) < SNAP_MM))
    ?.id ?? '';

/** Through an aperture one sees a picture, never tabs, raw glue or the pivot. */
export const showThrough: Rule = {
  id: 'showThrough',
  title: 'Show-through',
  protects: 'Apertures show what they should, closed and open: no tab, no raw glue, no pivot, no bare back.',
  needs: ['motion', 'joints'],
  limit: 'nothing but the picture',
  unit: 'places',
  run({ sweep: motion }: CheckContext): Finding[] {
    const [closed, open] = [posedAt(motion, CLOSED_DEG), posedAt(motion, OPEN_DEG)];
    return looks(closed, open).flatMap((look): Finding[] => {
      const { panel } = look.posed;
      const { seen, pivot } = through(motion, look, look.state === 'closed' ? closed : open);
      const when = look.state === 'closed' ? 'Closed' : 'Open';
      const of = seen && `the ${seen.panel.name} of ${seen.panel.part.name}`;
      const what = seen
        ? seen.rawGlue
          ? `raw glue on ${of}`
          : isTab(seen.panel)
            ? of
            : `the bare back of ${of}`
        : pivot
          ? 'the head of a pivot'
          : undefined;
      if (!what) return [];
      const middle = boxCentre(boxOf(look.hole));
      return [
        findingOf(
          'showThrough',
          `${look.state}:${panel.part.id}:${lineOfHole(panel, look.hole)}`,
          `${when}, the aperture at (${middle.map((v) => v.toFixed(1)).join(', ')}) in ${panel.part.name} shows ${what}.`,
          [
            { partId: panel.part.id, at: middle, points: look.hole },
            ...(seen ? [{ partId: seen.panel.part.id, at: seen.at, points: [] }] : []),
          ],
          { severity: 'warning', limitFrom: 'nothing but the picture should show' },
        ),
      ];
    });
  },
};
