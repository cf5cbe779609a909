/** Flat faces of a solid that lie in one plane, put together: what is folded as one piece of paper is one face. */
import { distance, type Point } from '../geometry/point.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { cross3, dot3, minus3 } from '../geometry/vector.ts';
import { FlatFaces } from './flatFaces.ts';
import { add3, compacted, faceNormal, keyOf, length3, scale3, sizeOf, type Mesh } from './mesh.ts';

/** A face put together from others: its corners, and one of the mesh's faces of which it is made. */
interface Merged {
  readonly ring: readonly number[];
  readonly of: number;
}

/** Faces joined as far as may be; and by face the neighbours in its plane to which it cannot be joined, if there are any. */
interface Joined {
  readonly faces: readonly Merged[];
  readonly beside: ReadonlyMap<Merged, readonly Merged[]>;
}

/**
 * Joins faces that lie in one plane, one to another, where one polygon without a hole comes of it.
 *
 * @param may false only to tell which lie beside each other
 */
function joinedUp(mesh: Mesh, from: readonly Merged[], toleranceMm: number, may = true): Joined {
  const { points } = mesh;
  const key = (a: number, b: number) => keyOf(points.length, a, b);
  const planeOf = (face: readonly number[]) => {
    const n = faceNormal(mesh, face);
    const unit = scale3(n, 1 / (length3(n) || 1));
    const sum = face.reduce<Vec3>((s, v) => add3(s, points[v]), [0, 0, 0]);
    return { unit, at: scale3(sum, 1 / face.length) };
  };
  const inPlane = (face: readonly number[], other: readonly number[]): boolean => {
    const { unit, at } = planeOf(face);
    return (
      dot3(unit, faceNormal(mesh, other)) > 0 &&
      other.every((v) => Math.abs(dot3(unit, minus3(points[v], at))) <= toleranceMm)
    );
  };
  const faces: (Merged | null)[] = [...from];
  const owner = new Map<number, number>();
  const own = (ring: readonly number[], f: number) =>
    ring.forEach((a, i) => owner.set(key(a, ring[(i + 1) % ring.length]), f));
  faces.forEach((face, f) => own(face!.ring, f));
  const beyond = (ring: readonly number[], i: number): number | undefined =>
    owner.get(key(ring[(i + 1) % ring.length], ring[i]));
  const queue = faces.map((_, f) => f);
  for (let f = queue.pop(); f !== undefined; f = queue.pop()) {
    const face = faces[f];
    if (!face) continue;
    for (let i = 0; i < face.ring.length; i++) {
      const g = beyond(face.ring, i);
      const other = g === undefined || g === f ? null : faces[g];
      if (!other || !inPlane(face.ring, other.ring) || !inPlane(other.ring, face.ring)) continue;
      const ring = joinedAlong(face.ring, other.ring);
      if (!ring || !may) continue;
      faces[f] = { ring, of: face.of };
      faces[g!] = null;
      for (const list of [face.ring, other.ring])
        list.forEach((v, k) => owner.delete(key(v, list[(k + 1) % list.length])));
      own(ring, f);
      queue.push(f);
      break;
    }
  }
  const beside = new Map<Merged, Merged[]>();
  faces.forEach((face, f) =>
    face?.ring.forEach((_, i) => {
      const g = beyond(face.ring, i);
      const other = g === undefined ? null : faces[g];
      if (!other || (g !== f && !inPlane(face.ring, other.ring))) return;
      for (const [one, two] of [
        [face, other],
        [other, face],
      ])
        beside.set(one, [...(beside.get(one) ?? []), two]);
    }),
  );
  return { faces: faces.filter((face) => face !== null), beside };
}

/**
 * Flat faces that lie in one plane put together, where what comes of it is one polygon without a hole; straight corners between
 * two faces are left out. A flat ring about a hole becomes a broken one.
 *
 * @param toleranceMm how far a corner may lie off the plane of a face
 */
export function withFlatFacesMerged(mesh: Mesh, toleranceMm = 1e-6 * sizeOf(mesh)): Mesh {
  const { points } = mesh;
  const { faces } = joinedUp(
    mesh,
    mesh.faces.map((face, f) => ({ ring: [...face], of: f })),
    toleranceMm,
  );
  const left = faces.map(({ ring }) => ring);
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
  const faces = mesh.faces.map((ring, f): Merged => ({ ring, of: f }));
  const { beside } = joinedUp(mesh, faces, toleranceMm, false);
  const divided = new Set<number>();
  const seen = new Set<Merged>();
  for (const start of beside.keys()) {
    if (seen.has(start)) continue;
    const ring = new Set([start]);
    for (const face of ring) for (const next of beside.get(face)!) ring.add(next);
    const parts = [...ring];
    parts.forEach((face) => seen.add(face));
    if (parts.reduce((sum, face) => sum + face.ring.length, 0) > MOST_CORNERS_ROUND)
      parts.forEach(({ of }) => divided.add(of));
  }
  if (divided.size === 0) return mesh;
  const { rings } = new FlatFaces(mesh);
  const parted = mesh.faces.flatMap((face, f) =>
    divided.has(f) ? outwardParts(rings[f]).map((part) => part.map((i) => face[i])) : [face],
  );
  return parted.length === mesh.faces.length ? mesh : { points: mesh.points, faces: parted };
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
