/** Catches against angles derived by hand, against piercing edges (brute force), and none where there is none. */
import { workOf } from '../dieline/part.ts';
import { pieceScaleMend } from '../checks/pieceScale.ts';
import { describe, expect, it } from 'vitest';
import { findMend } from '../checks/clearing.ts';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import { applyCommand } from '../design/commands.ts';
import { newDesign, type Design, type Instance } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { circle, polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { distanceToRing, insideRegion } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { invert, move, RIGID_SIZE, type Vec3 } from '../geometry/rigid.ts';
import { inverse, place, shift } from '../geometry/isometry.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Family, Params } from '../mechanisms/family.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { step } from '../mechanisms/step.ts';
import { vfold } from '../mechanisms/vfold.ts';
import { catchesOf } from './catches.ts';
import { linkageOf, type PanelRef } from './linkage.ts';
import { pointAt } from './pose.ts';
import { pullSweeps, sweep, type Sweep } from './sweep.ts';

const RAD = Math.PI / 180;
const base = newDesign('Catches', { closedWidthMm: 148, closedHeightMm: 200 });
const gutter = cardGutter(base);
const instance = (id: string, family: Family, params: Params): Instance =>
  newInstance(family, gutter, id, { params, beyondLimits: true });
const withAll = (...list: Instance[]): Design => ({
  ...base,
  instances: Object.fromEntries(list.map((i) => [i.id, i])),
});
const motionOf = (design: Design) => sweep(linkageOf(expand(design)));
/** The zero of f between two openings in degrees, by bisection. */
function rootDeg(f: (deg: number) => number, from: number, to: number): number {
  const rising = f(to) > f(from);
  for (let k = 0; k < 60; k++) {
    const middle = (from + to) / 2;
    if (f(middle) > 0 === rising) to = middle;
    else from = middle;
  }
  return from;
}

describe('catch angles against derived ones', () => {
  /** A step's ridge in the plane across the gutter: circles of radius p about A and q about B, away from the gutter. */
  const ridge = (a: number, b: number, p: number, q: number, t: number): [number, number] => {
    const [ax, az] = [a * Math.cos(t), a * Math.sin(t)];
    const d = Math.hypot(b - ax, az);
    const s = (p * p - q * q + d * d) / (2 * d);
    const h = Math.sqrt(Math.max(0, p * p - s * s));
    const [ux, uz] = [(b - ax) / d, -az / d];
    return [ax + s * ux - h * uz, az + s * uz + h * ux];
  };

  it.each([
    [20, 40, 60, 30],
    [30, 50, 62, 34],
    [25, 45, 70, 20],
  ])(
    'a flag on the left panel runs into the right half (a %i, b %i, p %i, longer by %i)',
    (a, b, p, longer) => {
      const q = a + p - b;
      const width = 60;
      const flag = {
        id: 'flag',
        name: 'Flag',
        stockId: 'slate-240',
        grainRad: null,
        quantity: 1,
        lines: {
          o: {
            id: 'o',
            ...workOf('cut'),
            path: polyline(
              [
                [0, 0],
                [20 + longer, 0],
                [20 + longer, 10],
                [0, 10],
              ],
              true,
            ),
          },
        },
        marks: {},
        glueZones: {
          z: {
            id: 'z',
            outline: [
              [0, 0],
              [20, 0],
              [20, 10],
              [0, 10],
            ] as Point[],
            face: 'back' as const,
            kind: 'glue' as const,
          },
        },
      };
      const design: Design = {
        ...withAll(
          instance('m', step, {
            form: 'glued',
            leftMm: a,
            rightMm: b,
            parallel: false,
            panelMm: p,
            alongMm: 60,
            widthMm: width,
          }),
        ),
        parts: { flag },
        joints: {
          j: {
            id: 'j',
            kind: 'glue',
            partId: 'flag',
            zoneId: 'z',
            hostPartId: 'm/strip',
            placement: shift(p - 20, 25),
            mate: null,
          },
        },
      };
      // The flag's far edge lies p + longer from the left foot along the panel; its height over the right half:
      const height = (deg: number) => {
        const t = deg * RAD;
        const [, z] = ridge(a, b, p, q, t);
        const az = a * Math.sin(t);
        return az + ((p + longer) / p) * (z - az);
      };
      const found = catchesOf(motionOf(design)).filter((c) => Math.abs(c.toDeg - c.fromDeg) > 0.5);
      const degrees = Array.from({ length: 178 }, (_, i) => i + 1);
      const low = degrees.filter((deg) => height(deg) < 0);
      if (low.length === 0) {
        expect(found).toEqual([]);
        return;
      }
      // Touching becomes a catch at 0.05 mm: the derived angle is where the edge is that deep.
      const [first, last] = [low[0], low[low.length - 1]];
      const mine = found.find((c) => c.depthMm > 1)!;
      if (first > 1)
        expect(Math.abs(mine.fromDeg - rootDeg((deg) => height(deg) + 0.05, first - 1, first))).toBeLessThan(
          0.1,
        );
      if (last < 178)
        expect(Math.abs(mine.toDeg - rootDeg((deg) => height(deg) + 0.05, last, last + 1))).toBeLessThan(0.1);
      expect(mine.depthMm).toBeGreaterThan(0.05);
    },
  );

  it.each([
    [40, 44],
    [36, 41],
    [30, 52],
  ])('a V-fold’s tip comes through the ridge of a step over it (feet %i, crease %i)', (foot, crease) => {
    // Both are symmetric: tip and ridge move in the plane halfway between the halves. The step's ridge is
    // 2 foot cos(t/2) from the gutter... its feet are at foot, its panels foot long: a rhombus with diagonal 2 foot cos(t / 2).
    const [alpha, beta, apex] = [50 * RAD, 60 * RAD, 60];
    const design = withAll(
      instance('s', step, {
        form: 'glued',
        leftMm: foot,
        rightMm: foot,
        parallel: true,
        alongMm: 20,
        widthMm: 100,
      }),
      instance('v', vfold, {
        symmetric: true,
        alongMm: apex,
        leftFootDeg: 50,
        panelDeg: 60,
        footMm: 24,
        creaseMm: crease,
        edgeMm: 2,
        tabMm: 5,
      }),
    );
    // Tip: unit crease c with c.f = cos beta, f = (sin alpha cos(t/2), cos alpha, sin alpha sin(t/2)) about the middle plane,
    // c = (u, v): u outwards in the middle plane, v along the gutter: u sin alpha cos(t/2) + v cos alpha = cos beta, u^2 + v^2 = 1.
    const tipOut = (t: number) => {
      const [A, B, C] = [Math.sin(alpha) * Math.cos(t / 2), Math.cos(alpha), Math.cos(beta)];
      const size = Math.hypot(A, B);
      const angle = Math.atan2(A, B);
      const turn = Math.acos(C / size);
      return crease * Math.sin(angle + turn);
    };
    const beyond = (deg: number) => tipOut(deg * RAD) - 2 * foot * Math.cos((deg * RAD) / 2);
    const caught = catchesOf(motionOf(design)).filter((c) => c.toDeg > 100);
    // Coming through the ridge, the tip is first inside the roof's two panels, at once on both: by symmetry they begin alike.
    const start = rootDeg(beyond, 20, 179);
    expect(caught.length).toBeGreaterThan(0);
    const begins = Math.min(...caught.filter((c) => c.depthMm > 0.3).map((c) => c.fromDeg));
    // The tip is a corner between two slanting panels: 0.05 mm of overlap are reached within a fraction of a degree.
    expect(Math.abs(begins - start)).toBeLessThan(0.6);
  });
});

/** Whether an edge of one panel pierces the other panel's material: an independent test for crossing. */
function pierces(motion: Sweep, one: PanelRef, two: PanelRef, deg: number): { hit: boolean; clear: number } {
  const at = (deg * motion.linkage.bodyCount + two.body) * RIGID_SIZE;
  const back = invert(motion.bodies.slice(at, at + RIGID_SIZE));
  let [hit, clear] = [false, 0];
  for (const ring of [one.region.outer, ...one.region.holes])
    ring.forEach((p, i) => {
      const [a, b] = [p, ring[(i + 1) % ring.length]].map((q) =>
        move(back, pointAt(motion, one, q, deg)),
      ) as [Vec3, Vec3];
      if (a[2] * b[2] >= 0) return;
      const t = a[2] / (a[2] - b[2]);
      const on = place(inverse(two.placement), [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])]);
      if (!insideRegion(on, two.region)) return;
      hit = true;
      // How clearly: both ends well off the plane, and the piercing point well inside the material.
      clear = Math.max(
        clear,
        Math.min(
          Math.abs(a[2]),
          Math.abs(b[2]),
          ...[two.region.outer, ...two.region.holes].map((r) => distanceToRing(on, r)),
        ),
      );
    });
  return { hit, clear };
}

