/**
 * The picture of a step, made from the solved pose: what is in hand lies flat beside, seen from the side that is worked on, with
 * its folds and its glue; and it is shown on what it goes onto, as far open as the step is done, its place of glue hatched. All
 * in shapes that a screen and a page draw alike, told apart without colour. Millimetres, y down.
 */
import { CARD_ID, openingOf } from '../design/frames.ts';
import type { Design } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import { isCut, isFold, layerOf, stockOf, zoneIn, type Layer, type Part } from '../dieline/part.ts';
import { boxOf, flatten } from '../geometry/path.ts';
import { levelCrossings, type Ring } from '../geometry/polygon.ts';
import type { Point } from '../geometry/point.ts';
import { seenOf } from '../motion/pressed.ts';
import { drawnPanels, foldedPicture, type Opening, type Viewpoint } from '../motion/view.ts';
import { bestView, VIEWS } from '../motion/viewpoint.ts';
import type { BuildStep } from './buildStep.ts';
import type { BuildSheet } from './buildSteps.ts';
import { spotOf } from './rehearsal.ts';
import { lotsOf } from './workable.ts';

export type Shape =
  | {
      readonly kind: 'paper';
      readonly rings: readonly Ring[];
      readonly colour: string;
      readonly light: number;
      readonly front: boolean;
      /** Its outline: heavy where it is in hand; none where its lines are drawn themselves. */
      readonly edge: 'none' | 'thin' | 'heavy';
    }
  /** Where glue goes: an outline, hatched. */
  | {
      readonly kind: 'glue';
      readonly rings: readonly Ring[];
      readonly hatch: readonly (readonly [Point, Point])[];
    }
  | { readonly kind: 'line'; readonly layer: Layer; readonly points: readonly Point[] };

const lineData = (points: readonly Point[]): string =>
  `M${points.map(([x, y]) => `${x.toFixed(2)} ${y.toFixed(2)}`).join('L')}`;

/** A shape as path data: rings closed, with the hatching of glue. */
export function shapeData(shape: Shape): string {
  if (shape.kind === 'line') return lineData(shape.points);
  const rings = shape.rings.map((ring) => `${lineData(ring)}Z`).join('');
  return shape.kind === 'glue' ? `${rings}${shape.hatch.map(lineData).join('')}` : rings;
}

export interface Drawing {
  /** Left, top, width, height. */
  readonly box: readonly [number, number, number, number];
  readonly shapes: readonly Shape[];
}

export interface StepPictures {
  /** What is in hand, flat; null where nothing is. */
  readonly hand: Drawing | null;
  /** What it is like when the step is done; null where there is nothing to see. */
  readonly onto: Drawing | null;
}

/** Distance between the lines of a hatching, as a share of the picture's larger side. */
const HATCH_SHARE = 1 / 45;

/** Lines at 45 degrees through a region, so far apart: the even-odd spans between its crossings. */
export function hatching(rings: readonly Ring[], apartMm: number): (readonly [Point, Point])[] {
  const half = Math.SQRT1_2;
  // Turned so that the hatching is level.
  const turned = rings.map((ring) => ring.map(([x, y]): Point => [(x + y) * half, (y - x) * half]));
  const heights = turned.flat().map(([, y]) => y);
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  const back = (x: number, y: number): Point => [(x - y) * half, (x + y) * half];
  const lines: (readonly [Point, Point])[] = [];
  for (let k = Math.ceil(low / apartMm); k * apartMm < high; k++) {
    const y = k * apartMm + 1e-7;
    const meets = turned.flatMap((ring) => levelCrossings(ring, y)).sort((a, b) => a - b);
    for (let i = 0; i + 1 < meets.length; i += 2) lines.push([back(meets[i], y), back(meets[i + 1], y)]);
  }
  return lines;
}

function framed(shapes: readonly Shape[]): Drawing | null {
  const points = shapes.flatMap((shape) => (shape.kind === 'line' ? shape.points : shape.rings.flat()));
  if (points.length === 0) return null;
  const { minX, minY, maxX, maxY } = boxOf(points);
  const large = Math.max(maxX - minX, maxY - minY, 1);
  const pad = 0.04 * large;
  return {
    box: [minX - pad, minY - pad, maxX - minX + 2 * pad, maxY - minY + 2 * pad],
    shapes: shapes.map((shape) =>
      shape.kind === 'glue' ? { ...shape, hatch: hatching(shape.rings, large * HATCH_SHARE) } : shape,
    ),
  };
}

