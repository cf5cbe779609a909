/** Words, set by a worker of their own: a face that cannot be read must not hold up anything else. */
import type { Joined } from '@hollow-finch/core/words/piece';
import { FACES } from '../../../shared/faces.ts';
import { Helper } from '../../../shared/helper.ts';
import type { CutSetting, WordCut, WordPiece, WordsApi } from '../../../workers/words.worker.ts';

/** A face that takes longer than this is given up, ms. */
const LONGEST_MS = 20_000;

const helper = new Helper<WordsApi>(
  () => new Worker(new URL('../../../workers/words.worker.ts', import.meta.url), { type: 'module' }),
);

/** What is asked of the worker, within its time. */
async function inTime<T>(
  face: string | File,
  ask: (asked: readonly string[] | ArrayBuffer) => Promise<T>,
): Promise<T> {
  const asked =
    typeof face === 'string'
      ? (FACES.find(({ id }) => id === face) ?? FACES[0]).files
      : await face.arrayBuffer();
  const late = setTimeout(
    () => helper.end('This face could not be read in time: choose another one.'),
    LONGEST_MS,
  );
  try {
    return await ask(asked);
  } finally {
    clearTimeout(late);
  }
}

/** A word as cuts, its counters held by bridges. */
export const wordCuts = (face: string | File, text: string, setting: CutSetting): Promise<WordCut> =>
  inTime(face, (asked) => helper.api.cutOut(asked, text, setting));

/** A word as one piece, in a face that ships or in a person's own file. */
export const wordShape = (face: string | File, text: string, joined: Joined): Promise<WordPiece> =>
  inTime(face, (asked) => helper.api.piece(asked, text, joined, joined === 'bar' ? 3 : 2));
