import { panelPlan, type LineFault } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import type { Point } from '../geometry/point.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import { findingOf, mm, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';
import { moveEnd } from './lineMends.ts';

const RULE = 'openOutline';
/** Ends this close were meant to meet: joining them is safe. */
const JOIN_MM = 2;
/** A line that is this much too long or too short is put right without asking what was meant, mm. */
const TRIM_MM = 6;

const JOINED = { limit: SNAP_MM, limitFrom: 'ends nearer than this count as joined' };

type OfKind<K extends LineFault['kind']> = Extract<LineFault, { kind: K }>;

function joinMend(context: CheckContext, part: Part, fault: OfKind<'openOutline'>): Mend | null {
  if (!fault.other || fault.gapMm > JOIN_MM) return null;
  const command = moveEnd(context, part.id, fault.lineId, fault.at, fault.other);
  return command ? { label: `Join the ends (${mm(fault.gapMm)} apart)`, command } : null;
}

/** The line brought to where it should end. */
function endMend(
  context: CheckContext,
  part: Part,
  { kind, at, meant, lineId, gapMm }: OfKind<'shortFold' | 'longFold' | 'longCut' | 'overrun'>,
): Mend | null {
  if (!meant || gapMm > TRIM_MM) return null;
  const command = moveEnd(context, part.id, lineId, at, meant);
  return (
    (command && {
      label: kind === 'shortFold' ? 'Draw the fold on to the edge' : `Take the ${mm(gapMm)} beyond away`,
      command,
    }) ??
    null
  );
}

const where = (p: Point): string => `at (${p[0].toFixed(1)}, ${p[1].toFixed(1)})`;

/** Outlines must close and folds must run from edge to edge, or there is no panel to fold and no piece to cut out. */
export const openOutline: Rule = {
  id: RULE,
  title: 'Line ends',
  protects:
    'Every part comes out of the sheet as one piece, every fold runs from edge to edge, no cut runs past its end.',
  needs: ['lines'],
  limit: `ends nearer than ${SNAP_MM} mm count as joined`,
  unit: 'mm',
  run(context) {
    return context.expanded.parts.flatMap((part) => {
      const counts = new Map<string, number>();
      /** Line ids tell a place, wherever it has been moved; several on one line are numbered. */
      const keyed = (key: string) => {
        const count = (counts.get(key) ?? 0) + 1;
        counts.set(key, count);
        return count === 1 ? key : `${key}:${count}`;
      };
      const seen = new Set<string>();
      return panelPlan(part).faults.flatMap((fault): Finding[] => {
        const say = (
          key: string,
          sentence: string,
          points: readonly Point[],
          rest: Partial<Finding> = {},
        ): Finding[] => [
          findingOf(
            RULE,
            keyed(`${key}:${part.id}`),
            sentence,
            [{ partId: part.id, at: fault.at, points }],
            rest,
          ),
        ];
        switch (fault.kind) {
          case 'noOutline':
            return say(
              'none',
              `${part.name} has no closed outline: draw cut lines all round it.`,
              [fault.at],
              {
                limitFrom: 'a part is cut out all round',
              },
            );
          case 'openOutline': {
            // The two ends of one gap are one finding.
            const ends = [fault.at, fault.other ?? fault.at]
              .map((p) => p.map((v) => v.toFixed(3)).join())
              .sort();
            if (seen.has(ends.join(':'))) return [];
            seen.add(ends.join(':'));
            const lines = [fault.lineId, fault.otherLineId ?? fault.lineId].sort().join('+');
            return say(
              `open:${lines}`,
              fault.other
                ? `The outline of ${part.name} is open ${where(fault.at)}: the next line end is ${mm(fault.gapMm)} away.`
                : `The outline of ${part.name} is open ${where(fault.at)}: no other line ends there.`,
              fault.other ? [fault.at, fault.other] : [fault.at],
              {
                ...JOINED,
                measured: Number.isFinite(fault.gapMm) ? fault.gapMm : null,
                mend: joinMend(context, part, fault),
              },
            );
          }
          case 'shortFold':
            return say(
              `short:${fault.lineId}`,
              `A fold of ${part.name} ends ${where(fault.at)}, ${Number.isFinite(fault.gapMm) ? `${mm(fault.gapMm)} short of the nearest line` : 'away from every other line'}: it must run from edge to edge.`,
              [fault.at],
              {
                ...JOINED,
                measured: Number.isFinite(fault.gapMm) ? fault.gapMm : null,
                mend: endMend(context, part, fault),
              },
            );
          case 'longFold':
            return say(
              `long:${fault.lineId}`,
              `A fold of ${part.name} runs ${mm(fault.gapMm)} beyond the edge ${where(fault.at)}.`,
              fault.meant ? [fault.meant, fault.at] : [fault.at],
              { ...JOINED, measured: fault.gapMm, mend: endMend(context, part, fault) },
            );
          case 'longCut':
            return say(
              `longCut:${fault.lineId}`,
              `A cut of ${part.name} runs ${mm(fault.gapMm)} past the edge that it should end at, ${where(fault.at)}.`,
              fault.meant ? [fault.meant, fault.at] : [fault.at],
              { ...JOINED, measured: fault.gapMm, mend: endMend(context, part, fault) },
            );
          case 'overrun':
            return say(
              `overrun:${fault.lineId}`,
              `A slit of ${part.name} runs ${mm(fault.gapMm)} past its end ${where(fault.at)}, where a fold meets it: the paper tears on from there.`,
              fault.meant ? [fault.meant, fault.at] : [fault.at],
              {
                ...JOINED,
                severity: 'warning',
                measured: fault.gapMm,
                mend: endMend(context, part, fault),
              },
            );
          case 'crookedHinge':
            return say(
              `crooked:${fault.lineId}`,
              `Two panels of ${part.name} are joined by folds that are ${mm(fault.offMm)} out of line ${where(fault.at)}: paper cannot turn about both.`,
              [fault.at],
              {
                measured: fault.offMm,
                limit: 2 * SNAP_MM,
                limitFrom: 'a panel turns about one straight line',
              },
            );
        }
      });
    });
  },
};
