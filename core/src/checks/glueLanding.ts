import { gluesOf } from '../design/design.ts';
import { panelAt, panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { place } from '../geometry/isometry.ts';
import { cross, lengthOf, subtract, type Point } from '../geometry/point.ts';
import {
  counterClockwise,
  distanceOutside,
  insidePoint,
  regionArea,
  type Ring,
} from '../geometry/polygon.ts';
import { difference, intersection, solid } from '../geometry/regions.ts';
import { familyById } from '../mechanisms/registry.ts';
import { stockById } from '../stock/stock.ts';
import { mm, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';

/** Least width of a ring in mm: the smallest distance between two parallel lines along an edge that hold all points. */
export function leastWidth(ring: Ring): number {
  let least = Infinity;
  for (let i = 0; i < ring.length; i++) {
    const [a, b] = [ring[i], ring[(i + 1) % ring.length]];
    const d = subtract(b, a);
    const length = lengthOf(d);
    if (length < 1e-9) continue;
    const heights = ring.map((p) => cross(d, subtract(p, a)) / length);
    least = Math.min(least, Math.max(...heights) - Math.min(...heights));
  }
  return least;
}

/** Widening the tab is offered when the mechanism has a tab depth and its own rules allow the wider one. */
function widerTab({ design, expanded }: CheckContext, partId: string, neededMm: number): Mend | null {
  const instance = design.instances[expanded.instanceOf[partId]];
  const family = instance && familyById(instance.family);
  if (!instance || !family || typeof instance.params.tabMm !== 'number') return null;
  const params = { ...instance.params, tabMm: neededMm };
  if (
    family
      .constraints(params, expanded.gutterOf[instance.id], design.settings.reachMarginMm)
      .some((c) => c.overMm > 1e-6)
  )
    return null;
  return {
    label: `Make the tabs ${mm(neededMm)} deep`,
    command: { do: 'put', in: 'instances', id: instance.id, value: { ...instance, params } },
  };
}

const AREA_TOLERANCE_MM2 = 0.05;

/** A glue tab must lie on paper, on one side of every fold, and be wide enough to hold. */
export const glueLanding: Rule = {
  id: 'glueLanding',
  title: 'Glue tab and landing',
  protects: 'Every tab has a flat place to stick to and enough width to hold.',
  run(context) {
    const { expanded } = context;
    const byId = new Map(expanded.parts.map((part) => [part.id, part]));
    return gluesOf(expanded.joints).flatMap((joint): Finding[] => {
      const [part, host] = [byId.get(joint.partId), byId.get(joint.hostPartId)] as [Part, Part];
      const zone = part.glueZones.find((z) => z.id === joint.zoneId);
      if (!zone) return [];
      const landed = counterClockwise(zone.outline.map((p) => place(joint.placement, p)));
      const plan = panelPlan(host);
      const hostPanel = panelAt(plan, insidePoint({ outer: landed, holes: [] }));
      const findings: Finding[] = [];
      const onHost = (points: readonly Point[]) => [{ partId: host.id, at: points[0], points }];
      const base = { rule: 'glueLanding', unit: 'mm' as const, mend: null, severity: 'fault' as const };
      if (hostPanel < 0) {
        const most = Math.max(
          ...landed.map((p) =>
            Math.min(Infinity, ...plan.panels.map((panel) => distanceOutside(p, panel.region))),
          ),
        );
        findings.push({
          ...base,
          key: `glueLanding:off:${joint.id}`,
          sentence: `A tab of ${part.name} lies off ${host.name}.`,
          measured: most,
          limit: 0,
          limitFrom: 'glue needs paper under it',
          places: onHost(landed),
        });
      } else {
        const panel = plan.panels[hostPanel];
        const outside = difference([solid(landed)], [panel.region]).filter(
          (region) => regionArea(region) > AREA_TOLERANCE_MM2,
        );
        const otherPanels = plan.panels.filter((other) => other !== panel);
        const across = intersection(
          outside,
          otherPanels.map((other) => other.region),
        ).some((region) => regionArea(region) > AREA_TOLERANCE_MM2);
        const over = Math.max(
          0,
          ...outside.flatMap((region) => region.outer.map((p) => distanceOutside(p, panel.region))),
        );
        if (outside.length > 0)
          findings.push({
            ...base,
            key: `glueLanding:${across ? 'fold' : 'edge'}:${joint.id}`,
            sentence: across
              ? `A tab of ${part.name} lies ${mm(over)} across a fold or slit of ${host.name}: glued there, it locks.`
              : `A tab of ${part.name} hangs ${mm(over)} over the edge of its landing on ${host.name}.`,
            measured: over,
            limit: 0,
            limitFrom: 'the whole tab must lie on one panel',
            places: onHost(outside.flatMap((region) => region.outer)),
          });
      }
      const width = leastWidth(zone.outline);
      const stock = stockById(part.stockId);
      if (width < stock.minTabMm - 1e-6)
        findings.push({
          ...base,
          severity: 'warning',
          key: `glueLanding:width:${joint.id}`,
          sentence: `A glue tab of ${part.name} is only ${mm(width)} wide; ${stock.name} wants ${mm(stock.minTabMm)}.`,
          measured: width,
          limit: stock.minTabMm,
          limitFrom: `the least tab of ${stock.name}`,
          places: [
            { partId: part.id, at: insidePoint({ outer: zone.outline, holes: [] }), points: zone.outline },
          ],
          mend: widerTab(context, part.id, stock.minTabMm),
        });
      return findings;
    });
  },
};
