import type { Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { Ring } from '../geometry/polygon.ts';
import type { Rigid } from '../geometry/rigid.ts';
import { stockById, type Stock } from '../stock/stock.ts';

/** What a line does to the paper: cuts it through, scores or perforates it, cuts its skin only, or marks it lightly. */
export const PROCESSES = ['cut', 'score', 'perforate', 'kiss', 'mark'] as const;
export type Process = (typeof PROCESSES)[number];

/** That a line is a fold. Its sense is named as seen from the part's front face. */
export interface Fold {
  readonly sense: 'mountain' | 'valley';
  /** The angle that it keeps by itself when nothing moves it, degrees from flat; unsaid where it does not matter. */
  readonly restDeg?: number;
  /** Which step of folding up it belongs to, counted from 0; unsaid: it turns all the way along. */
  readonly stage?: number;
  /** How it turns within its step: degrees in its sense at evenly spaced moments; unsaid: evenly, from flat to its angle. */
  readonly course?: readonly number[];
  /** Where its paper gives on the way, by how much, and which panel the other one gives way from. */
  readonly gives?: Giving;
  /** Its angle follows from those of other folds of its part: what it joins hangs on those. */
  readonly follows?: true;
}

/**
 * How paper gives at a fold that stiff panels could not turn at: at each moment of its course where the other panel lies, in the plane
 * of the part, instead of where its turn alone would lay it (rigid placements near to none).
 */
export interface Giving {
  /** The id of the panel that the other one hangs on. */
  readonly on: string;
  readonly values: readonly Rigid[];
}

/** A perforation by its own measures: cut so long, left whole so long, and so on. */
export interface Pattern {
  readonly cutMm: number;
  readonly gapMm: number;
}

/** Where a cut is left whole, so that the piece stays in its sheet until it is broken out: evenly along it, away from corners. */
export interface Nicks {
  readonly count: number;
  readonly widthMm: number;
  /** Edges of an outline, as it is drawn, on which there should be none, for they show. */
  readonly notOn?: readonly Edge[];
}
export type Edge = 'upper' | 'lower' | 'left' | 'right';
export const EDGES: readonly Edge[] = ['upper', 'lower', 'left', 'right'];

/** What a line is: how it is made, and the fold that it becomes. A cut or a mark is no fold. */
export interface LineWork {
  readonly process: Process;
  readonly fold?: Fold;
  /** Of a perforation; unsaid: the line is made by the cutter's own. */
  readonly pattern?: Pattern;
  /** Of a cut. */
  readonly nicks?: Nicks;
}

export interface DieLine extends LineWork {
  readonly id: string;
  readonly path: Path;
  /** What it is for, where it is no line like others: a fold at which the card itself opens, the left one or that of the right door. */
  readonly role?: 'opening' | 'openingRight';
  /** The lines of a part that have it in common are chosen together. */
  readonly group?: string;
  /** The line of its part that it mirrors across the part's axis (design/symmetry.ts). */
  readonly imageOf?: string;
  /** A cut drawn on a mechanism that begins and ends on one of its folds: between its ends the fold is left out. */
  readonly opensFold?: true;
}

/** The lines of a part at which the card opens, by their ids. */
export const openingLines = (part: Part | undefined): ReadonlyMap<string, NonNullable<DieLine['role']>> =>
  new Map(part?.lines.flatMap(({ id, role }) => (role ? [[id, role] as const] : [])));

/** Lines as they are told apart on the board and in files: scores by the sense of their fold. */
export const LAYERS = ['cut', 'mountain', 'valley', 'score', 'perforation', 'kiss', 'mark'] as const;
export type Layer = (typeof LAYERS)[number];

/** The layer that a line lies on. */
export function layerOf({ process, fold }: LineWork): Layer {
  switch (process) {
    case 'score':
      return fold?.sense ?? 'score';
    case 'perforate':
      return 'perforation';
    default:
      return process;
  }
}

/** What a line of a layer usually is: a perforation is no fold unless that is said. */
export function workOf(layer: Layer): LineWork {
  switch (layer) {
    case 'mountain':
    case 'valley':
      return { process: 'score', fold: { sense: layer } };
    case 'perforation':
      return { process: 'perforate' };
    default:
      return { process: layer };
  }
}

/** An area to glue ('glue', on the given face of its part), or one that must stay free of glue ('keepOut'). */
export interface GlueZone {
  readonly id: string;
  readonly outline: Ring;
  readonly face: 'front' | 'back';
  readonly kind: 'glue' | 'keepOut';
  /** The adhesive of the store that it is glued with, where that matters. */
  readonly adhesiveId?: string;
  /** What that adhesive adds to a pile, mm; that of wet glue unless it is known. */
  readonly adhesiveMm?: number;
  /** Its outline is marked on the paper. */
  readonly marked?: true;
}

/** A named point that tells which panel is meant, whatever the panel's outline becomes. */
export interface PanelMark {
  readonly id: string;
  readonly name: string;
  readonly at: Point;
  /** The middle of the panel's lower edge when something was first stood on it: that stays where it is when folds are added. */
  readonly origin?: Point;
  /** What it is for, where it is no plain panel: a tab to glue. */
  readonly role?: 'tab';
  /** The panel of the same part behind which it is tucked in when everything is folded up: held there without glue. */
  readonly behind?: string;
  /** The slot (a closed cut of the same part) that it goes through when everything is folded up: held there without glue. */
  readonly through?: string;
}

/** A flat piece of stock: its lines in its own plane, x right, y up, front face towards the viewer. */
export interface Part {
  readonly id: string;
  readonly name: string;
  readonly stockId: string;
  /** The stock itself, where it is not one of those that ship. */
  readonly stock?: Stock;
  /** Direction of the grain in the part's plane, radians from x; null when it does not matter. */
  readonly grainRad: number | null;
  readonly quantity: number;
  readonly lines: readonly DieLine[];
  readonly glueZones: readonly GlueZone[];
  readonly marks: readonly PanelMark[];
}

/** Whether what a process makes can be a fold of a drafted part: a cut or a mark is none. */
export const canFold = (process: Process): boolean => process !== 'cut' && process !== 'mark';

/** The glue zone that a joint glues, by its part and its own id; undefined where there is none. */
export const zoneIn = (
  parts: readonly Part[],
  { partId, zoneId }: { readonly partId: string; readonly zoneId: string },
): GlueZone | undefined => parts.find(({ id }) => id === partId)?.glueZones.find(({ id }) => id === zoneId);

/** The stock that a part is cut from. */
export const stockOf = ({ stock, stockId }: Pick<Part, 'stock' | 'stockId'>): Stock =>
  stock ?? stockById(stockId);

/** Whether a line separates material. */
export const isCut = ({ process }: LineWork): boolean => process === 'cut';

/** Whether panels turn about a line. */
export const isFold = <T extends LineWork>(line: T): line is T & { readonly fold: Fold } =>
  line.fold !== undefined;

/** Whether a line is the ruling of a bend: paper curves there, and nothing is made. */
export const isRuling = ({ process, fold }: LineWork): boolean => process === 'mark' && fold !== undefined;

/** +1 for a valley, -1 for a mountain. */
export const senseSign = ({ sense }: Fold): 1 | -1 => (sense === 'valley' ? 1 : -1);
