/** Slots of a part: what is cut out of the midst of one of its panels. */
import { boxOf, flatten } from '../geometry/path.ts';
import { insideRegion } from '../geometry/polygon.ts';
import { panelPlan } from './panels.ts';
import type { Part } from './part.ts';

/** A cut that comes nearer to the rim of its panel than this belongs to the rim, mm. */
const RIM_MM = 0.2;
const FINE_MM = 0.05;

/** A cut in the midst of a panel. */
export interface Slot {
  readonly lineId: string;
  readonly panelName: string;
  readonly longMm: number;
}

/** The cuts of a part that lie wholly within one of its panels, with how long they are. */
export function slotsOf(part: Part): Slot[] {
  const { panels } = panelPlan(part);
  return part.lines.flatMap((line): Slot[] => {
    if (line.process !== 'cut') return [];
    const points = flatten(line.path, FINE_MM);
    const box = boxOf(points);
    const panel = panels.find(({ region: { outer } }) => {
      const rim = boxOf(outer);
      return (
        box.minX - rim.minX > RIM_MM &&
        box.minY - rim.minY > RIM_MM &&
        rim.maxX - box.maxX > RIM_MM &&
        rim.maxY - box.maxY > RIM_MM &&
        points.every((p) => insideRegion(p, { outer, holes: [] }))
      );
    });
    const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
    return panel ? [{ lineId: line.id, panelName: panel.name, longMm: Math.max(w, h) }] : [];
  });
}
