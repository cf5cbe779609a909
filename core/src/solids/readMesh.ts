/**
 * Solids from files: OBJ (corners and faces; all else is passed over) and STL (as text and binary). What is wrong is said with
 * its line, or its triangle; limits keep a hostile file from filling the memory.
 */
import type { Vec3 } from '../geometry/rigid.ts';
import { withFlatFacesMerged } from './mergedFaces.ts';
import {
  compacted,
  facingOut,
  meshFaults,
  shellsOf,
  sizeOf,
  welded,
  type Mesh,
  type MeshFault,
} from './mesh.ts';

/** A file may be this large, bytes. */
export const LARGEST_BYTES = 20_000_000;
/** The most faces, corners, and corners of one face that are read. */
export const MOST_FACES = 200_000;
const MOST_POINTS = 200_000;
const MOST_CORNERS = 1_000;
/** The most faces that are folded. */
export const MOST_FOLDED = 6_000;
const LARGEST = 1e9;

export class MeshFileError extends Error {}

const fail = (words: string): never => {
  throw new MeshFileError(words);
};

/** Refuses a file that is too large to be read. */
export function refuseTooLarge(bytes: Uint8Array): void {
  if (bytes.length > LARGEST_BYTES)
    fail(
      `The file is ${(bytes.length / 1e6).toFixed(0)} MB; up to ${LARGEST_BYTES / 1e6} MB can be read: simplify the solid first.`,
    );
}

/** A number as files write it, or undefined. */
function numberOf(text: string | undefined): number | undefined {
  if (text === undefined || !/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(text)) return undefined;
  const value = Number(text);
  return Math.abs(value) <= LARGEST ? value : undefined;
}

function pointOf(words: readonly string[], where: string): Vec3 {
  const p = [0, 1, 2].map((k) => numberOf(words[k]));
  if (p.some((x) => x === undefined))
    fail(
      `${where}: a corner needs three numbers within a thousand million, and has “${words.slice(0, 3).join(' ').slice(0, 60)}”.`,
    );
  return p as unknown as Vec3;
}

/** The solid of an OBJ text. */
function readObj(text: string): Mesh {
  const points: Vec3[] = [];
  const faces: number[][] = [];
  let line = 0;
  let before = '';
  for (let at = 0; at < text.length;) {
    const end = text.indexOf('\n', at);
    const own = text.slice(at, end < 0 ? undefined : end).trim();
    at = end < 0 ? text.length : end + 1;
    line += 1;
    // A line that ends in a backslash goes on in the next.
    if (own.endsWith('\\')) {
      before += `${own.slice(0, -1)} `;
      continue;
    }
    const [what, ...words] = (before + own).split(/\s+/);
    before = '';
    if (what === 'v') {
      if (points.length >= MOST_POINTS)
        fail(`Line ${line}: there are more than ${MOST_POINTS.toLocaleString('en')} corners.`);
      points.push(pointOf(words, `Line ${line}`));
    } else if (what === 'f') {
      if (faces.length >= MOST_FACES)
        fail(`Line ${line}: there are more than ${MOST_FACES.toLocaleString('en')} faces.`);
      if (words.length < 3)
        fail(`Line ${line}: a face needs three corners at least, and has ${words.length}.`);
      if (words.length > MOST_CORNERS)
        fail(`Line ${line}: a face has ${words.length} corners; up to ${MOST_CORNERS} can be read.`);
      faces.push(
        words.map((word) => {
          const index = Number(/^([+-]?\d{1,9})(\/|$)/.exec(word)?.[1] ?? NaN);
          // Counted from 1, or backwards from the corner that came last.
          const v = index < 0 ? points.length + index : index - 1;
          if (!(v >= 0 && v < points.length))
            fail(
              `Line ${line}: a face asks for corner “${word.slice(0, 30)}”, and there are ${points.length} so far.`,
            );
          return v;
        }),
      );
    }
  }
  return { points, faces };
}

