/**
 * A pose as a file: STL (plates as thick as their paper, each panel closed), OBJ (sheets without thickness, an object per part), and glTF
 * in its binary form (coloured sheets, seen from both sides).
 *
 * Millimetres with z upwards from the base; glTF wants metres with y upwards: (x, y, z) becomes (x, z, -y) / 1000.
 */
import { stockOf } from '../dieline/part.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { cross3, minus3 } from '../geometry/vector.ts';
import type { Sweep } from '../motion/sweep.ts';
import { someShown, type Shown } from './poseShown.ts';

/**
 * A pose as STL in its binary form: each panel is a closed plate as thick as its paper.
 *
 * @param deg place of the travel, whole degrees
 * @throws RangeError when there is nothing to save
 */
export function writeStl(sweep: Sweep, deg: number): Uint8Array {
  const facets: (readonly [Vec3, Vec3, Vec3])[] = [];
  for (const { panel, flat, rings, triangles, at } of someShown(sweep, deg)) {
    const half = stockOf(panel.part).thicknessMm / 2;
    const [front, back] = [half, -half].map((ahead) => flat.map((p) => at(p, ahead)));
    for (const [a, b, c] of triangles) {
      facets.push([front[a], front[b], front[c]], [back[a], back[c], back[b]]);
    }
    rings.forEach((from, r) => {
      const to = rings[r + 1] ?? flat.length;
      // Outer rings turn left, holes right: paper is on the left of both.
      const ring = flat.slice(from, to);
      let area = 0;
      ring.forEach(([x, y], i) => {
        const [u, v] = ring[(i + 1) % ring.length];
        area += x * v - u * y;
      });
      const forwards = area > 0 === (r === 0);
      for (let i = from; i < to; i++) {
        const next = i + 1 < to ? i + 1 : from;
        const [p, q] = forwards ? [i, next] : [next, i];
        facets.push([front[p], back[p], back[q]], [front[p], back[q], front[q]]);
      }
    });
  }
  const view = new DataView(new ArrayBuffer(84 + 50 * facets.length));
  view.setUint32(80, facets.length, true);
  facets.forEach((facet, i) => {
    const n = cross3(minus3(facet[1], facet[0]), minus3(facet[2], facet[0]));
    const long = Math.hypot(...n) || 1;
    [n.map((v) => v / long), ...facet].forEach((triple, k) =>
      triple.forEach((v, j) => view.setFloat32(84 + 50 * i + 12 * k + 4 * j, v, true)),
    );
  });
  return new Uint8Array(view.buffer);
}

/** A name as OBJ takes it: one word. */
const wordOf = (name: string): string => name.trim().replace(/\s+/g, '_') || 'part';

const numberOf = (v: number): string => String(Math.round(v * 1e6) / 1e6 + 0);

/** A pose as OBJ: sheets without thickness, an object for each part, a group for each panel. Throws as `writeStl` does. */
export function writeObj(sweep: Sweep, deg: number): string {
  const out = ['# Millimetres, z upwards'];
  let [count, part] = [0, ''];
  for (const { panel, flat, triangles, at } of someShown(sweep, deg)) {
    if (panel.part.id !== part) out.push(`o ${wordOf(panel.part.name)}`);
    part = panel.part.id;
    out.push(`g ${wordOf(panel.name)}`);
    for (const p of flat) out.push(`v ${at(p, 0).map(numberOf).join(' ')}`);
    if (panel.region.holes.length === 0) out.push(`f ${flat.map((_, i) => count + i + 1).join(' ')}`);
    else for (const triangle of triangles) out.push(`f ${triangle.map((i) => count + i + 1).join(' ')}`);
    count += flat.length;
  }
  return `${out.join('\n')}\n`;
}

/** A colour as glTF has it: linear light. */
const linear = (hex: string): number[] =>
  [1, 3, 5].map((i) => {
    const v = parseInt(hex.slice(i, i + 2), 16) / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  });

const GLTF_FLOAT = 5126;
const GLTF_UINT = 5125;
/** As far as marks are part of the file's own name: `glTF`, `JSON`, `BIN`. */
const [MAGIC, JSON_CHUNK, BIN_CHUNK] = [0x46546c67, 0x4e4f534a, 0x004e4942];

