/** The convex hull of points in space, as triangles: one point after another, what it sees is replaced by a cone to its rim. */
import type { Vec3 } from '../geometry/rigid.ts';
import { cross3, dot3, length3, minus3 } from '../geometry/vector.ts';
import { compacted, sizeOf, type Mesh } from './mesh.ts';

/**
 * The hull of points; its faces turn left as seen from outside. Points inside it, and on its faces, are left out.
 *
 * @throws RangeError when the points lie in one plane
 */
export function hullOf(points: readonly Vec3[]): Mesh {
  const slack = 1e-10 * (sizeOf({ points }) || 1);
  const far = (from: (p: Vec3) => number): number =>
    points.reduce((best, p, i) => (from(p) > from(points[best]) ? i : best), 0);
  const a = 0;
  const b = far((p) => length3(minus3(p, points[a])));
  const ab = minus3(points[b], points[a]);
  const c = far((p) => length3(cross3(ab, minus3(p, points[a]))));
  const n = cross3(ab, minus3(points[c], points[a]));
  const d = far((p) => Math.abs(dot3(n, minus3(p, points[a]))));
  const above = dot3(n, minus3(points[d], points[a]));
  if (Math.abs(above) <= slack * length3(n))
    throw new RangeError('These points lie in one plane: they span no solid.');
  type Face = { readonly v: readonly [number, number, number]; readonly n: Vec3; readonly at: number };
  const faceOf = (x: number, y: number, z: number): Face => {
    const normal = cross3(minus3(points[y], points[x]), minus3(points[z], points[x]));
    const unit = length3(normal) || 1;
    const scaled: Vec3 = [normal[0] / unit, normal[1] / unit, normal[2] / unit];
    return { v: [x, y, z], n: scaled, at: dot3(scaled, points[x]) };
  };
  let faces: Face[] =
    above > 0
      ? [faceOf(a, c, b), faceOf(a, b, d), faceOf(b, c, d), faceOf(c, a, d)]
      : [faceOf(a, b, c), faceOf(b, a, d), faceOf(c, b, d), faceOf(a, c, d)];
  const first = new Set([a, b, c, d]);
  points.forEach((p, i) => {
    if (first.has(i)) return;
    const seen = faces.filter((face) => dot3(face.n, p) - face.at > slack);
    if (seen.length === 0) return;
    const ways = new Set(seen.flatMap(({ v: [x, y, z] }) => [`${x} ${y}`, `${y} ${z}`, `${z} ${x}`]));
    const gone = new Set(seen);
    faces = faces.filter((face) => !gone.has(face));
    for (const { v } of seen)
      for (const [x, y] of [
        [v[0], v[1]],
        [v[1], v[2]],
        [v[2], v[0]],
      ])
        if (!ways.has(`${y} ${x}`)) faces.push(faceOf(x, y, i));
  });
  return compacted({ points, faces: faces.map(({ v }) => [...v]) });
}
