/**
 * What a mechanism adds, put together piece by piece: parts, joints and lines get their ids within the instance and their
 * names, glue and drivers their usual form.
 */
import {
  workOf,
  type DieLine,
  type GlueZone,
  type Layer,
  type PanelMark,
  type Part,
} from '../dieline/part.ts';
import type { Drive, GlueJoint, Joint } from '../design/design.ts';
import { alignSegment, compose, IDENTITY, placing, type Isometry } from '../geometry/isometry.ts';
import { placePath, polyline, straight, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import type { BuildContext, Contribution } from './family.ts';
import { partName } from './names.ts';
import { strip, type Strip, type StripSpec } from './pieces.ts';

type Ring = readonly Point[];
type Side = 'left' | 'right';
type Edge = readonly [Point, Point];

const pathOf = (drawn: Path | Ring): Path => ('start' in drawn ? drawn : polyline(drawn, true));

/** What there is of a part besides its outline. */
interface Drawn {
  /** Its name after that of the mechanism; its id unless said. */
  readonly title?: string;
  readonly cuts?: Readonly<Record<string, Path | Ring>>;
  readonly lines?: readonly DieLine[];
  /** Zones on its back: what is glued, by id, and what must stay free of glue. */
  readonly glue?: Readonly<Record<string, Ring>>;
  readonly keepOut?: Ring;
  /** Zones of any other kind. */
  readonly zones?: readonly GlueZone[];
  readonly quantity?: number;
  readonly grainRad?: number;
  /** That of the mechanism unless said. */
  readonly stockId?: string;
}

interface PlateRest extends Drawn {
  /** Its panel's id, that of the part unless said; and a place on it that nothing is cut from. */
  readonly panel?: string;
  readonly at: Point;
}

/** What holds a panel without glue. */
export type Held = Pick<PanelMark, 'behind' | 'through'>;

interface PartRest extends Drawn {
  readonly panels: readonly (readonly [id: string, name: string, at: Point, role?: 'tab', held?: Held])[];
}

/** Zones on the back of a part. */
export const zonesOf = ({
  glue = {},
  keepOut,
  zones = [],
}: Pick<Drawn, 'glue' | 'keepOut' | 'zones'>): GlueZone[] => [
  ...Object.entries(glue).map(([id, outline]): GlueZone => ({ id, outline, face: 'back', kind: 'glue' })),
  ...(keepOut ? [{ id: 'keep-out', outline: keepOut, face: 'back', kind: 'keepOut' } as const] : []),
  ...zones,
];

/** A line across a strip at x, upwards; downwards when `y0` is the greater one. */
export const acrossAt = (x: number, y0: number, y1: number): Edge => [
  [x, y0],
  [x, y1],
];

/** A box that reaches so far from a centre to each side, and between two heights from it. */
export const boxRound = ([x, y]: Point, reach: number, low = -reach, high = reach) => ({
  minX: x - reach,
  maxX: x + reach,
  minY: y + low,
  maxY: y + high,
});

/** Where the foot of a part stands. */
export interface FootSpec {
  readonly zoneId: string;
  readonly foldId: string;
  readonly side: Side;
  readonly foldX: number;
  readonly x: number;
  readonly along: number;
  readonly widthMm: number;
  readonly under: boolean;
  /** The part's fold runs down the landing instead of up. */
  readonly down?: boolean;
  readonly landing: string;
}

/** Nothing yet: what a contribution has when it adds no such thing. */
const NOTHING: Contribution = {
  parts: [],
  joints: [],
  hostLines: [],
  hostMarks: [],
  gutterGaps: [],
  panelFrames: {},
  gutters: [],
};

/** Frames of the panels of a part that is drawn as it lies. */
const ownFrames = (part: Part): Readonly<Record<string, Isometry>> =>
  Object.fromEntries(part.marks.map((mark) => [mark.id, IDENTITY]));

const OTHER_FACE = { front: 'back', back: 'front' } as const;

/** A joint that is described as seen from the back of its host. */
function seenFromBehind(joint: Joint): Joint {
  switch (joint.kind) {
    case 'pivot':
      return { ...joint, face: OTHER_FACE[joint.face], behind: true };
    case 'slide':
    case 'pin':
      return { ...joint, face: OTHER_FACE[joint.face] };
    case 'tongue':
    case 'cross':
    case 'rest':
    case 'wrap':
      return { ...joint, behind: true };
    default:
      return joint;
  }
}

/** Collects what one instance adds. */
export class Making {
  private readonly parts: Part[] = [];
  private readonly joints: Joint[] = [];
  private readonly hostLines: Contribution['hostLines'][number][] = [];
  private readonly panelFrames: Record<string, Readonly<Record<string, Isometry>>> = {};

  constructor(readonly context: BuildContext) {}

  /** An id within the instance. */
  id(own: string): string {
    return `${this.context.instanceId}/${own}`;
  }

  /** Adds a part that was made elsewhere; its panels lie as the part does unless frames are given. */
  add(part: Part, frames = ownFrames(part)): Part {
    this.parts.push(part);
    this.panelFrames[part.id] = frames;
    return part;
  }

  /** Everything that another mechanism adds, its parts changed by `change`. */
  include(other: Contribution, change: (part: Part) => Part = (part) => part): void {
    for (const part of other.parts) this.add(change(part), other.panelFrames[part.id]);
    this.joints.push(...other.joints);
    this.hostLines.push(...other.hostLines);
  }

  /** A flat part with one panel. */
  plate(id: string, outline: Path | Ring, { panel = id, at, ...rest }: PlateRest): Part {
    return this.part(id, outline, { ...rest, panels: [[panel, rest.title ?? id, at]] });
  }

  /** A part with several panels, each with its id, its name and a place on it. */
  part(id: string, outline: Path | Ring, rest: PartRest): Part {
    const { title = id, cuts = {}, lines = [], quantity = 1, grainRad = null, panels } = rest;
    const { stockId = this.context.stockId } = rest;
    return this.add({
      id: this.id(id),
      name: partName(this.context.name, title),
      stockId,
      grainRad,
      quantity,
      lines: [
        { id: 'outline', ...workOf('cut'), path: pathOf(outline) },
        ...Object.entries(cuts).map(([line, path]): DieLine => ({
          id: line,
          ...workOf('cut'),
          path: pathOf(path),
        })),
        ...lines,
      ],
      glueZones: zonesOf(rest),
      marks: panels.map(([panel, name, at, role, held]): PanelMark => ({
        id: panel,
        name,
        at,
        ...(role ? { role } : {}),
        ...held,
      })),
    });
  }

  /** A strip of panels side by side, which is changed by `change` before it is added. */
  strip(
    id: string,
    spec: Omit<StripSpec, 'id' | 'name' | 'stockId'> & { readonly title?: string },
    change: (made: Strip) => Part = (made) => made.part,
  ): Part {
    const { name, stockId } = this.context;
    const made = strip({ ...spec, id: this.id(id), name: partName(name, spec.title ?? id), stockId });
    return this.add(change(made), made.frames);
  }

  /** Any joint, its id within the instance; on the back of what the mechanism stands on it is seen from there. */
  join(joint: Joint): void {
    const made = { ...joint, id: this.id(joint.id) };
    this.joints.push(this.fromBehind(made.hostPartId) ? seenFromBehind(made) : made);
  }

  /** Whether a part is what the mechanism stands on, and it stands on its back. */
  private fromBehind(partId: string): boolean {
    const { left, right } = this.context.gutter;
    return [left, right].some((side) => side.partId === partId && side.frame.flip);
  }

  /**
   * Glue: a zone (`glue` unless said) on what the mechanism stands on, in mechanism coordinates, or on another of its parts,
   * in that one's plane. The joint has the zone's id unless said.
   */
  glue(
    part: Part,
    placement: Isometry,
    rest: {
      readonly zone?: string;
      readonly id?: string;
      readonly side?: Side;
      readonly onto?: Part;
      readonly layers?: number;
      readonly mate?: GlueJoint['mate'];
    } = {},
  ): void {
    const { zone = 'glue', id = zone, side = 'left', onto, layers, mate = null } = rest;
    const host = this.context.gutter[side];
    this.join({
      id,
      kind: 'glue',
      partId: part.id,
      zoneId: zone,
      ...(onto
        ? { hostPartId: onto.id, placement }
        : { hostPartId: host.partId, placement: compose(host.frame, placement) }),
      mate,
      ...(layers === undefined ? {} : { layers }),
    });
  }

  /**
   * A foot: the fold at (foldX, 0..width) of a part glued so that it lies on the line from (x, along) to (x, along + width)
   * of a half; `under` turns the part over, so that its tab lies on the other side. With its landing drawn as a guide.
   */
  foot(part: Part, spec: FootSpec): void {
    const { side, foldId, foldX, x, along, widthMm, under, down = false } = spec;
    const lineId = `landing-${spec.landing}`;
    const [low, high] = acrossAt(x, along, along + widthMm);
    const onHost: Edge = down ? [high, low] : [low, high];
    this.glue(part, alignSegment([foldX, 0], [foldX, widthMm], ...onHost, under), {
      zone: spec.zoneId,
      id: `glue-${spec.landing}`,
      side,
      mate: { lineId: foldId, hostLineId: this.id(lineId) },
    });
    this.guide(lineId, low, high, side);
  }

  /** What a person moves, under the mechanism's name. */
  drive(from: number, to: number, rest = from, atOpeningDeg = 180): Drive {
    return { name: this.context.name, from, to, rest, atOpeningDeg };
  }

  /** Folds that a person turns, each by so many times the drive's value. */
  hand(id: string, part: Part | string, folds: Readonly<Record<string, number>>, drive: Drive): void {
    this.join({
      id,
      kind: 'hand',
      partId: typeof part === 'string' ? part : part.id,
      hostPartId: this.context.gutter.left.partId,
      folds: Object.entries(folds).map(([lineId, factor]) => ({ lineId, factor })),
      drive,
    });
  }

  /** An edge of one part in half slots, or in a slit, of another. */
  cross(
    id: string,
    [host, slot]: readonly [Part, Edge],
    [part, on, within]: readonly [Part, Edge, Point],
    leanDeg: number,
  ): void {
    this.join({
      id,
      kind: 'cross',
      partId: part.id,
      hostPartId: host.id,
      slot,
      on,
      within,
      leanDeg,
      stops: null,
      drive: null,
    });
  }

  /** A line on what the mechanism stands on, in mechanism coordinates. */
  line(id: string, layer: Layer, path: Path, side: Contribution['hostLines'][number]['side'] = 'left'): void {
    this.hostLines.push({ side, line: { id: this.id(id), ...workOf(layer), path } });
  }

  /** A hole in what it stands on, drawn in a frame of its own. */
  cut(id: string, path: Path | Ring, frame: Isometry = IDENTITY): void {
    this.line(id, 'cut', placePath(frame, pathOf(path)));
  }

  /** Where something lies on what it stands on, as a guide. */
  landing(ring: Ring, frame: Isometry = IDENTITY, id = 'landing'): void {
    this.line(id, 'mark', polyline(ring.map(placing(frame)), true));
  }

  /** A guide along a line. */
  guide(id: string, from: Point, to: Point, side: Side = 'left'): void {
    this.line(id, 'mark', straight(from, to), side);
  }

  /** All of it, as what stands by itself and is folded up in these steps. */
  standing(stages: readonly string[], rest: Partial<Contribution> = {}): Contribution {
    return this.done({ stages, loose: this.parts.map(({ id }) => id), ...rest });
  }

  /** All of it, with what else there is to say. */
  done(rest: Partial<Contribution> = {}): Contribution {
    const { parts, joints, hostLines, panelFrames } = this;
    return { ...NOTHING, parts, joints, hostLines, panelFrames, ...rest };
  }
}
