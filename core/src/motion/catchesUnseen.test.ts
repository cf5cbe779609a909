/** Catches that poses at whole places do not show: plates over folds, plates that pass each other, fast edges, short slots. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import type { Design } from '../design/design.ts';
import { polyline } from '../geometry/path.ts';
import { seededRandom } from '../geometry/random.ts';
import { RIGID_SIZE } from '../geometry/rigid.ts';
import { expand, type Expanded } from '../mechanisms/expand.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { familyById } from '../mechanisms/registry.ts';
import { usualHost } from '../mechanisms/instance.ts';
import { catchesOf } from './catches.ts';
import { linkageOf } from './linkage.ts';
import { sweep, type Sweep } from './sweep.ts';
import { drafted, glueAt, sheetOf } from '../practice/drafts.ts';
import { withMechanism } from './testing/measure.ts';

const random = seededRandom(1717);
const between = (low: number, high: number) => low + (high - low) * random();
const catching = (design: Design) => runChecks(checkContext(design)).filter((f) => f.rule === 'catching');

describe('a plate glued over a fold', () => {
  /** Glued to the left half, reaching `over` mm beyond the card's fold; on the inside or on the outside. */
  const overGutter = (over: number, height: number, outside = false) => {
    const plate = sheetOf('Plate', 40, height, {
      zones: { z: [1, 1, 30 - Math.max(0, over), height - 2] },
      front: outside ? ['z'] : [],
    });
    return drafted([plate], [glueAt('Plate', 'z', [over - 40, 50])]);
  };

  it('inside a valley is cut by the panel beyond, as deep as it reaches over the fold', () => {
    for (let i = 0; i < 10; i++) {
      const [over, height] = [between(0.2, 12), between(15, 60)];
      const found = catching(overGutter(over, height));
      expect(found).toHaveLength(1);
      expect(found[0].measured).toBeCloseTo(over, 2);
      expect(found[0].sentence).toMatch(/^From 0\.\d°|^From [12]\.0°|^From [01]/);
    }
  });

  it('is free beside the fold, and on the outside', () => {
    for (let i = 0; i < 6; i++) {
      expect(catching(overGutter(-between(0, 9), 30))).toEqual([]);
      expect(catching(overGutter(between(1, 9), 30, true))).toEqual([]);
    }
  });

  it('on a mountain it may reach over, and in the valley at a step’s foot it may not', () => {
    const family = familyById('step')!;
    const plain = withMechanism(family, family.defaults(usualHost(family, expand(drafted([])).gutters)));
    const withPiece = (x: number, w: number): Design => ({
      ...plain,
      parts: { Piece: sheetOf('Piece', w, 10, { zones: { z: [w / 2 - 2, 1, 4, 8] } }) },
      joints: { g: { ...glueAt('Piece', 'z', [x, 20], 'm/strip'), id: 'g' } },
    });
    const strip = expand(plain).parts.find((p) => p.id === 'm/strip')!;
    const ridge = strip.lines.find((l) => l.id === 'ridge')!.path.start[0];
    const foot = strip.lines.find((l) => l.id === 'foot-right')!.path.start[0];
    const middle = (ridge + foot) / 2;
    const half = (foot - ridge) / 2;
    const beside = catching(withPiece(middle - half + 0.5, 2 * half - 1));
    expect(beside).toEqual([]);
    // Over the ridge (a mountain) by 2 mm: free there.
    expect(catching(withPiece(ridge - 2, half + 4))).toEqual([]);
    const over = catching(withPiece(foot - half - 4 + 2, half + 4));
    expect(over.some((f) => Math.abs(f.measured! - 2) < 0.01)).toBe(true);
  });
});

/** A travel in which the first of two drafted plates stands still and the second goes where it is told. */
function carried(
  w: number,
  h: number,
  at: (t: number) => readonly number[],
  still: readonly number[],
): Sweep {
  const design = drafted(
    [
      sheetOf('Still', w, h, { zones: { z: [1, 1, 4, 4] } }),
      sheetOf('Moved', 20, 20, { folds: [[10, 'valley']], zones: { z: [1, 1, 4, 4] } }),
    ],
    [glueAt('Still', 'z', [10, 10]), glueAt('Moved', 'z', [40, 60])],
  );
  const motion = sweep(linkageOf(expand(design)));
  const { panels, bodyCount } = motion.linkage;
  const moved = panels.find((p) => p.part.id === 'Moved' && p.panel === 1)!;
  const base = panels.find((p) => p.part.id === 'Still')!;
  const bodies = motion.bodies.slice();
  const set = (body: number, t: number, placement: readonly number[]) =>
    bodies.set(placement, (t * bodyCount + body) * RIGID_SIZE);
  for (let t = 0; t <= 180; t++) {
    set(moved.body, t, at(t));
    set(base.body, t, still);
  }
  const groups = Int32Array.from({ length: bodyCount }, (_, b) => (b === moved.body ? 1 : 0));
  const linkage = { ...motion.linkage, root: base.body };
  return { ...motion, linkage, bodies, groups, unsound: new Uint8Array(motion.unsound.length) };
}
const flat = (z: number, x = 0, y = 0) => [1, 0, 0, x, 0, 1, 0, y, 0, 0, 1, z];
const IDENTITY = flat(0);
const ofPlates = (motion: Sweep) =>
  catchesOf(motion).filter((c) => [c.a, c.b].every((i) => motion.linkage.panels[i].part.id !== 'card'));

