/** What is done to chosen lines of one part: their paths are changed by the drafting core, and put back as one edit. */
import { after, mapPath, mirroredAbout, turnedAbout, type Affine } from '@hollow-finch/core/geometry/affine';
import { isClosedPath, nearestOn } from '@hollow-finch/core/geometry/curve';
import { boxCentre, boxOfPaths, type Path } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { pointAlong } from '@hollow-finch/core/geometry/stretch';
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design } from '@hollow-finch/core/design/design';
import { freshId } from '@hollow-finch/core/design/ids';
import type { DieLine } from '@hollow-finch/core/dieline/part';
import { chamfer, everyCorner, fillet, type NotShaped } from '@hollow-finch/core/drafting/corners';
import { extended, joined, simplified, splitNear, trimmed } from '@hollow-finch/core/drafting/lines';
import { combined, offsetOutline, type Boolean } from '@hollow-finch/core/drafting/outlines';
import { movedAlong } from '@hollow-finch/core/drafting/together';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { chosenOf, type Selection } from '../../shared/store/selection.ts';
import { editableLine, linesDrawnOn } from './draftEdits.ts';

export type Operation =
  | { readonly kind: 'fillet' | 'chamfer'; readonly mm: number; readonly corner: number | 'all' }
  | { readonly kind: 'offset'; readonly mm: number; readonly keep: boolean }
  | {
      readonly kind: 'mirror';
      readonly axis: 'upright' | 'level';
      readonly atMm: number;
      readonly keep: boolean;
    }
  | { readonly kind: 'turn'; readonly deg: number; readonly about: Point }
  | { readonly kind: 'scale'; readonly across: number; readonly up: number; readonly about: Point }
  | { readonly kind: 'row'; readonly count: number; readonly step: Point }
  | { readonly kind: 'round'; readonly count: number; readonly about: Point; readonly turned: boolean }
  | { readonly kind: 'simplify'; readonly mm: number; readonly arcs: boolean }
  | { readonly kind: 'split'; readonly alongMm: number }
  | { readonly kind: 'splitAt' | 'trim'; readonly at: Point }
  | { readonly kind: 'extend'; readonly end: 'start' | 'end' }
  | { readonly kind: 'join'; readonly mm: number }
  | { readonly kind: Boolean };

export const OPERATION_NAMES: Readonly<Record<Operation['kind'], string>> = {
  fillet: 'Round corners',
  chamfer: 'Cut corners off',
  offset: 'Offset',
  mirror: 'Mirror',
  turn: 'Turn',
  scale: 'Scale',
  row: 'Repeat in a row',
  round: 'Repeat round a point',
  simplify: 'Simplify',
  split: 'Split',
  splitAt: 'Split',
  trim: 'Trim',
  extend: 'Make longer until it meets a line',
  join: 'Join ends',
  unite: 'Unite',
  subtract: 'Subtract the second from the first',
  intersect: 'Keep what they have in common',
};

export interface Shaped {
  readonly command: Command;
  readonly label: string;
  readonly selection: Selection;
  /** What was not done to all of it, in a sentence. */
  readonly note?: string;
}

/** So many copies at most. */
export const MOST_COPIES = 200;

const isRefused = (made: unknown): made is NotShaped =>
  typeof made === 'object' && made !== null && 'refused' in made;

/** Each of the chosen lines with the paths that take its place: the first that of the line itself, the others new. */
type Replaced = ReadonlyMap<string, readonly Path[]>;

/** The commands that put paths in place of lines; new ones are made as the line that they come from. */
function replacing(design: Design, partId: string, replaced: Replaced): Shaped['command'] & { do: 'all' } {
  const commands: Command[] = [];
  const part = design.parts[partId];
  const taken: Record<string, unknown> = part ? { ...part.lines } : { ...design.additions };
  for (const [lineId, paths] of replaced) {
    const found = editableLine(design, partId, lineId)!;
    commands.push(found.change(paths.length > 0 ? { ...found.line, path: paths[0] } : null));
    for (const path of paths.slice(1)) {
      const id = freshId(part ? 'l' : 'a', taken);
      taken[id] = true;
      commands.push(found.another(id, { ...found.line, path }));
    }
  }
  return { do: 'all', commands };
}

