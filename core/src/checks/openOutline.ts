import type { Command } from '../design/commands.ts';
import type { Design } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { SNAP_MM } from '../dieline/planarGraph.ts';
import { endOf, reversePath } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { mm, type Finding, type Mend, type Rule } from './finding.ts';

/** Ends this close were meant to meet: joining them is safe. */
const JOIN_MM = 2;

/** Moves the end of a drafted line that lies at `from` to `to`. */
function moveEnd(
  design: Design,
  partId: string,
  lineId: string,
  from: Point,
  to: Point,
): Command | undefined {
  const line = design.parts[partId]?.lines[lineId];
  if (!line) return undefined;
  const startsThere = distance(line.path.start, from) <= SNAP_MM;
  if (!startsThere && distance(endOf(line.path), from) > SNAP_MM) return undefined;
  const forward = startsThere ? reversePath(line.path) : line.path;
  const last = forward.segments[forward.segments.length - 1];
  const moved = { ...forward, segments: [...forward.segments.slice(0, -1), { ...last, to }] };
  return {
    do: 'line',
    partId,
    id: lineId,
    value: { ...line, path: startsThere ? reversePath(moved) : moved },
  };
}

function joinMend(
  design: Design,
  part: Part,
  lineId: string,
  at: Point,
  other: Point | null,
  gapMm: number,
): Mend | null {
  if (!other || gapMm > JOIN_MM) return null;
  const command = moveEnd(design, part.id, lineId, at, other);
  return command ? { label: `Join the ends (${mm(gapMm)} apart)`, command } : null;
}

/** Outlines must close and folds must run from edge to edge, or there is no panel to fold and no piece to cut out. */
export const openOutline: Rule = {
  id: 'openOutline',
  title: 'Open outline',
  protects: 'Every part comes out of the sheet as one piece, and every fold runs from edge to edge.',
  run({ design, expanded }) {
    return expanded.parts.flatMap((part) => {
      const seen = new Set<string>();
      return panelPlan(part).faults.flatMap((fault): Finding[] => {
        const place = (points: Point[]) => [{ partId: part.id, at: fault.at, points }];
        const where = `at (${fault.at[0].toFixed(1)}, ${fault.at[1].toFixed(1)})`;
        const base = {
          rule: 'openOutline',
          severity: 'fault' as const,
          unit: 'mm' as const,
          limit: SNAP_MM,
          limitFrom: 'ends nearer than this count as joined',
        };
        switch (fault.kind) {
          case 'noOutline':
            return [
              {
                ...base,
                key: `openOutline:${part.id}`,
                sentence: `${part.name} has no closed outline: draw cut lines all round it.`,
                measured: 0,
                places: place([fault.at]),
                mend: null,
              },
            ];
          case 'openOutline': {
            // The two ends of one gap are one finding.
            const ends = [fault.at, fault.other ?? fault.at]
              .map((p) => p.map((v) => v.toFixed(2)).join())
              .sort();
            const key = `openOutline:${part.id}:${ends.join(':')}`;
            if (seen.has(key)) return [];
            seen.add(key);
            return [
              {
                ...base,
                key,
                sentence: `The outline of ${part.name} is open ${where}: the next line end is ${mm(fault.gapMm)} away.`,
                measured: fault.gapMm,
                places: place(fault.other ? [fault.at, fault.other] : [fault.at]),
                mend: joinMend(design, part, fault.lineId, fault.at, fault.other, fault.gapMm),
              },
            ];
          }
          case 'shortFold':
            return [
              {
                ...base,
                key: `shortFold:${part.id}:${fault.lineId}:${fault.at.map((v) => v.toFixed(1)).join()}`,
                sentence: `A fold on ${part.name} ends ${where}, ${mm(fault.gapMm)} from the nearest line: it must run from edge to edge.`,
                measured: fault.gapMm,
                places: place([fault.at]),
                mend: null,
              },
            ];
          case 'crookedHinge':
            return [
              {
                ...base,
                key: `crookedHinge:${part.id}:${fault.lineId}`,
                sentence: `Two panels of ${part.name} are joined by folds that are ${mm(fault.offMm)} out of line ${where}: paper cannot turn about both.`,
                measured: fault.offMm,
                places: place([fault.at]),
                mend: null,
              },
            ];
        }
      });
    });
  },
};
