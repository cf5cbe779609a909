/** Layers and line types of DXF cut files, whichever version. */
import type { Stage } from '../cutting/order.ts';

/** Line types: how they look in letters, and lengths drawn (positive), left (negative) and dots (0), mm. */
export const LINE_TYPES = {
  DASHED: ['__ __ __', [6, -3]],
  DASHDOT: ['__ . __', [6, -2, 0, -2]],
  DOT: ['. . . .', [0, -2]],
} as const;

export interface DxfLayer {
  readonly name: string;
  /** By the index of colours. */
  readonly colour: number;
  readonly type: keyof typeof LINE_TYPES | 'CONTINUOUS';
}

const CUT: DxfLayer = { name: 'Cut', colour: 7, type: 'CONTINUOUS' };

/** Layers by the stage at which their lines are cut. */
export const LAYER_OF: Readonly<Record<Stage, DxfLayer>> = {
  registration: { name: 'Registration', colour: 9, type: 'CONTINUOUS' },
  mark: { name: 'Mark', colour: 8, type: 'CONTINUOUS' },
  mountain: { name: 'Score mountain', colour: 1, type: 'DASHED' },
  valley: { name: 'Score valley', colour: 5, type: 'DASHED' },
  score: { name: 'Score', colour: 4, type: 'DASHDOT' },
  perforation: { name: 'Perforation', colour: 6, type: 'DOT' },
  kiss: { name: 'Kiss cut', colour: 30, type: 'CONTINUOUS' },
  inner: CUT,
  outer: CUT,
};
