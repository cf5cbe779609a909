/** Shapes that the families build from, strips of panels with tapered tabs before all; and the limits that they share. */
import {
  workOf,
  type DieLine,
  type GlueZone,
  type LineWork,
  type PanelMark,
  type Part,
} from '../dieline/part.ts';
import type { Gutter } from '../design/frames.ts';
import { shift, type Isometry } from '../geometry/isometry.ts';
import { polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { Constraint } from './family.ts';

/** A measure in a sentence: tenths of a millimetre. */
export const round = (mm: number): string => String(Math.round(mm * 10) / 10);

export interface StripTab extends LineWork {
  readonly id: string;
  readonly name: string;
  readonly foldId: string;
  readonly face: 'front' | 'back';
}

export interface StripSpec {
  readonly id: string;
  readonly name: string;
  readonly stockId: string;
  readonly widthMm: number;
  readonly panels: readonly { readonly id: string; readonly name: string; readonly lengthMm: number }[];
  /** The folds between one panel and the next. */
  readonly folds: readonly ({ readonly id: string } & LineWork)[];
  /** Tabs before the first and after the last panel. */
  readonly first?: StripTab;
  readonly last?: StripTab;
  readonly tabMm: number;
  readonly taperMm: number;
}

export interface Strip {
  readonly part: Part;
  /** x of every fold from the first panel's start: starts of the panels and the end of the last one. */
  readonly at: readonly number[];
  readonly frames: Readonly<Record<string, Isometry>>;
}

/** A strip laid out along x from 0, panels side by side over its width (0 to widthMm along y), tapered tabs at its ends. */
export function strip(spec: StripSpec): Strip {
  const { widthMm: w, tabMm: t, taperMm, panels, first, last } = spec;
  const at = [0];
  for (const panel of panels) at.push(at[at.length - 1] + panel.lengthMm);
  const far = at[at.length - 1];
  const low: Point[] = [
    [0, 0],
    [0, w],
    [-t, w - taperMm],
    [-t, taperMm],
  ];
  const high: Point[] = [
    [far, 0],
    [far + t, taperMm],
    [far + t, w - taperMm],
    [far, w],
  ];
  const outline: Point[] = [
    [0, 0],
    [far, 0],
    ...(last ? [high[1], high[2]] : []),
    [far, w],
    [0, w],
    ...(first ? [low[2], low[3]] : []),
  ];
  const fold = (id: string, { process, fold }: LineWork, x: number): DieLine => ({
    id,
    process,
    fold,
    path: straight([x, 0], [x, w]),
  });
  const zone = (tab: StripTab, ring: Point[]): GlueZone => ({
    id: `glue-${tab.id}`,
    outline: ring,
    face: tab.face,
    kind: 'glue',
  });
  const tabMark = (tab: StripTab, x: number): PanelMark => ({
    id: `tab-${tab.id}`,
    name: tab.name,
    at: [x, w / 2],
    role: 'tab',
  });
  return {
    at,
    frames: Object.fromEntries(panels.map((panel, i) => [panel.id, shift(at[i], 0)])),
    part: {
      id: spec.id,
      name: spec.name,
      stockId: spec.stockId,
      grainRad: Math.PI / 2,
      quantity: 1,
      lines: [
        { id: 'outline', ...workOf('cut'), path: polyline(outline, true) },
        ...(first ? [fold(first.foldId, first, 0)] : []),
        ...spec.folds.map((f, i) => fold(f.id, f, at[i + 1])),
        ...(last ? [fold(last.foldId, last, far)] : []),
      ],
      glueZones: [...(first ? [zone(first, low)] : []), ...(last ? [zone(last, high)] : [])],
      marks: [
        ...(first ? [tabMark(first, -t / 2)] : []),
        // Marks stay clear of what may be cut in the middle of a panel.
        ...panels.map((panel, i): PanelMark => ({
          id: panel.id,
          name: panel.name,
          at: [at[i] + panel.lengthMm / 2, Math.min(0.6, w / 4)],
        })),
        ...(last ? [tabMark(last, far + t / 2)] : []),
      ],
    },
  };
}

/** Corners of an upright rectangle, left-turning. */
export const rectangle = (x: number, y: number, widthMm: number, heightMm: number): Point[] => [
  [x, y],
  [x + widthMm, y],
  [x + widthMm, y + heightMm],
  [x, y + heightMm],
];

/** A regular polygon of `sides` corners round a centre, left-turning, the first corner at `startRad`. */
export const regular = ([x, y]: Point, radius: number, sides: number, startRad = 0): Point[] =>
  Array.from({ length: sides }, (_, i): Point => {
    const angle = startRad + (2 * Math.PI * i) / sides;
    return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
  });

/** The constraint that keeps a mechanism between the ends of its gutter. */
export const alongRules = (gutter: Gutter, along: number, widthMm: number): Constraint[] => [
  { overMm: -along, reason: 'It would stick out below the end of the fold.', shownBy: 'landing' },
  {
    overMm: along + widthMm - gutter.lengthMm,
    reason: 'It would stick out beyond the end of the fold.',
    shownBy: 'landing',
  },
];

/** The constraints that keep a rectangle on the panel that it lies on. */
export const onPanelRules = (
  gutter: Gutter,
  what: string,
  box: { minX: number; maxX: number; minY: number; maxY: number },
  marginMm: number,
): Constraint[] => [
  {
    overMm: Math.max(-gutter.left.depthMm + marginMm - box.minX, box.maxX - gutter.left.depthMm + marginMm),
    reason: `${what} would reach past the side of the panel (${round(2 * gutter.left.depthMm)} mm wide, ${marginMm} mm margin).`,
    shownBy: 'landing',
  },
  {
    overMm: Math.max(marginMm - box.minY, box.maxY - gutter.lengthMm + marginMm),
    reason: `${what} would reach past the end of the panel (${round(gutter.lengthMm)} mm long, ${marginMm} mm margin).`,
    shownBy: 'landing',
  },
];
