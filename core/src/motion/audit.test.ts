/** The audit against closed forms of what tears: gaps worked out here from where points of stiff paper must be. */
import { describe, expect, it } from 'vitest';
import { turn } from '../geometry/isometry.ts';
import { seededRandom } from '../geometry/random.ts';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import type { Design } from '../design/design.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { familyById } from '../mechanisms/registry.ts';
import { linkageOf } from './linkage.ts';
import { driverValue, sweep, type Sweep } from './sweep.ts';
import { drafted, driveTo, glueAt, hangAt, sheetOf, stripOver } from '../practice/drafts.ts';
import { pointAt } from './pose.ts';
import { apart, RAD, ridge, travels } from './testing/measure.ts';

const random = seededRandom(808);
const between = (low: number, high: number) => low + (high - low) * random();
const said = (design: Design) =>
  runChecks(checkContext(design)).filter((f) => f.rule === 'motionFaults' && f.severity === 'fault');

/** The gap at every place is what a formula says, and the finding tells the largest of them. */
function tears(design: Design, motion: Sweep, formula: (t: number) => number): void {
  const wanted = Array.from({ length: 181 }, (_, t) => formula(t));
  wanted.forEach((mm, t) => expect(Math.abs(motion.residualMm[t] - mm)).toBeLessThan(1e-6));
  const found = said(design);
  expect(found.map((f) => f.key.split(':')[1])).not.toEqual([]);
  expect(found).toHaveLength(1);
  expect(found[0].measured).toBeCloseTo(Math.max(...wanted), 6);
  expect(found[0].sentence).toContain(`${Math.round(100 * Math.max(...wanted)) / 100} mm`);
}

/** Glued on both halves by its ends, its fold `fold` from its left end. */
const across = (
  fold: number,
  length: number,
  height: number,
  placement: Parameters<typeof glueAt>[2],
): Design =>
  drafted(
    [
      sheetOf('Strip', length, height, {
        folds: [[fold, 'valley']],
        zones: { a: [1, 1, 10, height - 2], b: [length - 11, 1, 10, height - 2] },
      }),
    ],
    [glueAt('Strip', 'a', placement), glueAt('Strip', 'b', placement)],
  );

