/**
 * A cutter that is only played: how long a job takes, when each piece comes loose, and what would go wrong. It knows nothing of
 * the design: strokes come from the file, in its order.
 *
 * Motion. Along a stroke the tool keeps to its speed v and never changes it faster than a. At a corner that turns by phi it may
 * be as fast as on an arc that stays d from the corner: v^2 = a d sin(t / 2) / (1 - sin(t / 2)), t = pi - phi. For curves that are
 * flattened to within d this is v^2 = a r, the limit of a circle. Forwards and backwards passes keep v^2 <= u^2 + 2 a s. Between
 * strokes it lifts, travels from rest to rest, and comes down.
 *
 * Coming loose. The cuts of all strokes form a planar graph; a piece is a bounded face of it. Two faces hang together until the
 * last edge between them is cut, so a face is held by the sheet until the bottleneck time of its best way out through other faces:
 * the edges in falling order of time are joined like in a spanning tree from the outside, and each face gets the time of the edge
 * that first joins it to the outside.
 */
import { faceLocator } from '../dieline/locate.ts';
import { facesOf } from '../dieline/faces.ts';
import { planarGraph } from '../dieline/planarGraph.ts';
import type { Machine } from '../stock/stock.ts';
import { workOf, type DieLine, type Layer } from '../dieline/part.ts';
import { Groups } from '../geometry/groups.ts';
import { flatten, type Path } from '../geometry/path.ts';
import { between, distance, type Point } from '../geometry/point.ts';
import { regionArea, type Region } from '../geometry/polygon.ts';

export const TOOLS = ['mark', 'score', 'perforate', 'kiss', 'cut'] as const;
export type Tool = (typeof TOOLS)[number];

/** One run of a tool without lifting. */
export interface Stroke {
  readonly path: Path;
  readonly tool: Tool;
  /** Which pass over the same way it is meant to be, from the second on. */
  readonly pass?: number;
}

export interface CutterSettings {
  readonly speedMmS: Readonly<Record<Tool, number>>;
  readonly travelMmS: number;
  readonly accelMmS2: number;
  /** To lift the tool, or to put it down, s. */
  readonly liftS: number;
  /** Times that cuts and perforations are gone over before the next stroke. */
  readonly passes: number;
  readonly bedWidthMm: number;
  readonly bedHeightMm: number;
}

/** A blade, or a laser, as small ones usually are. */
export const usualCutter = (kind: 'blade' | 'laser', bed: readonly [number, number]): CutterSettings => ({
  speedMmS:
    kind === 'blade'
      ? { mark: 120, score: 80, perforate: 50, kiss: 60, cut: 60 }
      : { mark: 150, score: 60, perforate: 30, kiss: 40, cut: 25 },
  travelMmS: kind === 'blade' ? 200 : 300,
  accelMmS2: kind === 'blade' ? 800 : 2000,
  liftS: kind === 'blade' ? 0.15 : 0.02,
  passes: 1,
  bedWidthMm: bed[0],
  bedHeightMm: bed[1],
});

/** A machine of the store as a cutter: as such usually are, but where it is known how it is run. */
export function cutterOf({
  kind,
  bedWidthMm,
  bedHeightMm,
  cutMmS,
  scoreMmS,
  travelMmS,
}: Machine): CutterSettings {
  const usual = usualCutter(kind, [bedWidthMm, bedHeightMm]);
  return {
    ...usual,
    speedMmS: {
      ...usual.speedMmS,
      cut: cutMmS ?? usual.speedMmS.cut,
      score: scoreMmS ?? usual.speedMmS.score,
    },
    travelMmS: travelMmS ?? usual.travelMmS,
  };
}

/** One pass of a stroke: when it begins and ends, and where the tool is at which time. */
export interface Pass {
  readonly stroke: number;
  readonly points: readonly Point[];
  /** At each of the points, s from the start of the job. */
  readonly atS: Float64Array;
}

export interface Loosened {
  /** When it comes loose, s, and with which stroke. */
  readonly atS: number;
  readonly stroke: number;
  readonly region: Region;
  readonly areaMm2: number;
}

export interface CutterFault {
  readonly kind: 'unheld' | 'offBed' | 'twice';
  readonly stroke: number;
  readonly at: Point;
  /** How far beyond the bed, or how much is cut again. */
  readonly mm: number;
}

export interface Simulation {
  readonly passes: readonly Pass[];
  readonly totalS: number;
  readonly travelMm: number;
  readonly travelS: number;
  readonly lifts: number;
  readonly liftS: number;
  readonly byTool: Readonly<Record<Tool, { readonly mm: number; readonly s: number }>>;
  /** The way of the blade through paper, all passes, mm. */
  readonly bladeMm: number;
  readonly loosened: readonly Loosened[];
  readonly faults: readonly CutterFault[];
}

