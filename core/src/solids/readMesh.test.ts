/** Files of solids: what was written is read, as text and binary; 2,000 mangled ones are refused in words, or are sound. */
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { meshFaults, volumeOf, type Mesh } from './mesh.ts';
import { readMesh as readFile, sized, type ReadMesh } from './readMesh.ts';
import { antiprism, frustum, uniform } from './shapes.ts';
import { blocks, torus } from './testing/meshes.ts';

const bytesOf = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
const textOf = (bytes: Uint8Array): string => Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');
const readMesh = (bytes: Uint8Array, name: string): ReadMesh => readFile(bytes, name, textOf);

const objOf = ({ points, faces }: Mesh): string =>
  [
    '# a solid',
    'o Moth',
    ...points.map((p) => `v ${p.join(' ')}`),
    'vn 0 0 1',
    ...faces.map(
      (face, i) => `f ${face.map((v) => (i % 2 ? `${v + 1}/1/1` : `${v - points.length}//1`)).join(' ')}`,
    ),
  ].join('\r\n');

const trianglesOf = ({ points, faces }: Mesh) =>
  faces.flatMap((face) =>
    face.slice(2).map((_, i) => [face[0], face[i + 1], face[i + 2]].map((v) => points[v])),
  );

const stlOf = (mesh: Mesh): string =>
  [
    'solid moth',
    ...trianglesOf(mesh).flatMap((t) => [
      ' facet normal 0 0 0',
      '  outer loop',
      ...t.map((p) => `   vertex ${p.map((x) => x.toExponential(8)).join(' ')}`),
      '  endloop',
      ' endfacet',
    ]),
    'endsolid moth',
  ].join('\n');

function binaryOf(mesh: Mesh): Uint8Array {
  const list = trianglesOf(mesh);
  const bytes = new Uint8Array(84 + 50 * list.length);
  // Some programs begin even binary files so.
  bytes.set(bytesOf('solid moth'));
  const view = new DataView(bytes.buffer);
  view.setUint32(80, list.length, true);
  list.forEach((t, i) =>
    t.forEach((p, k) => p.forEach((x, j) => view.setFloat32(84 + 50 * i + 12 + 12 * k + 4 * j, x, true))),
  );
  return bytes;
}

const random = seededRandom(11);
const SOLIDS = {
  cube: uniform('cube', 20),
  prism: frustum(7, 15, 15, 40),
  antiprism: antiprism(5, 18, 22),
  ball: uniform('truncated icosahedron', 9),
  blocks: blocks(9, 12, random),
  ring: torus(12, 7, 40, 14),
};

describe.each(Object.entries(SOLIDS))('%s', (_, mesh) => {
  it.each([
    ['OBJ', 'moth.obj', bytesOf(objOf(mesh))],
    ['STL as text', 'moth.stl', bytesOf(stlOf(mesh))],
    ['binary STL', 'moth.STL', binaryOf(mesh)],
  ])('from %s is the solid that was written', (__, name, bytes) => {
    const read = readMesh(bytes, name);
    expect(read.faults).toEqual([]);
    expect(Math.abs(volumeOf(read.mesh) / volumeOf(mesh) - 1)).toBeLessThan(1e-5);
    expect(read.mesh.faces.length).toBeLessThanOrEqual(mesh.faces.length);
  });

  it('inside out, and with some faces turned over, is put right and says so', () => {
    const turned: Mesh = {
      points: mesh.points,
      faces: mesh.faces.map((face, i) => (i % 3 === 1 ? [...face].reverse() : face)),
    };
    const read = readMesh(bytesOf(objOf(turned)), 'm.obj');
    expect(read.faults).toEqual([]);
    expect(read.mended.join(' ')).toMatch(/turned over/);
    expect(volumeOf(read.mesh)).toBeGreaterThan(0);
  });
});

it('is sized by its longest measure, standing on the floor', () => {
  const mesh = sized(SOLIDS.prism, 120);
  const z = mesh.points.map((p) => p[2]);
  expect(Math.min(...z)).toBeCloseTo(0, 9);
  expect(Math.max(...z)).toBeCloseTo(120, 9);
});