describe('what two driven bodies hold between them', () => {
  it('a strip glued to both halves is torn by 2 d cos(theta / 2) when its fold lies d off the card’s', () => {
    for (let i = 0; i < 12; i++) {
      const d = between(0.2, 25) * (random() < 0.5 ? 1 : -1);
      const design = across(40, 80, 20, [-40 + d, between(5, 120)]);
      tears(design, travels(design)[0], (t) => 2 * Math.abs(d) * Math.cos((t * RAD) / 2));
    }
    expect(said(across(40, 80, 20, [-40, 50]))).toEqual([]);
    // What paper takes up is no fault; a little more is.
    expect(said(across(40, 80, 20, [-39.98, 50]))).toEqual([]);
    expect(said(across(40, 80, 20, [-39.96, 50]))).toHaveLength(1);
  });

  it('and turned by an angle it is torn by how far its ends leave the card’s fold', () => {
    for (let i = 0; i < 12; i++) {
      const [angle, height] = [between(0.02, 0.3) * (random() < 0.5 ? 1 : -1), between(20, 70)];
      // Turned about the middle of its fold, which lies on the card's.
      const middle = [
        40 * Math.cos(angle) - (height / 2) * Math.sin(angle),
        40 * Math.sin(angle) + (height / 2) * Math.cos(angle),
      ];
      const design = across(40, 80, height, turn(angle, -middle[0], 75 - middle[1]));
      const end = (height / 2) * Math.abs(Math.sin(angle));
      tears(design, travels(design)[0], (t) => 2 * end * Math.cos((t * RAD) / 2));
    }
  });

  it('a brad from a strip on one half to the other half', () => {
    for (let i = 0; i < 8; i++) {
      const r = between(5, 50);
      const design = drafted(
        [sheetOf('Strip', 100, 20, { zones: { a: [1, 1, 20, 18] } })],
        [glueAt('Strip', 'a', [-40, 60]), hangAt('pivot', 'p', 'Strip', [40 + r, 10], [-40, 60])],
      );
      tears(design, travels(design)[0], (t) => 2 * r * Math.cos((t * RAD) / 2));
    }
  });

  it('a channel on the other half: across its way by r sin(theta), for what slides along is no gap', () => {
    const r = 33;
    const design = drafted(
      [sheetOf('Strip', 100, 20, { zones: { a: [1, 1, 20, 18] } })],
      [glueAt('Strip', 'a', [-40, 60]), hangAt('slide', 's', 'Strip', [40 + r, 10], [-40, 60])],
    );
    // Near closed it lies in the plane again, face down: then its arm of 4 mm is turned over, 8 mm.
    tears(design, travels(design)[0], (t) => {
      const off = r * Math.sin(t * RAD);
      return off > 0.05 ? off : 8 * Math.cos((t * RAD) / 2);
    });
  });

  it('two brads through one plate that is turned', () => {
    const [x, y] = [between(20, 60), between(-5, 5)];
    const design = drafted(
      [sheetOf('Plate', 80, 20)],
      [
        hangAt('pivot', 'p', 'Plate', [10, 10], [20, 60], { drive: driveTo(90, 'Turn') }),
        hangAt('pivot', 'q', 'Plate', [10 + x, 10 + y], [20, 60]),
      ],
    );
    const [opening, turning] = travels(design);
    expect(Math.max(...opening.residualMm)).toBeLessThan(1e-9);
    tears(design, turning, (t) => {
      const angle = driverValue(turning.linkage.drivers[1], t) * RAD;
      return 2 * Math.hypot(x, y) * Math.sin(angle / 2);
    });
  });

  it('a channel across a pull', () => {
    const way = between(30, 80);
    const design = drafted(
      [sheetOf('Plate', 40, 20)],
      [
        hangAt('slide', 'p', 'Plate', [10, 10], [20, 60], { drive: driveTo(30) }),
        hangAt('slide', 'q', 'Plate', [30, 10], [20, 60], { directionDeg: way }),
      ],
    );
    tears(design, travels(design)[1], (t) => ((30 * t) / 180) * Math.sin(way * RAD));
  });

  it('a hand that turns two folds of a strip glued at both ends', () => {
    const design = drafted(
      [
        sheetOf('Strip', 80, 20, {
          folds: [
            [30, 'valley'],
            [50, 'mountain'],
          ],
          zones: { a: [1, 1, 20, 18], b: [59, 1, 20, 18] },
        }),
      ],
      [
        glueAt('Strip', 'a', [20, 60]),
        glueAt('Strip', 'b', [20, 60]),
        {
          id: 'h',
          kind: 'hand',
          partId: 'Strip',
          hostPartId: 'card',
          folds: [
            { lineId: 'f0', factor: 1 },
            { lineId: 'f1', factor: -1 },
          ],
          drive: driveTo(90, 'Lift'),
        },
      ],
    );
    // The panel between the folds, 20 mm, lifts by v: its far end is 2 x 20 sin(v / 2) off the fold that it had.
    tears(design, travels(design)[1], (t) => 40 * Math.sin((t * RAD) / 4));
  });
});

describe('folds inside one glued body', () => {
  const flap = (off: number, layer: 'valley' | 'mountain' = 'valley') =>
    drafted(
      [
        sheetOf('Flap', 60, 20, {
          folds: [[30, layer]],
          zones: { a: [2, 2, 20, 16], b: [40, 2, 16, 16] },
          front: ['b'],
        }),
      ],
      [
        glueAt('Flap', 'a', [20, 60]),
        glueAt('Flap', 'b', { angleRad: Math.PI, flip: true, dx: 60 + off, dy: 0 }, 'Flap'),
      ],
    );

  it('a flap folded back and glued face to face is torn by as much as it is out of place', () => {
    expect(said(flap(0))).toEqual([]);
    for (let i = 0; i < 8; i++) {
      const off = between(0.2, 9);
      const [found, ...more] = said(flap(off));
      expect(more).toEqual([]);
      expect(found.measured).toBeCloseTo(off, 9);
    }
    expect(said(flap(0, 'mountain')).map((f) => f.sentence)).toEqual([
      expect.stringMatching(/drawn as a mountain, but glue holds it folded to the other side/),
    ]);
  });

  it('a strip folded once whose ends are glued to one panel', () => {
    const design = (off: number) =>
      drafted(
        [
          sheetOf('Strip', 60, 20, {
            folds: [[30, 'valley']],
            zones: { a: [0, 2, 10, 16], b: [50, 2, 10, 16] },
            front: ['b'],
          }),
        ],
        [
          glueAt('Strip', 'a', [60, 60]),
          glueAt('Strip', 'b', { angleRad: Math.PI, flip: true, dx: 120 + off, dy: 60 }),
        ],
      );
    expect(said(design(0))).toEqual([]);
    expect(said(design(5)).map((f) => f.measured)).toEqual([expect.closeTo(5, 9)]);
  });

  it('a stiff bar glued to both halves: it is named, and nothing else is said', () => {
    const bar = drafted(
      [sheetOf('Bar', 80, 20, { zones: { a: [2, 2, 20, 16], b: [58, 2, 20, 16] } })],
      [glueAt('Bar', 'a', [-40, 60]), glueAt('Bar', 'b', [-40, 60])],
    );
    const found = runChecks(checkContext(bar)).map((f) => f.sentence);
    expect(found).toHaveLength(1);
    expect(found[0]).toMatch(/cannot close: Bar is glued to its left half and its right half/);
  });

  it('glue over a part’s own fold: the glue is named where a hand should turn it', () => {
    const design = drafted(
      [
        sheetOf('Flap', 60, 20, {
          folds: [[30, 'valley']],
          zones: { a: [2, 2, 20, 16], b: [40, 2, 16, 16] },
        }),
      ],
      [
        glueAt('Flap', 'a', [20, 60]),
        glueAt('Flap', 'b', [20, 60]),
        {
          id: 'h',
          kind: 'hand',
          partId: 'Flap',
          hostPartId: 'card',
          folds: [{ lineId: 'f0', factor: 1 }],
          drive: driveTo(90, 'Lift'),
        },
      ],
    );
    const sentences = runChecks(checkContext(design)).map((f) => f.sentence);
    expect(
      sentences.filter((s) => /“Lift” cannot turn the fold “f0” of Flap: glue holds both its sides/.test(s)),
    ).toHaveLength(1);
    expect(sentences.filter((s) => /not there/.test(s))).toEqual([]);
  });
});

