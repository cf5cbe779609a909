/** A word that stands on a fold of a part, as one edit: the fold is interrupted, the letters are cut. */
import { applyCommand, type Command } from '@hollow-finch/core/design/commands';
import type { Design } from '@hollow-finch/core/design/design';
import { freshId } from '@hollow-finch/core/design/ids';
import type { NotShaped } from '@hollow-finch/core/drafting/corners';
import { standingWord, type StandingWord } from '@hollow-finch/core/drafting/standing';
import { isFold, workOf, type DieLine, type Part } from '@hollow-finch/core/dieline/part';
import { place, type Isometry } from '@hollow-finch/core/geometry/isometry';
import { endOf, placePath, type Path } from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { drawOn } from '../draftEdits.ts';

/** Ways in which letters rise from a fold, as seen on the board. */
export type Rising = 'left' | 'right';

/** The folds of a part on which words can stand: single straight lines. */
export const straightFolds = (part: Part | undefined): readonly DieLine[] =>
  (part?.lines ?? []).filter(
    (line) =>
      isFold(line) &&
      line.process !== 'mark' &&
      line.path.segments.length === 1 &&
      line.path.segments[0].kind === 'line',
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
  const plain = expand(design).parts.find(({ id }) => id === partId);
  const part = design.parts[partId];
  const fold = straightFolds(plain).find(({ id }) => id === foldId);
  if (!plain || !fold) return { refused: 'Choose a straight fold.' };
  const long = distance(fold.path.start, endOf(fold.path));
  const word = standingWord(paths, [-alongMm, long - alongMm], sinkMm, barMm);
  if ('refused' in word) return word;
  const map = ontoFold(fold.path, rising, alongMm);
  if (!part) return onMechanism(design, plain, word, map);
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

/**
 * A word on a fold of a mechanism: its cuts are drawn on the panel to which the letters belong, and those that begin and end on
 * the fold open it.
 */
function onMechanism(
  design: Design,
  part: Part,
  word: StandingWord,
  map: Isometry,
): { readonly command: Command; readonly word: StandingWord } | NotShaped {
  let now = design;
  const commands: Command[] = [];
  for (const path of word.cuts) {
    // Just under the fold is the letters' own panel.
    const drawn = drawOn(now, part.id, 'cut', placePath(map, path), place(map, [path.start[0], -0.2]));
    if ('refused' in drawn) return drawn;
    const { command } = drawn;
    const level = path.start[1] === 0 && endOf(path)[1] === 0;
    const opens =
      command.do === 'put' && command.in === 'additions' && command.value && level
        ? {
            ...command,
            value: { ...command.value, line: { ...command.value.line, opensFold: true as const } },
          }
        : command;
    now = applyCommand(now, opens).design;
    commands.push(opens);
  }
  return { command: { do: 'all', commands }, word };
}