/** A pose as binary glTF 2.0: a node for each part, coloured like its paper. Throws as `writeStl` does. */
export function writeGlb(sweep: Sweep, deg: number): Uint8Array {
  const byPart = new Map<string, Shown[]>();
  for (const shown of someShown(sweep, deg)) {
    const own = byPart.get(shown.panel.part.id) ?? [];
    own.push(shown);
    byPart.set(shown.panel.part.id, own);
  }
  const [places, indices]: [number[], number[]] = [[], []];
  const accessors: object[] = [];
  const meshes: object[] = [];
  const nodes: object[] = [];
  const materials = [...byPart.values()].map(([{ panel }]) => ({
    name: stockOf(panel.part).name,
    doubleSided: true,
    pbrMetallicRoughness: {
      baseColorFactor: [...linear(stockOf(panel.part).colour), 1],
      metallicFactor: 0,
      roughnessFactor: 0.9,
    },
  }));
  const indexAt: number[] = [];
  [...byPart.values()].forEach((own, material) => {
    const [first, from] = [places.length / 3, indices.length];
    for (const { flat, triangles, at } of own) {
      const base = places.length / 3 - first;
      for (const p of flat) {
        const [x, y, z] = at(p, 0);
        places.push(x / 1000, z / 1000, -y / 1000);
      }
      for (const triangle of triangles) indices.push(...triangle.map((i) => base + i));
    }
    const points = Array.from({ length: places.length / 3 - first }, (_, i) =>
      [0, 1, 2].map((k) => Math.fround(places[3 * (first + i) + k])),
    );
    const extreme = (of: (...values: number[]) => number) =>
      [0, 1, 2].map((k) => points.reduce((worst, p) => of(worst, p[k]), points[0][k]));
    accessors.push(
      {
        bufferView: 0,
        byteOffset: 12 * first,
        componentType: GLTF_FLOAT,
        count: points.length,
        type: 'VEC3',
        min: extreme(Math.min),
        max: extreme(Math.max),
      },
      {
        bufferView: 1,
        byteOffset: 4 * from,
        componentType: GLTF_UINT,
        count: indices.length - from,
        type: 'SCALAR',
      },
    );
    indexAt.push(from);
    meshes.push({
      primitives: [{ attributes: { POSITION: 2 * material }, indices: 2 * material + 1, material }],
    });
    nodes.push({ name: own[0].panel.part.name, mesh: material });
  });
  const placeBytes = 4 * places.length;
  const binBytes = placeBytes + 4 * indices.length;
  const json = JSON.stringify({
    asset: { version: '2.0', generator: 'Hollow Finch' },
    scene: 0,
    scenes: [{ nodes: nodes.map((_, i) => i) }],
    nodes,
    meshes,
    materials,
    accessors,
    bufferViews: [
      { buffer: 0, byteOffset: 0, byteLength: placeBytes, target: 34962 },
      { buffer: 0, byteOffset: placeBytes, byteLength: 4 * indices.length, target: 34963 },
    ],
    buffers: [{ byteLength: binBytes }],
  }).replace(/[\u0080-\uffff]/g, (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`);
  const jsonBytes = 4 * Math.ceil(json.length / 4);
  const view = new DataView(new ArrayBuffer(12 + 8 + jsonBytes + 8 + binBytes));
  [MAGIC, 2, view.byteLength, jsonBytes, JSON_CHUNK].forEach((v, i) => view.setUint32(4 * i, v, true));
  for (let i = 0; i < jsonBytes; i++) view.setUint8(20 + i, i < json.length ? json.charCodeAt(i) : 0x20);
  const bin = 20 + jsonBytes;
  view.setUint32(bin, binBytes, true);
  view.setUint32(bin + 4, BIN_CHUNK, true);
  places.forEach((v, i) => view.setFloat32(bin + 8 + 4 * i, v, true));
  indices.forEach((v, i) => view.setUint32(bin + 8 + placeBytes + 4 * i, v, true));
  return new Uint8Array(view.buffer);
}
