/** A pane between two frames: it covers the aperture, is held on each side, and nothing is found at any size that may be. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { reportOf } from '../checks/report.ts';
import { newDesign } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import { stockOf } from '../dieline/part.ts';
import { areaOfRegions } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { intersection, union } from '../geometry/regions.ts';
import { expand } from './expand.ts';
import { newInstance } from './instance.ts';
import { mats } from './mats.ts';

const base = newDesign('Pane', { closedWidthMm: 150, closedHeightMm: 120 });
const host = expand(base).gutters.find(({ lineId }) => lineId === 'panel:right')!;

describe('mats with a pane', () => {
  const random = seededRandom(15);
  const draw = () => ({
    ...mats.defaults(host),
    mats: 2 + Math.floor(2 * random()),
    through: 2,
    aperture: random() < 0.5 ? 'rectangle' : 'circle',
    openMm: 20 + 90 * random(),
    openHeightMm: 20 + 70 * random(),
    film: true,
  });
  const cases = Array.from({ length: 400 }, draw)
    .filter((params) => mats.constraints(params, host, 2).every(({ overMm }) => overMm <= 0))
    .slice(0, 12);

  it.each(cases.map((params, i) => [i, params] as const))('%i', (_, params) => {
    const design = { ...base, instances: { m: newInstance(mats, host, 'm', { params }) } };
    const { parts } = expand(design);
    const region = (id: string) =>
      panelPlan(parts.find((part) => part.id === id)!).panels.map((p) => p.region);
    const pane = parts.find(({ id }) => id === 'm/pane')!;
    expect(stockOf(pane).kind).toBe('film');
    // The window is closed by it: the upper frame and the pane together are a whole sheet.
    const top = region(`m/mat-${params.mats}`);
    const whole = union([...top, ...region('m/pane')]);
    expect(whole).toHaveLength(1);
    expect(whole[0].holes).toEqual([]);
    // No glue of the upper frame lies on the pane.
    const zones = parts
      .find(({ id }) => id === `m/mat-${params.mats}`)!
      .glueZones.map(({ outline }) => ({ outer: outline, holes: [] }));
    expect(areaOfRegions(intersection(union(zones), region('m/pane')))).toBeLessThan(0.01);
    const said = reportOf(checkContext(design)).findings.map(({ sentence }) => sentence);
    expect(said).toEqual([]);
  });

  it('was asked at sizes enough', () => expect(cases.length).toBeGreaterThan(8));
});
