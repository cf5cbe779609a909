/** Drawings by others, read by a worker of their own: a hostile file must not hold up anything else. */
import type { Layer } from '@hollow-finch/core/dieline/part';
import type { Settled, Settling } from '@hollow-finch/core/formats/bringIn/settle';
import { Helper } from '../../../shared/helper.ts';
import type { DrawingApi, Seen } from '../../../workers/drawing.worker.ts';

/** A drawing that takes longer than this is given up, ms. */
const LONGEST_MS = 30_000;

const helper = new Helper<DrawingApi>(
  () => new Worker(new URL('../../../workers/drawing.worker.ts', import.meta.url), { type: 'module' }),
);

async function inTime<T>(asked: Promise<T>): Promise<T> {
  const late = setTimeout(
    () => helper.end('It could not be read in time: bring in a part of it, or simplify it first.'),
    LONGEST_MS,
  );
  try {
    return await asked;
  } finally {
    clearTimeout(late);
  }
}

/** What a file holds. */
export const readFile = async (file: File): Promise<Seen> =>
  inTime(helper.api.read(new Uint8Array(await file.arrayBuffer())));

/** The die lines of the file that was read last. */
export const settleFile = (settling: Settling): Promise<Settled> => inTime(helper.api.settle(settling));

/** Ends the worker that is reading. */
export const stopReading = (): void => helper.end('Stopped.');

const KEY = 'hollow-finch-drawing-layers';
/** So many mappings are remembered. */
const MOST_KEPT = 500;

/** What groups of lines were made of before, by their keys. */
function rememberedLayers(): Readonly<Record<string, Layer | null>> {
  try {
    const read = JSON.parse(localStorage.getItem(KEY) ?? '{}') as unknown;
    return typeof read === 'object' && read !== null ? (read as Record<string, Layer | null>) : {};
  } catch {
    return {};
  }
}

/** What each group becomes: as it did before, else what it most likely means. */
export function layersFor(groups: Seen['groups']): Readonly<Record<string, Layer | null>> {
  const before = rememberedLayers();
  return Object.fromEntries(
    groups.map(({ key, likely }) => [key, Object.hasOwn(before, key) ? before[key] : likely]),
  );
}

/** Keeps what groups were made of, for the next file that has such groups. */
export function rememberLayers(layers: Readonly<Record<string, Layer | null>>): void {
  const all = Object.entries({ ...rememberedLayers(), ...layers }).slice(-MOST_KEPT);
  try {
    localStorage.setItem(KEY, JSON.stringify(Object.fromEntries(all)));
  } catch {
    // A browser that keeps nothing asks again the next time.
  }
}