/** Curves are driven as polylines so near to them; corners are rounded by as much in the sums, mm. */
const DEVIATION_MM = 0.02;
/** Less than this beyond the bed is none, mm. */
const BED_SLACK_MM = 0.01;
/** Less than this cut again is a touch, mm. */
const LEAST_TWICE_MM = 0.5;

/** A cut that closes may run on past its beginning by so much: that is no fault, mm. */
const MOST_OVERCUT_MM = 21;
/** Ends nearer than this to a line lie on it, mm. */
const ON_MM = 0.01;

/** Whether what a polyline goes over again, so much of it, is its beginning, over which it runs on where it closes. */
function runsOn(points: readonly Point[], againMm: number): boolean {
  if (againMm > MOST_OVERCUT_MM) return false;
  const end = points[points.length - 1];
  let behind = 0;
  for (let i = 1; i < points.length && behind < 2 * MOST_OVERCUT_MM; i++) {
    const [a, b] = [points[i - 1], points[i]];
    const long = distance(a, b);
    const along = long === 0 ? 0 : ((end[0] - a[0]) * (b[0] - a[0]) + (end[1] - a[1]) * (b[1] - a[1])) / long;
    // So far from where it began, a way in included.
    if (
      along >= -ON_MM &&
      along <= long + ON_MM &&
      distance(between(a, b, long === 0 ? 0 : along / long), end) < ON_MM
    )
      return behind + along >= againMm - ON_MM;
    behind += long;
  }
  return false;
}

/** Goes through: what can part the sheet. */
const through = (tool: Tool): boolean => tool === 'cut' || tool === 'perforate';

/**
 * When a tool passes the points of a polyline, from rest to rest.
 *
 * @returns seconds from the start, one for each point
 */
export function timesAlong(points: readonly Point[], speedMmS: number, accelMmS2: number): Float64Array {
  const n = points.length;
  const square = new Float64Array(n);
  for (let i = 1; i < n - 1; i++) {
    const [ax, ay] = [points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]];
    const [bx, by] = [points[i + 1][0] - points[i][0], points[i + 1][1] - points[i][1]];
    const turn = Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by));
    const sine = Math.sin((Math.PI - turn) / 2);
    square[i] =
      sine > 1 - 1e-12
        ? speedMmS ** 2
        : Math.min(speedMmS ** 2, (accelMmS2 * DEVIATION_MM * sine) / (1 - sine));
  }
  const long = (i: number) => distance(points[i - 1], points[i]);
  for (let i = 1; i < n; i++) square[i] = Math.min(square[i], square[i - 1] + 2 * accelMmS2 * long(i));
  for (let i = n - 1; i > 0; i--)
    square[i - 1] = Math.min(square[i - 1], square[i] + 2 * accelMmS2 * long(i));
  const times = new Float64Array(n);
  for (let i = 1; i < n; i++) {
    const s = long(i);
    const peak = Math.min(speedMmS ** 2, (square[i - 1] + square[i]) / 2 + accelMmS2 * s);
    const [u, w, v] = [Math.sqrt(square[i - 1]), Math.sqrt(square[i]), Math.sqrt(peak)];
    const level = Math.max(0, s - (2 * peak - square[i - 1] - square[i]) / (2 * accelMmS2));
    times[i] = times[i - 1] + (s === 0 ? 0 : (2 * v - u - w) / accelMmS2 + level / v);
  }
  return times;
}

/** Places of two passes over the same way are nearer than this, mm. */
const SAME_WAY_MM = 1e-3;

/** Whether two paths are one and the same way, forwards or backwards. */
function sameWay(one: Path, other: Path): boolean {
  if (one.segments.length !== other.segments.length) return false;
  const [a, b] = [flatten(one), flatten(other)];
  if (a.length !== b.length) return false;
  const close = (p: Point, q: Point): boolean => distance(p, q) < SAME_WAY_MM;
  return a.every((p, i) => close(p, b[i])) || a.every((p, i) => close(p, b[b.length - 1 - i]));
}

