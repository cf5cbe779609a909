/** FOLD files of every family: edges of one length flat and folded, and the angles fold the pattern to the very pose. */
import { describe, expect, it } from 'vitest';
import { newDesign, type Design } from '../design/design.ts';
import { regionArea } from '../geometry/polygon.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { cross3, dot3, minus3 } from '../geometry/vector.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep as sweepOf, type Sweep } from '../motion/sweep.ts';
import { writeFold } from './foldWrite.ts';

const card = newDesign('Pose', { closedWidthMm: 110, closedHeightMm: 105 });
const table: Design = { ...card, base: { kind: 'structure', rootPartId: null } };
const all = [...new Set([...FAMILIES, ...STRUCTURES])];
/** Their panels bend, or give a little, on the way: corners of neighbours come apart by some tenths of a millimetre. */
const GIVES: Readonly<Record<string, number>> = { twistedPrism: 0.5 };

/** Families that have folds in any case. */
const FOLDED = new Set(['step', 'vfold', 'tray', 'pillowBox', 'wheel', 'twistedPrism']);

interface Written {
  readonly vertices_coords: number[][];
  readonly edges_vertices: [number, number][];
  readonly edges_assignment: string[];
  readonly faces_vertices: number[][];
  readonly file_frames: readonly [{ vertices_coords: Vec3[]; edges_foldAngle: number[] }];
}

const far = (p: readonly number[], q: readonly number[]): number => Math.hypot(...p.map((v, i) => v - q[i]));
/** A vector turned about an axis of length one. */
const turned = (v: Vec3, k: Vec3, by: number): Vec3 => {
  const [c, s, along] = [Math.cos(by), Math.sin(by), dot3(k, v) * (1 - Math.cos(by))];
  const x = cross3(k, v);
  return [0, 1, 2].map((i) => v[i] * c + x[i] * s + k[i] * along) as unknown as Vec3;
};

/** Faces of the pattern folded one from another by the angles alone, from a first one that lies as it does in the pose. */
function foldedByAngles({ vertices_coords: flat, ...fold }: Written): Vec3[][] {
  const [{ vertices_coords: pose, edges_foldAngle: angles }] = fold.file_frames;
  const beside = new Map<string, { face: number; edge: number }[]>();
  const edgeOf = new Map(fold.edges_vertices.map(([a, b], e) => [`${a},${b}`, e]));
  fold.faces_vertices.forEach((face, f) =>
    face.forEach((a, i) => {
      const b = face[(i + 1) % face.length];
      const key = a < b ? `${a},${b}` : `${b},${a}`;
      beside.set(key, [...(beside.get(key) ?? []), { face: f, edge: edgeOf.get(key)! }]);
    }),
  );
  // Each face as a frame: where its flat origin lies, and where x, y and z point.
  interface Frame {
    readonly at: Vec3;
    readonly axes: readonly [Vec3, Vec3, Vec3];
  }
  const placed = ({ at, axes: [x, y] }: Frame, [u, v]: readonly number[]): Vec3 =>
    [0, 1, 2].map((i) => at[i] + u * x[i] + v * y[i]) as unknown as Vec3;
  const unit = (v: Vec3): Vec3 => v.map((c) => c / Math.hypot(...v)) as unknown as Vec3;
  /** The frame of a face as it lies in the pose: by its longest edge, and by its normal there. */
  const ofPose = (face: readonly number[]): Frame => {
    let [best, a, b] = [-1, 0, 0];
    face.forEach((p, i) => {
      const q = face[(i + 1) % face.length];
      if (far(flat[p], flat[q]) > best) [best, a, b] = [far(flat[p], flat[q]), p, q];
    });
    let sum: Vec3 = [0, 0, 0];
    face.forEach((p, i) => {
      const n = cross3(
        minus3(pose[p], pose[face[0]]),
        minus3(pose[face[(i + 1) % face.length]], pose[face[0]]),
      );
      sum = sum.map((v, k) => v + n[k]) as unknown as Vec3;
    });
    const z = unit(sum);
    const along = unit(minus3(pose[b], pose[a]));
    const flatAngle = Math.atan2(flat[b][1] - flat[a][1], flat[b][0] - flat[a][0]);
    const x = turned(along, z, -flatAngle);
    const y = cross3(z, x);
    const at = [0, 1, 2].map((i) => pose[a][i] - flat[a][0] * x[i] - flat[a][1] * y[i]) as unknown as Vec3;
    return { at, axes: [x, y, z] };
  };
  const frames: (Frame | undefined)[] = fold.faces_vertices.map(() => undefined);
  for (let first = 0; first < frames.length; first++) {
    if (frames[first]) continue;
    frames[first] = ofPose(fold.faces_vertices[first]);
    const queue = [first];
    for (let f = queue.shift(); f !== undefined; f = queue.shift()) {
      const face = fold.faces_vertices[f];
      face.forEach((a, i) => {
        const b = face[(i + 1) % face.length];
        const here = beside.get(a < b ? `${a},${b}` : `${b},${a}`)!;
        if (here.length !== 2 || fold.edges_assignment[here[0].edge] === 'C') return;
        const other = here.find(({ face: g }) => g !== f)?.face;
        if (other === undefined || frames[other]) return;
        const own = frames[f]!;
        const [p, q] = [placed(own, flat[a]), placed(own, flat[b])];
        // Along the edge with the known face on its left a valley comes up on the right: it turns the other way round the edge.
        const by = (-angles[here[0].edge] * Math.PI) / 180;
        const axis = unit(minus3(q, p));
        const axes = own.axes.map((v) => turned(v, axis, by)) as unknown as Frame['axes'];
        const [x, y] = axes;
        const at = [0, 1, 2].map((k) => p[k] - flat[a][0] * x[k] - flat[a][1] * y[k]) as unknown as Vec3;
        frames[other] = { at, axes };
        queue.push(other);
      });
    }
  }
  return fold.faces_vertices.map((face, f) => face.map((v) => placed(frames[f]!, flat[v])));
}

