/** Paper as solids: a panel with its thickness and the lines of its edges, and the bend between two panels at a fold. */
import type { BentThrough } from '@hollow-finch/core/checks/slotted';
import { stockOf } from '@hollow-finch/core/dieline/part';
import { place } from '@hollow-finch/core/geometry/isometry';
import { distance, distanceToSegment, type Point } from '@hollow-finch/core/geometry/point';
import { ringArea, type Region } from '@hollow-finch/core/geometry/polygon';
import { difference, intersection, solid } from '@hollow-finch/core/geometry/regions';

import { pictureShare, pictureWithin, type LaidPicture } from '@hollow-finch/core/mechanisms/pictures';
import type { Linkage } from '@hollow-finch/core/motion/linkage';
import type { PanelRef } from '@hollow-finch/core/motion/panelRef';
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  ExtrudeGeometry,
  Float32BufferAttribute,
  Group,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  Shape,
  ShapeGeometry,
  type Texture,
  Vector2,
  Vector3,
  type Matrix4,
  type Object3D,
} from 'three';

/** So near to a fold a stretch of an outline belongs to it, mm. */
const ON_FOLD_MM = 0.02;

/** Lines are drawn so far over the paper, less than half of the air between two sheets, mm. */
const OVER_MM = 0.025;

/** Artwork: how it lies on its part, and the address of its picture. */
export interface Art {
  readonly laid: LaidPicture;
  readonly data: string;
}

/** A fold between two panels: its ends in the plane of their part. */
interface Bend {
  readonly left: number;
  readonly right: number;
  readonly from: Point;
  readonly to: Point;
}

const bendsOf = ({ creases, heldFolds }: Linkage): Bend[] =>
  [...creases, ...heldFolds].map(({ leftPanel, rightPanel, from, to }) => ({
    left: leftPanel,
    right: rightPanel,
    from,
    to,
  }));

/** Cut edges are drawn so much darker than the faces. */
const EDGE_SHADE = 0.62;

const paperOf = (panel: PanelRef): MeshLambertMaterial => {
  const { colour, kind } = stockOf(panel.part);
  const film = kind === 'film';
  return new MeshLambertMaterial({
    color: new Color(colour),
    side: DoubleSide,
    transparent: film,
    opacity: film ? 0.4 : 1,
  });
};

/** How wide the drawn edge of a sheet is, and a fold on it, mm. */
const EDGE_MM = 0.42;
const FOLD_MM = 0.3;

/** A stretch of an outline with the unit normal into the paper. */
interface Stretch {
  readonly from: Point;
  readonly to: Point;
  readonly inwards: Point;
}

/** Lines along stretches of an outline: how wide, how strong. */
interface Band {
  readonly stretches: readonly Stretch[];
  readonly widthMm: number;
  readonly opacity: number;
}

/**
 * Lines along stretches of an outline, on both faces of a sheet: bands that lie on the paper, for a line of the graphics has
 * no slope and is broken by the paper that it lies on. All of a sheet are one mesh: each mesh takes its time.
 */
function bands(drawn: readonly Band[], half: number, dark: boolean): Mesh {
  const [corners, colours]: [number[], number[]] = [[], []];
  const ink = new Color(dark ? '#0c0c0a' : '#2f2b23');
  for (const { stretches, widthMm, opacity } of drawn)
    for (const { from, to, inwards } of stretches) {
      const inner = ([x, y]: Point): Point => [x + widthMm * inwards[0], y + widthMm * inwards[1]];
      const [a, b, c, d] = [from, to, inner(to), inner(from)];
      for (const z of [half + OVER_MM, -half - OVER_MM])
        for (const [x, y] of [a, b, c, a, c, d]) {
          corners.push(x, y, z);
          colours.push(ink.r, ink.g, ink.b, opacity);
        }
    }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new Float32BufferAttribute(corners, 3));
  geometry.setAttribute('color', new Float32BufferAttribute(colours, 4));
  return new Mesh(
    geometry,
    new MeshBasicMaterial({ vertexColors: true, side: DoubleSide, transparent: true, depthWrite: false }),
  );
}

/** A sheet of paper with its cut edges in a darker shade. */
function solidOf(shape: Shape, half: number): ExtrudeGeometry {
  const solid = new ExtrudeGeometry(shape, { depth: 2 * half, bevelEnabled: false, steps: 1 });
  solid.translate(0, 0, -half);
  const shades = new Float32Array(solid.getAttribute('position').array.length).fill(1);
  const sides = solid.groups[1];
  if (sides) shades.fill(EDGE_SHADE, 3 * sides.start, 3 * (sides.start + sides.count));
  solid.setAttribute('color', new BufferAttribute(shades, 3));
  solid.clearGroups();
  return solid;
}

