/** Poses as files, read back: volumes, areas, lengths, and the numbers of the formats themselves. */
import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { cardGutter, tableGutter } from '../design/frames.ts';
import { stockOf } from '../dieline/part.ts';
import { regionArea } from '../geometry/polygon.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { cross3, dot3, minus3 } from '../geometry/vector.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { familyById } from '../mechanisms/registry.ts';
import '../mechanisms/structures/all.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep as sweepOf, type Sweep } from '../motion/sweep.ts';
import { writeGlb, writeObj, writeStl } from './poseWrite.ts';

const card = newDesign('Pose', { closedWidthMm: 110, closedHeightMm: 105 });
const table: Design = { ...card, base: { kind: 'structure', rootPartId: null } };
const swept = (familyId: string): Sweep => {
  const family = familyById(familyId)!;
  const design = family.on === 'table' ? table : card;
  const gutter = family.on === 'table' ? tableGutter(design) : cardGutter(design);
  return sweepOf(linkageOf(expand({ ...design, instances: { m1: newInstance(family, gutter, 'm1') } })));
};
const attached = ({ linkage }: Sweep) =>
  linkage.panels.filter(({ body, takenOut }) => linkage.attached[body] && !takenOut);
const CASES = ['step', 'vfold', 'tray', 'pillowBox', 'wheel', 'twistedPrism'] as const;

describe.each(CASES)('%s', (familyId) => {
  const sweep = swept(familyId);
  const area = attached(sweep).reduce((sum, { region }) => sum + regionArea(region), 0);

  it.each([0, 57, 180])('as STL holds the volume of its paper, every edge twice (at %i)', (deg) => {
    const bytes = writeStl(sweep, deg);
    const view = new DataView(bytes.buffer);
    const count = view.getUint32(80, true);
    expect(bytes.length).toBe(84 + 50 * count);
    let volume = 0;
    const sides = new Map<string, number>();
    for (let i = 0; i < count; i++) {
      const at = (k: number): Vec3 =>
        [0, 1, 2].map((j) => view.getFloat32(84 + 50 * i + 12 * k + 4 * j, true)) as unknown as Vec3;
      const [n, a, b, c] = [at(0), at(1), at(2), at(3)];
      volume += dot3(a, cross3(b, c)) / 6;
      const own = cross3(minus3(b, a), minus3(c, a));
      if (Math.hypot(...own) > 1e-3) expect(dot3(n, own) / Math.hypot(...own)).toBeGreaterThan(0.99);
      for (const [p, q] of [
        [a, b],
        [b, c],
        [c, a],
      ])
        sides.set(`${p}|${q}`, (sides.get(`${p}|${q}`) ?? 0) + 1);
    }
    const wanted = attached(sweep).reduce(
      (sum, { region, part }) => sum + regionArea(region) * stockOf(part).thicknessMm,
      0,
    );
    expect(Math.abs(volume / wanted - 1)).toBeLessThan(2e-3);
    // Each edge is gone along once this way and once that.
    for (const [side, times] of sides) expect(sides.get(side.split('|').reverse().join('|'))).toBe(times);
  });

  it('as OBJ has the area of its panels', () => {
    const places: Vec3[] = [];
    let total = 0;
    for (const line of writeObj(sweep, 40).split('\n')) {
      const [word, ...rest] = line.split(' ');
      if (word === 'v') places.push(rest.map(Number) as unknown as Vec3);
      if (word !== 'f') continue;
      const ring = rest.map((i) => places[Number(i) - 1]);
      const sum = ring.reduce<Vec3>(
        (all, p, i) => {
          const n = cross3(minus3(p, ring[0]), minus3(ring[(i + 1) % ring.length], ring[0]));
          return [all[0] + n[0], all[1] + n[1], all[2] + n[2]];
        },
        [0, 0, 0],
      );
      total += Math.hypot(...sum) / 2;
    }
    expect(total / area).toBeCloseTo(1, 5);
  });

  it('as binary glTF says its own length, and has the area in square metres', () => {
    const bytes = writeGlb(sweep, 40);
    const view = new DataView(bytes.buffer);
    expect([view.getUint32(0, true), view.getUint32(4, true), view.getUint32(8, true)]).toEqual([
      0x46546c67,
      2,
      bytes.length,
    ]);
    const jsonBytes = view.getUint32(12, true);
    const json = JSON.parse(
      Array.from(bytes.subarray(20, 20 + jsonBytes), (c) => String.fromCharCode(c)).join(''),
    ) as {
      accessors: { byteOffset: number; count: number; min?: number[]; max?: number[] }[];
      bufferViews: { byteOffset: number; byteLength: number }[];
      buffers: { byteLength: number }[];
      meshes: unknown[];
    };
    const bin = 20 + jsonBytes + 8;
    expect(view.getUint32(bin - 8, true)).toBe(json.buffers[0].byteLength);
    expect(bin + json.buffers[0].byteLength).toBe(bytes.length);
    let total = 0;
    json.meshes.forEach((_, m) => {
      const [places, corners] = [json.accessors[2 * m], json.accessors[2 * m + 1]];
      const at = (i: number): Vec3 =>
        [0, 1, 2].map((k) =>
          view.getFloat32(bin + places.byteOffset + 12 * i + 4 * k, true),
        ) as unknown as Vec3;
      for (let i = 0; i < corners.count; i += 3) {
        const [a, b, c] = [0, 1, 2].map((k) =>
          at(view.getUint32(bin + json.bufferViews[1].byteOffset + corners.byteOffset + 4 * (i + k), true)),
        );
        total += Math.hypot(...cross3(minus3(b, a), minus3(c, a))) / 2;
      }
      for (let i = 0; i < places.count; i++)
        at(i).forEach((v, k) => {
          expect(v).toBeGreaterThanOrEqual(places.min![k]);
          expect(v).toBeLessThanOrEqual(places.max![k]);
        });
    });
    expect((total * 1e6) / area).toBeCloseTo(1, 3);
  });
});

it('of nothing is refused in words', () => {
  const sweep = sweepOf(linkageOf(expand(table)));
  for (const write of [writeStl, writeObj, writeGlb])
    expect(() => write(sweep, 0)).toThrow(/there is no pose to save/);
});