describe('plates that stay parallel', () => {
  it('have passed through each other when they change sides while they overlap, between two places or at one', () => {
    for (let i = 0; i < 10; i++) {
      const [speed, shift] = [between(0.5, 6), i % 2 === 0 ? 0 : between(-0.4, 0.4)];
      // The moved panel lies at x 10 to 20 of its part, over the still plate 30 by 30.
      const motion = carried(30, 30, (t) => flat(speed * (t - 90 + shift), between(0, 0.001)), IDENTITY);
      const found = ofPlates(motion);
      expect(found).toHaveLength(1);
      expect(Math.abs(found[0].fromDeg - (90 - shift))).toBeLessThan(0.1);
      expect(found[0].depthMm).toBeCloseTo(10, 1);
    }
  });

  it('are free when they change sides beside each other, or only touch and go back', () => {
    expect(ofPlates(carried(30, 30, (t) => flat(3 * (t - 90.5), 40), IDENTITY))).toEqual([]);
    expect(ofPlates(carried(30, 30, (t) => flat(3 * Math.abs(t - 90)), IDENTITY))).toEqual([]);
  });

  it('are found too when they lean to each other by a hair', () => {
    const lean = 1e-4;
    const motion = carried(30, 30, (t) => [1, 0, lean, 0, 0, 1, 0, 0, -lean, 0, 1, 3 * (t - 90.4)], IDENTITY);
    expect(ofPlates(motion)).toHaveLength(1);
  });
});

describe('fast edges', () => {
  it('a plate that sweeps 17 mm a degree past a small one between two degrees is found', () => {
    for (let i = 0; i < 8; i++) {
      const [radius, off] = [between(850, 950), between(0.3, 0.7)];
      // The still plate stands across the way, 4 mm to a side; the moved one turns about an axis far below it.
      const angleAt = (t: number) => ((t - 90 - off) * Math.PI) / 180;
      const at = (t: number) => {
        const [c, s] = [Math.cos(angleAt(t)), Math.sin(angleAt(t))];
        // Its own plane stands radially: x of the part away from the axis, its normal along the way.
        return [c, 0, -s, (radius - 15) * c, 0, 1, 0, 0, s, 0, c, (radius - 15) * s];
      };
      // It is drawn 10 mm off the origin of its body’s plane.
      const still = [1, 0, 0, radius - 12, 0, 0, -1, 10, 0, 1, 0, -12];
      const motion = carried(4, 4, at, still);
      const found = ofPlates(motion);
      expect(found.length).toBeGreaterThan(0);
      expect(Math.abs(found[0].fromDeg - 90 - off)).toBeLessThan(0.3);
    }
  });
});

describe('a tongue in a slot', () => {
  /** The riser or the uprights with the slot in its host shortened by so much at one end. */
  function shortened(id: string, byMm: number): Expanded {
    const family = familyById(id)!;
    const design = withMechanism(family, family.defaults(usualHost(family, expand(drafted([])).gutters)));
    const expanded = expand(design);
    const tongue = expanded.joints.find((j) => j.kind === 'tongue')!;
    if (tongue.kind !== 'tongue') throw new Error('no tongue');
    const [[x, y0], [, y1]] = tongue.slot;
    const [low, high] = [Math.min(y0, y1), Math.max(y0, y1)];
    const slot = polyline(rectangle(x - 0.4, low - 0.25, 0.8, high - low + 0.5 - byMm), true);
    const parts = expanded.parts.map((part) =>
      part.id === tongue.hostPartId
        ? {
            ...part,
            lines: part.lines.map((line) => {
              const [first] = [line.path.start];
              const isSlot =
                line.process === 'cut' &&
                Math.abs(first[0] - x) < 1 &&
                first[1] >= low - 1 &&
                first[1] <= high + 1 &&
                line.id !== 'outline';
              return isSlot ? { ...line, path: slot } : line;
            }),
          }
        : part,
    );
    return { ...expanded, parts };
  }

  it.each(['riser', 'uprights'])(
    '%s: passes its own slot freely, and is caught where the slot is too short',
    (id) => {
      expect(catchesOf(sweep(linkageOf(shortened(id, 0))))).toEqual([]);
      for (const by of [1, 5]) {
        const found = catchesOf(sweep(linkageOf(shortened(id, by))));
        expect(found.length).toBeGreaterThan(0);
        // The slot is 0.25 mm longer than the tongue at either end.
        expect(Math.max(...found.map((c) => c.depthMm))).toBeLessThanOrEqual(by - 0.2);
        expect(Math.max(...found.map((c) => c.depthMm))).toBeGreaterThan(Math.min(by, 2) / 4);
      }
    },
  );
});
