/** Solids and their nets, away from the page: with progress, and ended when it is no longer wanted. */
import { netOf, type Net, type TabOptions } from '@hollow-finch/core/solids/net';
import { sizeOf, type Mesh } from '@hollow-finch/core/solids/mesh';
import { readMesh, sized } from '@hollow-finch/core/solids/readMesh';
import { antiprism, dome, frustum, uniform, withPoints } from '@hollow-finch/core/solids/shapes';
import {
  cutAt,
  joinedAt,
  unfolding,
  type Unfolding,
  type UnfoldOptions,
} from '@hollow-finch/core/solids/unfold';
import { expose } from 'comlink';

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
  | { readonly kind: 'file'; readonly longestMm: number };

export interface SolidRead {
  readonly faces: number;
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

function meshOf(source: SolidSource): Mesh {
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
      return sized(fromFile, source.longestMm);
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
  read(bytes: Uint8Array, fileName: string): SolidRead {
    fromFile = undefined;
    const { mesh, mended, faults } = readMesh(bytes, fileName, (part) =>
      new TextDecoder('utf-8').decode(part),
    );
    if (faults.length === 0) fromFile = mesh;
    return { faces: mesh.faces.length, mended, faults: faults.map(({ sentence }) => sentence) };
  },
  /** Unfolds a solid. */
  unfold(
    source: SolidSource,
    options: UnfoldOptions,
    tabs: TabOptions,
    tell: (words: string) => void,
  ): SolidNet {
    past = [];
    const search = unfolding(meshOf(source), options);
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
