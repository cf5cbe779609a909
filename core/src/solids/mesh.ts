/**
 * A solid as its faces: flat polygons in space, each a loop of corners that turns left as it is seen from outside. Looking for
 * what is wrong with one, and putting flat faces together.
 */
import { Groups } from '../geometry/groups.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { add3, cross3, dot3, length3, minus3, scale3 } from '../geometry/vector.ts';

export interface Mesh {
  readonly points: readonly Vec3[];
  /** Loops of indices of points. */
  readonly faces: readonly (readonly number[])[];
}

/** What is wrong with a mesh, in a sentence, and where. */
export interface MeshFault {
  readonly sentence: string;
  readonly at: Vec3;
  /** Faces that are meant, as indices. */
  readonly faces: readonly number[];
}

/** The area of a face times its unit normal (Newell's sum): half the sum of the cross products of neighbours. */
export function faceNormal({ points }: Pick<Mesh, 'points'>, face: readonly number[]): Vec3 {
  const o = points[face[0]];
  let sum: Vec3 = [0, 0, 0];
  for (let i = 1; i + 1 < face.length; i++)
    sum = add3(sum, cross3(minus3(points[face[i]], o), minus3(points[face[i + 1]], o)));
  return scale3(sum, 0.5);
}

/** The volume inside a closed mesh: positive when its faces turn left as seen from outside. */
export function volumeOf(mesh: Mesh): number {
  const { points, faces } = mesh;
  let six = 0;
  for (const face of faces)
    for (let i = 1; i + 1 < face.length; i++)
      six += dot3(points[face[0]], cross3(points[face[i]], points[face[i + 1]]));
  return six / 6;
}

/** The longest way across the box of a mesh. */
export function sizeOf({ points }: Pick<Mesh, 'points'>): number {
  const [low, high] = [Math.min, Math.max].map((pick) =>
    [0, 1, 2].map((k) =>
      points.reduce((best, p) => pick(best, p[k]), pick === Math.min ? Infinity : -Infinity),
    ),
  );
  return points.length === 0 ? 0 : Math.hypot(high[0] - low[0], high[1] - low[1], high[2] - low[2]);
}

/** An edge between two faces: the face on whose loop it runs from a to b, the other one, or -1 where there is none. */
export interface Edge {
  readonly a: number;
  readonly b: number;
  /** The face whose loop runs from a to b, and the place of the edge in its loop. */
  readonly left: number;
  readonly leftAt: number;
  readonly right: number;
  readonly rightAt: number;
}

/** An edge as a number: from one point to another, of so many. */
export const keyOf = (count: number, a: number, b: number): number => a * count + b;

/** All edges of a mesh, each once. An edge that more than two faces share, or two the same way round, comes once for each. */
export function edgesOf({ points, faces }: Mesh): Edge[] {
  const found = new Map<number, [face: number, at: number]>();
  const edges: Edge[] = [];
  faces.forEach((face, f) =>
    face.forEach((a, at) => {
      const b = face[(at + 1) % face.length];
      const key = keyOf(points.length, b, a);
      const other = found.get(key);
      if (other) {
        found.delete(key);
        edges.push({ a: b, b: a, left: other[0], leftAt: other[1], right: f, rightAt: at });
      } else found.set(keyOf(points.length, a, b), [f, at]);
    }),
  );
  for (const [key, [left, leftAt]] of found)
    edges.push({
      a: Math.floor(key / points.length),
      b: key % points.length,
      left,
      leftAt,
      right: -1,
      rightAt: -1,
    });
  return edges;
}

/** The angle by which the paper turns at an edge, seen from outside: positive where it turns away (a mountain), rad. */
export function turnAt(mesh: Mesh, { a, b, left, right }: Edge): number {
  if (right < 0) return 0;
  const [n, m] = [faceNormal(mesh, mesh.faces[left]), faceNormal(mesh, mesh.faces[right])];
  const along = minus3(mesh.points[b], mesh.points[a]);
  return Math.atan2(dot3(cross3(n, m), along) / (length3(along) || 1), dot3(n, m));
}

const words = (count: number, one: string, many: string): string =>
  count === 1 ? `one ${one}` : `${count} ${many}`;

/**
 * What keeps a mesh from being folded: holes in its skin, edges of three faces, faces that look the wrong way, faces without area,
 * several pieces, corners in which skins only touch.
 */
