/** An opening and a pull at once: agreement of the two travels where they meet, a derived stretch, and brute force. */
import { workOf } from '../dieline/part.ts';
import { drafted, driveTo, glueAt, hangAt, sheetOf } from '../practice/drafts.ts';
import { describe, expect, it } from 'vitest';
import { heldPullFindings } from '../checks/heldPull.ts';
import { checkContext } from '../checks/context.ts';
import type { Design } from '../design/design.ts';
import { shift } from '../geometry/isometry.ts';
import { polyline } from '../geometry/path.ts';
import { seededRandom } from '../geometry/random.ts';
import { RIGID_SIZE } from '../geometry/rigid.ts';
import { usualHost } from '../mechanisms/instance.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { step } from '../mechanisms/step.ts';
import { expand } from '../mechanisms/expand.ts';
import { catchesOf } from './catches.ts';
import { driverValue, restPlace, sweep, type Sweep } from './sweep.ts';
import { travels, withMechanism } from './testing/measure.ts';
import { together } from './together.ts';
import { inOneGo } from './turns.ts';

const seed = withMechanism(step, {});
const pulled = FAMILIES.map((family) => ({
  id: family.id,
  design: withMechanism(
    family,
    family.defaults(usualHost(family, expand({ ...seed, instances: {} }).gutters)),
  ),
})).filter(({ design }) => travels(design).length > 1);

/** The worst difference of two travels' bodies at one place each, mm or units of direction. */
function apartAt(a: Sweep, atA: number, b: Sweep, atB: number): number {
  const size = a.linkage.bodyCount * RIGID_SIZE;
  let worst = 0;
  for (let i = 0; i < size; i++)
    worst = Math.max(worst, Math.abs(a.bodies[atA * size + i] - b.bodies[atB * size + i]));
  return worst;
}

describe('a pull that is held while the card opens', () => {
  it.each(pulled)(
    '$id: at rest it is the opening, and where the two travels meet they agree',
    ({ design }) => {
      const [opening, ...pulls] = travels(design);
      for (const pull of pulls) {
        const driver = opening.linkage.drivers[pull.driver];
        const rest = restPlace(driver);
        const still = sweep(opening.linkage, 0, opening, { pull, place: rest });
        if (Math.abs(driverValue(driver, rest) - driver.rest) < 1e-9)
          for (const t of [20, 90, 150]) expect(apartAt(still, t, opening, t)).toBeLessThan(1e-6);
        for (const place of [40, 100, 140]) {
          const held = sweep(opening.linkage, 0, opening, { pull, place });
          // A travel ends by extrapolation: there it is known to a thousandth.
          expect(apartAt(held, driver.atOpeningDeg, pull, place)).toBeLessThan(1e-3);
        }
      }
    },
  );

  it.each(pulled)('$id: what was left out of the search does not catch', ({ design }) => {
    const [opening, ...pulls] = travels(design);
    const random = seededRandom(77);
    const own = (motion: Sweep) => new Set(catchesOf(motion).map((c) => `${c.a},${c.b}`));
    const known = new Set([opening, ...pulls].flatMap((motion) => [...own(motion)]));
    for (const pull of pulls) {
      const { levels, free } = inOneGo(together(opening, pull));
      const { place, catches } = levels[Math.floor(random() * levels.length)];
      const all = own(sweep(opening.linkage, 0, opening, { pull, place }));
      const found = new Set(catches.map((c) => `${c.a},${c.b}`));
      expect([...all].filter((pair) => !found.has(pair) && !known.has(pair))).toEqual([]);
      if (free) {
        const within = Math.round(free.from + random() * (free.to - free.from));
        const there = own(sweep(opening.linkage, 0, opening, { pull, place: within }));
        expect([...there].filter((pair) => !known.has(pair))).toEqual([]);
      }
    }
  });
});

/** A step on whose left panel a plate slides towards the left foot, `startMm` from it at rest, up to 30 mm. */
function plateOnStep(startMm: number): Design {
  const design = withMechanism(step, {
    ...step.defaults(usualHost(step, expand({ ...seed, instances: {} }).gutters)),
    form: 'glued',
  });
  return {
    ...design,
    parts: {
      plate: {
        id: 'plate',
        name: 'Plate',
        stockId: 'slate-240',
        grainRad: null,
        quantity: 1,
        lines: { l1: { id: 'l1', ...workOf('cut'), path: polyline(rectangle(0, 0, 12, 10), true) } },
        glueZones: {},
        marks: {},
      },
    },
    joints: {
      run: {
        id: 'run',
        kind: 'slide',
        partId: 'plate',
        hostPartId: 'm/strip',
        placement: shift(startMm, 20),
        at: [6, 5],
        face: 'front',
        directionDeg: 180,
        stops: { from: 0, to: 30 },
        drive: { name: 'Plate', from: 0, to: 30, rest: 0, atOpeningDeg: 180 },
      },
    },
  };
}