/** Flat faces of many corners as they are; those that are bent are cut into triangles, which lie in planes of their own. */
function flatOnly({ points, faces }: Mesh): Mesh {
  const slack = 1e-5 * sizeOf({ points });
  return {
    points,
    faces: faces.flatMap((face) => {
      if (face.length === 3) return [face];
      const o = points[face[0]];
      // Newell's normal, and how far each corner lies off the plane through the middle.
      let n: [number, number, number] = [0, 0, 0];
      face.forEach((v, i) => {
        const [p, q] = [points[v], points[face[(i + 1) % face.length]]];
        n = [
          n[0] + (p[1] - q[1]) * (p[2] + q[2]),
          n[1] + (p[2] - q[2]) * (p[0] + q[0]),
          n[2] + (p[0] - q[0]) * (p[1] + q[1]),
        ];
      });
      const long = Math.hypot(...n) || 1;
      const off = (p: Vec3) =>
        Math.abs(n[0] * (p[0] - o[0]) + n[1] * (p[1] - o[1]) + n[2] * (p[2] - o[2])) / long;
      return face.every((v) => off(points[v]) <= slack)
        ? [face]
        : face.slice(2).map((_, i) => [face[0], face[i + 1], face[i + 2]]);
    }),
  };
}

/** The solid of an STL as text: corners three by three. */
function readStlText(text: string): Mesh {
  const points: Vec3[] = [];
  let line = 0;
  for (let at = 0; at < text.length;) {
    const end = text.indexOf('\n', at);
    const own = text.slice(at, end < 0 ? undefined : end).trim();
    at = end < 0 ? text.length : end + 1;
    line += 1;
    const [what, ...words] = own.split(/\s+/);
    if (what.toLowerCase() !== 'vertex') continue;
    if (points.length >= 3 * MOST_FACES)
      fail(`Line ${line}: there are more than ${MOST_FACES.toLocaleString('en')} faces.`);
    points.push(pointOf(words, `Line ${line}`));
  }
  if (points.length === 0) fail('There is no “vertex” in this STL file: it holds no faces.');
  if (points.length % 3 !== 0)
    fail(`The file breaks off: its last face has ${points.length % 3} of 3 corners.`);
  return triangles(points);
}

const triangles = (points: readonly Vec3[]): Mesh => ({
  points,
  faces: Array.from({ length: points.length / 3 }, (_, i) => [3 * i, 3 * i + 1, 3 * i + 2]),
});

/** The solid of a binary STL: 80 bytes, a count, then 50 bytes for each triangle. */
function readStlBinary(bytes: Uint8Array): Mesh {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(80, true);
  if (count > MOST_FACES)
    fail(
      `It says that it has ${count.toLocaleString('en')} faces; up to ${MOST_FACES.toLocaleString('en')} can be read.`,
    );
  if (bytes.length < 84 + 50 * count)
    fail(
      `The file breaks off: it says that it has ${count} faces, and holds ${Math.floor((bytes.length - 84) / 50)}.`,
    );
  const points: Vec3[] = [];
  for (let i = 0; i < count; i++)
    for (let k = 0; k < 3; k++) {
      const at = 84 + 50 * i + 12 + 12 * k;
      const p: Vec3 = [
        view.getFloat32(at, true),
        view.getFloat32(at + 4, true),
        view.getFloat32(at + 8, true),
      ];
      if (!p.every((x) => Math.abs(x) <= LARGEST))
        fail(`Triangle ${i + 1}: a corner is no number, or too far away.`);
      points.push(p);
    }
  if (count === 0) fail('This STL file holds no faces.');
  return triangles(points);
}

/** A solid from a file, put right where that is safe, with what is still wrong. */
export interface ReadMesh {
  readonly mesh: Mesh;
  /** What was put right, in sentences. */
  readonly mended: readonly string[];
  readonly faults: readonly MeshFault[];
}

/**
 * Reads an OBJ or STL file.
 *
 * @param decode makes a text of bytes
 * @param most flat faces, beyond which it is refused
 * @throws MeshFileError with a sentence that says what is wrong, where, and what to do
 */
