/**
 * Folds as seen from what is glued over their sides: a mechanism over a fold whose leaves are covered by mats lands on the
 * mats, not on the card below.
 */
import type { GlueJoint } from '../design/design.ts';
import type { Gutter, GutterSide } from '../design/frames.ts';
import { panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { compose, inverse, place } from '../geometry/isometry.ts';
import { insidePoint } from '../geometry/polygon.ts';

/** A flat sheet that is glued onto something, with how it lies there. */
export interface LaidSheet {
  readonly part: Part;
  readonly joint: GlueJoint;
}

/** At most so many ways of standing on sheets are offered for one fold. */
const MOST_WAYS = 24;

/** Flat parts of one panel that are glued by a zone on the face that lies on their host. */
export function laidSheets(parts: readonly Part[], joints: readonly GlueJoint[]): LaidSheet[] {
  const byId = new Map(parts.map((part) => [part.id, part]));
  const seen = new Set<string>();
  return joints.flatMap((joint) => {
    const part = byId.get(joint.partId);
    // Glued in several places it still lies there once.
    const key = `${joint.partId}|${joint.hostPartId}`;
    if (!part || seen.has(key) || panelPlan(part).panels.length !== 1) return [];
    seen.add(key);
    return [{ part, joint }];
  });
}

/** Whether a sheet lies on one side of a fold, on the face that is built on. */
function liesOn({ part, joint }: LaidSheet, side: GutterSide, sign: -1 | 1): boolean {
  if (joint.hostPartId !== side.partId) return false;
  const zone = part.glueZones.find(({ id }) => id === joint.zoneId);
  if (!zone) return false;
  const onFront = (zone.face === 'back') !== joint.placement.flip;
  if (onFront === side.frame.flip) return false;
  const at = insidePoint({ outer: zone.outline, holes: [] });
  const [x] = place(compose(inverse(side.frame), joint.placement), at);
  return x * sign > 0 && Math.abs(x) < side.depthMm;
}

/** The side of a fold as its mechanism coordinates lie on a sheet that covers it. */
function sideOn({ part, joint }: LaidSheet, side: GutterSide): GutterSide {
  const frame = compose(inverse(joint.placement), side.frame);
  const back = inverse(frame);
  const [panel] = panelPlan(part).panels;
  return {
    partId: part.id,
    frame,
    depthMm: Math.max(...panel.region.outer.map((p) => Math.abs(place(back, p)[0]))),
  };
}

/**
 * Every way in which a mechanism can stand over a fold with one side or both on sheets that lie there; sheets that lie on
 * such sheets are covered in turn.
 *
 * @param fold any fold; panels and pairs of doors are given back as nothing
 */
export function foldsOnSheets(fold: Gutter, sheets: readonly LaidSheet[]): Gutter[] {
  if (fold.kind !== 'fold') return [];
  const waysOf = (side: GutterSide, sign: -1 | 1): { side: GutterSide; name: string | null }[] => {
    const ways: { side: GutterSide; name: string | null }[] = [{ side, name: null }];
    for (const way of ways)
      for (const sheet of sheets)
        if (ways.length < MOST_WAYS && liesOn(sheet, way.side, sign))
          ways.push({ side: sideOn(sheet, way.side), name: sheet.part.name });
    return ways;
  };
  const [lefts, rights] = [waysOf(fold.left, -1), waysOf(fold.right, 1)];
  const ways = lefts.flatMap((left) => rights.map((right) => ({ left, right })));
  return ways
    .filter(({ left, right }) => left.name !== null || right.name !== null)
    .slice(0, MOST_WAYS)
    .map(({ left, right }): Gutter => {
      const on = [left.name, right.name].filter((name) => name !== null);
      return {
        ...fold,
        lineId: `${fold.lineId}@${left.name === null ? '-' : left.side.partId}|${right.name === null ? '-' : right.side.partId}`,
        name: `${fold.name}, on ${[...new Set(on)].join(' and ')}${on.length === 1 ? (left.name === null ? ' (right side)' : ' (left side)') : ''}`,
        left: left.side,
        right: right.side,
      };
    });
}
