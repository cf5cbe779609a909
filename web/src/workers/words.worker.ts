import type { Path } from '@hollow-finch/core/geometry/path';
import { readFont, wordOutline, type Font } from '@hollow-finch/core/words/outline';
import { wordPiece, type Joined } from '@hollow-finch/core/words/piece';
import { expose } from 'comlink';

/** Letters are set this high; pieces are made as large as they may be when they are laid. */
const SIZE_MM = 20;

/** A word as one piece: closed paths about the origin, the outline first; and the characters that the face lacks. */
export interface WordPiece {
  readonly paths: readonly Path[];
  readonly missing: readonly string[];
}

const fonts = new Map<string, Promise<Font>>();

/** A face's file, read once. */
function fontAt(url: string): Promise<Font> {
  let font = fonts.get(url);
  if (!font) {
    font = fetch(url).then(async (answer) => {
      if (!answer.ok) throw new Error('The face could not be fetched. Try again.');
      return readFont(await answer.arrayBuffer());
    });
    // What could not be fetched is asked for again the next time.
    font.catch(() => fonts.delete(url));
    fonts.set(url, font);
  }
  return font;
}

const api = {
  /**
   * A word as one piece of paper.
   *
   * @param face the addresses of a face's files, or the bytes of a person's own file
   * @param widthMm of the bar or of the plate's border, for letters 20 mm high
   */
  async piece(
    face: readonly string[] | ArrayBuffer,
    text: string,
    joined: Joined,
    widthMm: number,
  ): Promise<WordPiece> {
    const asked =
      face instanceof ArrayBuffer
        ? [readFont(face)]
        : await Promise.all((face as readonly string[]).map(fontAt));
    const { regions, missing } = wordOutline(asked, text, { sizeMm: SIZE_MM });
    if (regions.length === 0 && missing.length > 0)
      throw new Error(`This face has none of these characters: ${missing.join(' ')}. Choose another one.`);
    return { paths: wordPiece(regions, joined, widthMm), missing };
  },
};
export type WordsApi = typeof api;
expose(api);