export function readMesh(
  bytes: Uint8Array,
  fileName: string,
  decode: (bytes: Uint8Array) => string,
  most = MOST_FOLDED,
): ReadMesh {
  refuseTooLarge(bytes);
  if (bytes.length === 0) fail('The file is empty.');
  const raw = readAny(bytes, fileName, decode);
  if (raw.faces.length === 0) fail('There are no faces in this file.');
  return settled(raw, most);
}

function readAny(bytes: Uint8Array, fileName: string, decode: (bytes: Uint8Array) => string): Mesh {
  const isStl = /\.stl$/i.test(fileName);
  const begin = decode(bytes.subarray(0, 400));
  if (isStl || (!/\.obj$/i.test(fileName) && /^\s*solid\b/i.test(begin))) {
    // A binary file may begin with “solid” as well: its length tells.
    const counted =
      bytes.length >= 84
        ? new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(80, true)
        : 0;
    const isText =
      /^\s*solid\b/i.test(begin) && bytes.length !== 84 + 50 * counted && /facet|endsolid/i.test(begin);
    if (isText) return readStlText(decode(bytes));
    if (bytes.length < 84) return fail('This is no STL file: it is too short to hold a face.');
    return readStlBinary(bytes);
  }
  if (bytes.includes(0)) fail('This is no OBJ file: it is not a text.');
  return flatOnly(readObj(decode(bytes)));
}

/** A solid put right where that is safe: equal corners made one, flat faces put together, the skin turned outwards. */
export function settled(raw: Mesh, most = MOST_FOLDED): ReadMesh {
  const mended: string[] = [];
  const one = welded(raw);
  const whole = compacted({
    points: one.points,
    faces: one.faces.filter((face) => new Set(face).size === face.length),
  });
  if (whole.faces.length < raw.faces.length) {
    const gone = raw.faces.length - whole.faces.length;
    mended.push(
      `${gone} ${gone === 1 ? 'face' : 'faces'} without area ${gone === 1 ? 'was' : 'were'} left out.`,
    );
  }
  if (whole.faces.length < 4) fail('It has fewer than four faces with any area: no solid has.');
  const out = facingOut(whole);
  if (out.faces.some((face, i) => face[0] !== whole.faces[i][0] || face[1] !== whole.faces[i][1]))
    mended.push('Faces that looked inwards were turned over.');
  const shells = shellsOf(out);
  const largest =
    shells.length > 1 ? compacted({ points: out.points, faces: shells[0].map((f) => out.faces[f]) }) : out;
  if (shells.length > 1)
    mended.push(
      `It is ${shells.length} solids by themselves: the largest, with ${shells[0].length} faces, was taken.`,
    );
  const faults = meshFaults(largest);
  if (faults.length > 0) return { mesh: largest, mended, faults };
  const mesh = withFlatFacesMerged(largest);
  if (mesh.faces.length < largest.faces.length)
    mended.push(`${largest.faces.length} faces were put together to ${mesh.faces.length} flat ones.`);
  if (mesh.faces.length > most)
    fail(
      `It has ${mesh.faces.length.toLocaleString('en')} flat faces; up to ${most.toLocaleString('en')} can be folded: simplify it first.`,
    );
  return { mesh, mended, faults: [] };
}

/** A solid scaled so that its longest measure along an axis is so long, standing on the floor. */
export function sized(mesh: Mesh, longestMm: number): Mesh {
  const spans = [0, 1, 2].map((k) => {
    let [low, high] = [Infinity, -Infinity];
    for (const p of mesh.points) [low, high] = [Math.min(low, p[k]), Math.max(high, p[k])];
    return [low, high] as const;
  });
  const factor = longestMm / Math.max(...spans.map(([low, high]) => high - low));
  return {
    points: mesh.points.map(
      (p) =>
        [0, 1, 2].map(
          (k) => (p[k] - (k === 2 ? spans[2][0] : (spans[k][0] + spans[k][1]) / 2)) * factor,
        ) as unknown as Vec3,
    ),
    faces: mesh.faces,
  };
}
