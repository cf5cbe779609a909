/** Cut files, played by a worker of their own. */
import type { CutterSettings } from '@hollow-finch/core/cutting/cutter';
import { Helper } from '../../shared/helper.ts';
import type { CutterApi, PlayedFile } from '../../workers/cutter.worker.ts';

/** A file that takes longer than this to read and play is given up, ms. */
const LONGEST_MS = 60_000;

const helper = new Helper<CutterApi>(
  () => new Worker(new URL('../../workers/cutter.worker.ts', import.meta.url), { type: 'module' }),
);

/**
 * Reads a cut file and plays it.
 *
 * @throws Error with a sentence that says what is wrong with it
 */
export async function playFile(bytes: Uint8Array, settings: CutterSettings): Promise<PlayedFile> {
  const late = setTimeout(
    () => helper.end('It could not be played in time: cut it in several files.'),
    LONGEST_MS,
  );
  try {
    return await helper.api.play(bytes, settings);
  } finally {
    clearTimeout(late);
  }
}

export const stopPlaying = (): void => helper.end('Stopped.');
