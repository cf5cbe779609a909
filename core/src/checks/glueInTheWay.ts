import { inverse, place } from '../geometry/isometry.ts';
import { boxesApart, boxOf } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { AREA_TOLERANCE_MM2 } from '../geometry/tolerances.ts';
import { insidePoint, placeRegion, areaOfRegions, type Region } from '../geometry/polygon.ts';
import { intersection, solid } from '../geometry/regions.ts';
import type { PanelRef } from '../motion/linkage.ts';
import { ontoHost } from '../motion/pose.ts';
import { POSES, restPlace, type Sweep } from '../motion/sweep.ts';
import { namedPanel } from './catchWords.ts';
import { findingOf, mm, type CheckContext, type Finding, type Rule } from './finding.ts';
import { placeWords } from './motionWords.ts';

const RULE = 'glueInTheWay';
/** Every so many places of a pull are looked at. */
const EVERY = 5;

/** A place where something is glued to a host, in the plane of the host's body. */
interface Glued {
  readonly jointId: string;
  readonly hostBody: number;
  /** On the side to which the body's own normal points. */
  readonly above: boolean;
  readonly zone: Region;
  readonly part: PanelRef;
}

/** Every glued place of the design. */
const gluedPlaces = ({ sweep }: CheckContext): Glued[] => {
  const { panels, glued } = sweep.linkage;
  return glued.map(({ jointId, panel, host, zone, onHostFront, placement }): Glued => {
    const on = panels[host];
    return {
      jointId,
      hostBody: on.body,
      above: onHostFront !== on.placement.flip,
      zone: solid(zone.map((p) => place(on.placement, place(placement, p)))),
      part: panels[panel],
    };
  });
};

interface Met {
  readonly glued: Glued;
  readonly mover: PanelRef;
  readonly t: number;
  readonly meeting: readonly Region[];
  readonly areaMm2: number;
}

/** Where the panels of one moving body run over glued places of their host, the worst of each pair. */
function meetings(motion: Sweep, glued: readonly Glued[]): Met[] {
  const { panels, laid, wrapped } = motion.linkage;
  const worst = new Map<string, Met>();
  const seen = new Set<string>();
  for (const { panel, host, onFront } of laid) {
    const [body, hostBody] = [panels[panel].body, panels[host].body];
    const above = onFront !== panels[host].placement.flip;
    const key = `${body},${hostBody},${above}`;
    // Bands that go round an edge pass over what is glued down before it.
    const { groups } = motion;
    if (groups[body] === groups[hostBody]) continue;
    if (seen.has(key) || wrapped.has(body)) continue;
    seen.add(key);
    const places = glued.filter((g) => g.hostBody === hostBody && g.above === above && g.part.body !== body);
    if (places.length === 0) continue;
    const boxes = places.map((g) => boxOf(g.zone.outer));
    const movers = panels.filter((p) => p.body === body);
    for (let t = 0; t < POSES; t += EVERY) {
      const carry = ontoHost(motion, body, hostBody, t);
      if (!carry) continue;
      for (const mover of movers) {
        const region = placeRegion(carry, placeRegion(mover.placement, mover.region));
        const box = boxOf(region.outer);
        places.forEach((g, i) => {
          if (boxesApart(box, boxes[i])) return;
          const meeting = intersection([region], [g.zone]);
          const areaMm2 = areaOfRegions(meeting);
          const pair = `${mover.part.id}/${mover.id}|${g.jointId}`;
          if (areaMm2 > Math.max(AREA_TOLERANCE_MM2, worst.get(pair)?.areaMm2 ?? 0))
            worst.set(pair, { glued: g, mover, t, meeting, areaMm2 });
        });
      }
    }
  }
  return [...worst.values()];
}

/** How far across a meeting reaches: the shorter side of its box, mm. */
const acrossMm = (meeting: readonly Region[]): number => {
  const box = boxOf(meeting.flatMap((r) => r.outer));
  return Math.min(box.maxX - box.minX, box.maxY - box.minY);
};

/** What slides or turns flat on a panel must not run into what is glued to that panel. */
export const glueInTheWay: Rule = {
  id: RULE,
  title: 'Glue in the way',
  protects: 'Nothing is glued down where a slider, a wheel or a strip has to run.',
  needs: ['motion', 'joints'],
  limit: 'nothing glued down on the way',
  unit: 'mm',
  run(context) {
    const glued = gluedPlaces(context);
    return context.pulls.flatMap(({ sweep: motion }) => {
      const driver = motion.linkage.drivers[motion.driver];
      return meetings(motion, glued).map(({ glued: g, mover, t, meeting }): Finding => {
        const toPart = inverse(mover.placement);
        const back = inverse(ontoHost(motion, mover.body, g.hostBody, t)!);
        const ring = meeting[0].outer.map((p): Point => place(toPart, place(back, p)));
        const inGlued = inverse(g.part.placement);
        const zone = g.zone.outer.map((p): Point => place(inGlued, p));
        const across = acrossMm(meeting);
        return findingOf(
          RULE,
          `${driver.id}:${mover.part.id}/${mover.id}:${g.jointId}`,
          `${
            t === restPlace(driver)
              ? `At rest already ${namedPanel(mover)} lies`
              : `Moving “${driver.name}”, ${namedPanel(mover)} runs`
          } ${mm(across)} over the place where ${namedPanel(g.part)} is glued, at ${placeWords(motion, t)}: move one of them, or shorten the travel.`,
          [
            { partId: mover.part.id, at: insidePoint(solid(ring)), points: ring },
            { partId: g.part.part.id, at: insidePoint(solid(zone)), points: zone },
          ],
          {
            measured: across,
            limit: 0,
            limitFrom: 'paper that is glued down does not let anything pass',
          },
        );
      });
    });
  },
};
