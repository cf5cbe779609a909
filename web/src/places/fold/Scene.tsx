import { slottedIn, type BentThrough } from '@hollow-finch/core/checks/slotted';
import { stockOf } from '@hollow-finch/core/dieline/part';
import { place } from '@hollow-finch/core/geometry/isometry';
import type { Point } from '@hollow-finch/core/geometry/point';
import type { Vec3 } from '@hollow-finch/core/geometry/rigid';
import type { Catch } from '@hollow-finch/core/motion/catches';
import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { axesOf, drawnPanels, isThere, type Opening, type Viewpoint } from '@hollow-finch/core/motion/view';
import { framePoints } from '@hollow-finch/core/motion/viewpoint';
import { useComputedColorScheme } from '@mantine/core';
import { Canvas, useThree } from '@react-three/fiber';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import {
  Matrix4,
  Quaternion,
  SRGBColorSpace,
  TextureLoader,
  Vector3,
  type DirectionalLight,
  type Texture,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { frame, spanOf } from './framing.ts';
import { besideCard, type Beside } from '@hollow-finch/core/motion/besideCard';
import { dispose, papersOf, type Art, type Textures } from './paper.ts';

const FIELD_DEG = 32;
/** The table lies so far under the lowest paper, mm. */
const UNDER_MM = 0.6;
/** What is lit where two panels run into each other. */
const CAUGHT = { light: '#d0592a', dark: '#f0905f' };

const matrixOf = (t: Float64Array): Matrix4 =>
  new Matrix4().set(t[0], t[1], t[2], t[3], t[4], t[5], t[6], t[7], t[8], t[9], t[10], t[11], 0, 0, 0, 1);

/** Where every panel is drawn: on the table, layers apart; loose parts beside the card. */
function placements(
  sweep: Sweep,
  opening: Opening,
  deg: number,
  beside: ReadonlyMap<string, Beside>,
): Matrix4[] {
  const { panels, attached } = sweep.linkage;
  const drawn = drawnPanels(sweep, opening, deg);
  return panels.map((panel, i) => {
    const at = beside.get(panel.part.id);
    if (attached[panel.body]) return matrixOf(drawn[i]);
    return at ? new Matrix4().makeTranslation(at.dx, at.dy, at.z) : new Matrix4();
  });
}

/** A tongue is bent into its slot while its end is so near the host: less and less up to the first, not at all from the other on, mm. */
const BENDS_MM = [5, 9] as const;
/** And while its line is so near the slot, as seen from above, mm. */
const NEAR_SLOT_MM = 8;
/** Bent into its slot it lies so far behind the host, mm. */
const BEHIND_MM = 0.5;

/** How what goes through a slot is bent there, in the plane of its panel: about the line of the slot, to the other face of its host. */
function bentThrough(
  { panel, host, line, from, tip, slot }: BentThrough,
  { linkage }: Sweep,
  placed: readonly Matrix4[],
): Matrix4 {
  const { placement } = linkage.panels[panel];
  const at = (p: Point): Vector3 => new Vector3(...place(placement, p), 0);
  const inHost = placed[host].clone().invert().multiply(placed[panel]);
  const [begin, end] = [from, tip].map((p) => at(p).applyMatrix4(inHost));
  const over = begin.z;
  const [x, y] = place(linkage.panels[host].placement, slot);
  // Elsewhere than at its slot nothing goes through, however near to the host's plane it is.
  if (Math.hypot(begin.x - x, begin.y - y) > NEAR_SLOT_MM) return new Matrix4();
  const outside = Math.sign(over);
  const [near, far] = BENDS_MM;
  const share = Math.min(1, Math.max(0, (far - outside * end.z) / (far - near)));
  if (share === 0) return new Matrix4();
  const reach = at(tip).sub(at(from));
  const axis = at(line[1]).sub(at(line[0])).normalize();
  // Turned as its host lies, and put to its other face.
  const up = new Vector3().crossVectors(axis, reach).transformDirection(inHost).z;
  const sine = Math.max(-1, Math.min(1, (share * (end.z - over)) / Math.max(1e-6, reach.length())));
  const by = new Vector3(0, 0, -share * (over + outside * BEHIND_MM));
  const pivot = at(line[0]);
  return new Matrix4()
    .makeTranslation(by.applyQuaternion(new Quaternion().setFromRotationMatrix(inHost).invert()).add(pivot))
    .multiply(new Matrix4().makeRotationAxis(axis, -Math.asin(sine) * Math.sign(up)))
    .multiply(new Matrix4().makeTranslation(pivot.clone().negate()));
}

interface CardProps extends Pick<SceneProps, 'sweep' | 'opening' | 'deg' | 'catches'> {
  readonly dark: boolean;
  readonly beside: ReadonlyMap<string, Beside>;
  readonly artwork: SceneProps['artwork'];
}

/** Pictures, each unpacked once; a picture that comes is drawn at once. */
function useTextures(onCome: () => void): Textures {
  const [held] = useState(() => new Map<string, Texture>());
  useEffect(() => () => held.forEach((texture) => texture.dispose()), [held]);
  return useCallback(
    (data) => {
      const there = held.get(data);
      if (there) return there;
      const texture = new TextureLoader().load(data, onCome);
      texture.colorSpace = SRGBColorSpace;
      texture.anisotropy = 4;
      held.set(data, texture);
      return texture;
    },
    [held, onCome],
  );
}

function Card({ sweep, opening, deg, catches, dark, beside, artwork }: CardProps) {
  const { invalidate } = useThree();
  const textures = useTextures(invalidate);
  const through = useMemo(() => slottedIn(sweep).flatMap(({ bent }) => bent ?? []), [sweep]);
  const papers = useMemo(
    () => papersOf(sweep.linkage, through, dark, artwork, textures),
    [sweep.linkage, through, dark, artwork, textures],
  );
  useEffect(
    () => () => {
      papers.sheets.forEach(({ group }) => dispose(group));
      papers.bends.forEach(({ mesh }) => dispose(mesh));
    },
    [papers],
  );
  useEffect(() => {
    const { panels, attached } = sweep.linkage;
    const placed = placements(sweep, opening, deg, beside);
    const there = panels.map((panel) =>
      attached[panel.body] ? isThere(sweep, panel, deg) : beside.has(panel.part.id),
    );
    papers.sheets.forEach(({ group }, i) => {
      group.matrix.copy(placed[i]);
      group.matrixWorldNeedsUpdate = true;
      group.visible = there[i];
    });
    for (const bent of through) {
      const { tip } = papers.sheets[bent.panel];
      tip?.matrix.copy(bentThrough(bent, sweep, placed));
    }
    for (const { mesh, bend, lay } of papers.bends) {
      lay(placed[bend.left], placed[bend.right]);
      mesh.visible = there[bend.left] && there[bend.right];
    }
    // Both pieces of a catch are lit while they are in each other.
    const lit = new Set(catches.filter((c) => deg >= c.fromDeg && deg <= c.toDeg).flatMap((c) => [c.a, c.b]));
    papers.sheets.forEach(({ material }, i) =>
      material.color.set(lit.has(i) ? CAUGHT[dark ? 'dark' : 'light'] : stockOf(panels[i].part).colour),
    );
    invalidate();
  }, [papers, through, sweep, opening, deg, catches, dark, beside, invalidate]);
  return (
    <>
      {papers.sheets.map(({ group }, i) => (
        <primitive key={i} object={group} />
      ))}
      {papers.bends.map(({ mesh }, i) => (
        <primitive key={i} object={mesh} />
      ))}
    </>
  );
}

/** Turning the card with the mouse; draws only when something changed. A view that was turned by hand stays. */
function Orbit({
  points,
  view,
  viewCount,
  onTurn,
}: Pick<SceneProps, 'view' | 'viewCount' | 'onTurn'> & { points: readonly Vec3[] }) {
  const { camera, gl, invalidate, size } = useThree();
  const controls = useRef<OrbitControls | null>(null);
  const turned = useRef(false);
  const latest = useRef(onTurn);
  useEffect(() => {
    latest.current = onTurn;
  }, [onTurn]);
  useEffect(() => {
    // It is turned about what is up when this is made.
    camera.up.set(0, 0, 1);
    const made = new OrbitControls(camera, gl.domElement);
    made.enableDamping = false;
    made.addEventListener('change', () => invalidate());
    made.addEventListener('start', () => {
      turned.current = true;
      latest.current();
    });
    controls.current = made;
    return () => made.dispose();
  }, [camera, gl, invalidate]);
  useEffect(() => {
    turned.current = false;
  }, [view, viewCount]);
  useEffect(() => {
    if (turned.current) return;
    const { eye, target } = frame(points, axesOf(view).eye, FIELD_DEG, size.width / Math.max(1, size.height));
    // A little air round it.
    const air = 1.07;
    camera.position.set(
      target[0] + air * (eye[0] - target[0]),
      target[1] + air * (eye[1] - target[1]),
      target[2] + air * (eye[2] - target[2]),
    );
    controls.current?.target.set(...target);
    controls.current?.update();
    invalidate();
  }, [camera, invalidate, points, view, viewCount, size.width, size.height]);
  return null;
}

/** Pictures further apart than this on the way are too slow, ms; what is further apart still was no movement. */
const SLOW_MS = 45;
const STILL_MS = 400;
/** Share of the picture's points that are drawn while it moves too slowly. */
const COARSE = 0.45;

/** Whether the card moves faster than this machine draws it whole: then it is drawn coarser until it rests. */
function useCoarse(deg: number, sweep: Sweep): boolean {
  const [coarse, setCoarse] = useState(false);
  const last = useRef(0);
  useEffect(() => {
    const since = performance.now() - last.current;
    last.current += since;
    if (since > SLOW_MS && since < STILL_MS) setCoarse(true);
    const timer = setTimeout(() => setCoarse(false), STILL_MS);
    return () => clearTimeout(timer);
  }, [deg, sweep]);
  return coarse;
}

/** Shadows are drawn at every so many pictures of a coarse movement. */
const SHADOW_EVERY = 4;

/** Draws the shadows anew with every picture, or (coarse) now and then: they cost as much as all the rest. */
function ShadowPace({ coarse, deg }: { coarse: boolean; deg: number }) {
  const gl = useThree((s) => s.gl);
  const count = useRef(0);
  useEffect(() => {
    gl.shadowMap.autoUpdate = !coarse;
    gl.shadowMap.needsUpdate = count.current++ % SHADOW_EVERY === 0;
  }, [gl, coarse, deg]);
  return null;
}

/** Daylight from the left front, whose shadows fall softly onto the table and the paper. */
function Light({ points, dark, tableZ }: { points: readonly Vec3[]; dark: boolean; tableZ: number }) {
  const [sun, setSun] = useState<DirectionalLight | null>(null);
  const invalidate = useThree((s) => s.invalidate);
  const { middle, reach } = useMemo(() => {
    const span = spanOf([[0, 0, 0], ...points]);
    return {
      middle: new Vector3(...(span.map(([a, b]) => (a + b) / 2) as [number, number, number])),
      reach: Math.hypot(...span.map(([a, b]) => b - a)) / 2 + 20,
    };
  }, [points]);
  useEffect(() => {
    if (!sun) return;
    sun.position.copy(middle).add(new Vector3(-0.34, -0.42, 1).normalize().multiplyScalar(2 * reach));
    sun.target.position.copy(middle);
    sun.target.updateMatrixWorld();
    const { camera } = sun.shadow;
    camera.left = camera.bottom = -reach;
    camera.right = camera.top = reach;
    camera.near = 0.5 * reach;
    camera.far = 4 * reach;
    camera.updateProjectionMatrix();
    invalidate();
  }, [sun, middle, reach, invalidate]);
  return (
    <>
      <ambientLight intensity={dark ? 1.15 : 1.5} />
      <directionalLight
        ref={setSun}
        castShadow
        intensity={dark ? 1.5 : 1.75}
        shadow-mapSize={[512, 512]}
        shadow-radius={4}
        shadow-blurSamples={8}
        shadow-normalBias={0.9}
        shadow-bias={-0.0012}
      />
      <directionalLight position={[300, -220, 200]} intensity={0.5} />
      <mesh position={[middle.x, middle.y, tableZ]} receiveShadow>
        <planeGeometry args={[8 * reach, 8 * reach]} />
        <shadowMaterial transparent opacity={dark ? 0.5 : 0.2} />
      </mesh>
    </>
  );
}

export interface SceneProps {
  readonly sweep: Sweep;
  readonly opening: Opening;
  readonly deg: number;
  readonly catches: readonly Catch[];
  /** From where it is looked at; taken anew with every count. */
  readonly view: Viewpoint;
  readonly viewCount: number;
  /** Parts that hang together with nothing are shown beside the card. */
  readonly withLoose: boolean;
  /** Pictures on parts, by part. */
  readonly artwork: ReadonlyMap<string, readonly Art[]>;
  /** The card was turned by hand. */
  readonly onTurn: () => void;
}

/** The folded card in space. */
export default function Scene(props: SceneProps) {
  const { sweep, opening, deg, catches, view, viewCount, withLoose, artwork, onTurn } = props;
  const dark = useComputedColorScheme('light') === 'dark';
  const coarse = useCoarse(deg, sweep);
  const own = useMemo(() => framePoints(sweep, opening), [sweep, opening]);
  const tableZ = useMemo(() => own.reduce((low, p) => Math.min(low, p[2]), Infinity), [own]);
  const lying = useMemo(
    () =>
      withLoose ? besideCard(sweep.linkage, own, tableZ) : { places: new Map<string, Beside>(), points: [] },
    [withLoose, sweep.linkage, own, tableZ],
  );
  const points = useMemo(() => [...own, ...lying.points], [own, lying]);
  return (
    <Canvas
      frameloop="demand"
      shadows="variance"
      camera={{ fov: FIELD_DEG, near: 20, far: 6000 }}
      gl={{ antialias: true, preserveDrawingBuffer: true }}
      dpr={coarse ? COARSE : [1, 2]}
      aria-label="The folded card; drag to turn it"
      role="img"
    >
      <Light points={points} dark={dark} tableZ={(Number.isFinite(tableZ) ? tableZ : 0) - UNDER_MM} />
      <Card
        sweep={sweep}
        opening={opening}
        deg={deg}
        catches={catches}
        dark={dark}
        beside={lying.places}
        artwork={artwork}
      />
      <ShadowPace coarse={coarse} deg={deg} />
      <Orbit points={points} view={view} viewCount={viewCount} onTurn={onTurn} />
    </Canvas>
  );
}
