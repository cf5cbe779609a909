/** Solids, worked out by a worker of their own. */
import { proxy } from 'comlink';
import { Helper } from '../../../shared/helper.ts';
import type { SolidApi, SolidNet, SolidRead, SolidSource } from '../../../workers/solid.worker.ts';
import type { TabOptions } from '@hollow-finch/core/solids/tabs';
import type { UnfoldOptions } from '@hollow-finch/core/solids/unfold';

/** A file that takes longer than this to read is given up, ms. */
const LONGEST_READ_MS = 30_000;
/** A file larger than this is not even fetched, bytes. */
const LARGEST_BYTES = 20_000_000;

const helper = new Helper<SolidApi>(
  () => new Worker(new URL('../../../workers/solid.worker.ts', import.meta.url), { type: 'module' }),
);

/**
 * What a file holds.
 *
 * @throws Error with a sentence that says what is wrong with it
 */
export async function readSolid(file: File): Promise<SolidRead> {
  if (file.size > LARGEST_BYTES)
    throw new Error(
      `${file.name} is ${(file.size / 1e6).toFixed(0)} MB; solids up to 20 MB can be read: simplify it first.`,
    );
  const late = setTimeout(
    () => helper.end('It could not be read in time: simplify the solid first.'),
    LONGEST_READ_MS,
  );
  try {
    return await helper.api.read(new Uint8Array(await file.arrayBuffer()), file.name);
  } finally {
    clearTimeout(late);
  }
}

export const unfoldSolid = (
  source: SolidSource,
  options: UnfoldOptions,
  tabs: TabOptions,
  tell: (words: string) => void,
): Promise<SolidNet> => helper.api.unfold(source, options, tabs, proxy(tell));

/** Folds a cut edge, or cuts a fold, of the last net. */
export const moveEdge = (edge: number): Promise<SolidNet> => helper.api.move(edge);

/** Takes the last edge that was moved back. */
export const edgeBack = (): Promise<SolidNet> => helper.api.back();

export const stopSolid = (): void => helper.end('Stopped.');
