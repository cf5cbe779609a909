import type { Drawing } from '@hollow-finch/core/formats/bringIn/drawing';
import { isPdf, readDrawing } from '@hollow-finch/core/formats/bringIn/readDrawing';
import {
  groupsOf,
  likelyLayer,
  settled,
  type Settled,
  type Settling,
} from '@hollow-finch/core/formats/bringIn/settle';
import type { LineGroup } from '@hollow-finch/core/formats/bringIn/settle';
import { boxOfPaths } from '@hollow-finch/core/geometry/path';
import type { Layer } from '@hollow-finch/core/dieline/part';
import { expose } from 'comlink';
import { decode, unpack } from './fileBytes.ts';

/** What a drawing is before it is settled. */
export interface Seen {
  readonly sizes: Drawing['sizes'];
  readonly sure: boolean;
  readonly notes: readonly string[];
  readonly groups: readonly (LineGroup & { readonly likely: Layer })[];
  /** Groups of hidden lines. */
  readonly hiddenGroups: readonly (LineGroup & { readonly likely: Layer })[];
  /** What its lines take up, in its own units. */
  readonly width: number;
  readonly height: number;
}

let last: Drawing | undefined;

const withLikely = (lines: Drawing['lines']) =>
  groupsOf(lines).map((group) => ({ ...group, likely: likelyLayer(group) }));

const api = {
  /** Reads a drawing and keeps it for settling. */
  async read(bytes: Uint8Array): Promise<Seen> {
    last = isPdf(bytes)
      ? await (await import('@hollow-finch/core/formats/bringIn/readPdf')).readPdf(bytes, unpack)
      : readDrawing(bytes, unpack, decode);
    const { lines, hidden, sizes, sure, notes } = last;
    const all = lines.length > 0 ? lines : hidden;
    const box = boxOfPaths(all.map(({ path }) => path));
    const groups = withLikely(lines);
    const known = new Set(groups.map(({ key }) => key));
    return {
      sizes,
      sure,
      notes,
      groups,
      hiddenGroups: withLikely(hidden).filter(({ key }) => !known.has(key)),
      width: all.length > 0 ? box.maxX - box.minX : 0,
      height: all.length > 0 ? box.maxY - box.minY : 0,
    };
  },
  /** The die lines of the drawing that was read last. */
  settle(settling: Settling): Settled {
    if (!last) throw new Error('Choose the file again.');
    return settled(last, settling);
  },
};
export type DrawingApi = typeof api;
expose(api);
