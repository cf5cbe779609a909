/** Symmetric drafting: either side follows the other, whatever is done; undo gives back the same bytes. */
import { describe, expect, it } from 'vitest';
import { workOf } from '../dieline/part.ts';
import { flatten, polyline, straight, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { ringArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { applyCommand, type Command } from './commands.ts';
import { newDesign, type Design, type DraftedPart } from './design.ts';
import { withFollowers } from './followers.ts';
import { readDesign } from './schema.ts';
import { unmirrored } from './symmetry.ts';

type Line = DraftedPart['lines'][string];

const line = (id: string, path: Path, layer: 'cut' | 'valley' = 'cut'): Line =>
  ({ id, ...workOf(layer), path }) as Line;

function partWith(lines: readonly Line[], symmetry?: DraftedPart['symmetry']): Design {
  const part: DraftedPart = {
    id: 'p1',
    name: 'Moth',
    stockId: 'ember-160',
    grainRad: null,
    quantity: 1,
    lines: Object.fromEntries(lines.map((each) => [each.id, each])),
    glueZones: {},
    marks: {},
    ...(symmetry && { symmetry }),
  };
  return { ...newDesign('Symmetric'), parts: { p1: part } };
}

const done = (design: Design, command: Command): Design =>
  applyCommand(design, withFollowers(design, command)).design;
const put = (id: string, value: Line | null): Command => ({ do: 'line', partId: 'p1', id, value });
const linesOf = (design: Design): Line[] => Object.values(design.parts.p1.lines);

/** Every line that has an image, and it: the places of both, those of the image carried over the axis. */
function expectSymmetric(design: Design): void {
  const { lines, symmetry } = design.parts.p1;
  if (!symmetry) throw new Error('It is not symmetric.');
  const over = ([x, y]: Point): Point =>
    symmetry.axis === 'x' ? [2 * symmetry.atMm - x, y] : [x, 2 * symmetry.atMm - y];
  for (const image of Object.values(lines)) {
    if (image.imageOf === undefined) continue;
    const original = lines[image.imageOf];
    expect(original, image.id).toBeDefined();
    const [a, b] = [flatten(image.path), flatten(original.path).map(over)];
    expect(a.length).toBe(b.length);
    a.forEach((p, i) => expect(Math.hypot(p[0] - b[i][0], p[1] - b[i][1])).toBeLessThan(1e-6));
    expect(image.process).toBe(original.process);
  }
}

const wing = polyline([
  [50, 0],
  [20, 5],
  [10, 40],
  [50, 60],
]);

describe('symmetric drafting', () => {
  it('completes half an outline that ends on the axis: the area is twice the half', () => {
    const design = done(partWith([], { axis: 'x', atMm: 50 }), put('l1', line('l1', wing)));
    expect(linesOf(design)).toHaveLength(2);
    expectSymmetric(design);
    const [half, other] = linesOf(design).map(({ path }) => flatten(path));
    const whole = [...half, ...[...other].reverse()];
    expect(Math.abs(ringArea(whole))).toBeCloseTo(2 * Math.abs(ringArea(half)), 6);
  });

  it('links what is an image already instead of doubling it, and mirrors the rest', () => {
    const left = straight([10, 10], [30, 30]);
    const right = straight([70, 30], [90, 10]);
    const alone = straight([60, 50], [80, 55]);
    const across = straight([0, 70], [100, 80]);
    const design = done(partWith([line('a', left), line('b', right), line('c', alone), line('d', across)]), {
      do: 'part',
      id: 'p1',
      value: { symmetry: { axis: 'x', atMm: 50 } },
    });
    expect(linesOf(design)).toHaveLength(5);
    expect(design.parts.p1.lines.b.imageOf).toBe('a');
    expectSymmetric(design);
    expect(unmirrored(design.parts.p1).map(({ id }) => id)).toEqual(['d']);
  });

  it('an image that is changed changes its original; one that is taken away takes it along', () => {
    let design = done(partWith([], { axis: 'y', atMm: 0 }), put('l1', line('l1', wing)));
    const image = linesOf(design).find(({ imageOf }) => imageOf === 'l1')!;
    const path = straight([0, -5], [30, -9]);
    design = done(design, put(image.id, { ...image, path: path as Line['path'] }));
    expect(flatten(design.parts.p1.lines.l1.path).at(-1)).toEqual([30, 9]);
    design = done(design, put(image.id, { ...line(image.id, path, 'valley'), imageOf: 'l1' }));
    expect(design.parts.p1.lines.l1.fold?.sense).toBe('valley');
    expectSymmetric(design);
    design = done(design, put(image.id, null));
    expect(linesOf(design)).toEqual([]);
  });

  it('without the axis all lines stay, each by itself', () => {
    let design = done(partWith([], { axis: 'x', atMm: 50 }), put('l1', line('l1', wing)));
    design = done(design, { do: 'part', id: 'p1', value: { symmetry: null } });
    expect(linesOf(design)).toHaveLength(2);
    expect(linesOf(design).some(({ imageOf }) => imageOf !== undefined)).toBe(false);
    expect(design.parts.p1.symmetry).toBeUndefined();
    design = done(design, put('l1', null));
    expect(linesOf(design)).toHaveLength(1);
  });

  it('stays symmetric through 300 random edits, is read back, and is undone to the byte', () => {
    const random = seededRandom(77);
    for (let round = 0; round < 12; round++) {
      const axis = random() < 0.5 ? 'x' : 'y';
      let design = partWith([], { axis, atMm: Math.round(random() * 80) });
      const history: { readonly bytes: string; readonly inverse: Command }[] = [];
      for (let step = 0; step < 25; step++) {
        const at = (): Point => [random() * 100, random() * 100];
        const lines = linesOf(design);
        const picked = lines[Math.floor(random() * lines.length)] as Line | undefined;
        const kind = random();
        const command: Command =
          !picked || kind < 0.4
            ? put(`n${step}`, line(`n${step}`, straight(at(), at())))
            : kind < 0.7
              ? put(picked.id, { ...picked, path: straight(at(), at()) as Line['path'] })
              : kind < 0.85
                ? put(picked.id, null)
                : { do: 'part', id: 'p1', value: { symmetry: { axis, atMm: Math.round(random() * 80) } } };
        const applied = applyCommand(design, withFollowers(design, command));
        history.push({ bytes: JSON.stringify(design), inverse: applied.inverse });
        design = applied.design;
        expectSymmetric(design);
        expect(readDesign(JSON.parse(JSON.stringify(design)))).toEqual({ ok: true, design });
      }
      for (const { bytes, inverse } of history.reverse()) {
        design = applyCommand(design, inverse).design;
        expect(JSON.stringify(design)).toBe(bytes);
      }
    }
  });
});