describe('loops', () => {
  it('a pose that does not close shows the largest gap, as measured from the two sides of its fold', () => {
    for (let i = 0; i < 8; i++) {
      const [a, b] = [between(25, 45), between(25, 45)];
      const p = between(18, 26);
      const design = stripOver([a, b, p, a + p - b < 8 ? 12 : a + p - b]);
      const [motion] = travels(design);
      const { panels, creases } = motion.linkage;
      for (let t = 0; t <= 180; t += 3) {
        const gaps = creases.map((c) =>
          Math.max(
            ...[c.from, c.to].map((end) =>
              apart(
                pointAt(motion, panels[c.leftPanel], end, t),
                pointAt(motion, panels[c.rightPanel], end, t),
              ),
            ),
          ),
        );
        expect(Math.abs(motion.residualMm[t] - Math.max(...gaps))).toBeLessThan(1e-9);
      }
      const worst = Math.max(...motion.residualMm);
      if (worst > 0.05) expect(said(design).some((f) => f.measured! > 0.05)).toBe(true);
    }
  });

  it('feet that are too far apart for their panels: the gap open flat is what is lacking', () => {
    for (let i = 0; i < 8; i++) {
      const [a, b, lacking] = [between(30, 45), between(30, 45), between(0.2, 4)];
      // a + p = b + q closes flat; p + q = a + b - lacking does not open.
      const p = (2 * b - lacking) / 2;
      const [motion] = travels(stripOver([a, b, p, a + p - b]));
      expect(motion.residualMm[180]).toBeCloseTo(lacking, 3);
      const [found, ...more] = said(stripOver([a, b, p, a + p - b]));
      expect(more).toEqual([]);
      expect(found.sentence).toMatch(/does not let the card open flat/);
      expect(found.measured).toBeCloseTo(lacking, 3);
    }
  });

  it('a hair in a foot is no fault; more is told as unequal ways, by how much', () => {
    for (let i = 0; i < 30; i++) {
      const [a, b] = [between(25, 50), between(25, 50)];
      const p = b + between(0, 20);
      const measures = (error: number) => [a + error, b, p, a + p - b] as const;
      const sign = random() < 0.5 ? 1 : -1;
      expect(runChecks(checkContext(stripOver(measures(0.02 * sign)))).map((f) => f.sentence)).toEqual([]);
      const error = between(0.1, 3) * sign;
      const found = runChecks(checkContext(stripOver(measures(error))));
      expect(found.map((f) => f.rule)).toEqual(['motionFaults']);
      expect(found[0].sentence).toMatch(
        /the two ways round its folds.* differ by|does not let the card open flat/,
      );
      expect(found[0].measured).toBeCloseTo(Math.abs(error), 6);
    }
  });

  it('a fold drawn the wrong way round is the one that is marked, and turning it round mends it', () => {
    for (let i = 0; i < 12; i++) {
      const [a, b] = [between(25, 50), between(25, 50)];
      const p = b + between(0, 20);
      const layers = ['valley', 'mountain', 'valley'] as ('valley' | 'mountain')[];
      const wrong = i % 3;
      layers[wrong] = layers[wrong] === 'valley' ? 'mountain' : 'valley';
      const design = stripOver([a, b, p, a + p - b], layers);
      const found = runChecks(checkContext(design));
      expect(found.map((f) => f.key)).toEqual([`motionFaults:turnedOver:Strip/f${wrong}`]);
      expect(found[0].mend?.command).toMatchObject({ do: 'line', id: `f${wrong}` });
    }
  });

  it('a slit of no length speaks of the slit', () => {
    const design = drafted(
      [sheetOf('Crank', 60, 12), sheetOf('Yoke', 20, 80)],
      [
        hangAt('pivot', 'p', 'Crank', [6, 6], [20, 60], { drive: driveTo(90, 'Turn') }),
        {
          id: 'pin',
          kind: 'pin',
          partId: 'Crank',
          hostPartId: 'Yoke',
          placement: turn(0, -40, 30),
          at: [50, 6],
          face: 'front',
          slit: [
            [10, 40],
            [10, 40],
          ],
        },
      ],
    );
    expect(said(design).map((f) => f.sentence)).toContain(
      'The slit for the pin of Crank has no length: draw its two ends apart.',
    );
  });

  it('agrees with the closed form where it closes, whatever it says of the rest', () => {
    const [a, b, p, q] = [40, 36, 30, 34];
    const [motion] = travels(stripOver([a, b, p, q]));
    const [report] = motion.components;
    expect(report.state).toBe('locked');
    // |AB| = p + q: beyond, it is too short.
    const opens = Math.acos((a * a + b * b - (p + q) ** 2) / (2 * a * b)) / RAD;
    expect(report.closing).toEqual([[0, Math.floor(opens)]]);
    const left = motion.linkage.panels.find((panel) => panel.part.id === 'Strip' && panel.id === 'panel-2')!;
    for (let t = 5; t < opens; t += 5) {
      const [x, z] = ridge({ a, b, p, q }, t * RAD);
      const got = pointAt(motion, left, [10 + p, 0], t);
      expect(apart(got, [x, 20, z])).toBeLessThan(1e-6);
    }
  });
});

