/** Solids made simpler: as few faces as one wants to fold. */
import { FlatFaces } from '@hollow-finch/core/solids/flatFaces';
import type { Mesh } from '@hollow-finch/core/solids/mesh';
import { settled } from '@hollow-finch/core/solids/readMesh';

/** Fewer faces than this make no solid worth the name. */
const FEWEST = 8;

/**
 * A solid of at most about so many triangles, its flat faces put together again; the solid itself where it has no more.
 *
 * @throws Error with a sentence where what is left is no solid that can be folded
 */
export async function simplified(mesh: Mesh, mostFaces: number): Promise<Mesh> {
  const most = Math.max(FEWEST, Math.round(mostFaces));
  if (mesh.faces.length <= most) return mesh;
  // Only then: it is compiled when it is loaded.
  const { MeshoptSimplifier } = await import('meshoptimizer');
  await MeshoptSimplifier.ready;
  const flat = new FlatFaces(mesh);
  const indices = Uint32Array.from(
    mesh.faces.flatMap((face, f) => flat.triangles[f].flatMap((corners) => corners.map((k) => face[k]))),
  );
  const positions = Float32Array.from(mesh.points.flatMap((point) => [...point]));
  // The first that is sound: collapsing edges may pinch a solid where it is thin.
  for (let wanted = most; wanted <= 2 * most; wanted = Math.ceil(wanted * 1.15)) {
    const [kept] = MeshoptSimplifier.simplify(indices, positions, 3, 3 * wanted, 1, ['Regularize']);
    const faces = Array.from({ length: kept.length / 3 }, (_, i) => [...kept.subarray(3 * i, 3 * i + 3)]);
    try {
      const { mesh: made, faults } = settled({ points: mesh.points, faces });
      if (faults.length === 0) return made;
    } catch {
      // Too little was left: more faces are tried.
    }
  }
  throw new Error(
    `With ${most} faces it is no closed solid any more: ask for more faces, or simplify it in a modelling program.`,
  );
}