describe('a plate that slides down a step', () => {
  it.each([7, 11.3, 16])('catches the half as soon as it passes the foot, %f mm from rest', (startMm) => {
    const context = checkContext(plateOnStep(startMm));
    expect(context.catches).toEqual([]);
    const result = inOneGo(together(context.sweep, context.pulls[0].sweep));
    const passes = (startMm / 30) * 180;
    expect(result.free!.from).toBe(0);
    // To one of 180 places, and the twentieth of a millimetre that counts as touching.
    expect(Math.abs(result.free!.to - passes)).toBeLessThan(1 + (0.05 / 30) * 180);
    for (const { place, catches } of result.levels)
      if (place > passes + 1) {
        const past = driverValue(context.sweep.linkage.drivers[1], place) - startMm;
        // It sticks through by what is past the foot, its own other end, or its width, whichever is least.
        const depth = Math.min(past, 12 - past > 0 ? 12 - past : 0, 10);
        if (depth > 0.05) expect(Math.max(...catches.map((c) => c.depthMm))).toBeCloseTo(depth, 1);
      } else if (place < passes - 1) expect(catches).toEqual([]);
    const [finding] = heldPullFindings(context, 0);
    expect(finding.sentence).toMatch(/With “Plate” left at .* mm.* runs into/);
    expect(finding.sentence).toContain('It may stay between 0.0 mm and');
  });
});

/**
 * A strip from the left half to a plate that slides towards the gutter, `travelMm` in all: with feet a and b at rest and
 * panels p and q = p - (b - a), it opens flat and closes flat there. Slid by s, its right foot is b - s from the gutter: the
 * card lies open all the same, but closed the feet are b - s - a apart and the panels need b - a.
 */
function stripOnPlate(travelMm: number): Design {
  const [a, b, p] = [40, 60, 70];
  const q = p - (b - a);
  const tab = 10;
  return drafted(
    [
      sheetOf('Plate', 30, 40),
      sheetOf('Strip', 2 * tab + p + q, 40, {
        folds: [
          [tab, 'valley'],
          [tab + p, 'mountain'],
          [tab + p + q, 'valley'],
        ],
        zones: { left: [0, 0, tab, 40], right: [tab + p + q, 0, tab, 40] },
      }),
    ],
    [
      hangAt('slide', 'run', 'Plate', [15, 20], [b - 5, 50], {
        directionDeg: 180,
        drive: driveTo(travelMm, 'Plate'),
      }),
      glueAt('Strip', 'left', [-a - tab, 50]),
      glueAt('Strip', 'right', [5 - tab - p - q, 0], 'Plate'),
    ],
  );
}

describe('a strip that only tears when the card is closed with its plate slid', () => {
  it.each([4, 9])('is found, by as much as the feet are too near, travel %i mm', (travelMm) => {
    const context = checkContext(stripOnPlate(travelMm));
    for (const motion of [context.sweep, context.pulls[0].sweep])
      expect(motion.components.map((c) => c.state)).toEqual(['moves']);
    const { levels, free } = inOneGo(together(context.sweep, context.pulls[0].sweep));
    for (const { place, tears } of levels) {
      const slid = (place / 180) * travelMm;
      if (slid < 0.04) expect(tears).toEqual([]);
      else if (slid > 0.06) expect(Math.max(...tears.map((tear) => tear.gapMm))).toBeCloseTo(slid, 1);
    }
    expect(free).toEqual({ from: 0, to: Math.floor((0.05 / travelMm) * 180) });
    const torn = heldPullFindings(context, 0).filter(({ sentence }) => /is torn apart by/.test(sentence));
    expect(torn).toHaveLength(1);
    expect(torn[0].measured).toBeCloseTo(travelMm, 1);
    expect(torn[0].sentence).toMatch(new RegExp(`worst at ${travelMm}.0 mm, 0° open`));
    expect(torn[0].places[0].partId).toBe('Strip');
  });

  it.each(FAMILIES.map((family) => [family.id, family] as const))(
    'is not found on %s as it comes',
    (_, family) => {
      const design = withMechanism(family, family.defaults(usualHost(family, expand(seed).gutters)));
      const context = checkContext(design);
      for (const { sweep: pull } of context.pulls)
        expect(inOneGo(together(context.sweep, pull)).levels.flatMap(({ tears }) => tears)).toEqual([]);
    },
  );
});
