/** A prop: a strip with a foot on a half, that stands up through a narrow slot of another part and slides in it. */
import { stockById } from '../stock/stock.ts';
import type { GlueJoint, Joint } from '../design/design.ts';
import type { DieLine, Part } from '../dieline/part.ts';
import { polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { BuildContext, Contribution } from './family.ts';
import { foot, rectangle, strip, type Strip } from './pieces.ts';

/** What a slot is wider and longer than the paper that goes through it, mm. */
export const SLOT_CLEARANCE_MM = 0.5;

export interface PropSpec {
  /** Id of its part, and of its landing and joints, within the instance. */
  readonly id: string;
  readonly name: string;
  readonly panel: { readonly id: string; readonly name: string };
  readonly widthMm: number;
  readonly lengthMm: number;
  readonly tabMm: number;
  readonly taperMm: number;
  /** Its foot: on which half, how far from the gutter, and from where along it. */
  readonly side: 'left' | 'right';
  readonly x: number;
  readonly along: number;
  /** The part with the slot, the slot's place in it (from `low` along y), and how far up the prop it is when closed. */
  readonly hostId: string;
  readonly slotX: number;
  readonly low: number;
  readonly upMm: number;
}

export interface Prop {
  readonly made: Strip;
  readonly joints: readonly [GlueJoint, Joint];
  readonly line: Contribution['hostLines'][number];
  /** The slot as a line of the host. */
  readonly slot: DieLine;
}

/** Builds a prop; the slot that comes with it is cut into its host with `slotted`. */
export function prop(context: BuildContext, spec: PropSpec): Prop {
  const { side, slotX, low, widthMm, upMm } = spec;
  const left = side === 'left';
  const made = strip({
    id: `${context.instanceId}/${spec.id}`,
    name: spec.name,
    stockId: context.stockId,
    widthMm,
    tabMm: spec.tabMm,
    taperMm: spec.taperMm,
    panels: [{ ...spec.panel, lengthMm: spec.lengthMm }],
    folds: [],
    first: { id: 'foot', name: 'foot tab', foldId: 'foot', layer: 'mountain', face: 'front' },
  });
  // Props turn their tabs outwards: on the left half the part lies the other way round.
  const footing = foot(context, {
    partId: made.part.id,
    zoneId: 'glue-foot',
    foldId: 'foot',
    side,
    foldX: 0,
    x: spec.x,
    along: spec.along,
    widthMm,
    under: true,
    down: left,
    landing: spec.id,
  });
  const [from, to] = left ? [low + widthMm, low] : [low, low + widthMm];
  const through: Joint = {
    id: `${context.instanceId}/${spec.id}-through`,
    kind: 'tongue',
    partId: made.part.id,
    hostPartId: spec.hostId,
    slot: [
      [slotX, from],
      [slotX, to],
    ],
    on: [
      [upMm, 0],
      [upMm, widthMm],
    ],
    within: [upMm, widthMm / 2],
    leanDeg: 90,
    // Beyond its tip the prop would leave its slot.
    stops: { from: -upMm, to: spec.lengthMm - upMm },
    drive: null,
  };
  const wide = stockById(context.stockId).thicknessMm + SLOT_CLEARANCE_MM;
  const ring = rectangle(slotX - wide / 2, low - SLOT_CLEARANCE_MM / 2, wide, widthMm + SLOT_CLEARANCE_MM);
  return {
    made,
    joints: [footing.joint, through],
    line: footing.line,
    slot: { id: 'slot', layer: 'cut', path: polyline(ring, true) },
  };
}

/** A part with a slot cut into one of its panels, whose mark is put clear of it. */
export const slotted = (part: Part, slot: DieLine, panelId: string, markX?: number): Part => ({
  ...part,
  lines: [...part.lines, slot],
  marks: part.marks.map((mark) =>
    mark.id === panelId ? { ...mark, at: [markX ?? mark.at[0], 0.6] as Point } : mark,
  ),
});