describe('what is wrong is said', () => {
  const cube = uniform('cube', 20);
  it.each([
    ['a hole', { ...cube, faces: cube.faces.slice(1) }, /not closed/],
    ['a wall inside', { ...cube, faces: [...cube.faces, cube.faces[0]] }, null],
    [
      'two solids that meet in a corner',
      (() => {
        const other = cube.points.map(
          (p) => p.map((x, k) => x + (cube.points[0][k] - -cube.points[0][k])) as never,
        );
        return {
          points: [...cube.points, ...other],
          faces: [...cube.faces, ...cube.faces.map((f) => f.map((v) => v + 8))],
        };
      })(),
      null,
    ],
  ] as const)('%s', (_, mesh, words) => {
    const read = readMesh(bytesOf(objOf(mesh as Mesh)), 'm.obj');
    if (words) expect(read.faults.map(({ sentence }) => sentence).join(' ')).toMatch(words);
    // What hangs together over no edge of its own is left out, and that is said.
    else expect(read.mended.join(' ')).toMatch(/2 solids by themselves/);
    expect(read.faults.every(({ at, faces }) => at.length === 3 && faces.length > 0)).toBe(true);
  });

  it.each([
    ['', 'm.obj', /empty/],
    ['v 0 0 0\nv 1 0\n', 'm.obj', /^Line 2: a corner needs three numbers/],
    ['v 0 0 0\nf 1 2 3\n', 'm.obj', /^Line 2: a face asks for corner “2”, and there are 1 so far/],
    ['v 0 0 0\nf 1 1\n', 'm.obj', /^Line 2: a face needs three corners/],
    ['hello', 'm.obj', /no faces/],
    ['solid x\nfacet normal 0 0 1\nvertex 0 0 0\nvertex 1 0 0\nendsolid', 'm.stl', /breaks off/],
    ['short', 'm.stl', /too short/],
    ['a\0b', 'm.obj', /not a text/],
  ])('%j', (text, name, words) => {
    expect(() => readMesh(bytesOf(text), name)).toThrow(words);
  });

  it('a binary STL that breaks off, or says more than it may', () => {
    const bytes = binaryOf(cube);
    expect(() => readMesh(bytes.subarray(0, 300), 'm.stl')).toThrow(
      /breaks off: it says that it has 12 faces, and holds 4/,
    );
    new DataView(bytes.buffer).setUint32(80, 4_000_000_000, true);
    expect(() => readMesh(bytes, 'm.stl')).toThrow(/up to 200,000 can be read/);
  });
});

it('2,000 mangled files: refused in words, or sound, or with their faults', () => {
  const files = Object.values(SOLIDS).flatMap((mesh) => [
    ['m.obj', bytesOf(objOf(mesh))] as const,
    ['m.stl', bytesOf(stlOf(mesh))] as const,
    ['m.stl', binaryOf(mesh)] as const,
  ]);
  let refused = 0;
  for (let round = 0; round < 2_000; round++) {
    const [name, whole] = files[round % files.length];
    const bytes = Uint8Array.from(whole);
    for (let k = 0; k < 1 + 6 * random(); k++) {
      const at = Math.floor(random() * bytes.length);
      bytes[at] = random() < 0.5 ? Math.floor(256 * random()) : bytes[Math.floor(random() * bytes.length)];
    }
    try {
      const read = readMesh(
        bytes.subarray(0, random() < 0.2 ? Math.floor(random() * bytes.length) : undefined),
        name,
      );
      if (read.faults.length === 0) expect(meshFaults(read.mesh)).toEqual([]);
    } catch (fault) {
      refused += 1;
      expect((fault as Error).constructor.name, String((fault as Error).stack)).toBe('MeshFileError');
      expect((fault as Error).message).toMatch(/\w+ \w+.*\.$/);
    }
  }
  expect(refused).toBeGreaterThan(100);
});
