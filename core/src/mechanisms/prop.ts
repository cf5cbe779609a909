/** A prop: a strip with a foot on a half, that stands up through a narrow slot of another part and slides in it. */
import { fit } from '../stock/stock.ts';
import { workOf, type DieLine, type Part } from '../dieline/part.ts';
import { polyline } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { BuildContext, Contribution } from './family.ts';
import { acrossAt, Making } from './making.ts';
import { rectangle } from './pieces.ts';

export interface PropSpec {
  /** Id of its part, and of its landing and joints, within the instance. */
  readonly id: string;
  /** Its name after that of the mechanism. */
  readonly title: string;
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
  readonly contribution: Contribution;
  /** The slot as a line of the host. */
  readonly hostId: string;
  readonly slot: DieLine;
}

/** Builds a prop; the slot that comes with it is cut into its host with `slotted`. */
export function prop(context: BuildContext, spec: PropSpec): Prop {
  const { id, side, slotX, low, widthMm, upMm, hostId } = spec;
  const left = side === 'left';
  const made = new Making(context);
  const part = made.strip(id, {
    title: spec.title,
    widthMm,
    tabMm: spec.tabMm,
    taperMm: spec.taperMm,
    panels: [{ ...spec.panel, lengthMm: spec.lengthMm }],
    folds: [],
    first: { id: 'foot', name: 'foot tab', foldId: 'foot', ...workOf('mountain'), face: 'front' },
  });
  // Props turn their tabs outwards: on the left half the part lies the other way round.
  made.foot(part, {
    zoneId: 'glue-foot',
    foldId: 'foot',
    side,
    foldX: 0,
    x: spec.x,
    along: spec.along,
    widthMm,
    under: true,
    down: left,
    landing: id,
  });
  made.join({
    id: `${id}-through`,
    kind: 'tongue',
    partId: part.id,
    hostPartId: hostId,
    slot: left ? acrossAt(slotX, low + widthMm, low) : acrossAt(slotX, low, low + widthMm),
    on: acrossAt(upMm, 0, widthMm),
    within: [upMm, widthMm / 2],
    leanDeg: 90,
    // Beyond its tip the prop would leave its slot.
    stops: { from: -upMm, to: spec.lengthMm - upMm },
    drive: null,
  });
  const { slotMm, playMm } = fit(context.stock, 'loose', context.fits);
  const ring = rectangle(slotX - slotMm / 2, low - playMm / 2, slotMm, widthMm + playMm);
  return {
    contribution: made.done(),
    hostId,
    slot: { id: 'slot', ...workOf('cut'), path: polyline(ring, true) },
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
