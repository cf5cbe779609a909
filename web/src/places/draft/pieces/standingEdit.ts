/** A word that stands on a fold of a drafted part, as one edit: the fold is interrupted, the letters are cut. */
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design, DraftedPart } from '@hollow-finch/core/design/design';
import { freshId } from '@hollow-finch/core/design/ids';
import type { NotShaped } from '@hollow-finch/core/drafting/corners';
import { standingWord, type StandingWord } from '@hollow-finch/core/drafting/standing';
import { isFold, workOf, type DieLine } from '@hollow-finch/core/dieline/part';
import type { Isometry } from '@hollow-finch/core/geometry/isometry';
import { endOf, placePath, type Path } from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';

/** Ways in which letters rise from a fold, as seen on the board. */
export type Rising = 'left' | 'right';

/** The folds of a drafted part on which words can stand: single straight lines. */
export const straightFolds = (part: DraftedPart | undefined): readonly DieLine[] =>
  Object.values(part?.lines ?? {}).filter(
    (line) => isFold(line) && line.path.segments.length === 1 && line.path.segments[0].kind === 'line',
  );

/** From the plane of a word, its foot line along x, onto a fold: letters rise to the left of its way, or to the right. */
function ontoFold(path: Path, rising: Rising, alongMm: number): Isometry {
  const [a, b] = rising === 'left' ? [path.start, endOf(path)] : [endOf(path), path.start];
  const angleRad = Math.atan2(b[1] - a[1], b[0] - a[0]);
  const [ux, uy] = [Math.cos(angleRad), Math.sin(angleRad)];
  return { angleRad, flip: false, dx: a[0] + alongMm * ux, dy: a[1] + alongMm * uy };
}

export interface StandingAsked {
  readonly foldId: string;
  readonly rising: Rising;
  /** From the end of the fold where the word begins to be read to its middle, mm. */
  readonly alongMm: number;
  readonly sinkMm: number;
  readonly barMm: number;
}

/**
 * Stands a word on a fold.
 *
 * @param paths the word with its foot line at 0 and its middle at x = 0
 */
export function standingEdit(
  design: Design,
  partId: string,
  paths: readonly Path[],
  { foldId, rising, alongMm, sinkMm, barMm }: StandingAsked,
): { readonly command: Command; readonly word: StandingWord } | NotShaped {
  const part = design.parts[partId];
  const fold = straightFolds(part).find(({ id }) => id === foldId);
  if (!part || !fold) return { refused: 'Choose a straight fold of a part that you drew.' };
  const long = distance(fold.path.start, endOf(fold.path));
  const word = standingWord(paths, [-alongMm, long - alongMm], sinkMm, barMm);
  if ('refused' in word) return word;
  const map = ontoFold(fold.path, rising, alongMm);
  const taken: Record<string, unknown> = { ...part.lines };
  const commands: Command[] = [];
  const put = (line: DieLine) => {
    taken[line.id] = true;
    commands.push({ do: 'line', partId, id: line.id, value: line as never });
  };
  const { imageOf: _imageOf, ...alone } = fold;
  if (word.folds.length === 0)
    return { refused: 'Nothing would be left of the fold: make the word shorter.' };
  word.folds.forEach((path, i) =>
    put({
      ...(i === 0 ? fold : alone),
      id: i === 0 ? fold.id : freshId('l', taken),
      path: placePath(map, path),
    }),
  );
  for (const path of word.cuts)
    put({ id: freshId('l', taken), ...workOf('cut'), path: placePath(map, path) });
  return { command: { do: 'all', commands }, word };
}
