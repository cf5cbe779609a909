import { withBridges } from '@hollow-finch/core/drafting/bridgedCuts';
import { autoBridges } from '@hollow-finch/core/drafting/bridges';
import { roundedRectangle } from '@hollow-finch/core/drafting/shapes';
import { mapPath } from '@hollow-finch/core/geometry/affine';
import { boxCentre, boxOfPaths, type Path } from '@hollow-finch/core/geometry/path';
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

/** A word to be cut out: closed cuts about the origin, its counters held by bridges. */
export interface WordCut {
  readonly paths: readonly Path[];
  readonly missing: readonly string[];
  readonly bridges: number;
  /** Counters that no bridge of that width reaches. */
  readonly unreached: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/** How a word is cut out. */
export interface CutSetting {
  readonly heightMm: number;
  /** The width that all of it is made to fit; null leaves it as high as it is. */
  readonly fitMm: number | null;
  readonly arcMm: number | null;
  readonly spacingMm: number;
  /** Width of the bridges; null leaves counters to fall out. */
  readonly bridgeMm: number | null;
  /** Placed with the foot of its letters at 0, not with its middle. */
  readonly footed?: boolean;
}

const facesOf = (face: readonly string[] | ArrayBuffer): Promise<Font[]> =>
  face instanceof ArrayBuffer ? Promise.resolve([readFont(face)]) : Promise.all(face.map(fontAt));

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
    const asked = await facesOf(face);
    const { regions, missing } = wordOutline(asked, text, { sizeMm: SIZE_MM });
    if (regions.length === 0 && missing.length > 0)
      throw new Error(`This face has none of these characters: ${missing.join(' ')}. Choose another one.`);
    return { paths: wordPiece(regions, joined, widthMm), missing };
  },
  /** A word as cuts, its counters bridged. */
  async cutOut(face: readonly string[] | ArrayBuffer, text: string, setting: CutSetting): Promise<WordCut> {
    const { heightMm, fitMm, arcMm, spacingMm, bridgeMm, footed } = setting;
    const outline = wordOutline(await facesOf(face), text, {
      sizeMm: heightMm,
      spacingMm,
      ...(arcMm === null ? {} : { arcMm }),
    });
    const { missing } = outline;
    if (outline.paths.length === 0)
      throw new Error(
        missing.length > 0
          ? `This face has none of these characters: ${missing.join(' ')}. Choose another one.`
          : 'Write a word first.',
      );
    const [cx, cy] = boxCentre(outline.box);
    const factor = fitMm === null ? 1 : fitMm / (outline.box.maxX - outline.box.minX);
    const middle = { a: factor, b: 0, c: 0, d: factor, e: -cx * factor, f: footed ? 0 : -cy * factor };
    const paths = outline.paths.map((path) => mapPath(middle, path));
    const box = boxOfPaths(paths);
    const size = { widthMm: box.maxX - box.minX, heightMm: box.maxY - box.minY };
    if (bridgeMm === null) return { paths, missing, bridges: 0, unreached: 0, ...size };
    // Round the word there is paper: a frame stands for it.
    const room = 10 * bridgeMm;
    const frame = roundedRectangle(
      [box.minX - room, box.minY - room],
      size.widthMm + 2 * room,
      size.heightMm + 2 * room,
    );
    const { bridges, unreached } = autoBridges([frame, ...paths], bridgeMm);
    const made = withBridges([frame, ...paths], bridges);
    if ('refused' in made) throw new Error(made.refused);
    return {
      paths: made.filter((path) => path !== frame),
      missing,
      bridges: bridges.length,
      unreached: unreached.length,
      ...size,
    };
  },
};
export type WordsApi = typeof api;
expose(api);
