/** Edits of the drawing board: where a drawn line goes, what is taken away. */
import { applyCommand, type Command } from '@hollow-finch/core/design/commands';
import type { Addition, Design, DraftedPart } from '@hollow-finch/core/design/design';
import { panelHostId, type Gutter } from '@hollow-finch/core/design/frames';
import { freshId } from '@hollow-finch/core/design/ids';
import { panelAt, panelPlan } from '@hollow-finch/core/dieline/panels';
import { workOf, type DieLine, type Layer } from '@hollow-finch/core/dieline/part';
import { inverse } from '@hollow-finch/core/geometry/isometry';
import { boxCentre, boxOf, placePath, type Path } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { onesOf, type Selection, type Single } from '../../shared/store/selection.ts';

export interface DrawnLine {
  readonly command: Command;
  readonly selection: Selection;
  readonly label: string;
}

/**
 * A command that stands something on a place, and marks the panel of a drafted part for it: so it stays there, whatever folds
 * are added to the part.
 */
export function standingOn(design: Design, host: Gutter, command: Command): Command {
  const part = design.parts[host.partId];
  if (!part || host.kind !== 'panel') return command;
  const plain = expand(design).parts.find(({ id }) => id === part.id);
  const panel =
    plain && panelPlan(plain).panels.find(({ id }) => panelHostId(id) === host.lineId.replace(/@back$/, ''));
  if (!panel || part.marks[panel.id]) return command;
  const box = boxOf(panel.region.outer);
  const mark = {
    id: panel.id,
    name: panel.name,
    at: [...panel.inside] as [number, number],
    origin: [boxCentre(box)[0], box.minY] as [number, number],
  };
  return {
    do: 'all',
    commands: [{ do: 'part', id: part.id, value: { marks: { ...part.marks, [panel.id]: mark } } }, command],
  };
}

/** Brings the focus to the board. */
export const focusBoard = (): void => document.querySelector<SVGSVGElement>('.board-sheet > svg')?.focus();

/** A new, empty drafted part. */
export const emptyPart = (design: Design): DraftedPart => {
  const id = freshId('p', design.parts);
  return {
    id,
    name: `Part ${id.slice(1)}`,
    stockId: 'slate-240',
    grainRad: null,
    quantity: 1,
    lines: {},
    glueZones: {},
    marks: {},
  };
};

/** Adds a line, in a part's own coordinates, to a drafted part; or to the panel of a generated part under `at`. */
export function drawOn(
  design: Design,
  partId: string | null,
  layer: Layer,
  path: Path,
  at: Point,
): DrawnLine | { refused: string } {
  const part = partId === null ? undefined : design.parts[partId];
  if (partId === null) {
    const made = emptyPart(design);
    const line: DieLine = { id: 'l1', ...workOf(layer), path };
    return {
      command: { do: 'put', in: 'parts', id: made.id, value: { ...made, lines: { l1: { ...line } } } },
      selection: { kind: 'line', partId: made.id, id: 'l1' },
      label: `Draw ${made.name}`,
    };
  }
  if (part) {
    const id = freshId('l', part.lines);
    return {
      command: { do: 'line', partId, id, value: { id, ...workOf(layer), path } },
      selection: { kind: 'line', partId, id },
      label: `Draw on ${part.name}`,
    };
  }
  const expanded = expand(design);
  const host = expanded.parts.find((p) => p.id === partId);
  if (!host) return { refused: 'That part is no longer there.' };
  const plan = panelPlan(host);
  const panel = plan.panels[panelAt(plan, at)];
  const frame = panel && expanded.panelFrames[partId]?.[panel.id];
  if (!frame)
    return {
      refused: 'Begin on a panel: lines on a mechanism’s part belong to one of its panels (not to a tab).',
    };
  const id = freshId('a', design.additions);
  const value: Addition = {
    id,
    partId,
    panelId: panel.id,
    line: { id: `added-${id}`, ...workOf(layer), path: placePath(inverse(frame), path) },
  };
  return {
    command: { do: 'put', in: 'additions', id, value },
    selection: { kind: 'line', partId, id: value.line.id },
    label: `Draw on ${host.name}`,
  };
}