/** A part as it lies on the table, front or back up. */
function flatPart(part: Part, up: 'front' | 'back', zoneIds: readonly string[]): Shape[] {
  // Turned over about its upright axis; and y down.
  const seen = ([x, y]: Point): Point => [up === 'back' ? -x : x, -y];
  const plan = panelPlan(part);
  return [
    ...plan.panels.map(({ region }): Shape => ({
      kind: 'paper',
      rings: [region.outer, ...region.holes].map((ring) => ring.map(seen)),
      colour: stockOf(part).colour,
      light: 1,
      front: up === 'front',
      edge: 'none',
    })),
    ...part.lines
      .filter((line) => isFold(line) || isCut(line))
      .map((line): Shape => ({
        kind: 'line',
        // From behind a mountain is a valley.
        layer: layerSeen(layerOf(line), up),
        points: flatten(line.path).map(seen),
      })),
    ...part.glueZones
      .filter(({ id, face }) => zoneIds.includes(id) && face === up)
      .map(({ outline }): Shape => ({ kind: 'glue', rings: [outline.map(seen)], hatch: [] })),
  ];
}

const layerSeen = (layer: Layer, up: 'front' | 'back'): Layer =>
  up === 'front' ? layer : layer === 'mountain' ? 'valley' : layer === 'valley' ? 'mountain' : layer;

const views = new WeakMap<BuildSheet, Map<number, Viewpoint>>();
/** From where a sheet’s pictures are looked at: from above while all lies flat, else from where most is seen. */
function viewAt(sheet: BuildSheet, design: Pick<Design, 'brief' | 'base'>, deg: number): Viewpoint {
  const known = views.get(sheet) ?? new Map<number, Viewpoint>();
  views.set(sheet, known);
  const isCard = sheet.expanded.base.kind !== 'structure';
  const view =
    known.get(deg) ??
    (isCard && deg > 150
      ? { turnDeg: 14, riseDeg: 62 }
      : isCard
        ? bestView(sheet.whole, openingOf(design), deg)
        : VIEWS.reader);
  known.set(deg, view);
  return view;
}

/** Some parts as they lie when all is put together, at an opening; glue of one joint hatched. */
function standing(
  sheet: BuildSheet,
  design: Pick<Design, 'brief' | 'base'>,
  step: BuildStep,
  shown: (partId: string) => boolean,
): Drawing | null {
  const { whole } = sheet;
  const opening = openingOf(design);
  const view = viewAt(sheet, design, step.openDeg);
  const faces = foldedPicture(whole, opening, step.openDeg, view)
    .filter(({ partId }) => shown(partId))
    .map(({ rings, colour, light, front, partId }): Shape => ({
      kind: 'paper',
      rings: rings.map((ring) => ring.map(([x, y]): Point => [x, -y])),
      colour,
      light,
      front,
      // What closes onto itself is all in hand: nothing has to stand out.
      edge:
        step.kind === 'join' && step.partIds.includes(partId) && !step.ontoIds.includes(partId)
          ? 'heavy'
          : 'thin',
    }));
  return framed([...faces, ...gluePatch(sheet, opening, step, view)]);
}

/** The glue of a joint where it lies in space. */
function gluePatch(
  { whole, expanded }: BuildSheet,
  opening: Opening,
  { jointId, openDeg }: BuildStep,
  view: Viewpoint,
): Shape[] {
  const joint = expanded.joints.find(({ id }) => id === jointId);
  if (joint?.kind !== 'glue') return [];
  const zone = zoneIn(expanded.parts, joint);
  const own = spotOf(expanded, joint);
  const { panels } = whole.linkage;
  const index = panels.findIndex(
    (panel) => panel.part.id === joint.partId && panelPlan(panel.part).panelContaining(own) === panel.panel,
  );
  if (!zone || index < 0) return [];
  const placed = drawnPanels(whole, opening, openDeg)[index];
  const ring = zone.outline.map((p): Point => {
    const [x, y] = seenOf(panels[index], placed, view, p);
    return [x, -y];
  });
  return [{ kind: 'glue', rings: [ring], hatch: [] }];
}

/**
 * The pictures of a step.
 *
 * @param made the joints that are made before it
 */
export function stepPictures(
  sheet: BuildSheet,
  design: Pick<Design, 'brief' | 'base'>,
  step: BuildStep,
  made: ReadonlySet<string>,
): StepPictures {
  const { expanded, places } = sheet;
  const partOf = (id: string) => expanded.parts.find((part) => part.id === id);
  switch (step.kind) {
    case 'fold':
    case 'decorate': {
      const part = step.partIds.length === 1 ? partOf(step.partIds[0]) : undefined;
      return { hand: part ? framed(flatPart(part, 'front', [])) : null, onto: null };
    }
    case 'join': {
      const part = partOf(step.partIds[0]);
      const joint = expanded.joints.find(({ id }) => id === step.jointId);
      const zones = joint?.kind === 'glue' ? [joint.zoneId] : [];
      const lot = lotsOf(places, new Set([...made, step.jointId!]));
      const still = expanded.rootPartId ?? CARD_ID;
      const near = (id: string) => lot(id) === lot(step.partIds[0]) || id === still;
      return {
        hand: part ? framed(flatPart(part, step.up ?? 'front', zones)) : null,
        onto: standing(sheet, design, step, near),
      };
    }
    case 'dry':
    case 'close':
    case 'press':
      return { hand: null, onto: standing(sheet, design, step, () => true) };
    case 'punch':
    case 'own':
      return { hand: null, onto: null };
  }
}
