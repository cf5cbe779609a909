/** Flat faces of a solid that lie in one plane, put together: what is folded as one piece of paper is one face. */
import type { Vec3 } from '../geometry/rigid.ts';
import { cross3, dot3, minus3 } from '../geometry/vector.ts';
import { add3, compacted, faceNormal, keyOf, length3, scale3, sizeOf, type Mesh } from './mesh.ts';

/** A face put together from others: its corners, and which of the mesh's faces it is made of. */
interface Merged {
  readonly ring: readonly number[];
  readonly of: readonly number[];
}

/** A ring of flat faces about a hole becomes one face, broken once, with so many corners at most: finer ones stay divided. */
const MOST_CORNERS_ROUND = 24;

/**
 * Flat faces that lie in one plane put together, where what comes of it is one polygon without a hole; straight corners between
 * two faces are left out. A fine flat ring, as on a round body, stays in parts that bend outwards: as one face it could only be
 * laid flat with all that hangs about it, inside and outside.
 *
 * @param toleranceMm how far a corner may lie off the plane of a face
 */
export function withFlatFacesMerged(mesh: Mesh, toleranceMm = 1e-6 * sizeOf(mesh)): Mesh {
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
  /** Faces joined as far as may be; and by face the neighbours in its plane to which it cannot be joined, if there are any. */
  const joinedUp = (
    from: readonly Merged[],
    may: (one: Merged, other: Merged, ring: number[]) => boolean,
  ) => {
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
        if (!ring || !may(face, other, ring)) continue;
        faces[f] = { ring, of: [...face.of, ...other.of] };
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
  };
  const bendsOut = (ring: readonly number[]): boolean => {
    const n = faceNormal(mesh, ring);
    return ring.every((v, i) => {
      const [p, r] = [points[ring.at(i - 1)!], points[ring[(i + 1) % ring.length]]];
      return dot3(n, cross3(minus3(points[v], p), minus3(r, points[v]))) >= -1e-9 * dot3(n, n);
    });
  };
  const first = joinedUp(
    mesh.faces.map((face, f) => ({ ring: [...face], of: [f] })),
    () => true,
  );
  /** Faces that are broken rings, or parts of such, with too many corners in all. */
  const broken = new Set<Merged>();
  const seen = new Set<Merged>();
  for (const start of first.beside.keys()) {
    if (seen.has(start)) continue;
    const ring = new Set([start]);
    for (const face of ring) for (const next of first.beside.get(face)!) ring.add(next);
    const parts = [...ring];
    parts.forEach((face) => seen.add(face));
    if (parts.reduce((sum, face) => sum + face.ring.length, 0) > MOST_CORNERS_ROUND)
      parts.forEach((face) => broken.add(face));
  }
  const divided = new Set([...broken].flatMap(({ of }) => of));
  const rings =
    divided.size === 0
      ? first.faces
      : joinedUp(
          [
            ...first.faces.filter((face) => !broken.has(face)),
            ...[...divided].map((f) => ({ ring: [...mesh.faces[f]], of: [f] })),
          ],
          (one, other, ring) => divided.has(one.of[0]) && divided.has(other.of[0]) && bendsOut(ring),
        ).faces;
  const left = rings.map(({ ring }) => ring);
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
