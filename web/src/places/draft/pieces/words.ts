/** Words, set by a worker of their own: a face that cannot be read must not hold up anything else. */
import type { Joined } from '@hollow-finch/core/words/piece';
import { FACES } from '../../../shared/faces.ts';
import { Helper } from '../../../shared/helper.ts';
import type { WordPiece, WordsApi } from '../../../workers/words.worker.ts';

/** A face that takes longer than this is given up, ms. */
const LONGEST_MS = 20_000;

const helper = new Helper<WordsApi>(
  () => new Worker(new URL('../../../workers/words.worker.ts', import.meta.url), { type: 'module' }),
);

/** A word as one piece, in a face that ships or in a person's own file. */
export async function wordShape(face: string | File, text: string, joined: Joined): Promise<WordPiece> {
  const asked =
    typeof face === 'string'
      ? (FACES.find(({ id }) => id === face) ?? FACES[0]).files
      : await face.arrayBuffer();
  const late = setTimeout(
    () => helper.end('This face could not be read in time: choose another one.'),
    LONGEST_MS,
  );
  try {
    return await helper.api.piece(asked, text, joined, joined === 'bar' ? 3 : 2);
  } finally {
    clearTimeout(late);
  }
}
