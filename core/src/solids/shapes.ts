/** Solids by their measures: prisms, antiprisms, pyramids, frustums, domes, stars, the regular and the half-regular ones. */
import type { Vec3 } from '../geometry/rigid.ts';
import { add3, dot3, length3, minus3, scale3 } from '../geometry/vector.ts';
import { hullOf } from './hull.ts';
import { withFlatFacesMerged } from './mergedFaces.ts';
import { type Mesh } from './mesh.ts';

const TAU = 2 * Math.PI;
/** Corners of a regular polygon with sides of a length, level at a height, turned. */
function ring(sides: number, sideMm: number, z: number, turnRad = 0): Vec3[] {
  const radius = sideMm / (2 * Math.sin(Math.PI / sides));
  return Array.from({ length: sides }, (_, i): Vec3 => {
    const a = turnRad + (TAU * i) / sides;
    return [radius * Math.cos(a), radius * Math.sin(a), z];
  });
}
const indices = (count: number, from = 0): number[] => Array.from({ length: count }, (_, i) => from + i);

/** A frustum over a regular polygon: sides of `sideMm` below and `topMm` above. With equal sides it is a prism, with no top a pyramid. */
export function frustum(sides: number, sideMm: number, topMm: number, heightMm: number): Mesh {
  const low = ring(sides, sideMm, 0);
  const floor = indices(sides).reverse();
  if (topMm <= 0)
    return {
      points: [...low, [0, 0, heightMm]],
      faces: [floor, ...indices(sides).map((i) => [i, (i + 1) % sides, sides])],
    };
  return {
    points: [...low, ...ring(sides, topMm, heightMm)],
    faces: [
      floor,
      indices(sides, sides),
      ...indices(sides).map((i) => [i, (i + 1) % sides, sides + ((i + 1) % sides), sides + i]),
    ],
  };
}

/** An antiprism: two regular polygons, one turned by half a step, joined by triangles. */
export function antiprism(sides: number, sideMm: number, heightMm: number): Mesh {
  const next = (i: number) => (i + 1) % sides;
  return {
    points: [...ring(sides, sideMm, 0), ...ring(sides, sideMm, heightMm, Math.PI / sides)],
    faces: [
      indices(sides).reverse(),
      indices(sides, sides),
      ...indices(sides).flatMap((i) => [
        [i, next(i), sides + i],
        [next(i), sides + next(i), sides + i],
      ]),
    ],
  };
}

/** A dome: so many sides, so many courses from the rim of a half ball to its top. */
export function dome(sides: number, courses: number, radiusMm: number): Mesh {
  const points: Vec3[] = [];
  for (let k = 0; k < courses; k++) {
    const rise = (Math.PI / 2) * (k / courses);
    for (let i = 0; i < sides; i++) {
      const a = (TAU * i) / sides;
      points.push([
        radiusMm * Math.cos(rise) * Math.cos(a),
        radiusMm * Math.cos(rise) * Math.sin(a),
        radiusMm * Math.sin(rise),
      ]);
    }
  }
  points.push([0, 0, radiusMm]);
  const top = points.length - 1;
  const faces: number[][] = [indices(sides).reverse()];
  for (let k = 0; k < courses; k++)
    for (let i = 0; i < sides; i++) {
      const [a, b] = [k * sides + i, k * sides + ((i + 1) % sides)];
      faces.push(k === courses - 1 ? [a, b, top] : [a, b, b + sides, a + sides]);
    }
  return { points, faces };
}

/** A solid with a pyramid on each of its faces, so high. */
export function withPoints(mesh: Mesh, highMm: number): Mesh {
  const points = [...mesh.points];
  const faces = mesh.faces.flatMap((face) => {
    const middle = scale3(
      face.reduce<Vec3>((sum, v) => add3(sum, mesh.points[v]), [0, 0, 0]),
      1 / face.length,
    );
    const [p, q, r] = face.map((v) => mesh.points[v]);
    const [u, v] = [minus3(q, p), minus3(r, p)];
    const n: Vec3 = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    points.push(add3(middle, scale3(n, highMm / length3(n))));
    const tip = points.length - 1;
    return face.map((a, i) => [a, face[(i + 1) % face.length], tip]);
  });
  return { points, faces };
}

const PHI = (1 + Math.sqrt(5)) / 2;
const R2 = Math.SQRT2;

/** Even permutations of a triple, with all signs: most of the regular solids' corners. */
const spread = ([a, b, c]: Vec3, even: boolean): Vec3[] => {
  const orders: Vec3[] = even
    ? [
        [a, b, c],
        [b, c, a],
        [c, a, b],
      ]
    : [
        [a, b, c],
        [b, c, a],
        [c, a, b],
        [b, a, c],
        [a, c, b],
        [c, b, a],
      ];
  return orders.flatMap(([x, y, z]) =>
    [1, -1].flatMap((i) => [1, -1].flatMap((j) => [1, -1].map((k): Vec3 => [i * x, j * y, k * z]))),
  );
};

