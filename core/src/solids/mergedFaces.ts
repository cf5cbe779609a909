/** Flat faces of a solid that lie in one plane, put together: what is folded as one piece of paper is one face. */
import { distance, type Point } from '../geometry/point.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { add3, cross3, dot3, length3, minus3, scale3 } from '../geometry/vector.ts';
import { FlatFaces } from './flatFaces.ts';
import { compacted, faceNormal, keyOf, sizeOf, type Mesh } from './mesh.ts';

/** Whether two faces of a solid lie in one plane, each to a tolerance in that of the other. */
function planesOf(mesh: Mesh, toleranceMm: number) {
  const { points } = mesh;
  const liesIn = (face: readonly number[], other: readonly number[]): boolean => {
    const n = faceNormal(mesh, face);
    const unit = scale3(n, 1 / (length3(n) || 1));
    const sum = face.reduce<Vec3>((s, v) => add3(s, points[v]), [0, 0, 0]);
    const at = scale3(sum, 1 / face.length);
    return (
      dot3(unit, faceNormal(mesh, other)) > 0 &&
      other.every((v) => Math.abs(dot3(unit, minus3(points[v], at))) <= toleranceMm)
    );
  };
  return (face: readonly number[], other: readonly number[]) => liesIn(face, other) && liesIn(other, face);
}

/** Which face has each edge, as it runs along it; faces may change. */
class Owners {
  private readonly of = new Map<number, number>();
  constructor(
    private readonly count: number,
    faces: readonly (readonly number[])[],
  ) {
    faces.forEach((face, f) => this.add(face, f));
  }
  private keys = (face: readonly number[]): number[] =>
    face.map((a, i) => keyOf(this.count, a, face[(i + 1) % face.length]));
  add(face: readonly number[], f: number): void {
    for (const key of this.keys(face)) this.of.set(key, f);
  }
  remove(face: readonly number[]): void {
    for (const key of this.keys(face)) this.of.delete(key);
  }
  /** The face on the other side of an edge of a face. */
  beyond(face: readonly number[], i: number): number | undefined {
    return this.of.get(keyOf(this.count, face[(i + 1) % face.length], face[i]));
  }
}

/**
 * Flat faces that lie in one plane put together, where what comes of it is one polygon without a hole; straight corners between
 * two faces are left out. A flat ring about a hole becomes a broken one.
 *
 * @param toleranceMm how far a corner may lie off the plane of a face
 */
export function withFlatFacesMerged(mesh: Mesh, toleranceMm = 1e-6 * sizeOf(mesh)): Mesh {
  const { points } = mesh;
  const inPlane = planesOf(mesh, toleranceMm);
  const owners = new Owners(points.length, mesh.faces);
  const faces: (readonly number[] | null)[] = [...mesh.faces];
  const queue = faces.map((_, f) => f);
  for (let f = queue.pop(); f !== undefined; f = queue.pop()) {
    const face = faces[f];
    if (!face) continue;
    for (let i = 0; i < face.length; i++) {
      const g = owners.beyond(face, i);
      const other = g === undefined || g === f ? null : faces[g];
      if (!other || !inPlane(face, other)) continue;
      const joined = joinedAlong(face, other);
      if (!joined) continue;
      faces[f] = joined;
      faces[g!] = null;
      owners.remove(face);
      owners.remove(other);
      owners.add(joined, f);
      queue.push(f);
      break;
    }
  }
  const left = faces.filter((face) => face !== null);
  // Corners that belong to two faces and lie on a straight line are none.
  const uses = new Map<number, number>();
  for (const face of left) for (const v of face) uses.set(v, (uses.get(v) ?? 0) + 1);
  const straight = (face: readonly number[], i: number): boolean => {
    const [p, q, r] = [-1, 0, 1].map((d) => points[face[(i + d + face.length) % face.length]]);
    const [u, v] = [minus3(q, p), minus3(r, q)];
    return (
      uses.get(face[i]) === 2 &&
      dot3(u, v) > 0 &&
      length3(cross3(u, v)) <= toleranceMm * Math.max(length3(u), length3(v))
    );
  };
  return compacted({
    points,
    faces: left.map((face) => {
      const kept = face.filter((_, i) => !straight(face, i));
      return kept.length >= 3 ? kept : face;
    }),
  });
}

/** A broken ring of so many corners at most stays as it is: finer ones can be divided. */
const MOST_CORNERS_ROUND = 24;

/**
 * A solid whose fine flat rings about holes, as on a round body, are divided into parts that bend outwards: as one broken face such a
 * ring leaves few nets, or none in one piece, for all that hangs about it inside must find room in its hole.
 *
 * @returns the same solid where there is no such ring
 */
