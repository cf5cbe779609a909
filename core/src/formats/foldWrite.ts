/** The crease pattern of all parts and a pose of them as a FOLD file: what hangs together, in millimetres with z upwards from the base. */
import { isCut, isFold } from '../dieline/part.ts';
import { panelPlan } from '../dieline/panels.ts';
import type { Point } from '../geometry/point.ts';
import { Groups } from '../geometry/groups.ts';
import { boxOf } from '../geometry/path.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { cross3, dot3, minus3 } from '../geometry/vector.ts';
import type { Sweep } from '../motion/sweep.ts';
import { faceNormal } from '../solids/mesh.ts';
import { someShown } from './poseShown.ts';

/** Parts lie so far apart in the crease pattern, mm. */
const APART_MM = 10;

const edgeKey = (a: number | string, b: number | string): string => (a < b ? `${a};${b}` : `${b};${a}`);

/** What is written of an edge of the crease pattern. */
interface FoldEdge {
  readonly ends: readonly [number, number];
  readonly assignment: string;
  /** The faces beside it, each with its corners as they turn left. */
  readonly faces: (readonly number[])[];
}

/**
 * How far an edge is folded, degrees: valleys more than 0, mountains less; 0 where nothing is folded.
 *
 * The angle between the normals of both faces, about the edge as the first face goes along it: with that face on its left, the other
 * on its right comes up for a valley.
 */
function foldAngleDeg({ ends, assignment, faces }: FoldEdge, places: readonly Vec3[]): number {
  if (faces.length !== 2 || assignment === 'C') return 0;
  const [one, other] = faces.map((face) => faceNormal({ points: places }, face));
  const forwards = faces[0][(faces[0].indexOf(ends[0]) + 1) % faces[0].length] === ends[1];
  const along = minus3(places[ends[forwards ? 1 : 0]], places[ends[forwards ? 0 : 1]]);
  const long = Math.hypot(...along) || 1;
  const deg = (Math.atan2(-dot3(cross3(one, other), along) / long, dot3(one, other)) * 180) / Math.PI;
  // Folded flat it may come out either way.
  const sense = assignment === 'V' ? 1 : assignment === 'M' ? -1 : Math.sign(deg);
  const told = Math.abs(deg) > 179.999 ? sense * 180 : deg;
  return Math.round(told * 1e4) / 1e4 || 0;
}

/**
 * The design as FOLD 1.2: one crease pattern with all parts of the pose side by side, and the pose as a folded frame with the angles of
 * its folds. Faces with apertures are divided by joining edges. Panels have a corner in common only where paper holds them together:
 * on both sides of a cut it is there twice.
 *
 * @throws RangeError when there is nothing to save
 */
export function writeFold(sweep: Sweep, deg: number, title: string): string {
  const shown = someShown(sweep, deg);
  const flatPlaces: number[][] = [];
  const foldedPlaces: Vec3[] = [];
  const edges = new Map<string, FoldEdge>();
  const faces: number[][] = [];
  let x = 0;
  for (const part of new Set(shown.map(({ panel }) => panel.part))) {
    const own = shown.filter(({ panel }) => panel.part === part);
    const { graph } = panelPlan(part);
    const box = boxOf(own.flatMap(({ flat }) => flat));
    const shift = x - box.minX;
    x += box.maxX - box.minX + APART_MM;
    const keyOf = ([u, v]: Point) => `${Math.round(u * 1e5)},${Math.round(v * 1e5)}`;
    const assignments = new Map(
      graph.edges.map((edge) => [
        edgeKey(keyOf(graph.vertices[edge.a]), keyOf(graph.vertices[edge.b])),
        isCut(edge) ? 'C' : isFold(edge) && edge.fold ? (edge.fold.sense === 'valley' ? 'V' : 'M') : 'F',
      ]),
    );
    // Each corner of a panel by itself at first; those that paper holds together are joined.
    let count = 0;
    const numbers = own.map(({ flat }) => {
      const known = new Map<string, number>();
      for (const p of flat) if (!known.has(keyOf(p))) known.set(keyOf(p), count++);
      return known;
    });
    const joined = new Groups(count);
    const beside = new Map<string, number>();
    own.forEach(({ flat, rings }, k) =>
      rings.forEach((from, r) => {
        const ring = flat.slice(from, rings[r + 1]).map(keyOf);
        ring.forEach((a, i) => {
          const b = ring[(i + 1) % ring.length];
          const key = edgeKey(a, b);
          const other = beside.get(key);
          beside.set(key, k);
          if (other === undefined || assignments.get(key) === 'C') return;
          for (const end of [a, b]) joined.join(numbers[k].get(end)!, numbers[other].get(end)!);
        });
      }),
    );
    const index = new Map<number, number>();
    own.forEach((one, k) => {
      const corners = one.flat.map((p) => {
        const corner = joined.of(numbers[k].get(keyOf(p))!);
        const known = index.get(corner);
        if (known !== undefined) return known;
        index.set(corner, flatPlaces.length);
        flatPlaces.push([p[0] + shift, p[1] - box.minY]);
        foldedPlaces.push(one.at(p, 0, true));
        return flatPlaces.length - 1;
      });
      const divided = one.rings.length > 1;
      const divisions = divided
        ? one.triangles.map((triangle) => triangle.map((i) => ({ corner: corners[i], p: one.flat[i] })))
        : [one.flat.map((p, i) => ({ corner: corners[i], p }))];
      for (const ring of divisions) {
        const face = ring.map(({ corner }) => corner);
        faces.push(face);
        ring.forEach(({ corner: a, p }, i) => {
          const { corner: b, p: q } = ring[(i + 1) % ring.length];
          const key = edgeKey(a, b);
          const edge = edges.get(key) ?? {
            ends: [Math.min(a, b), Math.max(a, b)] as const,
            assignment: assignments.get(edgeKey(keyOf(p), keyOf(q))) ?? (divided ? 'J' : 'F'),
            faces: [],
          };
          edge.faces.push(face);
          edges.set(key, edge);
        });
      }
    });
  }
  const list = [...edges.values()];
  return `${JSON.stringify(
    {
      file_spec: 1.2,
      file_creator: 'Hollow Finch',
      file_title: title,
      file_classes: ['singleModel'],
      frame_title: 'Crease pattern',
      frame_classes: ['creasePattern'],
      frame_attributes: ['2D', 'cuts'],
      frame_unit: 'mm',
      vertices_coords: flatPlaces.map((p) => p.map((v) => Math.round(v * 1e6) / 1e6)),
      edges_vertices: list.map(({ ends }) => ends),
      // A cut with paper on one side only bounds the pattern.
      edges_assignment: list.map(({ assignment, faces: beside }) => (beside.length < 2 ? 'B' : assignment)),
      faces_vertices: faces,
      file_frames: [
        {
          frame_title: `Folded, at ${Math.round(deg)} degrees`,
          frame_classes: ['foldedForm'],
          frame_attributes: ['3D'],
          frame_parent: 0,
          frame_inherit: true,
          vertices_coords: foldedPlaces.map((p) => p.map((v) => Math.round(v * 1e6) / 1e6)),
          edges_foldAngle: list.map((edge) => foldAngleDeg(edge, foldedPlaces)),
        },
      ],
    },
    null,
    1,
  )}\n`;
}
