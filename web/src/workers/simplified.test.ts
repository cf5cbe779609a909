import { describe, expect, it } from 'vitest';
import { meshFaults, type Mesh } from '@hollow-finch/core/solids/mesh';
import { readMesh } from '@hollow-finch/core/solids/readMesh';
import { extruded } from '@hollow-finch/core/solids/shapes';
import { unfolded } from '@hollow-finch/core/solids/unfold';
import { simplified } from './simplified.ts';

/** A lumpy ball of many faces. */
function ball(courses: number, round: number): Mesh {
  const points: [number, number, number][] = [[0, 0, 50]];
  for (let i = 1; i < courses; i++)
    for (let j = 0; j < round; j++) {
      const [a, b] = [(Math.PI * i) / courses, (2 * Math.PI * j) / round];
      const r = 50 * (1 + 0.12 * Math.sin(3 * b) * Math.sin(2 * a));
      points.push([r * Math.sin(a) * Math.cos(b), r * Math.sin(a) * Math.sin(b), r * Math.cos(a)]);
    }
  points.push([0, 0, -50]);
  const at = (i: number, j: number) => 1 + (i - 1) * round + (j % round);
  const faces: number[][] = [];
  for (let j = 0; j < round; j++) {
    faces.push([0, at(1, j), at(1, j + 1)]);
    for (let i = 1; i < courses - 1; i++) {
      faces.push([at(i, j), at(i + 1, j), at(i + 1, j + 1)]);
      faces.push([at(i, j), at(i + 1, j + 1), at(i, j + 1)]);
    }
    faces.push([at(courses - 1, j), points.length - 1, at(courses - 1, j + 1)]);
  }
  return { points, faces };
}

const volume = ({ points, faces }: Mesh): number =>
  faces.reduce((sum, [a, ...rest]) => {
    let part = 0;
    for (let i = 0; i + 1 < rest.length; i++) {
      const [p, q, r] = [points[a], points[rest[i]], points[rest[i + 1]]];
      part +=
        p[0] * (q[1] * r[2] - q[2] * r[1]) +
        p[1] * (q[2] * r[0] - q[0] * r[2]) +
        p[2] * (q[0] * r[1] - q[1] * r[0]);
    }
    return sum + part / 6;
  }, 0);

describe('simplification', () => {
  it('makes a ball of 12,000 faces one that can be folded, of about the same volume', async () => {
    const whole = ball(60, 100);
    expect(whole.faces.length).toBeGreaterThan(11_000);
    for (const most of [60, 200, 600]) {
      const made = await simplified(whole, most);
      expect(made.faces.length).toBeLessThanOrEqual(2 * most);
      expect(meshFaults(made)).toEqual([]);
      expect(volume(made) / volume(whole)).toBeGreaterThan(most > 100 ? 0.93 : 0.75);
      expect(volume(made) / volume(whole)).toBeLessThan(1.08);
    }
    expect(unfolded(await simplified(whole, 200), { tabMm: 3 }).pieces.length).toBe(1);
  });

  it('leaves alone what has no more faces than asked', async () => {
    const small = ball(4, 6);
    expect(await simplified(small, 100)).toBe(small);
  });

  it('comes after reading: a file of more faces than can be folded is read, and made simpler', async () => {
    const { points, faces } = ball(60, 100);
    const text = [
      ...points.map((p) => `v ${p.join(' ')}`),
      ...faces.map((face) => `f ${face.map((v) => v + 1).join(' ')}`),
    ].join('\n');
    const bytes = new TextEncoder().encode(text);
    const decode = (part: Uint8Array) => new TextDecoder().decode(part);
    expect(() => readMesh(bytes, 'ball.obj', decode)).toThrow(/simplify it first/);
    const { mesh, faults } = readMesh(bytes, 'ball.obj', decode, Infinity);
    expect(faults).toEqual([]);
    expect((await simplified(mesh, 300)).faces.length).toBeLessThanOrEqual(600);
  });
});

it('an outline given depth is a solid of its own volume, and unfolds to one piece', () => {
  const l: [number, number][] = [
    [0, 0],
    [30, 0],
    [30, 10],
    [10, 10],
    [10, 40],
    [0, 40],
  ];
  const mesh = extruded(l, 12);
  expect(meshFaults(mesh)).toEqual([]);
  // 30 x 10 and 10 x 30.
  expect(mesh.faces).toHaveLength(8);
  const net = unfolded(mesh, { tabMm: 5 });
  expect(net.pieces).toHaveLength(1);
});