/** The lines that a hand may change on a part: all of a drafted one, what was drawn on a generated one. */
export function changeableLines(design: Design, partId: string): readonly DieLine[] {
  const part = expand(design).parts.find(({ id }) => id === partId);
  if (!part) return [];
  const own = design.parts[partId]?.lines;
  const drawn = linesDrawnOn(design.additions, partId);
  return part.lines.filter(({ id }) => (own ? own[id] !== undefined : drawn.has(id)));
}

/**
 * What an operation makes of lines of one part.
 *
 * @param lineIds the chosen lines, in the order in which they were chosen
 */
export function shaped(
  design: Design,
  partId: string,
  lineIds: readonly string[],
  operation: Operation,
): Shaped | NotShaped {
  const lines = lineIds.map((id) => editableLine(design, partId, id)?.line);
  if (lines.some((line) => !line))
    return { refused: 'That line belongs to a mechanism and follows its measures.' };
  const paths = lines.map((line) => line!.path);
  const made = replacedBy(design, partId, lineIds, paths, operation);
  if (isRefused(made)) return made;
  const { replaced, note } = made;
  const command = replacing(design, partId, replaced);
  const gone = new Set([...replaced].filter(([, left]) => left.length === 0).map(([id]) => id));
  return {
    command,
    label: OPERATION_NAMES[operation.kind],
    selection: chosenOf(lineIds.filter((id) => !gone.has(id)).map((id) => ({ kind: 'line', partId, id }))),
    ...(note ? { note } : {}),
  };
}

function replacedBy(
  design: Design,
  partId: string,
  ids: readonly string[],
  paths: readonly Path[],
  operation: Operation,
): { replaced: Replaced; note?: string } | NotShaped {
  const part = expand(design).parts.find(({ id }) => id === partId);
  const others = (part?.lines ?? []).filter(({ id }) => !ids.includes(id)).map(({ path }) => path);
  const all = (change: (path: Path) => readonly Path[] | NotShaped): { replaced: Replaced } | NotShaped => {
    const replaced = new Map<string, readonly Path[]>();
    for (const [i, path] of paths.entries()) {
      const made = change(path);
      if (isRefused(made)) return made;
      replaced.set(ids[i], made);
    }
    return { replaced };
  };
  /** Copies by so many maps, the original kept. */
  const copies = (maps: readonly Affine[]) => all((path) => [path, ...maps.map((map) => mapPath(map, path))]);
  switch (operation.kind) {
    case 'fillet':
    case 'chamfer': {
      const { mm, corner } = operation;
      const change = operation.kind === 'fillet' ? fillet : chamfer;
      let left = 0;
      const made = all((path) => {
        if (corner !== 'all') {
          const one = change(path, corner, mm);
          return isRefused(one) ? one : [one];
        }
        const every = everyCorner(path, (now, after) => change(now, after, mm));
        if (every.done === 0) {
          const why = change(path, 0, mm);
          return isRefused(why) ? why : { refused: 'It has no corners.' };
        }
        left += every.left;
        return [every.path];
      });
      return isRefused(made) || left === 0
        ? made
        : { ...made, note: `${left} ${left === 1 ? 'corner has' : 'corners have'} no room for it.` };
    }
    case 'offset':
      return all((path) => {
        const made = offsetOutline(path, operation.mm);
        return isRefused(made) ? made : operation.keep ? [path, ...made] : made;
      });
    case 'mirror': {
      const { axis, atMm, keep } = operation;
      const map = axis === 'upright' ? mirroredAbout([atMm, 0], Math.PI / 2) : mirroredAbout([0, atMm], 0);
      return all((path) => (keep ? [path, mapPath(map, path)] : [mapPath(map, path)]));
    }
    case 'turn':
      return all((path) => [mapPath(turnedAbout(operation.about, (operation.deg * Math.PI) / 180), path)]);
    case 'scale':
      return all((path) => [mapPath(turnedAbout(operation.about, 0, operation.across, operation.up), path)]);
    case 'row': {
      const [dx, dy] = operation.step;
      return copies(
        Array.from({ length: operation.count - 1 }, (_, i) => ({
          ...turnedAbout([0, 0], 0),
          e: dx * (i + 1),
          f: dy * (i + 1),
        })),
      );
    }
    case 'round': {
      const { count, about, turned } = operation;
      const middle = boxCentre(boxOfPaths(paths));
      return copies(
        Array.from({ length: count - 1 }, (_, i) => {
          const angle = (2 * Math.PI * (i + 1)) / count;
          const map = turnedAbout(about, angle);
          // Not turned, it is turned back about its own middle first.
          return turned ? map : after(map, turnedAbout(middle, -angle));
        }),
      );
    }
    case 'simplify':
      return all((path) => [
        simplified(
          path,
          operation.mm,
          operation.arcs ? { toleranceMm: Math.max(0.002, operation.mm) } : undefined,
        ),
      ]);
    case 'split':
      return all((path) => splitNear(path, pointAlong(path, operation.alongMm)));
    case 'splitAt':
      return all((path) => splitNear(path, operation.at));
    case 'trim':
      return all((path) => trimmed(path, others, operation.at));
    case 'extend':
      return all((path) => {
        const made = extended(path, operation.end, others);
        return isRefused(made) ? made : [made];
      });
    case 'join': {
      const made = joined(paths, operation.mm);
      if (made.paths.length === paths.length)
        return {
          refused: `No two of their ends lie within ${operation.mm.toFixed(2)} mm of each other by themselves.`,
        };
      const replaced = new Map<string, readonly Path[]>(ids.map((id) => [id, []]));
      made.paths.forEach((path, i) => replaced.set(ids[Math.min(...made.from[i])], [path]));
      const moved =
        made.moved > 0
          ? `${made.moved} ${made.moved === 1 ? 'gap was' : 'gaps were'} closed, ${made.mostMm.toFixed(2)} mm at most.`
          : undefined;
      return { replaced, ...(moved ? { note: moved } : {}) };
    }
    case 'unite':
    case 'subtract':
    case 'intersect': {
      let result: readonly Path[] = [paths[0]];
      for (const other of paths.slice(1)) {
        if (result.length !== 1 && operation.kind !== 'subtract')
          return { refused: 'What the first two make is in several pieces: put those together one by one.' };
        const next: Path[] = [];
        for (const path of result) {
          const made = combined(path, other, operation.kind);
          if (isRefused(made)) return made;
          next.push(...made);
        }
        result = next;
      }
      return {
        replaced: new Map(ids.map((id, i): [string, readonly Path[]] => [id, i === 0 ? result : []])),
      };
    }
  }
}

