/** Which branch of a motion is shown: that of the drawn rest, through dead points; and travels that are torn on the way. */
import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import type { Design, Joint } from '../design/design.ts';
import { turn } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { driverValue, type Sweep } from './sweep.ts';
import { drafted, driveTo, hangAt, sheetOf } from '../practice/drafts.ts';
import { apart, at, RAD, travels } from './testing/measure.ts';

const random = seededRandom(4242);
const between = (low: number, high: number) => low + (high - low) * random();
const WIDE = 8;

/**
 * Four bars flat on the right half: a crank r from its pivot O, a rocker s from its pivot Q, g to the right of O, and a
 * coupler l between their ends; drawn with the crank at `rest` from the ground line, the rocker above or below.
 */
function fourBars(r: number, l: number, s: number, g: number, rest: number, above: boolean): Design {
  const o: Point = [60 - g / 2, 75];
  const q: Point = [60 + g / 2, 75];
  const a: Point = [o[0] + r * Math.cos(rest), o[1] + r * Math.sin(rest)];
  // Where circles of radius l about a and s about q meet.
  const d = Math.hypot(q[0] - a[0], q[1] - a[1]);
  const x = (l * l - s * s + d * d) / (2 * d);
  const h = Math.sqrt(l * l - x * x) * (above ? 1 : -1);
  const u: Point = [(q[0] - a[0]) / d, (q[1] - a[1]) / d];
  const b: Point = [a[0] + x * u[0] - h * u[1], a[1] + x * u[1] + h * u[0]];
  const bar = (id: string, length: number) => sheetOf(id, length + WIDE, WIDE);
  const along = (from: Point, to: Point) => {
    const angle = Math.atan2(to[1] - from[1], to[0] - from[0]);
    const [c, n] = [Math.cos(angle), Math.sin(angle)];
    // The bar's own pivot is half its width in from its corner.
    const half = WIDE / 2;
    return turn(angle, from[0] - half * c + half * n, from[1] - half * n - half * c);
  };
  const start: Point = [WIDE / 2, WIDE / 2];
  const end = (length: number): Point => [WIDE / 2 + length, WIDE / 2];
  // The coupler onto the crank and the rocker: placed as both are on the card.
  const onBar = (id: string, partId: string, at: Point, hostPartId: string, host: [Point, Point]): Joint => {
    const [coupler, bars] = [along(a, b), along(...host)];
    const angleRad = coupler.angleRad - bars.angleRad;
    const [c, n] = [Math.cos(-bars.angleRad), Math.sin(-bars.angleRad)];
    const [dx, dy] = [coupler.dx - bars.dx, coupler.dy - bars.dy];
    const placement = { angleRad, flip: false, dx: c * dx - n * dy, dy: n * dx + c * dy };
    return hangAt('pivot', id, partId, at, placement, { hostPartId });
  };
  return drafted(
    [bar('Crank', r), bar('Coupler', l), bar('Rocker', s)],
    [
      hangAt('pivot', 'turn', 'Crank', start, along(o, a), { drive: driveTo(360, 'Crank') }),
      hangAt('pivot', 'rock', 'Rocker', start, along(q, b)),
      onBar('one', 'Coupler', start, 'Crank', [o, a]),
      onBar('two', 'Coupler', end(l), 'Rocker', [q, b]),
    ],
  );
}

const endOfBar = (motion: Sweep, id: string, length: number, t: number) =>
  at(motion, id, 'panel-1', [WIDE / 2 + length, WIDE / 2], t);