export interface Sheet {
  readonly material: MeshLambertMaterial;
  readonly group: Group;
  /** What of it goes through a slot when it is folded up; within the group. */
  readonly tip?: Group;
}

/** Artwork lies so far over the paper, under the lines of its edges, mm. */
const ART_OVER_MM = 0.012;

/** Pictures as the graphics hold them, by their addresses: each is unpacked once. */
export type Textures = (data: string) => Texture;

/** What of a picture lies on a panel, as a face of its own over the paper. */
function artOf(
  art: Art,
  panel: PanelRef,
  laid: (p: Point) => Point,
  half: number,
  textures: Textures,
): Mesh[] {
  const isFront = art.laid.picture.face === 'front';
  const over = (isFront === !panel.placement.flip ? 1 : -1) * (half + ART_OVER_MM);
  return pictureWithin(art.laid, panel.region).map((region) => {
    const ring = (points: readonly Point[]) => points.map((p) => new Vector2(...p));
    const shape = new Shape(ring(region.outer));
    shape.holes = region.holes.map((hole) => new Shape(ring(hole)));
    const geometry = new ShapeGeometry(shape);
    const at = geometry.getAttribute('position');
    const share = new Float32Array(2 * at.count);
    for (let i = 0; i < at.count; i++) {
      const p: Point = [at.getX(i), at.getY(i)];
      share.set(pictureShare(art.laid, p), 2 * i);
      at.setXYZ(i, ...laid(p), over);
    }
    geometry.setAttribute('uv', new BufferAttribute(share, 2));
    geometry.computeVertexNormals();
    const material = new MeshLambertMaterial({
      map: textures(art.data),
      side: DoubleSide,
      transparent: true,
      opacity: art.laid.picture.strength,
      depthWrite: false,
    });
    const mesh = new Mesh(geometry, material);
    mesh.receiveShadow = true;
    return mesh;
  });
}

/** Larger than any panel, mm. */
const FAR_MM = 5_000;

/** Both sides of a line of a region: what is on its left, and the rest. */
function partedAt(region: Region, [from, to]: readonly [Point, Point]): { left: Region[]; right: Region[] } {
  const long = distance(from, to);
  const [ux, uy] = [(to[0] - from[0]) / long, (to[1] - from[1]) / long];
  const at = (x: number, y: number): Point => [from[0] + ux * x - uy * y, from[1] + uy * x + ux * y];
  const half = [solid([at(-FAR_MM, 0), at(FAR_MM, 0), at(FAR_MM, FAR_MM), at(-FAR_MM, FAR_MM)])];
  return { left: intersection([region], half), right: difference([region], half) };
}

/** A panel in the plane of its body, or (loose) of its part: its paper, and a group of paper and lines. */
function sheetOf(
  panel: PanelRef,
  folds: readonly Bend[],
  through: BentThrough | undefined,
  ...rest: readonly [dark: boolean, loose: boolean, artwork: readonly Art[], textures: Textures]
): Sheet {
  const material = paperOf(panel);
  material.vertexColors = true;
  const group = new Group();
  group.matrixAutoUpdate = false;
  if (!through || rest[1]) {
    group.add(...layersOf(panel, folds, material, ...rest));
    return { material, group };
  }
  const [from, to] = through.line;
  const { left, right } = partedAt(panel.region, through.line);
  const edges = [...folds, { left: -1, right: -1, from, to }];
  const layers = (regions: readonly Region[]) =>
    regions.flatMap((region) => layersOf({ ...panel, region }, edges, material, ...rest));
  const tip = new Group();
  tip.matrixAutoUpdate = false;
  tip.add(...layers(left));
  group.add(tip, ...layers(right));
  return { material, group, tip };
}

