import { describe, expect, it } from 'vitest';
import { polyline, straight } from '../geometry/path.ts';
import { solid } from '../geometry/regions.ts';
import { mostUnder } from './landing.ts';
import { panelPlan } from './panels.ts';
import { workOf, type Part } from './part.ts';

const square = (x: number, y: number, w: number, h: number): [number, number][] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];
const part: Part = {
  id: 'p',
  name: 'Part',
  stockId: 'chalk-300',
  grainRad: null,
  quantity: 1,
  lines: [
    { id: 'o', ...workOf('cut'), path: polyline(square(0, 0, 100, 40), true) },
    { id: 'f', ...workOf('valley'), path: straight([30, 0], [30, 40]) },
  ],
  glueZones: [],
  marks: [],
};

describe('what lies on which panel', () => {
  // The panels are 0 to 30 and 30 to 100; a strip 20 wide and 10 high overlaps them by closed form.
  it.each([-30, -15, 0, 14, 19, 21, 45, 90, 120])('of a strip that begins at %d', (x) => {
    const on = (from: number, to: number) => 10 * Math.max(0, Math.min(to, x + 20) - Math.max(from, x));
    const shares = [on(0, 30), on(30, 100)];
    const found = mostUnder(panelPlan(part), solid(square(x, 5, 20, 10)));
    expect(found.areaMm2).toBeCloseTo(Math.max(...shares), 6);
    if (found.areaMm2 > 0) expect(found.index).toBe(shares[0] >= shares[1] ? 0 : 1);
    else expect(found.shared).toEqual([]);
  });
});