/** Corners by signs: an even number of minuses for 1, an odd one for -1. */
const signed = (list: readonly Vec3[], product: 1 | -1, base: Vec3): Vec3[] =>
  list.filter((p) => p.reduce((sign, x, i) => sign * Math.sign(x * base[i] || 1), 1) === product);

/** The corners of the regular and half-regular solids, of edge whatever it comes to. */
const CORNERS: Readonly<Record<string, () => Vec3[]>> = {
  tetrahedron: () => [
    [1, 1, 1],
    [1, -1, -1],
    [-1, 1, -1],
    [-1, -1, 1],
  ],
  cube: () => spread([1, 1, 1], true),
  octahedron: () => spread([1, 0, 0], true),
  dodecahedron: () => [...spread([1, 1, 1], true), ...spread([0, 1 / PHI, PHI], true)],
  icosahedron: () => spread([0, 1, PHI], true),
  'truncated tetrahedron': () => spread([1, 1, 3], true).filter(([x, y, z]) => x * y * z > 0),
  cuboctahedron: () => spread([1, 1, 0], true),
  'truncated cube': () => spread([1, 1, R2 - 1], true),
  'truncated octahedron': () => spread([0, 1, 2], false),
  rhombicuboctahedron: () => spread([1, 1, 1 + R2], true),
  'truncated cuboctahedron': () => spread([1, 1 + R2, 1 + 2 * R2], false),
  'snub cube': () => snubCube(),
  icosidodecahedron: () => [...spread([0, 0, PHI], true), ...spread([0.5, PHI / 2, (PHI * PHI) / 2], true)],
  'truncated dodecahedron': () => [
    ...spread([0, 1 / PHI, 2 + PHI], true),
    ...spread([1 / PHI, PHI, 2 * PHI], true),
    ...spread([PHI, 2, PHI + 1], true),
  ],
  'truncated icosahedron': () => [
    ...spread([0, 1, 3 * PHI], true),
    ...spread([1, 2 + PHI, 2 * PHI], true),
    ...spread([PHI, 2, 2 * PHI + 1], true),
  ],
  rhombicosidodecahedron: () => [
    ...spread([1, 1, PHI ** 3], true),
    ...spread([PHI ** 2, PHI, 2 * PHI], true),
    ...spread([2 + PHI, 0, PHI ** 2], true),
  ],
  'truncated icosidodecahedron': () => [
    ...spread([1 / PHI, 1 / PHI, 3 + PHI], true),
    ...spread([2 / PHI, PHI, 1 + 2 * PHI], true),
    ...spread([1 / PHI, PHI ** 2, 3 * PHI - 1], true),
    ...spread([2 * PHI - 1, 2, 2 + PHI], true),
    ...spread([PHI, 3, 2 * PHI], true),
  ],
  'snub dodecahedron': () => snubDodecahedron(),
};

/** The real root of t^3 = t^2 + t + 1 gives the snub cube: even permutations with an even number of minuses, odd with odd. */
function snubCube(): Vec3[] {
  let t = 1.8;
  for (let i = 0; i < 60; i++) t -= (t ** 3 - t * t - t - 1) / (3 * t * t - 2 * t - 1);
  const base: Vec3 = [1, 1 / t, t];
  const even = signed(spread(base, true), 1, [1, 1, 1]);
  const odd = signed(spread([base[1], base[0], base[2]], true), -1, [1, 1, 1]);
  return [...even, ...odd];
}