/** What is drawn of a panel: its paper, its pictures, its lines. */
function layersOf(
  panel: PanelRef,
  folds: readonly Pick<Bend, 'from' | 'to'>[],
  material: MeshLambertMaterial,
  dark: boolean,
  loose: boolean,
  artwork: readonly Art[],
  textures: Textures,
): Mesh[] {
  const laid = (p: Point): Point => (loose ? p : place(panel.placement, p));
  const points = (ring: readonly Point[]) => ring.map((p) => new Vector2(...laid(p)));
  const half = stockOf(panel.part).thicknessMm / 2;
  const shape = new Shape(points(panel.region.outer));
  shape.holes = panel.region.holes.map((hole) => new Shape(points(hole)));
  const paper = new Mesh(solidOf(shape, half), material);
  paper.castShadow = true;
  paper.receiveShadow = true;
  const [edges, onFolds]: [Stretch[], Stretch[]] = [[], []];
  [panel.region.outer, ...panel.region.holes].forEach((ring, k) => {
    const placed = ring.map(laid);
    // The paper is to the left of an outline that turns left, and to the right of a hole's that does.
    const side = Math.sign(ringArea(placed)) * (k === 0 ? 1 : -1);
    ring.forEach((a, i) => {
      const next = (i + 1) % ring.length;
      const folded = folds.some(({ from, to }) =>
        [a, ring[next]].every((p) => distanceToSegment(p, from, to) < ON_FOLD_MM),
      );
      const [from, to] = [placed[i], placed[next]];
      const long = distance(from, to) || 1;
      const inwards: Point = [(-side * (to[1] - from[1])) / long, (side * (to[0] - from[0])) / long];
      (folded ? onFolds : edges).push({ from, to, inwards });
    });
  });
  const drawn = bands(
    [
      { stretches: edges, widthMm: EDGE_MM, opacity: 0.9 },
      { stretches: onFolds, widthMm: FOLD_MM, opacity: 0.22 },
    ],
    half,
    dark,
  );
  return [paper, ...artwork.flatMap((art) => artOf(art, panel, laid, half, textures)), drawn];
}

/** The paper between two panels at their fold, from the edge of the one to that of the other, both faces and both ends. */
export interface Bent {
  readonly mesh: Mesh<BufferGeometry, MeshLambertMaterial>;
  readonly bend: Bend;
  /** Puts it between its two panels, wherever they are. */
  readonly lay: (left: Matrix4, right: Matrix4) => void;
}

// Corners: 0 to 3 of the left panel (start over, start under, end over, end under), 4 to 7 of the right one.
const BENT_FACES = [0, 2, 6, 0, 6, 4, 1, 5, 7, 1, 7, 3, 0, 4, 5, 0, 5, 1, 2, 3, 7, 2, 7, 6];

function bentOf(bend: Bend, panels: readonly PanelRef[]): Bent {
  const [left, right] = [panels[bend.left], panels[bend.right]];
  const half = stockOf(left.part).thicknessMm / 2;
  const corners = (panel: PanelRef): Vector3[] => {
    // The part's own front and back, whichever way the body has it.
    const over = panel.placement.flip ? -half : half;
    return [bend.from, bend.to].flatMap((p) => {
      const [x, y] = place(panel.placement, p);
      return [new Vector3(x, y, over), new Vector3(x, y, -over)];
    });
  };
  const [ofLeft, ofRight] = [corners(left), corners(right)];
  const geometry = new BufferGeometry();
  const at = new BufferAttribute(new Float32Array(24), 3);
  geometry.setAttribute('position', at);
  geometry.setIndex(BENT_FACES);
  const material = paperOf(left);
  material.flatShading = true;
  const mesh = new Mesh(geometry, material);
  mesh.frustumCulled = false;
  const v = new Vector3();
  return {
    mesh,
    bend,
    lay: (a, b) => {
      ofLeft.forEach((p, i) => at.setXYZ(i, ...v.copy(p).applyMatrix4(a).toArray()));
      ofRight.forEach((p, i) => at.setXYZ(4 + i, ...v.copy(p).applyMatrix4(b).toArray()));
      at.needsUpdate = true;
    },
  };
}

export interface Papers {
  readonly sheets: readonly Sheet[];
  readonly bends: readonly Bent[];
}

/** All paper of a linkage; what bends through slots in two. What hangs together with nothing is in the plane of its own part. */
export function papersOf(
  linkage: Linkage,
  through: readonly BentThrough[],
  dark: boolean,
  artwork: ReadonlyMap<string, readonly Art[]>,
  textures: Textures,
): Papers {
  const { panels, attached } = linkage;
  const bends = bendsOf(linkage);
  const of = panels.map((_, i) => bends.filter(({ left, right }) => left === i || right === i));
  return {
    sheets: panels.map((panel, i) =>
      sheetOf(
        panel,
        of[i],
        through.find((bent) => bent.panel === i),
        dark,
        !attached[panel.body],
        artwork.get(panel.part.id) ?? [],
        textures,
      ),
    ),
    bends: bends
      .filter(({ left, right }) => attached[panels[left].body] && attached[panels[right].body])
      .map((bend) => bentOf(bend, panels)),
  };
}

/** Lets go of what the graphics hold of an object. */
export function dispose(root: Object3D): void {
  root.traverse((node) => {
    if (!(node instanceof Mesh)) return;
    const { geometry, material } = node as Mesh;
    geometry.dispose();
    for (const one of Array.isArray(material) ? material : [material]) one.dispose();
  });
}
