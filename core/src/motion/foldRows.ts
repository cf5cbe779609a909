/** The folds of a component as functions of its unknowns: values and derivatives, those of closing folds included. */
import { multiply, RIGID_SIZE } from '../geometry/rigid.ts';
import { measuredValue, type ComponentProblem } from './component.ts';
import type { Link } from './links.ts';

/** Fully folded, +pi and -pi are the same pose: the one that the drawing means. */
export const unwrapped = (link: Link, value: number): number =>
  link.kind === 'fold' && Math.abs(value) > Math.PI - 1e-3 && value * link.sign < 0
    ? value + link.sign * 2 * Math.PI
    : value;

/** A fold of a component: an unknown of its own, or one that closes a loop. */
export interface FoldRow {
  readonly link: number;
  readonly unknown: number;
  readonly chord: number;
}

/** The undriven folds of a component that a test accepts, unknowns first. */
export function foldRows(problem: ComponentProblem, wanted: (link: Link) => boolean): FoldRow[] {
  const { component, linkage } = problem;
  const counts = (index: number) => {
    const link = linkage.links[index];
    return link.kind === 'fold' && !link.drive && wanted(link);
  };
  return [
    ...component.edges.flatMap(({ link, unknown }) =>
      unknown >= 0 && counts(link) ? [{ link, unknown, chord: -1 }] : [],
    ),
    ...component.chords.flatMap(({ link }, chord) => (counts(link) ? [{ link, unknown: -1, chord }] : [])),
  ];
}

/** The angle of a fold at x, which must have been posed; radians from flat, valley positive. */
export function foldValue(problem: ComponentProblem, row: FoldRow, x: Float64Array): number {
  if (row.unknown >= 0) return x[row.unknown];
  const link = problem.linkage.links[row.link];
  return unwrapped(link, measuredValue(link, problem.bodies));
}

const frame = new Float64Array(RIGID_SIZE);

/** Adds `factor` times the derivative of a fold's angle to a row of a Jacobian. */
export function addFoldGradient(
  problem: ComponentProblem,
  row: FoldRow,
  factor: number,
  jacobian: Float64Array,
  at: number,
): void {
  if (row.unknown >= 0) {
    jacobian[at + row.unknown] += factor;
    return;
  }
  const link = problem.linkage.links[row.link];
  multiply(frame, problem.bodies, link.inLeft, 0, link.left * RIGID_SIZE, 0);
  for (const { edge, side } of problem.component.chords[row.chord].moving) {
    const { unknown, kind, sense } = problem.component.edges[edge];
    if (unknown < 0 || kind === 'slide') continue;
    // The right body turns about the fold by -phi: its rate is the turn of the edge along the fold's axis.
    const u = problem.axisOf(edge);
    jacobian[at + unknown] -= factor * side * sense * (frame[0] * u[0] + frame[4] * u[1] + frame[8] * u[2]);
  }
}
