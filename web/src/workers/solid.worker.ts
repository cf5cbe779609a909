/** Solids and their nets, away from the page: with progress, and ended when it is no longer wanted. */
import { netOf, type Net } from '@hollow-finch/core/solids/net';
import { sizeOf, type Mesh } from '@hollow-finch/core/solids/mesh';
import { MOST_FOLDED, readMesh, settled, sized } from '@hollow-finch/core/solids/readMesh';
import { antiprism, dome, extruded, frustum, uniform, withPoints } from '@hollow-finch/core/solids/shapes';
import type { TabOptions } from '@hollow-finch/core/solids/tabs';
import {
  cutAt,
  joinedAt,
  unfolding,
  type Unfolding,
  type UnfoldOptions,
} from '@hollow-finch/core/solids/unfold';
import type { Point } from '@hollow-finch/core/geometry/point';
import { expose } from 'comlink';
import { simplified } from './simplified.ts';

/** A solid by its measures, or from a file that was read before. */
export type SolidSource =
  | {
      readonly kind: 'frustum';
      readonly sides: number;
      readonly sideMm: number;
      readonly topMm: number;
      readonly heightMm: number;
    }
  | { readonly kind: 'antiprism'; readonly sides: number; readonly sideMm: number; readonly heightMm: number }
  | { readonly kind: 'dome'; readonly sides: number; readonly courses: number; readonly radiusMm: number }
  | { readonly kind: 'uniform'; readonly name: string; readonly edgeMm: number; readonly pointMm: number }
  /** A flat outline, corners turning left, given depth. */
  | { readonly kind: 'outline'; readonly outline: readonly Point[]; readonly depthMm: number }
  /** Of at most so many triangles, if it has more. */
  | { readonly kind: 'file'; readonly longestMm: number; readonly mostFaces: number };

export interface SolidRead {
  readonly faces: number;
  /** More than can be folded: it must be made simpler. */
  readonly tooMany: boolean;
  readonly mended: readonly string[];
  readonly faults: readonly string[];
}

export interface SolidNet {
  readonly net: Net;
  readonly faces: number;
  readonly sizeMm: number;
  /** Pairs of faces that lie on each other: only after an edge was moved by hand. */
  readonly overlaps: number;
}

/** Says how far it is this often at most, ms. */
const TELL_MS = 80;

let fromFile: Mesh | undefined;
let last: { net: Unfolding; tabs: TabOptions; overlaps: number } | undefined;
/** The nets before edges were moved by hand, the newest last. */
let past: NonNullable<typeof last>[] = [];
/** So many moves by hand can be taken back. */
const MOST_PAST = 100;

async function meshOf(source: SolidSource): Promise<Mesh> {
  switch (source.kind) {
    case 'frustum':
      return frustum(source.sides, source.sideMm, source.topMm, source.heightMm);
    case 'antiprism':
      return antiprism(source.sides, source.sideMm, source.heightMm);
    case 'dome':
      return dome(source.sides, source.courses, source.radiusMm);
    case 'uniform': {
      const mesh = uniform(source.name, source.edgeMm);
      return source.pointMm > 0 ? withPoints(mesh, source.pointMm) : mesh;
    }
    case 'file':
      if (!fromFile) throw new Error('Choose a file first.');
      return sized(await simplified(fromFile, source.mostFaces), source.longestMm);
    case 'outline':
      return extruded(source.outline, source.depthMm);
  }
}

function answer(net: Unfolding, tabs: TabOptions, overlaps: number): SolidNet {
  last = { net, tabs, overlaps };
  const { mesh } = net.flat;
  return {
    net: netOf(net, tabs),
    faces: mesh.faces.length,
    sizeMm: sizeOf(mesh),
    overlaps,
  };
}

const api = {
  /** Reads a file; what it holds can be unfolded afterwards, when there is no fault. */
  async read(bytes: Uint8Array, fileName: string): Promise<SolidRead> {
    fromFile = undefined;
    const decode = (part: Uint8Array) => new TextDecoder('utf-8').decode(part);
    const isGltf = /\.(glb|gltf)$/i.test(fileName);
    const { mesh, mended, faults } = isGltf
      ? settled(
          await (
            await import('@hollow-finch/core/solids/readGltf')
          ).readGltf(bytes, /\.gltf$/i.test(fileName), decode),
          Infinity,
        )
      : readMesh(bytes, fileName, decode, Infinity);
    if (faults.length === 0) fromFile = mesh;
    return {
      faces: mesh.faces.length,
      tooMany: mesh.faces.length > MOST_FOLDED,
      mended,
      faults: faults.map(({ sentence }) => sentence),
    };
  },
  /** Unfolds a solid. */
  async unfold(
    source: SolidSource,
    options: UnfoldOptions,
    tabs: TabOptions,
    tell: (words: string) => void,
  ): Promise<SolidNet> {
    past = [];
    const search = unfolding(await meshOf(source), options);
    let told = 0;
    for (;;) {
      const step = search.next();
      if (step.done) {
        tell('Looking for places for tabs');
        return answer(step.value, tabs, 0);
      }
      const now = performance.now();
      if (now - told < TELL_MS) continue;
      told = now;
      const { overlaps, moves } = step.value;
      tell(
        overlaps > 0
          ? `${overlaps} pairs of faces still lie on each other, ${moves} exchanges tried`
          : 'Making room for tabs',
      );
    }
  },
  /** Folds a cut edge, or cuts a fold, of the net that was made last; the net follows. */
  move(edge: number): SolidNet {
    if (!last) throw new Error('Unfold a solid first.');
    const { net, tabs } = last;
    const next = net.folds[edge] ? cutAt(net, edge) : joinedAt(net, edge);
    if (!next) throw new Error('There is no other edge on which these faces could hang.');
    past = [...past, last].slice(-MOST_PAST);
    return answer(next, tabs, next.overlaps);
  },
  /** The net before the last edge was moved. */
  back(): SolidNet {
    const before = past.pop();
    if (!before) throw new Error('No edge was moved by hand.');
    return answer(before.net, before.tabs, before.overlaps);
  },
};
export type SolidApi = typeof api;
expose(api);
