/** Changes of drafted lines that mend faults: of parts that were drawn, and of lines drawn onto generated ones. */
import type { Command } from '../design/commands.ts';
import type { DieLine } from '../dieline/part.ts';
import { inverse, IDENTITY, place, type Isometry } from '../geometry/isometry.ts';
import { endOf, reversePath, straight } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import type { CheckContext } from './finding.ts';

/** A line that a person drew, and how to change it or take it away. */
export interface DraftedLine {
  readonly line: DieLine;
  /** From the part's plane into that of the line. */
  readonly back: Isometry;
  change(line: DieLine): Command;
  remove(): Command;
}

/** The line of a part as it was drafted; undefined for lines that a mechanism makes. */
export function draftedLine(
  { design, expanded }: CheckContext,
  partId: string,
  lineId: string,
): DraftedLine | undefined {
  const line = design.parts[partId]?.lines[lineId];
  if (line)
    return {
      line,
      back: IDENTITY,
      change: (value) => ({ do: 'line', partId, id: lineId, value: value as typeof line }),
      remove: () => ({ do: 'line', partId, id: lineId, value: null }),
    };
  const addition = Object.values(design.additions).find((a) => a.partId === partId && a.line.id === lineId);
  const frame = addition && expanded.panelFrames[partId]?.[addition.panelId];
  if (!addition || !frame) return undefined;
  return {
    line: addition.line,
    back: inverse(frame),
    change: (value) => ({
      do: 'put',
      in: 'additions',
      id: addition.id,
      value: { ...addition, line: value as typeof addition.line },
    }),
    remove: () => ({ do: 'put', in: 'additions', id: addition.id, value: null }),
  };
}

/**
 * Moves the end of a drafted line that lies at `from` to `to`, both in the part's plane. Undefined when the line was not
 * drafted, or has no end there.
 */
export function moveEnd(
  context: CheckContext,
  partId: string,
  lineId: string,
  from: Point,
  to: Point,
): Command | undefined {
  const drafted = draftedLine(context, partId, lineId);
  if (!drafted) return undefined;
  const { line, back } = drafted;
  const [was, will] = [place(back, from), place(back, to)];
  const startsThere = distance(line.path.start, was) <= SNAP_MM;
  if (!startsThere && distance(endOf(line.path), was) > SNAP_MM) return undefined;
  const forward = startsThere ? reversePath(line.path) : line.path;
  const last = forward.segments[forward.segments.length - 1];
  // A line that ends beyond its last corner keeps to it; one that goes back over it loses it.
  const moved = { ...forward, segments: [...forward.segments.slice(0, -1), { ...last, to: will }] };
  return drafted.change({ ...line, path: startsThere ? reversePath(moved) : moved });
}

/** What is left of a straight line when a stretch of it is taken out: none, one or two pieces, the first under its own id. */
export function withoutStretch(
  context: CheckContext,
  partId: string,
  lineId: string,
  [from, to]: readonly [Point, Point],
): Command | undefined {
  const drafted = draftedLine(context, partId, lineId);
  if (!drafted || drafted.line.path.segments.length !== 1 || drafted.line.path.segments[0].kind !== 'line')
    return undefined;
  const { line, back } = drafted;
  const [a, b] = [line.path.start, endOf(line.path)];
  const ends = [place(back, from), place(back, to)].sort((p, q) => distance(p, a) - distance(q, a));
  const pieces = (
    [
      [a, ends[0]],
      [ends[1], b],
    ] as const
  ).filter(([p, q]) => distance(p, q) > SNAP_MM);
  if (pieces.length === 0) return drafted.remove();
  const first = drafted.change({ ...line, path: straight(...pieces[0]) });
  if (pieces.length === 1) return first;
  // The second piece is a line of its own: only parts that were drawn have a list to put it in.
  const part = context.design.parts[partId];
  if (!part) return undefined;
  let id = `${lineId}-2`;
  for (let n = 3; part.lines[id]; n++) id = `${lineId}-${n}`;
  return {
    do: 'all',
    commands: [first, { do: 'line', partId, id, value: { ...line, id, path: straight(...pieces[1]) } }],
  };
}
