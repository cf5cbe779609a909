/** What is pressed on a picture, against places that were projected onto it. */
import { expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { openingOf } from '../design/frames.ts';
import { distanceToRing, insideRegion } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { familyById } from '../mechanisms/registry.ts';
import { linkageOf } from './linkage.ts';
import { pressedOn, seenPlace } from './pressed.ts';
import { sweep } from './sweep.ts';

it('is where it was seen, or what lies over it there, on several cards at random openings and views', () => {
  const random = seededRandom(77);
  let [same, over, none] = [0, 0, 0];
  for (const id of ['step', 'vfold', 'platform', 'wheel', 'zigzag']) {
    for (const opening of ['side', 'top'] as const) {
      const base = newDesign('Press', { closedWidthMm: 140, closedHeightMm: 140, opening });
      const family = familyById(id)!;
      const host = usualHost(family, expand(base).gutters);
      const design: Design = { ...base, instances: { m: newInstance(family, host, 'm') } };
      const motion = sweep(linkageOf(expand(design)));
      const { panels } = motion.linkage;
      for (let k = 0; k < 60; k++) {
        const panel = panels[Math.floor(random() * panels.length)];
        const [a, b, c] = [0, 1, 2].map(
          (i) => panel.region.outer[(Math.floor(random() * 50) + i) % panel.region.outer.length],
        );
        const at = [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3] as const;
        // On a fold it is of either panel, and those are drawn a layer apart.
        if (!insideRegion(at, panel.region) || distanceToRing(at, panel.region.outer) < 0.5) continue;
        const view = { turnDeg: -60 + 120 * random(), riseDeg: 15 + 60 * random() };
        const deg = 20 + 150 * random();
        const seen = seenPlace(motion, openingOf(design), deg, view, panel.part.id, at);
        if (!seen) continue;
        const pressed = pressedOn(motion, openingOf(design), deg, view, seen);
        // A panel seen edge on cannot be pressed.
        if (!pressed) {
          none++;
          continue;
        }
        if (pressed.partId === panel.part.id && pressed.panelId === panel.id) {
          expect(Math.hypot(pressed.at[0] - at[0], pressed.at[1] - at[1])).toBeLessThan(1e-6);
          same++;
        } else over++;
        // Whatever was pressed is seen at the very same place.
        const again = seenPlace(motion, openingOf(design), deg, view, pressed.partId, pressed.at);
        if (again) expect(Math.hypot(again[0] - seen[0], again[1] - seen[1])).toBeLessThan(0.5);
      }
      expect(pressedOn(motion, openingOf(design), 90, { turnDeg: 0, riseDeg: 30 }, [5000, 0])).toBeNull();
    }
  }
  expect(same).toBeGreaterThan(100);
  expect(over).toBeGreaterThan(5);
  expect(none).toBeLessThan(8);
});
