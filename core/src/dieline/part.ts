import type { Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { Ring } from '../geometry/polygon.ts';

/** What a line does to the paper. Folds are named as seen from the part's front face. */
export const LAYERS = ['cut', 'mountain', 'valley', 'perforation', 'kiss', 'guide'] as const;
export type Layer = (typeof LAYERS)[number];

export interface DieLine {
  readonly id: string;
  readonly layer: Layer;
  readonly path: Path;
}

/** An area to glue ('glue', on the given face of its part), or one that must stay free of glue ('keepOut'). */
export interface GlueZone {
  readonly id: string;
  readonly outline: Ring;
  readonly face: 'front' | 'back';
  readonly kind: 'glue' | 'keepOut';
}

/** A named point that tells which panel is meant, whatever the panel's outline becomes. */
export interface PanelMark {
  readonly id: string;
  readonly name: string;
  readonly at: Point;
}

/** A flat piece of stock: its lines in its own plane, x right, y up, front face towards the viewer. */
export interface Part {
  readonly id: string;
  readonly name: string;
  readonly stockId: string;
  /** Direction of the grain in the part's plane, radians from x; null when it does not matter. */
  readonly grainRad: number | null;
  readonly quantity: number;
  readonly lines: readonly DieLine[];
  readonly glueZones: readonly GlueZone[];
  readonly marks: readonly PanelMark[];
}

/** Whether a layer's lines separate material. */
export const isCut = (layer: Layer): boolean => layer === 'cut';

/** Whether a layer's lines are folds that panels turn about. */
export const isFold = (layer: Layer): boolean => layer === 'mountain' || layer === 'valley';
