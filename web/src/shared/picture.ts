import { openingOf } from '@hollow-finch/core/design/frames';
import type { Design } from '@hollow-finch/core/design/design';
import { openFaults } from '@hollow-finch/core/checks/finding';
import { boxOf } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { dot3 } from '@hollow-finch/core/geometry/vector';
import {
  axesOf,
  cornersOnTable,
  foldedPicture,
  FRAMED,
  loosePicture,
  type PictureFace,
  type Opening,
  type Viewpoint,
} from '@hollow-finch/core/motion/view';
import { bestView } from '@hollow-finch/core/motion/viewpoint';
import type { TimedReport } from '../workers/report.worker.ts';
import type { Look, Picture } from './contracts.ts';
import { LOOK_VERSION, MAX_FACES, MAX_OUTLINE } from './limits.ts';

const frames = new WeakMap<Sweep, Map<string, Picture['box']>>();

/**
 * The frame of a folded card, with room for it wherever it is moved to, and for what lies loose beside it if that is shown:
 * left, top, width and height, y down; remembered.
 */
export function pictureFrame(
  sweep: Sweep,
  opening: Opening,
  view: Viewpoint,
  withLoose = false,
  moments: readonly number[] = FRAMED,
): Picture['box'] {
  const known = frames.get(sweep) ?? new Map<string, Picture['box']>();
  frames.set(sweep, known);
  const key = `${opening}/${view.turnDeg}/${view.riseDeg}/${withLoose}/${moments.join()}`;
  const found = known.get(key);
  if (found) return found;
  const { right, up } = axesOf(view);
  const corners = [
    ...moments.flatMap((at) => cornersOnTable(sweep, opening, at)),
    ...(withLoose ? loosePicture(sweep, opening, view).corners : []),
  ];
  // Nothing is drawn yet of a design that has no part.
  const box =
    corners.length === 0
      ? { minX: 0, minY: 0, maxX: 1, maxY: 1 }
      : boxOf(corners.map((p): Point => [dot3(p, right), dot3(p, up)]));
  const pad = 0.04 * Math.max(box.maxX - box.minX, box.maxY - box.minY);
  const made: Picture['box'] = [
    box.minX - pad,
    -box.maxY - pad,
    box.maxX - box.minX + 2 * pad,
    box.maxY - box.minY + 2 * pad,
  ];
  known.set(key, made);
  return made;
}

/** The faces of a folded card, farthest first. */
export const pictureFaces = (
  sweep: Sweep,
  opening: Opening,
  deg: number,
  view: Viewpoint,
  withLoose = false,
): Picture['faces'] =>
  [
    ...(withLoose ? loosePicture(sweep, opening, view).faces : []),
    ...foldedPicture(sweep, opening, deg, view),
  ].map(drawnFace);

const drawnFace = ({ colour, light, front, rings }: PictureFace): Picture['faces'][number] => ({
  colour,
  light: Math.round(1000 * Math.min(1, light)) / 1000,
  front,
  d: rings
    .map((ring) => `M${ring.map(([x, y]) => `${x.toFixed(1)} ${(-y).toFixed(1)}`).join('L')}Z`)
    .join(''),
});

/** How far a card stands open on the shelf. */
const SHELF_DEG = 115;

/** What the shelf shows of a saved revision. What is too fine for a small picture is left out of it. */
export function lookAt(design: Design, report: TimedReport, revision: number): Look {
  const opening = openingOf(design);
  const view = bestView(report.sweep, opening, SHELF_DEG);
  const faces = pictureFaces(report.sweep, opening, SHELF_DEG, view);
  return {
    revision,
    version: LOOK_VERSION,
    faults: openFaults(design, report.findings),
    picture: {
      box: pictureFrame(report.sweep, opening, view),
      faces: faces.filter(({ d }) => d.length <= MAX_OUTLINE).slice(-MAX_FACES),
    },
  };
}
