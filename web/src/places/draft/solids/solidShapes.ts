/** The kinds of solids that can be laid flat, their measures, and flat outlines that get depth. */
import type { Design } from '@hollow-finch/core/design/design';
import type { Counter, FaceOpening } from '@hollow-finch/core/design/solidParts';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import type { Point } from '@hollow-finch/core/geometry/point';
import { coarsened, counterClockwise, largestRegion, type Region } from '@hollow-finch/core/geometry/polygon';
import { blockLetter } from '@hollow-finch/core/mechanisms/blockLetters';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { SolidSource } from '../../../workers/solid.worker.ts';

/** Kinds of solids, as they are chosen. */
export const SHAPES = {
  prism: 'Prism',
  pyramid: 'Pyramid',
  frustum: 'Frustum: narrower above',
  antiprism: 'Antiprism: sides of triangles',
  dome: 'Dome',
  uniform: 'Regular and half-regular solids',
  star: 'Star: a regular solid with points',
  letter: 'Letter or figure with depth',
  silhouette: 'A drawn part with depth',
  file: 'From an OBJ, STL or glTF file',
} as const;
export type Shape = keyof typeof SHAPES;

/** Where seams are best, as far as that can be had. */
export const CUTS = {
  any: 'Wherever it unfolds best',
  behind: 'Behind, where it is not seen',
  below: 'Below, where it stands',
  short: 'Where seams are short',
} as const;

export const OPENINGS = {
  none: 'None',
  star: 'Stars',
  round: 'Round',
} as const satisfies Record<FaceOpening | 'none', string>;

/** Tabs less deep than this are left out, mm. */
export const LEAST_TAB_MM = 1.5;

export interface Measures {
  readonly sides: number;
  readonly sideMm: number;
  readonly topMm: number;
  readonly heightMm: number;
  readonly courses: number;
  readonly radiusMm: number;
  readonly name: string;
  readonly edgeMm: number;
  readonly pointMm: number;
  readonly longestMm: number;
  readonly mostFaces: number;
  readonly letter: string;
  readonly depthMm: number;
  readonly partId: string;
}

export const USUAL: Measures = {
  sides: 6,
  sideMm: 40,
  topMm: 25,
  heightMm: 70,
  courses: 4,
  radiusMm: 50,
  name: 'dodecahedron',
  edgeMm: 35,
  pointMm: 30,
  longestMm: 120,
  mostFaces: 400,
  letter: 'A',
  depthMm: 20,
  partId: '',
};

/** A solid by its measures. */
export function sourceOf(shape: Shape, m: Measures, design: Design): SolidSource {
  const { sides, sideMm, heightMm } = m;
  switch (shape) {
    case 'prism':
      return { kind: 'frustum', sides, sideMm, topMm: sideMm, heightMm };
    case 'pyramid':
      return { kind: 'frustum', sides, sideMm, topMm: 0, heightMm };
    case 'frustum':
      return { kind: 'frustum', sides, sideMm, topMm: m.topMm, heightMm };
    case 'antiprism':
      return { kind: 'antiprism', sides, sideMm, heightMm };
    case 'dome':
      return { kind: 'dome', sides, courses: m.courses, radiusMm: m.radiusMm };
    case 'uniform':
      return { kind: 'uniform', name: m.name, edgeMm: m.edgeMm, pointMm: 0 };
    case 'star':
      return { kind: 'uniform', name: m.name, edgeMm: m.edgeMm, pointMm: m.pointMm };
    case 'file':
      return { kind: 'file', longestMm: m.longestMm, mostFaces: m.mostFaces };
    case 'letter':
    case 'silhouette': {
      const flat = outlineOf(shape, m, design);
      return { kind: 'outline', outline: flat.outer, depthMm: m.depthMm };
    }
  }
}

/** The most corners that a flat outline has: each is a fold across its wall. */
const MOST_CORNERS = 72;

/** The outline that gets depth, its corners few enough to fold, and its holes. */
export function outlineOf(shape: 'letter' | 'silhouette', m: Measures, design: Design): Region {
  const regions =
    shape === 'letter'
      ? blockLetter(m.letter).map(({ outer, holes }) => ({
          outer: outer.map(([x, y]): Point => [x * m.heightMm, y * m.heightMm]),
          holes: holes.map((hole) => hole.map(([x, y]): Point => [x * m.heightMm, y * m.heightMm])),
        }))
      : expand(design)
          .parts.filter(({ id }) => id === m.partId)
          .flatMap((part) => panelPlan(part).panels.map(({ region }) => region));
  if (regions.length === 0) throw new RangeError('Choose a part that has a closed outline.');
  const { outer, holes } = largestRegion(regions);
  const few = (ring: readonly Point[]): readonly Point[] => {
    for (let tolerance = 0.02; ; tolerance *= 1.6) {
      const kept = coarsened(ring, tolerance);
      if (kept.length <= MOST_CORNERS) return counterClockwise(kept);
    }
  };
  return { outer: few(outer), holes: holes.map(few) };
}

/** The holes of an outline on both of its faces: the back is the first face, seen from behind, the front the second. */
export const countersOf = ({ outer, holes }: Region): Counter[] =>
  holes.flatMap((ring): Counter[] => {
    const n = outer.length;
    const mirrored = ([x, y]: Point): Point => [-x, y];
    return [
      { face: 0, first: [mirrored(outer[n - 1]), mirrored(outer[n - 2])], ring: ring.map(mirrored) },
      { face: 1, first: [outer[0], outer[1]], ring },
    ];
  });

/** What a solid is called on the board. */
export const nameOf = (shape: Shape, m: Measures, fileName: string | undefined): string =>
  shape === 'file'
    ? (fileName ?? 'Solid').replace(/\.[^.]*$/, '').slice(0, 100) || 'Solid'
    : shape === 'letter'
      ? `Letter ${m.letter}`
      : shape === 'silhouette'
        ? 'Silhouette'
        : shape === 'uniform'
          ? m.name.replace(/^./, (c) => c.toUpperCase())
          : shape === 'star'
            ? 'Star'
            : SHAPES[shape].replace(/:.*/, '');