/** When each piece comes loose, by the number of the stroke; what is cut unheld, and what is cut again. */
function parting(strokes: readonly Stroke[]): {
  loose: { stroke: number; region: Region }[];
  unheld: { stroke: number; at: Point }[];
  twice: { stroke: number; at: Point; mm: number }[];
} {
  // Of further passes in the file only the last goes through.
  const passed = strokes.map(({ path, tool }, i) => {
    const next = strokes.at(i + 1);
    return next?.pass !== undefined && next.tool === tool && sameWay(path, next.path);
  });
  const lines = strokes.flatMap(({ path, tool }, i): DieLine[] =>
    through(tool) && !passed[i] ? [{ id: String(i), ...workOf('cut'), path }] : [],
  );
  const graph = planarGraph(lines);
  const faces = facesOf(graph);
  // Parted when it is first cut.
  const timeOf = (ids: readonly string[]) => Math.min(...ids.map(Number));
  const count = faces.faces.length + 1;
  const groups = new Groups(count);
  const members: number[][] = Array.from({ length: count }, (_, i) => (i === 0 ? [] : [i]));
  const looseAt = new Float64Array(count).fill(-1);
  looseAt[0] = Infinity;
  const sides = graph.edges
    .map((edge) => ({
      left: faces.leftOf(edge, edge.a) + 1,
      right: faces.leftOf(edge, edge.b) + 1,
      time: timeOf(edge.lineIds),
    }))
    .sort((p, q) => q.time - p.time);
  for (const { left, right, time } of sides) {
    const [p, q] = [groups.of(left), groups.of(right)];
    if (p === q) continue;
    const outside = groups.of(0);
    const [keep, gone] = p === outside ? [p, q] : q === outside ? [q, p] : [p, q];
    if (keep === outside) for (const face of members[gone]) looseAt[face] = time;
    groups.join(gone, keep);
    if (keep !== outside) members[keep].push(...members[gone]);
  }
  const faceAt = faceLocator(graph, faces);
  const looseBefore = (face: number, stroke: number) => face > 0 && looseAt[face] < stroke;
  const unheld = new Map<number, Point>();
  const lengths = new Float64Array(strokes.length);
  const twice = new Map<number, { at: Point; mm: number }>();
  for (const edge of graph.edges) {
    const [a, b] = [graph.vertices[edge.a], graph.vertices[edge.b]];
    const mm = distance(a, b);
    const ids = edge.lineIds.map(Number).sort((p, q) => p - q);
    for (const id of ids) lengths[id] += mm;
    for (const id of ids.slice(1)) twice.set(id, { at: a, mm: (twice.get(id)?.mm ?? 0) + mm });
    const [left, right] = [faces.leftOf(edge, edge.a) + 1, faces.leftOf(edge, edge.b) + 1];
    const middle = between(a, b, 0.5);
    // A slit that closes nothing has no side in the graph: it lies in the piece that it lies in.
    const within = left === 0 && right === 0 ? [faceAt(middle) + 1] : [left, right];
    // What is cut again is told as that.
    const [first] = ids;
    if (!unheld.has(first) && within.some((face) => looseBefore(face, first))) unheld.set(first, middle);
  }
  strokes.forEach(({ path, tool }, i) => {
    const points = flatten(path);
    if (passed[i]) return;
    if (through(tool)) {
      // What it goes over by itself again is not there twice in the graph.
      let drawn = 0;
      for (let k = 1; k < points.length; k++) drawn += distance(points[k - 1], points[k]);
      const again = drawn - lengths[i];
      if (again > LEAST_TWICE_MM && !runsOn(points, again))
        twice.set(i, { at: points[0], mm: (twice.get(i)?.mm ?? 0) + again });
    } else {
      const at = between(points[0], points[1] ?? points[0], 0.5);
      if (looseBefore(faceAt(at) + 1, i)) unheld.set(i, at);
    }
  });
  return {
    loose: faces.faces.flatMap(({ region }, i) =>
      looseAt[i + 1] >= 0 ? [{ stroke: looseAt[i + 1], region }] : [],
    ),
    unheld: [...unheld].map(([stroke, at]) => ({ stroke, at })),
    twice: [...twice].flatMap(([stroke, { at, mm }]) => (mm > LEAST_TWICE_MM ? [{ stroke, at, mm }] : [])),
  };
}