describe.each(all.map((family) => [family.id, family] as const))('%s', (id, family) => {
  const base = family.on === 'table' ? table : card;
  const host = usualHost(family, expand(base).gutters);
  const sweep: Sweep = sweepOf(
    linkageOf(expand({ ...base, instances: { m1: newInstance(family, host, 'm1') } })),
  );
  const area = sweep.linkage.panels
    .filter(({ body, takenOut }) => sweep.linkage.attached[body] && !takenOut)
    .reduce((sum, { region }) => sum + regionArea(region), 0);
  const give = GIVES[id] ?? 0.01;

  it.each([0, 60, 180])('as FOLD is the pose, flat and folded (at %i)', (deg) => {
    const fold = JSON.parse(writeFold(sweep, deg, 'A pose')) as Written;
    const [flat, folded] = [fold.vertices_coords, fold.file_frames[0].vertices_coords];
    expect(folded).toHaveLength(flat.length);
    expect(fold.edges_assignment).toHaveLength(fold.edges_vertices.length);
    expect(fold.file_frames[0].edges_foldAngle).toHaveLength(fold.edges_vertices.length);
    const known = new Set(fold.edges_vertices.map(([a, b]) => `${a},${b}`));
    let total = 0;
    for (const face of fold.faces_vertices) {
      let twice = 0;
      face.forEach((a, i) => {
        const b = face[(i + 1) % face.length];
        expect(known.has(a < b ? `${a},${b}` : `${b},${a}`)).toBe(true);
        twice += flat[a][0] * flat[b][1] - flat[b][0] * flat[a][1];
        // Every two corners of a face are as far apart, not only neighbours: it is not bent.
        for (const c of face.slice(0, i))
          expect(Math.abs(far(folded[a], folded[c]) - far(flat[a], flat[c]))).toBeLessThan(give);
      });
      expect(twice).toBeGreaterThan(0);
      total += twice / 2;
    }
    expect(total / area).toBeCloseTo(1, 5);
    if (FOLDED.has(id))
      expect(fold.edges_assignment.filter((a) => a === 'M' || a === 'V').length).toBeGreaterThan(0);
    // What is no fold is not folded.
    fold.edges_assignment.forEach((letter, e) => {
      const angle = fold.file_frames[0].edges_foldAngle[e];
      expect(Math.abs(angle)).toBeLessThanOrEqual(180);
      if ('BC'.includes(letter)) expect(angle).toBe(0);
      if ('FJ'.includes(letter) && give < 0.1) expect(Math.abs(angle)).toBeLessThan(0.01);
    });
    if (give > 0.1) return;
    const again = foldedByAngles(fold);
    let worst = 0;
    fold.faces_vertices.forEach((face, f) =>
      face.forEach((v, i) => (worst = Math.max(worst, far(again[f][i], folded[v])))),
    );
    expect(worst).toBeLessThan(0.05);
  });
});
