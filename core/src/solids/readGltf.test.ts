/** glTF files: solids that were written by a library are read as they were; mangled ones end at once, in words. */
import { Document, PlatformIO } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { volumeOf, type Mesh } from './mesh.ts';
import { readGltf } from './readGltf.ts';
import { MeshFileError, settled } from './readMesh.ts';
import { antiprism, frustum, uniform } from './shapes.ts';
import { blocks, torus } from './testing/meshes.ts';

class MemoryIO extends PlatformIO {
  protected readURI(): Promise<never> {
    return Promise.reject(new Error('nothing is fetched'));
  }
  protected resolve(_base: string, path: string): string {
    return path;
  }
  protected dirname(): string {
    return '';
  }
}

const textOf = (bytes: Uint8Array): string => Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');
const bytesOf = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
const base64 = (bytes: Uint8Array): string => {
  const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
  let out = '';
  for (let i = 0; i < bytes.length; i += 3) {
    const [a, b = 0, c = 0] = bytes.subarray(i, i + 3);
    const n = (a << 16) | (b << 8) | c;
    const left = bytes.length - i;
    out +=
      letters[n >> 18] +
      letters[(n >> 12) & 63] +
      (left > 1 ? letters[(n >> 6) & 63] : '=') +
      (left > 2 ? letters[n & 63] : '=');
  }
  return out;
};

/** A solid as glTF in metres with y upwards, drawn as triangles, in a node that is moved, turned and mirrored. */
async function written(mesh: Mesh, mirrored: boolean, indexed: boolean): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const corners = mesh.faces.flatMap((face) =>
    face.slice(2).flatMap((_, i) => [face[0], face[i + 1], face[i + 2]]),
  );
  const own = mirrored ? corners.map((_, i) => corners[i - (i % 3) + [0, 2, 1][i % 3]]) : corners;
  const place = ([x, y, z]: readonly number[]) => [(mirrored ? -1 : 1) * (x / 1000), z / 1000, -y / 1000];
  const points = indexed ? mesh.points.flatMap(place) : own.flatMap((v) => place(mesh.points[v]));
  const position = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array(points))
    .setBuffer(buffer);
  const primitive = document.createPrimitive().setAttribute('POSITION', position);
  if (indexed)
    primitive.setIndices(
      document.createAccessor().setType('SCALAR').setArray(new Uint32Array(own)).setBuffer(buffer),
    );
  const child = document.createNode('solid').setMesh(document.createMesh().addPrimitive(primitive));
  if (mirrored) child.setScale([-1, 1, 1]);
  const parent = document.createNode('moved').setTranslation([3, 4, 5]).addChild(child);
  document.createScene('all').addChild(parent);
  return new MemoryIO().writeBinary(document);
}

const random = seededRandom(12);
const SOLIDS = {
  cube: uniform('cube', 20),
  prism: frustum(7, 15, 15, 40),
  antiprism: antiprism(5, 18, 22),
  blocks: blocks(9, 12, random),
  ring: torus(12, 7, 40, 14),
};

describe.each(Object.entries(SOLIDS))('%s', (_, mesh) => {
  it.each([
    [false, true],
    [false, false],
    [true, true],
    [true, false],
  ])('is the solid that was written (mirrored %s, corners shared %s)', async (mirrored, indexed) => {
    const read = settled(await readGltf(await written(mesh, mirrored, indexed), false, textOf));
    expect(read.faults).toEqual([]);
    expect(volumeOf(read.mesh)).toBeCloseTo(volumeOf(settled(mesh).mesh), 1);
    expect(read.mesh.points.length).toBe(settled(mesh).mesh.points.length);
    // Z is up: as high as it was.
    const high = ({ points }: Mesh) =>
      Math.max(...points.map(([, , z]) => z)) - Math.min(...points.map(([, , z]) => z));
    expect(high(read.mesh)).toBeCloseTo(high(mesh), 3);
  });
});

it('a file as text is read with its corners in it, and refused with them elsewhere', async () => {
  const io = new MemoryIO();
  const document = await io.readBinary(await written(SOLIDS.cube, false, true));
  const { json, resources } = await io.writeJSON(document, {});
  const [uri] = Object.keys(resources);
  const alone = {
    ...json,
    buffers: json.buffers!.map((b) => ({
      ...b,
      uri: `data:application/octet-stream;base64,${base64(resources[uri])}`,
    })),
  };
  const read = settled(await readGltf(bytesOf(JSON.stringify(alone)), true, textOf));
  expect(volumeOf(read.mesh)).toBeCloseTo(8000, 1);
  await expect(readGltf(bytesOf(JSON.stringify(json)), true, textOf)).rejects.toThrow(
    /another file .*save it as GLB/,
  );
});

it('1,000 mangled files end at once: read, or refused in words', async () => {
  const whole = await written(SOLIDS.prism, false, true);
  let refused = 0;
  for (let k = 0; k < 1000; k++) {
    const bytes = whole.slice(0, random() < 0.3 ? Math.floor(random() * whole.length) : whole.length);
    for (let n = Math.floor(random() * 12); n > 0 && bytes.length > 0; n--)
      bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256);
    try {
      const mesh = await readGltf(bytes, false, textOf);
      expect(mesh.faces.length).toBeGreaterThan(0);
    } catch (fault) {
      expect(fault).toBeInstanceOf(MeshFileError);
      expect((fault as Error).message.length).toBeGreaterThan(15);
      refused += 1;
    }
  }
  expect(refused).toBeGreaterThan(300);
  for (const bytes of [new Uint8Array(0), bytesOf('{}'), bytesOf('glTF')])
    await expect(readGltf(bytes, false, textOf)).rejects.toThrow(MeshFileError);
  for (const text of [
    '',
    '[]',
    'null',
    '{"asset":{"version":"9.0"}}',
    '{"asset":{"version":"2.0"},"nodes":7}',
  ])
    await expect(readGltf(bytesOf(text), true, textOf)).rejects.toThrow(MeshFileError);
});