/** The line of a part that a press means: the nearest that may be changed, within reach. */
export function lineAt(design: Design, partId: string, at: Point, reachMm: number): DieLine | undefined {
  return changeableLines(design, partId)
    .map((line) => ({ line, mm: nearestOn(line.path, at).mm }))
    .filter(({ mm }) => mm <= reachMm)
    .sort((a, b) => a.mm - b.mm)[0]?.line;
}

/**
 * Trims, splits or makes a line longer where it is pressed.
 *
 * @returns undefined where no line is within reach
 */
export function shapedAt(
  design: Design,
  partId: string,
  at: Point,
  reachMm: number,
  tool: 'trim' | 'splitAt' | 'extend',
): Shaped | NotShaped | undefined {
  const line = lineAt(design, partId, at, reachMm);
  if (!line) return undefined;
  if (tool !== 'extend') return shaped(design, partId, [line.id], { kind: tool, at });
  const place = nearestOn(line.path, at);
  const early = place.segment + place.share < line.path.segments.length / 2;
  return shaped(design, partId, [line.id], { kind: 'extend', end: early ? 'start' : 'end' });
}

/** Puts a changed path in a line's place; the ends of other lines that met its ends move along. */
export function withPath(design: Design, partId: string, lineId: string, path: Path): Command | undefined {
  const found = editableLine(design, partId, lineId);
  if (!found) return undefined;
  const own = found.change({ ...found.line, path });
  if (isClosedPath(found.line.path)) return own;
  const along = movedAlong(changeableLines(design, partId), lineId, found.line.path, path);
  if (along.size === 0) return own;
  return {
    do: 'all',
    commands: [
      own,
      ...[...along].flatMap(([id, moved]) => {
        const other = editableLine(design, partId, id);
        return other ? [other.change({ ...other.line, path: moved })] : [];
      }),
    ],
  };
}