/** The corners of the snub dodecahedron: one corner carried round by the sixty turns of the icosahedron. */
function snubDodecahedron(): Vec3[] {
  // The corner whose three kinds of edges are equally long, found by Newton's steps on its place on the ball.
  const turns = icosahedralTurns();
  const apply = (m: readonly Vec3[], p: Vec3): Vec3 => [dot3(m[0], p), dot3(m[1], p), dot3(m[2], p)];
  const five = turns.filter((m) => Math.abs(traceOf(m) - PHI) < 1e-9);
  const three = turns.filter((m) => Math.abs(traceOf(m)) < 1e-9);
  const two = turns.filter((m) => Math.abs(traceOf(m) + 1) < 1e-9);
  const nearest = (list: readonly (readonly Vec3[])[], p: Vec3) =>
    list.reduce((best, m) =>
      length3(minus3(apply(m, p), p)) < length3(minus3(apply(best, p), p)) ? m : best,
    );
  const at = (u: number, v: number): Vec3 => {
    const p: Vec3 = [Math.sin(u) * Math.cos(v), Math.sin(u) * Math.sin(v), Math.cos(u)];
    return p;
  };
  let best: { off: number; p: Vec3 } = { off: Infinity, p: [0, 0, 1] };
  // From many places: the one where all agree, and which is not symmetric by itself.
  for (let start = 0; start < 40 && best.off > 1e-12; start++) {
    let [u, v] = [0.15 + 0.02 * start, 0.3 + 0.11 * start];
    const p0 = at(u, v);
    const [m5, m3, m2] = [nearest(five, p0), nearest(three, p0), nearest(two, p0)];
    const gap = (m: readonly Vec3[], p: Vec3) => length3(minus3(apply(m, p), p));
    const f = (a: number, b: number): [number, number] => {
      const p = at(a, b);
      return [gap(m5, p) - gap(m3, p), gap(m5, p) - gap(m2, p)];
    };
    for (let i = 0; i < 60; i++) {
      const [f0, g0] = f(u, v);
      const h = 1e-7;
      const [fu, gu] = f(u + h, v).map((x, k) => (x - [f0, g0][k]) / h);
      const [fv, gv] = f(u, v + h).map((x, k) => (x - [f0, g0][k]) / h);
      const det = fu * gv - fv * gu;
      if (Math.abs(det) < 1e-12) break;
      u -= (f0 * gv - g0 * fv) / det;
      v -= (g0 * fu - f0 * gu) / det;
    }
    const p = at(u, v);
    const off = Math.hypot(...f(u, v));
    const distinct = turns.every((m) => traceOf(m) > 2.999 || gap(m, p) > 0.2);
    if (distinct && off < best.off) best = { off, p };
  }
  return turns.map((m) => apply(m, best.p));
}

const traceOf = (m: readonly Vec3[]): number => m[0][0] + m[1][1] + m[2][2];

/** The sixty turns that carry an icosahedron onto itself, as matrices by rows. */
function icosahedralTurns(): Vec3[][] {
  const multiplied = (a: readonly Vec3[], b: readonly Vec3[]): Vec3[] =>
    a.map(
      (row): Vec3 =>
        [0, 1, 2].map((k) => row[0] * b[0][k] + row[1] * b[1][k] + row[2] * b[2][k]) as unknown as Vec3,
    );
  const cyclic: Vec3[] = [
    [0, 1, 0],
    [0, 0, 1],
    [1, 0, 0],
  ];
  const half: Vec3[] = [
    [-1, 0, 0],
    [0, -1, 0],
    [0, 0, 1],
  ];
  const [a, b, c] = [0.5, PHI / 2, 1 / (2 * PHI)];
  // A fifth of a turn about the axis through (0, 1, PHI).
  const fifth: Vec3[] = [
    [c, -b, a],
    [b, a, c],
    [-a, c, b],
  ].map((row) => row as unknown as Vec3);
  const found: Vec3[][] = [
    [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ],
  ];
  const same = (m: readonly Vec3[], n: readonly Vec3[]) =>
    m.every((row, i) => row.every((x, k) => Math.abs(x - n[i][k]) < 1e-9));
  for (let i = 0; i < found.length && found.length < 200; i++)
    for (const turn of [cyclic, half, fifth]) {
      const next = multiplied(turn, found[i]);
      if (!found.some((each) => same(each, next))) found.push(next);
    }
  return found;
}

export const REGULAR = ['tetrahedron', 'cube', 'octahedron', 'dodecahedron', 'icosahedron'] as const;
export const HALF_REGULAR = Object.keys(CORNERS).filter(
  (name) => !(REGULAR as readonly string[]).includes(name),
);

/** A regular or half-regular solid with edges of a length. */
export function uniform(name: string, edgeMm: number): Mesh {
  const corners = CORNERS[name]?.();
  if (!corners) throw new RangeError(`There is no solid called “${name}”.`);
  const distinct = corners.filter((p, i) => corners.findIndex((q) => length3(minus3(p, q)) < 1e-9) === i);
  const mesh = withFlatFacesMerged(hullOf(distinct), 1e-7);
  const [a, b] = mesh.faces[0].map((v) => mesh.points[v]);
  const factor = edgeMm / length3(minus3(a, b));
  return { points: mesh.points.map((p) => scale3(p, factor)), faces: mesh.faces };
}

/**
 * A flat outline given depth: its back on the floor, its front upright over it, a wall on each of its edges.
 *
 * @param outline corners that turn left, without a crossing
 */
export function extruded(outline: readonly (readonly [number, number])[], depthMm: number): Mesh {
  const n = outline.length;
  const at = (z: number) => outline.map(([x, y]): Vec3 => [x, y, z]);
  return {
    points: [...at(0), ...at(depthMm)],
    faces: [
      outline.map((_, i) => n - 1 - i),
      outline.map((_, i) => n + i),
      ...outline.map((_, i) => [i, (i + 1) % n, n + ((i + 1) % n), n + i]),
    ],
  };
}
