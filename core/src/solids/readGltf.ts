/**
 * Solids from glTF 2.0: binary (GLB), or as text with everything in it. Triangles of all meshes of its scene, each where its node
 * puts it; from metres with y upwards to millimetres with z upwards.
 */
import { PlatformIO, type Document, type GLTF, type Node, type Primitive } from '@gltf-transform/core';
import type { Vec3 } from '../geometry/rigid.ts';
import type { Mesh } from './mesh.ts';
import { MeshFileError, MOST_FACES, refuseTooLarge } from './readMesh.ts';

/** Ways of drawing that a primitive may have: separate triangles, a strip, a fan. */
const [TRIANGLES, STRIP, FAN] = [4, 5, 6];
/** From its metres to millimetres. */
const MM = 1000;
/** The most nodes, meshes and accessors of a file. */
const MOST_ENTRIES = 20_000;

/** Reads what is in the file alone: nothing is fetched from elsewhere. */
class OwnIO extends PlatformIO {
  protected readURI(): Promise<never> {
    return Promise.reject(
      new MeshFileError('It keeps its corners in another file: save it as GLB, in one file.'),
    );
  }
  protected resolve(_base: string, path: string): string {
    return path;
  }
  protected dirname(): string {
    return '';
  }
}

/** Corners of a primitive three by three. */
function* trianglesOf(primitive: Primitive, count: number): Generator<readonly [number, number, number]> {
  const indices = primitive.getIndices();
  const total = indices ? indices.getCount() : count;
  const at = (i: number): number => (indices ? indices.getScalar(i) : i);
  const mode = primitive.getMode() as number;
  if (mode === TRIANGLES) for (let i = 0; i + 2 < total; i += 3) yield [at(i), at(i + 1), at(i + 2)];
  else if (mode === FAN) for (let i = 1; i + 1 < total; i++) yield [at(0), at(i), at(i + 1)];
  else if (mode === STRIP)
    for (let i = 0; i + 2 < total; i++)
      yield i % 2 === 0 ? [at(i), at(i + 1), at(i + 2)] : [at(i + 1), at(i), at(i + 2)];
}

/** A place moved by a matrix of sixteen numbers, column by column. */
const moved = (m: readonly number[], [x, y, z]: readonly number[]): Vec3 => [
  m[0] * x + m[4] * y + m[8] * z + m[12],
  m[1] * x + m[5] * y + m[9] * z + m[13],
  m[2] * x + m[6] * y + m[10] * z + m[14],
];

/** Whether a matrix mirrors: faces are turned over by it. */
const mirrors = (m: readonly number[]): boolean =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) -
    m[4] * (m[1] * m[10] - m[2] * m[9]) +
    m[8] * (m[1] * m[6] - m[2] * m[5]) <
  0;

function meshOf(document: Document): Mesh {
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes().at(0);
  const points: Vec3[] = [];
  const faces: number[][] = [];
  const add = (node: Node): void => {
    const matrix = node.getWorldMatrix();
    const over = mirrors(matrix);
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const position = primitive.getAttribute('POSITION');
      if (!position) continue;
      const first = points.length;
      const count = position.getCount();
      if (first + count > 3 * MOST_FACES)
        throw new MeshFileError(`There are more than ${(3 * MOST_FACES).toLocaleString('en')} corners.`);
      for (let i = 0; i < count; i++) {
        const [x, y, z] = moved(matrix, position.getElement(i, []));
        const p: Vec3 = [MM * x, -MM * z, MM * y];
        if (!p.every((v) => Math.abs(v) <= 1e9))
          throw new MeshFileError(
            `Corner ${i + 1} of “${node.getName().slice(0, 40)}” is no number, or too far away.`,
          );
        points.push(p);
      }
      for (const corners of trianglesOf(primitive, count)) {
        if (faces.length >= MOST_FACES)
          throw new MeshFileError(`There are more than ${MOST_FACES.toLocaleString('en')} faces.`);
        if (corners.some((v) => !(v >= 0 && v < count)))
          throw new MeshFileError(
            `A face of “${node.getName().slice(0, 40)}” asks for a corner that there is none of.`,
          );
        const [a, b, c] = corners.map((v) => first + v);
        faces.push(over ? [a, c, b] : [a, b, c]);
      }
    }
  };
  scene?.traverse(add);
  return { points, faces };
}

/**
 * Reads the triangles of a glTF file.
 *
 * @param isText a file as text; else binary
 * @throws MeshFileError with a sentence that says what is wrong, and what to do
 */
export async function readGltf(
  bytes: Uint8Array,
  isText: boolean,
  decode: (bytes: Uint8Array) => string,
): Promise<Mesh> {
  refuseTooLarge(bytes);
  const io = new OwnIO();
  try {
    const json = isText ? (JSON.parse(decode(bytes)) as GLTF.IGLTF) : undefined;
    const packed = json ? { json, resources: {} } : await io.binaryToJSON(bytes);
    const elsewhere = isText && packed.json.buffers?.find(({ uri }) => !uri?.startsWith('data:'));
    if (elsewhere)
      throw new MeshFileError(
        `It keeps its corners in another file (${(elsewhere.uri ?? 'not named').slice(0, 60)}): save it as GLB, in one file.`,
      );
    const lists: unknown[] = [packed.json.nodes, packed.json.meshes, packed.json.accessors];
    if (lists.some((list) => Array.isArray(list) && list.length > MOST_ENTRIES))
      throw new MeshFileError(
        `It has more than ${MOST_ENTRIES.toLocaleString('en')} entries of a kind: simplify it.`,
      );
    const mesh = meshOf(await io.readJSON(packed));
    if (mesh.faces.length === 0) throw new MeshFileError('There are no faces in this glTF file.');
    return mesh;
  } catch (fault) {
    if (fault instanceof MeshFileError) throw fault;
    const why = fault instanceof Error ? fault.message.replace(/\s+/g, ' ').slice(0, 120) : '';
    throw new MeshFileError(
      `This glTF file cannot be read${why ? ` (${why})` : ''}: save it anew as GLB, unpacked.`,
    );
  }
}
