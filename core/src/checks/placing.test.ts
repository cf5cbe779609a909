/** Placing by neighbours, middles and guides: measured again on the drawing itself. */
import { describe, expect, it } from 'vitest';
import { gluesOf, newDesign, type Design } from '../design/design.ts';
import { guidesOn } from '../design/guides.ts';
import { place } from '../geometry/isometry.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { drafted, glueAt, sheetOf } from '../practice/drafts.ts';
import { atReference, lineSurroundings, nearestGaps, snappedPiece, surroundings } from './placing.ts';
import type { References, Way } from './references.ts';

/** Two mats and a piece on the right half of a card that is 148 wide and 150 high. */
function cardWith(random: () => number) {
  const size = () => 14 + 10 * random();
  const [a, b, c] = [size(), size(), size()];
  const zone = { zones: { z: [1, 1, 9, 9] as [number, number, number, number] } };
  const parts = [sheetOf('A', a, size(), zone), sheetOf('B', b, size(), zone), sheetOf('C', c, size(), zone)];
  const at: Point[] = [
    [6 + 8 * random(), 12 + 20 * random()],
    [100 + 20 * random(), 20 + 40 * random()],
    [50 + 15 * random(), 60 + 30 * random()],
  ];
  const joints = parts.map((part, i) => ({
    ...glueAt(part.id, 'z', at[i]),
    id: `g${part.id}`,
    as: 'piece' as const,
  }));
  return drafted(parts, joints);
}

/** The box of a part on the card, straight from its lines. */
function boxOn(design: Design, id: string): Box {
  const joint = design.joints[`g${id}`];
  if (joint.kind !== 'glue') throw new Error('not glued');
  const points = Object.values(design.parts[id].lines).flatMap(({ path }) => [
    path.start,
    ...path.segments.map(({ to }) => to),
  ]);
  return boxOf(points.map((p) => place(joint.placement, p)));
}

const glue = (design: Design) => {
  const joint = design.joints.gC;
  if (joint.kind !== 'glue') throw new Error('not glued');
  return joint;
};

describe('placing a piece', () => {
  const random = seededRandom(3);
  const cases = Array.from({ length: 40 }, () => cardWith(random));

  it('lies at any distance from any reference, along one way only', () => {
    for (const design of cases) {
      const around = surroundings(design, glue(design))!;
      for (const way of ['across', 'up'] as Way[])
        for (const reference of around[way]) {
          const mm = 40 * random() - 20;
          const moved = atReference(design, glue(design), around.measures, way, reference, mm);
          const next = { ...design, joints: { ...design.joints, gC: moved } };
          const box = boxOn(next, 'C');
          const [low, high] = way === 'across' ? [box.minX, box.maxX] : [box.minY, box.maxY];
          const held = { min: low, max: high, mid: (low + high) / 2 }[reference.held];
          // The axes of the measures are those of the card here: nothing is turned.
          expect(reference.sign * (held - reference.at)).toBeCloseTo(mm, 6);
          const other = boxOn(design, 'C');
          if (way === 'across') expect(box.minY).toBeCloseTo(other.minY, 9);
          else expect(box.minX).toBeCloseTo(other.minX, 9);
        }
    }
  });

  it('is centred between two mats in one act, one inch from the lower edge in another', () => {
    for (const design of cases) {
      const around = surroundings(design, glue(design))!;
      const between = around.across.find(({ id }) => id === 'between:A:B')!;
      const lower = around.up.find(({ id }) => id === 'low')!;
      const across = atReference(design, glue(design), around.measures, 'across', between, 0);
      const both = atReference(design, across, around.measures, 'up', lower, 25.4);
      const next = { ...design, joints: { ...design.joints, gC: both } };
      const [a, b, c] = ['A', 'B', 'C'].map((id) => boxOn(next, id));
      expect(c.minX - a.maxX).toBeCloseTo(b.minX - c.maxX, 6);
      expect(c.minY).toBeCloseTo(25.4, 6);
    }
  });

  it('is drawn to the middle between its neighbours, and says so', () => {
    for (const design of cases) {
      const around = surroundings(design, glue(design))!;
      const between = around.across.find(({ id }) => id === 'between:A:B')!;
      const near = atReference(design, glue(design), around.measures, 'across', between, 0.8);
      const { joint, words } = snappedPiece(design, near, 1.5, 0.5);
      const next = { ...design, joints: { ...design.joints, gC: joint } };
      const middle = around.across.find(({ id }) => id === 'middle')!;
      // Where the middle of the card is as near, that goes first.
      if (Math.abs(middle.at - between.at) > 2.5) {
        expect(words).toContain('centred between A and B');
        const gaps = nearestGaps(next, joint, surroundings(next, joint)!.measures);
        const [a, b, c] = ['A', 'B', 'C'].map((id) => boxOn(next, id));
        expect(c.minX - a.maxX).toBeCloseTo(b.minX - c.maxX, 6);
        if (a.maxY > c.minY && a.minY < c.maxY) expect(gaps.mm.left).toBeCloseTo(c.minX - a.maxX, 6);
      }
    }
  });

  it('lies on guides of the board and of its host', () => {
    const design: Design = {
      ...cases[0],
      guides: {
        g1: { id: 'g1', axis: 'x', atMm: 90, partId: null },
        g2: { id: 'g2', axis: 'y', atMm: 44, partId: 'card' },
        g3: { id: 'g3', axis: 'y', atMm: 10, partId: 'elsewhere' },
      },
    };
    const guides = guidesOn(design, 'card', [7, 0]);
    expect(guides.map(({ id, atMm }) => [id, atMm])).toEqual([
      ['g1', 83],
      ['g2', 44],
    ]);
    const around = surroundings(design, glue(design), guides)!;
    const upright = around.across.find(({ id }) => id === 'guide:g1')!;
    const level = around.up.find(({ id }) => id === 'guideLow:g2')!;
    const joint = atReference(
      design,
      atReference(design, glue(design), around.measures, 'across', upright, 0),
      around.measures,
      'up',
      level,
      0,
    );
    const box = boxOn({ ...design, joints: { ...design.joints, gC: joint } }, 'C');
    expect((box.minX + box.maxX) / 2).toBeCloseTo(83, 6);
    expect(box.minY).toBeCloseTo(44, 6);
  });
});

describe('what something may be placed by', () => {
  it.each([...FAMILIES, ...STRUCTURES].map((family) => [family.id, family] as const))(
    '%s: each reference has a name of its own, however many tabs a part is glued by',
    (_id, family) => {
      const plain = newDesign('Plain');
      const host = usualHost(family, expand(plain).gutters);
      const design = { ...plain, instances: { m1: newInstance(family, host, 'm1') } };
      const { parts, joints } = expand(design);
      const guides = [12, 30].flatMap((atMm) =>
        (['x', 'y'] as const).map((axis) => ({ id: `${axis}${atMm}`, axis, atMm })),
      );
      const all: References[] = [
        ...parts.flatMap((part) =>
          part.lines.slice(0, 24).flatMap(({ id }) => lineSurroundings(design, part.id, [id], guides) ?? []),
        ),
        ...gluesOf(joints).flatMap((joint) => surroundings(design, joint, guides) ?? []),
      ];
      expect(all.length).toBeGreaterThan(0);
      for (const around of all)
        for (const way of ['across', 'up'] as const)
          for (const each of ['id', 'name'] as const) {
            const told = around[way].map((reference) => reference[each]);
            expect(told).toEqual([...new Set(told)]);
          }
    },
  );
});