describe('a pull', () => {
  it('turns a parallelogram of two cranks fully on the branch on which it is drawn, through both dead points', () => {
    for (let i = 0; i < 20; i++) {
      const [r, g, rest] = [
        between(10, 22),
        between(26, 50),
        between(0.15, Math.PI - 0.15) * (random() < 0.5 ? 1 : -1),
      ];
      const design = fourBars(r, g, r, g, rest, rest > 0);
      const [, turning] = travels(design);
      expect(turning.components.map((c) => c.state)).toEqual(['moves']);
      for (let t = 0; t <= 180; t++) {
        const angle = rest + driverValue(turning.linkage.drivers[1], t) * RAD;
        const q = [60 + g / 2, 75];
        const wanted = [q[0] + r * Math.cos(angle), q[1] + r * Math.sin(angle), 0];
        expect(apart(endOfBar(turning, 'Rocker', r, t), wanted)).toBeLessThan(1e-6);
      }
    }
  });

  it('keeps a crank and rocker on the drawn side of its crank, whichever that is', () => {
    for (const above of [true, false])
      for (let i = 0; i < 6; i++) {
        const [r, l, s, g] = [12, between(34, 40), between(26, 32), between(36, 42)];
        const rest = between(0, 2 * Math.PI);
        const [, turning] = travels(fourBars(r, l, s, g, rest, above));
        const [report] = turning.components;
        expect(report.state).toBe('moves');
        for (let t = 0; t <= 180; t += 4) {
          const a = endOfBar(turning, 'Crank', r, t);
          const b = endOfBar(turning, 'Rocker', s, t);
          expect(apart(a, b)).toBeCloseTo(l, 6);
          // The coupler is seen from the rocker's pivot on one side all the way.
          const [qx, qy] = [60 + g / 2 - a[0], 75 - a[1]];
          const side = qx * (b[1] - a[1]) - qy * (b[0] - a[0]);
          expect(side > 0).toBe(above);
        }
      }
  });

  it('that is torn in the middle of its travel holds together before and after: both stretches are told', () => {
    for (let i = 0; i < 6; i++) {
      const [r, l, s, g] = [between(20, 22), between(17, 19), between(15, 18), between(26, 30)];
      // Beyond this angle the crank's end is too far from the rocker's pivot: r^2 + g^2 - 2 r g cos = (l + s)^2.
      const cos = (r * r + g * g - (l + s) ** 2) / (2 * r * g);
      if (Math.abs(cos) > 0.95) continue;
      const limit = Math.acos(cos) / RAD;
      const design = fourBars(r, l, s, g, 0, true);
      const [, turning] = travels(design);
      const [report] = turning.components;
      expect(report.state).toBe('locked');
      const [first, last] = [Math.floor(limit / 2), Math.ceil((360 - limit) / 2)];
      expect(report.closing).toHaveLength(2);
      expect(report.closing[0][0]).toBe(0);
      expect(report.closing[1][1]).toBe(180);
      // Within the joints' own play a degree more is allowed.
      expect(Math.abs(report.closing[0][1] - first)).toBeLessThanOrEqual(1);
      expect(Math.abs(report.closing[1][0] - last)).toBeLessThanOrEqual(1);
      // The crank's end straight beyond: lacking by r + g - l - s.
      expect(report.worstDeg).toBe(90);
      const found = runChecks(checkContext(design)).filter((f) => f.rule === 'motionFaults');
      expect(found).toHaveLength(1);
      expect(found[0].sentence).toMatch(/from 0° to \d+° and from \d+° to 360°: at 180°/);
      const [, from, to] = /from 0° to (\d+)° and from (\d+)° to 360°/.exec(found[0].sentence)!;
      expect(Number(from)).toBeLessThan(180);
      expect(Number(to)).toBeGreaterThan(180);
    }
  });
});

describe('folds drawn on the card from its own fold', () => {
  const withLines = (lines: [string, 'valley' | 'mountain', Point, Point][]): Design => {
    const design = drafted([]);
    return {
      ...design,
      additions: Object.fromEntries(
        lines.map(([id, layer, from, to]) => [
          id,
          { id, partId: 'card', panelId: 'right', line: { id, ...workOf(layer), path: straight(from, to) } },
        ]),
      ),
    };
  };

  /** The folds of the card by a line's id, at a place of the travel. */
  const foldAt = (design: Design, id: string, t: number): number => {
    const [motion] = travels(design);
    const { creases, links } = motion.linkage;
    return motion.values[t * links.length + creases.findIndex((c) => c.lineIds.includes(id))];
  };
  const diagonals = (alpha: number, layers: readonly ('valley' | 'mountain')[]) =>
    withLines(
      layers.map((layer, i) => {
        const dx = (i === 0 ? -1 : 1) * 148;
        return [`d${i}`, layer, [0, 70], [dx, 70 + 148 / Math.tan(alpha)]];
      }),
    );
  const faults = (design: Design) =>
    runChecks(checkContext(design))
      .filter((f) => f.severity === 'fault')
      .map((f) => `${f.rule}: ${f.sentence}`);

  it('three that meet at a vertex cannot fold: the one that was drawn is named, and nothing pokes out', () => {
    for (const layer of ['valley', 'mountain'] as const) {
      const found = faults(withLines([['d', layer, [0, 80], [148, 140]]]));
      expect(found).toEqual([
        expect.stringMatching(/motionFaults: The fold “d” of Card stays flat all the way/),
      ]);
    }
  });

  /**
   * A vertex of four with sectors alpha (above) and pi - alpha (below), mirrored in the card's fold: on the unit sphere the
   * upper right triangle has its sides and half angles so that tan(half a diagonal's fold) times cos alpha is
   * tan(half the gutter's fold), by Napier's rule for the right-angled triangle that the mirror plane makes.
   */
  it('two valleys from a vertex fold with the card, as the spherical triangle says; the stretch above turns the other way', () => {
    for (let i = 0; i < 6; i++) {
      const alpha = between(1.1, 1.4);
      const design = diagonals(alpha, ['valley', 'valley']);
      expect(faults(design)).toEqual([]);
      for (const t of [30, 90, 150]) {
        const gutter = (180 - t) * RAD;
        const [left, right] = ['d0', 'd1'].map((id) => foldAt(design, id, t));
        expect(left).toBeCloseTo(right, 6);
        expect(Math.tan(gutter / 2)).toBeCloseTo(Math.tan(left / 2) * Math.cos(alpha), 6);
      }
    }
  });

  it('two that cannot fold so with the card’s valley are named', () => {
    for (const layers of [
      ['mountain', 'mountain'],
      ['valley', 'mountain'],
    ] as const) {
      const found = faults(diagonals(1.25, layers));
      expect(found).toHaveLength(1);
      expect(found[0]).toMatch(/“d0” of Card and the fold “d1” of Card stay flat all the way|turns? over/);
    }
  });
});
