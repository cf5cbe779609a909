import { expect, it } from 'vitest';
import { isClosedPath } from '../geometry/curve.ts';
import { flatten, pathLength, reversePath, type Path } from '../geometry/path.ts';
import { ringArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { crafted, slotFor, type Craft } from './craft.ts';
import { regularPolygon, roundedRectangle } from './shapes.ts';

const area = (path: Path) => Math.abs(ringArea(flatten(path, 1e-4)));
const random = seededRandom(8);

it('tabs, slots and notches add and take the areas of their closed forms, on every side and either way round', () => {
  for (let n = 0; n < 60; n++) {
    const polygon = regularPolygon([0, 0], 30, 4 + Math.floor(3 * random()), random());
    const given = n % 2 ? polygon : reversePath(polygon);
    const side = Math.floor(given.segments.length * random());
    const long = pathLength({
      start: side === 0 ? given.start : given.segments[side - 1].to,
      segments: [given.segments[side]],
    });
    const [d, t, w] = [4 + 8 * random(), 3 * random(), 2 + 4 * random()];
    const s = 3 + 2 * random();
    const h = 1 + random();
    const cases: [Craft, number][] = [
      [{ kind: 'tab', depthMm: d, taperMm: t }, d * (long - t)],
      // A neck, and a head that narrows from neck and heads to the neck again.
      [{ kind: 'lock', depthMm: d, shoulderMm: s, headMm: h }, d * (long - 2 * s) + (1 - 0.35) * d * h],
      [{ kind: 'slot', atMm: long / 3, widthMm: w, depthMm: d }, -w * d],
      [{ kind: 'notch', atMm: long / 2, widthMm: w }, (-Math.PI * w * w) / 8],
    ];
    for (const [craft, more] of cases) {
      const made = crafted(given, side, craft);
      if ('refused' in made) throw new Error(made.refused);
      expect(isClosedPath(made.outline, 1e-9)).toBe(true);
      expect(area(made.outline) - area(given), craft.kind).toBeCloseTo(more, 2);
      expect(made.folds).toHaveLength(craft.kind === 'tab' || craft.kind === 'lock' ? 1 : 0);
      if (made.zone) expect(ringArea(made.zone)).toBeGreaterThan(0.6 * more);
      expect(Math.sign(ringArea(flatten(made.outline)))).toBe(Math.sign(ringArea(flatten(given))));
    }
  }
});

it('of an opening they stand into it, and slots go into the paper round it', () => {
  const hole = roundedRectangle([0, 0], 40, 30);
  for (const given of [hole, reversePath(hole)]) {
    const tab = crafted(given, 1, { kind: 'tab', depthMm: 6, taperMm: 2 }, true);
    const slot = crafted(given, 1, { kind: 'slot', atMm: 15, widthMm: 2, depthMm: 6 }, true);
    if ('refused' in tab || 'refused' in slot) throw new Error('refused');
    expect(area(tab.outline)).toBeLessThan(area(hole) - 100);
    expect(area(slot.outline) - area(hole)).toBeCloseTo(12, 6);
    expect(ringArea(tab.zone!)).toBeGreaterThan(0);
  }
});

it('is refused in words where there is no room, no outside or no straight side', () => {
  const box = roundedRectangle([0, 0], 40, 20, 4);
  const why = (path: Path, side: number, craft: Craft) =>
    (crafted(path, side, craft) as { refused: string }).refused;
  expect(why(box, 1, { kind: 'tab', depthMm: 8, taperMm: 2 })).toContain('straight side');
  expect(
    why({ start: [0, 0], segments: box.segments.slice(0, 3) }, 0, { kind: 'tab', depthMm: 8, taperMm: 2 }),
  ).toContain('Close the outline');
  expect(why(box, 0, { kind: 'tab', depthMm: 8, taperMm: 16 })).toContain('nothing is left');
  expect(why(box, 0, { kind: 'slot', atMm: 1, widthMm: 3, depthMm: 5 })).toContain('run out');
  expect(why(box, 0, { kind: 'lock', depthMm: 8, shoulderMm: 3, headMm: 4 })).toContain('head');
  expect(area(slotFor(20, 0.3, 0.25))).toBeCloseTo(20.5 * 0.55, 9);
});