export function meshFaults(mesh: Mesh): MeshFault[] {
  const { points, faces } = mesh;
  const faults: MeshFault[] = [];
  const size = sizeOf(mesh);
  const tell = (list: readonly number[], sentence: string, point?: number) => {
    if (list.length === 0) return;
    faults.push({ sentence, faces: list, at: points[point ?? faces[list[0]][0]] ?? [0, 0, 0] });
  };
  if (faces.length < 4)
    tell(
      faces.map((_, i) => i),
      'It has fewer than four faces: no solid has.',
    );
  const flat = faces.flatMap((face, i) => (length3(faceNormal(mesh, face)) < 1e-12 * size * size ? [i] : []));
  tell(flat, `It has ${words(flat.length, 'face', 'faces')} without any area.`);
  // Ways along edges: each at most once in either direction.
  const ways = new Map<number, number[]>();
  faces.forEach((face, f) =>
    face.forEach((a, i) => {
      const key = keyOf(points.length, a, face[(i + 1) % face.length]);
      ways.set(key, [...(ways.get(key) ?? []), f]);
    }),
  );
  const twice = [...ways.values()].filter((list) => list.length > 1);
  const many = new Set<number>();
  const turned = new Set<number>();
  for (const list of twice) list.forEach((f) => (list.length > 2 ? many : turned).add(f));
  tell([...many], 'More than two faces meet in one edge: such a skin cannot be folded from a sheet.');
  tell(
    [...turned].filter((f) => !many.has(f)),
    'Neighbouring faces look opposite ways: turn some of them over.',
  );
  const open: number[] = [];
  for (const [key, list] of ways) {
    const [a, b] = [Math.floor(key / points.length), key % points.length];
    if (list.length === 1 && !ways.has(keyOf(points.length, b, a))) open.push(list[0]);
  }
  tell(
    [...new Set(open)],
    `Its skin has ${words(open.length, 'edge', 'edges')} with a face on one side only: it is not closed.`,
  );
  if (faults.length > 0) return faults;
  const groups = shellsOf(mesh);
  if (groups.length > 1)
    tell(groups[1], `It is ${groups.length} solids that hang together nowhere: take them one by one.`);
  const touching = pinchedCorners(mesh);
  tell(
    touching.map(([, face]) => face),
    `Skins only touch in ${words(touching.length, 'corner', 'corners')}: they cannot be folded from one sheet there.`,
    touching[0]?.[0],
  );
  if (volumeOf(mesh) < 0)
    tell(
      faces.map((_, i) => i),
      'All faces look inwards: turn it inside out.',
    );
  return faults;
}

/** Faces that hang together over edges, the largest group first. */
export function shellsOf(mesh: Mesh): number[][] {
  const groups = new Groups(mesh.faces.length);
  for (const { left, right } of edgesOf(mesh)) if (right >= 0) groups.join(left, right);
  const shells = new Map<number, number[]>();
  mesh.faces.forEach((_, i) => {
    const root = groups.of(i);
    const list = shells.get(root);
    if (list) list.push(i);
    else shells.set(root, [i]);
  });
  return [...shells.values()].sort((a, b) => b.length - a.length);
}

/** Corners round which the faces form more than one fan, each with one of its faces. */
function pinchedCorners({ points, faces }: Mesh): [number, number][] {
  const next = new Map<number, Map<number, number>>();
  const around = new Map<number, number[]>();
  faces.forEach((face, f) =>
    face.forEach((v, i) => {
      const [before, after] = [face[(i + face.length - 1) % face.length], face[(i + 1) % face.length]];
      const own = next.get(v) ?? new Map<number, number>();
      own.set(after, before);
      next.set(v, own);
      around.set(v, [...(around.get(v) ?? []), f]);
    }),
  );
  return points.flatMap((_, v): [number, number][] => {
    const own = next.get(v);
    if (!own) return [];
    const [start] = own.keys();
    let [at, count] = [own.get(start), 1];
    while (at !== undefined && at !== start && count <= own.size) {
      at = own.get(at);
      count += 1;
    }
    return count < own.size ? [[v, around.get(v)![0]]] : [];
  });
}

/** Equal points as one; faces that lose corners by it lose them, and are left out with fewer than three. */
export function welded({ points, faces }: Mesh, within = 0): Mesh {
  const found = new Map<string, number>();
  const kept: Vec3[] = [];
  const to = points.map((p) => {
    // By single precision, as the files have them; or on a grid.
    const key = p.map((x) => (within > 0 ? Math.round(x / within) : Math.fround(x) + 0)).join();
    let index = found.get(key);
    if (index === undefined) {
      index = kept.length;
      kept.push(p);
      found.set(key, index);
    }
    return index;
  });
  const out = faces
    .map((face) => face.map((v) => to[v]).filter((v, i, all) => v !== all[(i + all.length - 1) % all.length]))
    .filter((face) => face.length >= 3);
  return { points: kept, faces: out };
}

/** Faces turned so that neighbours agree, and all look outwards: what can be put right without asking. */
export function facingOut(mesh: Mesh): Mesh {
  const { points, faces } = mesh;
  const along = new Map<number, { f: number; way: 1 | -1 }[]>();
  faces.forEach((face, f) =>
    face.forEach((a, i) => {
      const b = face[(i + 1) % face.length];
      const key = keyOf(points.length, Math.min(a, b), Math.max(a, b));
      along.set(key, [...(along.get(key) ?? []), { f, way: a < b ? 1 : -1 }]);
    }),
  );
  const turn = new Map<number, boolean>();
  for (let first = 0; first < faces.length; first++) {
    if (turn.has(first)) continue;
    turn.set(first, false);
    const queue = [first];
    for (let f = queue.pop(); f !== undefined; f = queue.pop())
      faces[f].forEach((a, i) => {
        const b = faces[f!][(i + 1) % faces[f!].length];
        const list = along.get(keyOf(points.length, Math.min(a, b), Math.max(a, b)))!;
        if (list.length !== 2) return;
        const [own, other] = list[0].f === f ? list : [list[1], list[0]];
        if (turn.has(other.f)) return;
        turn.set(other.f, (own.way === other.way) !== turn.get(f!)!);
        queue.push(other.f);
      });
  }
  const turned: Mesh = { points, faces: faces.map((face, f) => (turn.get(f) ? [...face].reverse() : face)) };
  return volumeOf(turned) < 0 ? { points, faces: turned.faces.map((face) => [...face].reverse()) } : turned;
}

/** Only the points that faces use. */
export function compacted({ points, faces }: Mesh): Mesh {
  const to = new Map<number, number>();
  const kept: Vec3[] = [];
  const out = faces.map((face) =>
    face.map((v) => {
      let index = to.get(v);
      if (index === undefined) {
        index = kept.length;
        kept.push(points[v]);
        to.set(v, index);
      }
      return index;
    }),
  );
  return { points: kept, faces: out };
}
