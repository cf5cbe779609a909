/** Travels: stretches, the branch that is followed, ends, and what is shown where nothing closes. */
import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { seededRandom } from '../geometry/random.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Params } from '../mechanisms/family.ts';
import { standsOn, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { linkageOf } from './linkage.ts';
import { POSES, sweep, type Sweep } from './sweep.ts';
import { drafted, glueAt, sheetOf, stripOver } from '../practice/drafts.ts';
import { randomLegal, travels, withMechanism } from './testing/measure.ts';
import { stretchesOf } from './travel.ts';

const openingOf = (design: Design): Sweep => sweep(linkageOf(expand(design)));

describe('stretches of places', () => {
  it('are the runs of what is accepted, in order, whatever is accepted', () => {
    const random = seededRandom(5);
    for (let n = 0; n < 200; n++) {
      const share = random();
      const accepted = Array.from({ length: POSES }, () => random() < share);
      const stretches = stretchesOf((t) => accepted[t]);
      // Painted back they give the same places; neighbours do not touch.
      const painted = Array.from({ length: POSES }, () => false);
      for (const [from, to] of stretches) {
        expect(from).toBeLessThanOrEqual(to);
        for (let t = from; t <= to; t++) painted[t] = true;
      }
      expect(painted).toEqual(accepted);
      stretches.slice(1).forEach(([from], i) => expect(from).toBeGreaterThan(stretches[i][1] + 1));
    }
    expect(stretchesOf(() => false)).toEqual([]);
    expect(stretchesOf(() => true)).toEqual([[0, POSES - 1]]);
  });
});

describe('a travel', () => {
  const base = newDesign('Travels', { closedWidthMm: 148, closedHeightMm: 150 });
  const { gutters } = expand(base);
  const opened = FAMILIES.filter((family) => standsOn(family, usualHost(family, gutters)));

  it.each(opened.map((family) => [family.id, family] as const))(
    'of %s never jumps from one place to the next',
    (_id, family) => {
      const random = seededRandom(family.id.length * 17);
      const usual = family.defaults(usualHost(family, gutters));
      const near = (): Params =>
        Object.fromEntries(
          Object.entries(usual).map(([key, value]) => [
            key,
            typeof value === 'number' && key.endsWith('Mm') ? value * (0.85 + 0.3 * random()) : value,
          ]),
        );
      for (let n = 0; n < 3; n++) {
        const design = withMechanism(family, n === 0 ? usual : randomLegal(family, near, base));
        for (const motion of travels(design)) {
          const { links } = motion.linkage;
          const { values, unsound, linkage } = motion;
          links.forEach((link, i) => {
            if (link.kind === 'wrap') return;
            const unit = link.kind === 'slide' ? 50 : 1;
            const at = (t: number) => values[t * links.length + i] / unit;
            for (let t = 3; t < POSES - 3; t++) {
              if ([link.left, link.right].some((body) => unsound[t * linkage.bodyCount + body])) continue;
              // Another branch is far off; on one branch neighbouring places differ little, and their differences less.
              const [step, bend] = [at(t) - at(t - 1), at(t + 1) - 2 * at(t) + at(t - 1)].map(Math.abs);
              const what = [n, motion.driver, t, link.kind];
              expect([...what, step < 0.5, bend < 0.25]).toEqual([...what, true, true]);
            }
          });
        }
      }
    },
  );

  it('is the same every time that it is asked for', () => {
    for (const family of opened.slice(0, 6)) {
      const design = () => withMechanism(family, family.defaults(usualHost(family, gutters)));
      const [one, other] = [openingOf(design()), openingOf(design())];
      expect(Array.from(other.bodies)).toEqual(Array.from(one.bodies));
    }
  });

  it('is the mirror image on the mirrored card', () => {
    // A strip a left, b right; mirrored, its feet and its panels change places. Its heights are the same at every opening.
    const random = seededRandom(12);
    for (let n = 0; n < 10; n++) {
      const [a, b] = [15 + 25 * random(), 15 + 25 * random()];
      const p = Math.max(a, b) + 2 + 10 * random();
      const q = a + p - b;
      const [one, other] = [openingOf(stripOver([a, b, p, q])), openingOf(stripOver([b, a, q, p]))];
      for (let t = 1; t < 180; t += 7) {
        const ridge = (motion: Sweep) => {
          const i = motion.linkage.creases.findIndex((c) => c.partId === 'Strip' && c.sign < 0);
          return motion.values[t * motion.linkage.links.length + i];
        };
        expect(Math.abs(ridge(one) - ridge(other))).toBeLessThan(1e-7);
      }
    }
  });

  it('that closes on a stretch only is shown least torn beyond it, by just what is lacking', () => {
    // Feet 100 apart when the card is open, and panels of 30: nothing closes beyond the place where they are stretched.
    const motion = openingOf(stripOver([50, 50, 30, 30]));
    const [component] = motion.components;
    expect(component.state).toBe('locked');
    const worst = (t: number) => {
      const n = motion.linkage.links.length;
      return Math.max(...motion.gapMm.slice(t * n, (t + 1) * n));
    };
    for (let t = 1; t < 180; t++) {
      // The feet are 2 * 50 sin(t / 2) apart, which stretched panels span up to 60 mm; the rest is torn in one place.
      const lack = Math.max(0, 100 * Math.sin((t * Math.PI) / 360) - 60);
      expect([t, Math.abs(worst(t) - lack) < 1e-3]).toEqual([t, true]);
    }
    const whole = stretchesOf((t) => 100 * Math.sin((t * Math.PI) / 360) - 60 <= 0.05);
    expect(component.closing).toEqual(whole);
  });

  it('of a flap that nothing holds beyond its fold is closed at every place, and floppy', () => {
    const flap = sheetOf('flap', 60, 30, { folds: [[20, 'valley']], zones: { z: [2, 2, 16, 26] } });
    const motion = openingOf(drafted([flap], [glueAt('flap', 'z', [80, 40])]));
    expect(Math.max(...motion.gapMm)).toBeLessThan(1e-6);
    expect(motion.components.map((c) => c.state)).toEqual(['floppy']);
  });
});
