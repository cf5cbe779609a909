/** What mechanisms do to what they stand on: lines and marks that they add, and stretches of the fold that they take out. */
import { takeOut, type Stretch } from '../dieline/takeOut.ts';
import type { DieLine, PanelMark, Part } from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import type { Instance } from '../design/design.ts';
import { place } from '../geometry/isometry.ts';
import { placePath } from '../geometry/path.ts';
import type { Contribution } from './family.ts';

/** An instance with the fold or panel that it stands on. */
export interface Built {
  readonly instance: Instance;
  readonly gutter: Gutter;
  readonly contribution: Contribution;
}

/** What is added to a part and taken out of it, in its plane. */
export interface HostWork {
  readonly lines: readonly DieLine[];
  readonly marks: readonly PanelMark[];
  readonly gaps: readonly (Stretch & {
    /** Ids of the mechanism's own lines, which stay. */
    readonly own: ReadonlySet<string>;
  })[];
}

const OTHER_WAY = { valley: 'mountain', mountain: 'valley' } as const;

/** The line as it is drawn on the front of what a mechanism stands on: seen from behind, valleys are mountains. */
const drawnOnFront = (line: DieLine, behind: boolean): DieLine =>
  behind && line.fold ? { ...line, fold: { ...line.fold, sense: OTHER_WAY[line.fold.sense] } } : line;

/** What the mechanisms do to the parts that they stand on, by part. */
export function hostWorkOf(built: readonly Built[]): ReadonlyMap<string, HostWork> {
  const work = new Map<string, { lines: DieLine[]; marks: PanelMark[]; gaps: HostWork['gaps'][number][] }>();
  const on = (partId: string) => {
    let known = work.get(partId);
    if (!known) work.set(partId, (known = { lines: [], marks: [], gaps: [] }));
    return known;
  };
  for (const { gutter, contribution } of built) {
    const own = new Set(contribution.hostLines.map(({ line }) => line.id));
    for (const { side, line } of contribution.hostLines) {
      const host = gutter[side];
      if (!host) continue;
      const front = drawnOnFront(line, side !== 'facing' && host.frame.flip);
      on(host.partId).lines.push({ ...front, path: placePath(host.frame, line.path) });
    }
    for (const { side, mark } of contribution.hostMarks)
      on(gutter[side].partId).marks.push({ ...mark, at: place(gutter[side].frame, mark.at) });
    const { partId, frame } = gutter.left;
    for (const { fromMm, toMm } of contribution.gutterGaps)
      on(partId).gaps.push({
        from: place(frame, [0, fromMm]),
        to: place(frame, [0, toMm]),
        own,
      });
  }
  return work;
}

/** The part with what mechanisms do to it. */
export function worked(part: Part, { lines, marks, gaps }: HostWork): Part {
  const all = [...part.lines, ...lines];
  return {
    ...part,
    lines: gaps.reduce<readonly DieLine[]>(
      (left, gap) => left.flatMap((line) => (gap.own.has(line.id) ? [line] : takeOut(line, gap))),
      all,
    ),
    marks: [...part.marks, ...marks],
  };
}