describe('cards with one foot glued askew', () => {
  it('say so at every pose, the ends included, and are silent only where every fold holds', () => {
    const base = drafted([]);
    const { gutters } = expand(base);
    const families = ['step', 'vfold', 'platform', 'crossed', 'spinner', 'standUp'].map((id) =>
      familyById(id)!,
    );
    let torn = 0;
    for (let i = 0; i < 60; i++) {
      const family = families[i % families.length];
      const m = newInstance(family, usualHost(family, gutters), 'm');
      const expanded = expand({ ...base, instances: { m } });
      const feet = expanded.joints.filter((j) => j.kind === 'glue' && j.hostPartId === 'card');
      const foot = feet[Math.floor(random() * feet.length)];
      const joints = expanded.joints.map((j) =>
        j === foot && j.kind === 'glue'
          ? {
              ...j,
              placement: {
                ...j.placement,
                dx: j.placement.dx + between(-2, 2),
                dy: j.placement.dy + between(-1, 1),
                angleRad: j.placement.angleRad + between(-0.02, 0.02),
              },
            }
          : j,
      );
      const motion = sweep(linkageOf({ ...expanded, joints }));
      const { panels, creases, attached } = motion.linkage;
      for (const t of [0, 1, 2, 5, 20, 60, 90, 120, 160, 175, 178, 179, 180]) {
        const gaps = creases
          .filter((c) => attached[c.left])
          .map((c) =>
            Math.max(
              ...[c.from, c.to].map((end) =>
                apart(
                  pointAt(motion, panels[c.leftPanel], end, t),
                  pointAt(motion, panels[c.rightPanel], end, t),
                ),
              ),
            ),
          );
        const worst = Math.max(...gaps);
        expect(motion.residualMm[t]).toBeGreaterThanOrEqual(worst - 1e-9);
        if (worst > 0.05) {
          torn++;
          expect(motion.components.some((c) => !c.closing.some(([from, to]) => from <= t && t <= to))).toBe(
            true,
          );
          expect(motion.components.some((c) => c.state === 'locked' || c.state === 'torn')).toBe(true);
        }
      }
    }
    expect(torn).toBeGreaterThan(100);
  });
});
