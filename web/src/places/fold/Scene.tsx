import { place } from '@hollow-finch/core/geometry/isometry';
import { multiply, RIGID_SIZE } from '@hollow-finch/core/geometry/rigid';
import type { Catch } from '@hollow-finch/core/motion/catches';
import type { PanelRef } from '@hollow-finch/core/motion/linkage';
import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { drawnBody, drawnPlace, isThere, tablePlacement, type Opening } from '@hollow-finch/core/motion/view';
import { stockById } from '@hollow-finch/core/stock/stock';
import { useComputedColorScheme } from '@mantine/core';
import { Canvas, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import {
  BufferGeometry,
  Color,
  DoubleSide,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  MeshStandardMaterial,
  Shape,
  ShapeGeometry,
  Vector2,
  Vector3,
  type Object3D,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';

const FIELD_DEG = 32;

/** Coplanar panels are drawn this far apart per layer, so that glued ones can be seen. */
const LAYER_MM = 0.3;

/** A panel in its body's plane: its paper, and a group of paper and edges. */
function panelObject(
  panel: PanelRef,
  dark: boolean,
): { paper: Mesh<ShapeGeometry, MeshStandardMaterial>; group: Group } {
  const points = (ring: readonly (readonly [number, number])[]) =>
    ring.map((p) => new Vector2(...place(panel.placement, p)));
  const shape = new Shape(points(panel.region.outer));
  shape.holes = panel.region.holes.map((hole) => new Shape(points(hole)));
  const stock = stockById(panel.part.stockId);
  const film = stock.kind === 'film';
  const group = new Group();
  const paper = new Mesh(
    new ShapeGeometry(shape),
    new MeshStandardMaterial({
      color: new Color(stock.colour),
      side: DoubleSide,
      roughness: 0.95,
      metalness: 0,
      transparent: film,
      opacity: film ? 0.4 : 1,
      polygonOffset: true,
      polygonOffsetFactor: 0.05,
      polygonOffsetUnits: 1,
    }),
  );
  const edges: number[] = [];
  for (const ring of [panel.region.outer, ...panel.region.holes]) {
    const placed = points(ring);
    placed.forEach((p, i) => {
      const q = placed[(i + 1) % placed.length];
      edges.push(p.x, p.y, 0, q.x, q.y, 0);
    });
  }
  const outline = new BufferGeometry();
  outline.setAttribute('position', new Float32BufferAttribute(edges, 3));
  group.add(paper, new LineSegments(outline, new LineBasicMaterial({ color: dark ? '#0c0c0a' : '#3a352b' })));
  group.position.z = panel.liftLayers * LAYER_MM;
  return { paper, group };
}

function dispose(root: Object3D): void {
  root.traverse((node) => {
    if (node instanceof Mesh || node instanceof LineSegments) {
      (node.geometry as BufferGeometry).dispose();
      (node.material as MeshStandardMaterial).dispose();
    }
  });
}

function Card({
  sweep,
  opening,
  deg,
  catches,
  dark,
}: Pick<SceneProps, 'sweep' | 'opening' | 'deg' | 'catches'> & { dark: boolean }) {
  const { invalidate } = useThree();
  const { bodies, papers } = useMemo(() => {
    const groups = Array.from({ length: sweep.linkage.bodyCount }, () => {
      const group = new Group();
      group.matrixAutoUpdate = false;
      return group;
    });
    const papers = sweep.linkage.panels.map((panel) => {
      const { paper, group } = panelObject(panel, dark);
      if (sweep.linkage.attached[panel.body]) groups[panel.body].add(group);
      return paper;
    });
    return { bodies: groups, papers };
  }, [sweep, dark]);
  useEffect(() => () => bodies.forEach(dispose), [bodies]);
  useEffect(() => {
    const drawn = drawnPlace(deg);
    const table = tablePlacement(sweep, opening, drawn);
    const [body, placed] = [new Float64Array(RIGID_SIZE), new Float64Array(RIGID_SIZE)];
    bodies.forEach((group, i) => {
      multiply(placed, table, drawnBody(sweep, i, drawn, body));
      group.matrix.copy(
        new Matrix4().set(
          placed[0],
          placed[1],
          placed[2],
          placed[3],
          placed[4],
          placed[5],
          placed[6],
          placed[7],
          placed[8],
          placed[9],
          placed[10],
          placed[11],
          0,
          0,
          0,
          1,
        ),
      );
      group.matrixWorldNeedsUpdate = true;
    });
    invalidate();
  }, [bodies, sweep, opening, deg, invalidate]);
  // Both pieces of a catch are lit while they are in each other.
  useEffect(() => {
    const lit = new Set(catches.filter((c) => deg >= c.fromDeg && deg <= c.toDeg).flatMap((c) => [c.a, c.b]));
    papers.forEach((paper, i) => {
      const { linkage } = sweep;
      if (paper.parent) paper.parent.visible = isThere(sweep, linkage.panels[i], deg);
      paper.material.color.set(
        lit.has(i) ? (dark ? '#f0905f' : '#d0592a') : stockById(linkage.panels[i].part.stockId).colour,
      );
    });
    invalidate();
  }, [papers, catches, deg, dark, sweep, invalidate]);
  return (
    <>
      {bodies.map((group, i) => (
        <primitive key={i} object={group} />
      ))}
    </>
  );
}

/** Turning the card with the mouse; draws only when something changed. */
function Orbit({
  target,
  reachMm,
  resetCount,
}: {
  target: readonly [number, number, number];
  reachMm: number;
  resetCount: number;
}) {
  const { camera, gl, invalidate } = useThree();
  const controls = useRef<OrbitControls | null>(null);
  useEffect(() => {
    const made = new OrbitControls(camera, gl.domElement);
    made.enableDamping = false;
    made.addEventListener('change', () => invalidate());
    controls.current = made;
    return () => made.dispose();
  }, [camera, gl, invalidate]);
  const [x, y, z] = target;
  useEffect(() => {
    // Far enough for the ball round the open card to fill the picture.
    const far = (0.93 * reachMm) / Math.sin(((FIELD_DEG / 2) * Math.PI) / 180);
    const towards = new Vector3(0.36, -0.76, 0.54).normalize().multiplyScalar(far);
    camera.up.set(0, 0, 1);
    camera.position.set(x + towards.x, y + towards.y, z + towards.z);
    controls.current?.target.set(x, y, z);
    controls.current?.update();
    invalidate();
  }, [camera, invalidate, x, y, z, reachMm, resetCount]);
  return null;
}

export interface SceneProps {
  readonly sweep: Sweep;
  readonly opening: Opening;
  readonly deg: number;
  readonly catches: readonly Catch[];
  readonly size: { readonly widthMm: number; readonly heightMm: number };
  readonly resetCount: number;
}

/** The folded card in space. */
export default function Scene({ sweep, opening, deg, catches, size, resetCount }: SceneProps) {
  const dark = useComputedColorScheme('light') === 'dark';
  // A side fold and a gatefold lie to both sides of x = 0, a top fold to both sides of y = 0.
  const { widthMm: w, heightMm: h } = size;
  const target = useMemo(
    () =>
      (opening === 'top' ? [w / 2, 0, h * 0.25] : [0, h / 2, w * (opening === 'gate' ? 0.14 : 0.28)]) as [
        number,
        number,
        number,
      ],
    [opening, w, h],
  );
  const reachMm = opening === 'top' ? Math.hypot(w / 2, h) : Math.hypot(w, h / 2);
  return (
    <Canvas
      frameloop="demand"
      camera={{ fov: FIELD_DEG, near: 20, far: 6000 }}
      gl={{ antialias: true, preserveDrawingBuffer: true }}
      dpr={[1, 2]}
      aria-label="The folded card; drag to turn it"
      role="img"
    >
      <ambientLight intensity={dark ? 1.1 : 1.35} />
      <directionalLight position={[-180, -320, 520]} intensity={dark ? 1.5 : 1.9} />
      <directionalLight position={[300, -80, 260]} intensity={0.55} />
      <Card sweep={sweep} opening={opening} deg={deg} catches={catches} dark={dark} />
      <Orbit target={target} reachMm={reachMm} resetCount={resetCount} />
    </Canvas>
  );
}