export function withRingsDivided(mesh: Mesh, toleranceMm = 1e-6 * sizeOf(mesh)): Mesh {
  const { faces } = mesh;
  const inPlane = planesOf(mesh, toleranceMm);
  const owners = new Owners(mesh.points.length, faces);
  const divided = new Set<number>();
  const seen = new Set<number>();
  for (const start of faces.keys()) {
    if (seen.has(start)) continue;
    // All that hangs together in its plane; a broken ring may meet itself.
    const flat = new Set([start]);
    let meets = false;
    for (const f of flat)
      for (const i of faces[f].keys()) {
        const g = owners.beyond(faces[f], i);
        if (g === undefined || (g !== f && !inPlane(faces[f], faces[g]))) continue;
        flat.add(g);
        meets = true;
      }
    flat.forEach((f) => seen.add(f));
    const corners = [...flat].reduce((sum, f) => sum + faces[f].length, 0);
    if (meets && corners > MOST_CORNERS_ROUND) flat.forEach((f) => divided.add(f));
  }
  if (divided.size === 0) return mesh;
  const { rings } = new FlatFaces(mesh);
  const parted = faces.flatMap((face, f) =>
    divided.has(f) ? outwardParts(rings[f]).map((part) => part.map((i) => face[i])) : [face],
  );
  return parted.length === faces.length ? mesh : { points: mesh.points, faces: parted };
}

/** Twice the area of a triangle, positive where it turns left. */
const area2 = (a: Point, b: Point, c: Point): number =>
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/**
 * A ring that turns left divided into parts that bend outwards everywhere: from each corner that bends inwards along the shortest way to
 * another corner that runs within it.
 *
 * @returns the corners of each part, as places in the ring
 */
function outwardParts(ring: readonly Point[]): number[][] {
  const isLeft = (a: Point, b: Point, c: Point): boolean =>
    area2(a, b, c) > -1e-9 * (Math.abs(b[0] - a[0]) + Math.abs(b[1] - a[1])) ** 2;
  const done: number[][] = [];
  const open: number[][] = [ring.map((_, i) => i)];
  for (let part = open.pop(); part; part = open.pop()) {
    const own = part;
    const at = (i: number): Point => ring[own[(i + own.length) % own.length]];
    const within = (i: number, j: number): boolean =>
      isLeft(at(i - 1), at(i), at(i + 1))
        ? area2(at(i), at(j), at(i - 1)) > 0 && area2(at(i), at(i + 1), at(j)) > 0
        : !(area2(at(i), at(j), at(i + 1)) >= 0 && area2(at(i), at(i - 1), at(j)) >= 0);
    const free = (i: number, j: number): boolean =>
      own.every((_, k) => {
        const next = (k + 1) % own.length;
        if (k === i || k === j || next === i || next === j) return true;
        const [p, q] = [at(k), at(next)];
        return (
          area2(at(i), at(j), p) > 0 === area2(at(i), at(j), q) > 0 ||
          area2(p, q, at(i)) > 0 === area2(p, q, at(j)) > 0
        );
      });
    let way: readonly [number, number] | undefined;
    for (let i = 0; i < own.length && !way; i++) {
      if (isLeft(at(i - 1), at(i), at(i + 1))) continue;
      const others = own
        .map((_, j) => j)
        .filter((j) => Math.min((j - i + own.length) % own.length, (i - j + own.length) % own.length) > 1)
        .sort((j, k) => distance(at(i), at(j)) - distance(at(i), at(k)));
      const to = others.find((j) => within(i, j) && within(j, i) && free(i, j));
      if (to !== undefined) way = [Math.min(i, to), Math.max(i, to)];
    }
    if (way) open.push(own.slice(way[0], way[1] + 1), [...own.slice(way[1]), ...own.slice(0, way[0] + 1)]);
    else done.push(own);
  }
  return done;
}

/** Two loops put together along what they share, which must be one run; undefined where it is not, or where nothing is left. */
function joinedAlong(face: readonly number[], other: readonly number[]): number[] | undefined {
  const back = new Map(other.map((a, i) => [other[(i + 1) % other.length], a]));
  const shared = face.map((a, i) => back.get(a) === face[(i + 1) % face.length] && back.has(a));
  const count = shared.filter(Boolean).length;
  const begins = face.flatMap((_, i) =>
    shared[i] && !shared[(i + face.length - 1) % face.length] ? [i] : [],
  );
  if (begins.length !== 1 || count >= face.length || count >= other.length) return undefined;
  const [start] = begins;
  const end = face[(start + count) % face.length];
  const own = Array.from({ length: face.length - count }, (_, i) => face[(start + count + i) % face.length]);
  const from = other.indexOf(face[start]);
  const rest = Array.from({ length: other.length - count }, (_, i) => other[(from + i) % other.length]);
  // From the end of the run round the face to its start, then round the other face back to the end.
  const loop = [...own, ...rest].filter((v, i, all) => v !== all[(i + all.length - 1) % all.length]);
  return rest[0] === face[start] && loop.includes(end) && new Set(loop).size === loop.length
    ? loop
    : undefined;
}
