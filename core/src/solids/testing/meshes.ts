/** Solids for tests: rings, rough balls, blocks, stars, bodies with limbs; sound, and not convex. */
import type { Vec3 } from '../../geometry/rigid.ts';
import { compacted, meshFaults, welded, type Mesh } from '../mesh.ts';
import { uniform, withPoints } from '../shapes.ts';
import { length3, scale3 } from '../../geometry/vector.ts';

const TAU = 2 * Math.PI;

/** A ring with `n` times `m` four-sided faces, each in two triangles. */
export function torus(n: number, m: number, radius: number, tube: number): Mesh {
  const points: Vec3[] = [];
  for (let i = 0; i < n; i++)
    for (let j = 0; j < m; j++) {
      const [a, b] = [(TAU * i) / n, (TAU * j) / m];
      const r = radius + tube * Math.cos(b);
      points.push([r * Math.cos(a), r * Math.sin(a), tube * Math.sin(b)]);
    }
  const at = (i: number, j: number) => (i % n) * m + (j % m);
  const faces: number[][] = [];
  for (let i = 0; i < n; i++)
    for (let j = 0; j < m; j++)
      faces.push([at(i, j), at(i + 1, j), at(i + 1, j + 1)], [at(i, j), at(i + 1, j + 1), at(i, j + 1)]);
  return { points, faces };
}

/** A ball of triangles, each side of an icosahedron in `parts`. */
export function ball(parts: number, radius: number): Mesh {
  const base = uniform('icosahedron', 10);
  const points: Vec3[] = [];
  const faces: number[][] = [];
  for (const [a, b, c] of base.faces.map((face) => face.map((v) => base.points[v]))) {
    const row: number[][] = [];
    for (let i = 0; i <= parts; i++) {
      row.push([]);
      for (let j = 0; j <= parts - i; j++) {
        const [u, v] = [i / parts, j / parts];
        const p = [0, 1, 2].map((k) => a[k] + u * (b[k] - a[k]) + v * (c[k] - a[k])) as unknown as Vec3;
        row[i].push(points.length);
        points.push(scale3(p, radius / length3(p)));
      }
    }
    for (let i = 0; i < parts; i++)
      for (let j = 0; j < parts - i; j++) {
        faces.push([row[i][j], row[i + 1][j], row[i][j + 1]]);
        if (j < parts - i - 1) faces.push([row[i + 1][j], row[i + 1][j + 1], row[i][j + 1]]);
      }
  }
  return welded({ points, faces }, 1e-6 * radius);
}

/** A ball whose corners lie in and out by a share of its radius. */
export function roughBall(parts: number, radius: number, rough: number, random: () => number): Mesh {
  const { points, faces } = ball(parts, radius);
  return { points: points.map((p) => scale3(p, 1 + rough * (2 * random() - 1))), faces };
}

/** A body with limbs: a ball drawn out along some ways. */
export function limbed(parts: number, radius: number, limbs: number, random: () => number): Mesh {
  const { points, faces } = ball(parts, radius);
  const ways = Array.from({ length: limbs }, (): Vec3 => {
    const [z, a] = [2 * random() - 1, TAU * random()];
    return [Math.sqrt(1 - z * z) * Math.cos(a), Math.sqrt(1 - z * z) * Math.sin(a), z];
  });
  return {
    points: points.map((p) => {
      const unit = scale3(p, 1 / length3(p));
      const out = ways.reduce((sum, w) => {
        const c = unit[0] * w[0] + unit[1] * w[1] + unit[2] * w[2];
        return sum + 2.2 * Math.exp(-((1 - c) * 9));
      }, 0);
      return scale3(p, 1 + out + 0.04 * (2 * random() - 1));
    }),
    faces,
  };
}

/** Cubes that hang together, as one skin of triangles; none where corners or edges would only touch. */
export function blocks(count: number, edge: number, random: () => number): Mesh {
  for (;;) {
    const cells = new Set(['0 0 0']);
    while (cells.size < count) {
      const all = [...cells];
      const [x, y, z] = all[Math.floor(random() * all.length)].split(' ').map(Number);
      const [dx, dy, dz] = [
        [1, 0, 0],
        [-1, 0, 0],
        [0, 1, 0],
        [0, -1, 0],
        [0, 0, 1],
        [0, 0, -1],
      ][Math.floor(random() * 6)];
      cells.add(`${x + dx} ${y + dy} ${z + dz}`);
    }
    const points: Vec3[] = [];
    const faces: number[][] = [];
    for (const cell of cells) {
      const o = cell.split(' ').map(Number);
      for (let k = 0; k < 3; k++)
        for (const sign of [0, 1]) {
          const next = o.map((v, i) => (i === k ? v + (sign ? 1 : -1) : v)).join(' ');
          if (cells.has(next)) continue;
          const corner = (u: number, v: number): number => {
            const p = [...o];
            p[k] += sign;
            p[(k + 1) % 3] += u;
            p[(k + 2) % 3] += v;
            points.push(p.map((x) => x * edge) as unknown as Vec3);
            return points.length - 1;
          };
          const quad = [corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)];
          const [a, b, c, d] = sign ? quad : quad.reverse();
          faces.push([a, b, c], [a, c, d]);
        }
    }
    const mesh = compacted(welded({ points, faces }));
    if (meshFaults(mesh).length === 0) return mesh;
  }
}

/** A regular solid with a point on every face. */
export const star = (name: string, high: number): Mesh => withPoints(uniform(name, 20), high);