/** All runs of the tools one after another, with when each begins and ends. */
function runsOf(strokes: readonly Stroke[], settings: CutterSettings) {
  const { accelMmS2, travelMmS, liftS } = settings;
  const passes: Pass[] = [];
  const byTool = Object.fromEntries(TOOLS.map((tool) => [tool, { mm: 0, s: 0 }])) as Record<
    Tool,
    { mm: number; s: number }
  >;
  let [now, travelMm, travelS, lifts, bladeMm] = [0, 0, 0, 0, 0];
  let here: Point = [0, 0];
  const endS = new Float64Array(strokes.length);
  strokes.forEach(({ path, tool }, stroke) => {
    const points = flatten(path, DEVIATION_MM);
    const times = timesAlong(points, settings.speedMmS[tool], accelMmS2);
    let long = 0;
    for (let i = 1; i < points.length; i++) long += distance(points[i - 1], points[i]);
    const count = through(tool) ? settings.passes : 1;
    for (let pass = 0; pass < count; pass++) {
      // Every other pass of an open stroke runs back.
      const back = pass % 2 === 1 && distance(points[0], points[points.length - 1]) > 1e-6;
      const way = back ? [...points].reverse() : points;
      const away = distance(here, way[0]);
      if (away > 1e-6 || pass === 0) {
        const [, s] = timesAlong([here, way[0]], travelMmS, accelMmS2);
        travelMm += away;
        travelS += s;
        lifts++;
        now += s + 2 * liftS;
      }
      const last = times[times.length - 1];
      passes.push({
        stroke,
        points: way,
        atS: Float64Array.from(times, (_, i) => now + (back ? last - times[times.length - 1 - i] : times[i])),
      });
      now += last;
      byTool[tool] = { mm: byTool[tool].mm + long, s: byTool[tool].s + last };
      if (tool === 'cut' || tool === 'perforate' || tool === 'kiss') bladeMm += long;
      here = way[way.length - 1];
    }
    endS[stroke] = now;
  });
  return { passes, byTool, endS, totalS: now, travelMm, travelS, lifts, bladeMm };
}

/** What makes each kind of line. */
const TOOL_OF_LAYER: Readonly<Record<Layer, Tool>> = {
  cut: 'cut',
  perforation: 'perforate',
  kiss: 'kiss',
  mountain: 'score',
  valley: 'score',
  score: 'score',
  mark: 'mark',
};

/** How long a machine takes to make lines one after another, s. */
export const cuttingTimeS = (
  cuts: readonly { readonly layer: Layer; readonly path: Path }[],
  settings: CutterSettings,
): number =>
  runsOf(
    cuts.map(({ layer, path }) => ({ path, tool: TOOL_OF_LAYER[layer] })),
    settings,
  ).totalS;

/**
 * Plays a job.
 *
 * @param strokes in the order of the file, mm, the lower left corner of the bed at the origin
 */
export function playCutter(strokes: readonly Stroke[], settings: CutterSettings): Simulation {
  const { endS, ...run } = runsOf(strokes, settings);
  const { loose, unheld, twice } = parting(strokes);
  const offBed = strokes.flatMap(({ path }, stroke): CutterFault[] => {
    let worst: CutterFault | undefined;
    for (const at of flatten(path)) {
      const mm = Math.max(-at[0], -at[1], at[0] - settings.bedWidthMm, at[1] - settings.bedHeightMm);
      if (mm > BED_SLACK_MM && mm > (worst?.mm ?? 0)) worst = { kind: 'offBed', stroke, at, mm };
    }
    return worst ? [worst] : [];
  });
  return {
    ...run,
    liftS: 2 * run.lifts * settings.liftS,
    loosened: loose
      .map(({ stroke, region }) => ({ atS: endS[stroke], stroke, region, areaMm2: regionArea(region) }))
      .sort((p, q) => p.atS - q.atS),
    faults: [
      ...offBed,
      ...unheld.map(({ stroke, at }): CutterFault => ({ kind: 'unheld', stroke, at, mm: 0 })),
      ...twice.map((fault): CutterFault => ({ kind: 'twice', ...fault })),
    ].sort((p, q) => p.stroke - q.stroke),
  };
}

/** Where the tool is at a time, and whether it is down; past the end it rests where it ended. */
export function toolAt(
  { passes }: Pick<Simulation, 'passes'>,
  s: number,
): { readonly at: Point; readonly down: boolean; readonly pass: number } {
  let [low, high] = [0, passes.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (passes[middle].atS[0] <= s) low = middle + 1;
    else high = middle;
  }
  const pass = low - 1;
  if (pass < 0) return { at: [0, 0], down: false, pass };
  const { points, atS } = passes[pass];
  const last = points.length - 1;
  if (s >= atS[last]) {
    const next = passes[pass + 1];
    if (!next) return { at: points[last], down: false, pass };
    const share = (s - atS[last]) / Math.max(1e-9, next.atS[0] - atS[last]);
    return { at: between(points[last], next.points[0], Math.min(1, share)), down: false, pass };
  }
  let i = 1;
  while (atS[i] < s) i++;
  const span = atS[i] - atS[i - 1];
  return {
    at: between(points[i - 1], points[i], span > 0 ? (s - atS[i - 1]) / span : 1),
    down: true,
    pass,
  };
}