/** Ids of the lines that were drawn on a generated part. */
export const linesDrawnOn = (additions: Design['additions'], partId: string): ReadonlySet<string> =>
  new Set(Object.values(additions).flatMap((each) => (each.partId === partId ? [each.line.id] : [])));

export interface FoundLine {
  readonly line: DieLine;
  /** The command that puts a changed line (in the part's plane) in its place, or takes it away. */
  change(next: DieLine | null): Command;
  /** The command that adds another line like it, in the part's plane. */
  another(id: string, line: DieLine): Command;
}

/** A selected line that can be edited: a drafted part's, or an addition on a generated part. Undefined for built lines. */
export function editableLine(design: Design, partId: string, lineId: string): FoundLine | undefined {
  const own = design.parts[partId]?.lines[lineId];
  /** A line like it that is no image of any other, and of no group. */
  const alone = ({ imageOf: _imageOf, group: _group, ...line }: DieLine) => line;
  if (own)
    return {
      line: own,
      change: (next) => ({ do: 'line', partId, id: lineId, value: next && { ...next } }),
      another: (id, line) => ({ do: 'line', partId, id, value: { ...alone(line), id } }),
    };
  const addition = Object.values(design.additions).find((a) => a.partId === partId && a.line.id === lineId);
  const frame = addition && expand(design).panelFrames[partId]?.[addition.panelId];
  if (!addition || !frame) return undefined;
  const inPanel = (line: DieLine) => ({ ...line, path: placePath(inverse(frame), line.path) });
  return {
    line: { ...addition.line, path: placePath(frame, addition.line.path) },
    change: (next) => ({
      do: 'put',
      in: 'additions',
      id: addition.id,
      value: next && { ...addition, line: inPanel(next) },
    }),
    another: (id, line) => ({
      do: 'put',
      in: 'additions',
      id,
      value: { ...addition, id, line: { ...inPanel(alone(line)), id: `added-${id}` } },
    }),
  };
}

/** Takes away all that is selected, with everything that refers to it. */
export function removalOf(design: Design, selection: Selection): Removal | undefined {
  const ones = onesOf(selection);
  if (ones.length === 1) return removalOfOne(design, ones[0]);
  let left = design;
  const commands = ones.flatMap((one) => {
    const removal = removalOfOne(left, one);
    if (!removal) return [];
    left = applyCommand(left, removal.command).design;
    return [removal.command];
  });
  return commands.length === 0
    ? undefined
    : { label: `Remove ${commands.length} things`, command: { do: 'all', commands } };
}

interface Removal {
  readonly label: string;
  readonly command: Command;
}

function removalOfOne(design: Design, selection: Single): Removal | undefined {
  if (selection.kind === 'line') {
    const found = editableLine(design, selection.partId, selection.id);
    return found && { label: 'Take a line away', command: found.change(null) };
  }
  if (selection.kind === 'instance' && design.instances[selection.id])
    return {
      label: `Remove ${design.instances[selection.id].name}`,
      command: { do: 'put', in: 'instances', id: selection.id, value: null },
    };
  const part = design.parts[selection.id];
  if (!part) return undefined;
  const joints = Object.values(design.joints).filter(
    (joint) => joint.partId === part.id || joint.hostPartId === part.id,
  );
  return {
    label: `Remove ${part.name}`,
    command: {
      do: 'all',
      commands: [
        ...joints.map((joint): Command => ({ do: 'put', in: 'joints', id: joint.id, value: null })),
        ...Object.values(design.pictures)
          .filter(({ partId }) => partId === part.id)
          .map(({ id }): Command => ({ do: 'put', in: 'pictures', id, value: null })),
        { do: 'put', in: 'board', id: part.id, value: null },
        { do: 'put', in: 'parts', id: part.id, value: null },
      ],
    },
  };
}