describe('catches on random cards', () => {
  const random = seededRandom(71);
  const hostOf = (family: Family) => usualHost(family, expand(base).gutters);
  const draw = (family: Family): Params => {
    const params: Record<string, number | string | boolean> = { ...family.defaults(hostOf(family)) };
    for (const spec of family.specs) {
      if (spec.kind === 'length' && !['tabMm', 'taperMm'].includes(spec.key))
        params[spec.key] = Number(params[spec.key]) * (0.5 + 1.3 * random());
      if (spec.kind === 'angle') params[spec.key] = 25 + 70 * random();
      if (spec.kind === 'flag') params[spec.key] = random() < 0.5;
      if (spec.kind === 'choice')
        params[spec.key] = spec.choices[Math.floor(random() * spec.choices.length)].value;
    }
    return params;
  };
  const legal = (family: Family): Params => {
    for (let tried = 0; tried < 300; tried++) {
      const params = draw(family);
      if (family.constraints(params, hostOf(family), 2).every((c) => c.overMm <= 0)) return params;
    }
    // Narrow families hardly ever meet a random draw: then the usual measures will do.
    return family.defaults(hostOf(family));
  };

  it('are not found on 200 legal cards with one mechanism, opened and pulled', () => {
    for (let i = 0; i < 200; i++) {
      const family = FAMILIES[i % FAMILIES.length];
      const m = newInstance(family, hostOf(family), 'm', { params: legal(family) });
      const expanded = expand({ ...base, instances: { m } });
      const linkage = linkageOf(expanded);
      const opening = sweep(linkage);
      for (const motion of [opening, ...pullSweeps(linkage, opening)]) {
        const wrong = motion.components.filter(
          (c) => c.state !== 'moves' && !(c.state === 'floppy' && expanded.loose.size > 0),
        );
        expect([family.id, m.params, wrong]).toEqual([family.id, m.params, []]);
        expect([family.id, m.params, catchesOf(motion)]).toEqual([family.id, m.params, []]);
      }
    }
  });

  it('are found where edges pierce panels, and only there', () => {
    let [agreed, caught] = [0, 0];
    for (let i = 0; i < 44; i++) {
      const motion = motionOf(withAll(instance('a', step, legal(step)), instance('b', vfold, legal(vfold))));
      const found = catchesOf(motion);
      const { panels } = motion.linkage;
      for (const deg of [7, 31, 64, 98, 127, 161])
        for (let a = 0; a < panels.length; a++)
          for (let b = a + 1; b < panels.length; b++) {
            if (
              panels[a].part.id === panels[b].part.id ||
              panels[a].part.id === 'card' ||
              panels[a].body === panels[b].body
            )
              continue;
            const [ab, ba] = [
              pierces(motion, panels[a], panels[b], deg),
              pierces(motion, panels[b], panels[a], deg),
            ];
            const said = found.some((c) => c.a === a && c.b === b && c.fromDeg <= deg && c.toDeg >= deg);
            if (said) expect(ab.hit || ba.hit).toBe(true);
            if (Math.max(ab.clear, ba.clear) > 0.5) expect(said).toBe(true);
            agreed++;
            if (said) caught++;
          }
    }
    expect(agreed).toBeGreaterThan(1000);
    expect(caught).toBeGreaterThan(20);
  });

  it('are cleared by the smallest move, which is tried before it is offered', () => {
    const design = withAll(
      instance('s', step, {
        form: 'glued',
        leftMm: 30,
        rightMm: 30,
        parallel: true,
        alongMm: 80,
        widthMm: 50,
      }),
      instance('v', vfold, {
        alongMm: 55,
        leftFootDeg: 45,
        panelDeg: 50,
        footMm: 40,
        creaseMm: 60,
        edgeMm: 5,
      }),
    );
    const context = checkContext(design);
    const finding = runChecks(context).find((f) => f.rule === 'catching')!;
    expect(finding.sentence).toMatch(
      /^From \d+\.\d° to \d+\.\d° .* runs into .* deep at \d+°(, and 1 more pair of their panels)?\.$/,
    );
    const mend = findMend(context, finding.key)!;
    const after = checkContext(applyCommand(design, mend.command).design);
    expect(runChecks(after).filter((f) => f.key === finding.key)).toEqual([]);
    expect(after.catches.length).toBeLessThan(context.catches.length);
    expect(findMend(context, 'catching:no/such:pair')).toBeNull();
  });

  it('are cleared by moving a glued piece, or making it smaller, just as much as it must be', () => {
    const start = withAll(
      instance('s', step, {
        form: 'glued',
        leftMm: 30,
        rightMm: 30,
        parallel: true,
        alongMm: 60,
        widthMm: 50,
      }),
    );
    const withSign = (height: number): Design => ({
      ...start,
      parts: {
        d: {
          id: 'd',
          name: 'Sign',
          stockId: 'slate-240',
          grainRad: null,
          quantity: 1,
          lines: { o: { id: 'o', ...workOf('cut'), path: circle([0, 0], height) } },
          marks: {},
          glueZones: {
            z: {
              id: 'z',
              outline: [
                [-8, -8],
                [8, -8],
                [8, 8],
                [-8, 8],
              ],
              face: 'back',
              kind: 'glue',
            },
          },
        },
      },
      // In the middle of the step's right panel: 15 mm from ridge and foot; below the foot the right half stands through.
      joints: {
        j: {
          id: 'j',
          kind: 'glue',
          partId: 'd',
          zoneId: 'z',
          hostPartId: 's/strip',
          placement: shift(45, 25),
          mate: null,
        },
      },
    });
    expect(checkContext(withSign(14.5)).catches).toEqual([]);
    const context = checkContext(withSign(20));
    const finding = runChecks(context).find((f) => f.rule === 'catching')!;
    // Over the ridge it has room: 5 mm higher, and it clears the foot. Kept where it is, 15 of 20 mm: three quarters, a whole
    // percent less for safety.
    const moved = findMend(context, finding.key)!;
    expect(moved.label).toMatch(/^Move Sign 5(\.0\d)? mm into the free area$/);
    const smaller = pieceScaleMend(context.design, 'd')!;
    expect(smaller.label).toMatch(/^Make Sign 7[45] % of its size$/);
    for (const mend of [moved, smaller]) {
      const after = checkContext(applyCommand(context.design, mend.command).design);
      expect([after.catches, runChecks(after).filter((f) => f.rule === 'glueLanding')]).toEqual([[], []]);
    }
  });
});
