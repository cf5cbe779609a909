/** `npm run bench`: what the work costs on this machine, as ratios and per-item costs, in one run. */
import { workOf, type Layer } from '@hollow-finch/core/dieline/part';
import { reportOf } from '../src/checks/report.ts';
import { checkContext } from '../src/checks/context.ts';
import { runChecks } from '../src/checks/runChecks.ts';
import { Widths } from '../src/checks/widths.ts';
import { autoBridges } from '../src/drafting/bridges.ts';
import { roundedRectangle } from '../src/drafting/shapes.ts';
import { groupsOf, settled } from '../src/formats/bringIn/settle.ts';
import { readSvg } from '../src/formats/bringIn/svg.ts';
import { playCutter, usualCutter, type Stroke } from '../src/cutting/cutter.ts';
import { compensated } from '../src/cutting/kerf.ts';
import { cutOrder } from '../src/cutting/order.ts';
import { newDesign, type Design, type DraftedPart } from '../src/design/design.ts';
import { cardGutter } from '../src/design/frames.ts';
import { panelPlan } from '../src/dieline/panels.ts';
import { shift } from '../src/geometry/isometry.ts';
import { circle, polyline, straight } from '../src/geometry/path.ts';
import type { Point } from '../src/geometry/point.ts';
import { seededRandom } from '../src/geometry/random.ts';
import { expand } from '../src/mechanisms/expand.ts';
import { newInstance, usualHost } from '../src/mechanisms/instance.ts';
import { FAMILIES, familyById } from '../src/mechanisms/registry.ts';
import { step } from '../src/mechanisms/step.ts';
import { laidByHand } from '../src/sheets/handPlacing.ts';
import { vfold } from '../src/mechanisms/vfold.ts';
import { catchesOf } from '../src/motion/catches.ts';
import { closedState } from '../src/motion/closed.ts';
import { decorateMap } from '../src/motion/decorate.ts';
import { linkageOf } from '../src/motion/linkage.ts';
import { POSES, pullSweeps, sweep } from '../src/motion/sweep.ts';
import { kitBench } from './kits.ts';
import { manyBench } from './many.ts';
import { line, median } from './measure.ts';
import { jigsawBench, packingBench, puzzleBench } from './sheets.ts';
import { drafted, glueAt, zigzagSheet } from '../src/practice/drafts.ts';
import { together } from '../src/motion/together.ts';
import { inOneGo } from '../src/motion/turns.ts';
import { bodyAt } from '../src/motion/pose.ts';

/** A card with n steps side by side along a long gutter, all independent of each other. */
function withSteps(n: number): Design {
  const design = newDesign('Bench', { closedWidthMm: 148, closedHeightMm: Math.max(105, n * 40) });
  const gutter = cardGutter(design);
  const instances = Object.fromEntries(
    Array.from({ length: n }, (_, i) => {
      const family = i % 2 === 0 ? step : vfold;
      const params = {
        alongMm: 5 + i * 40,
        widthMm: 30,
        leftMm: 30 + (i % 5),
        rightMm: 32,
        parallel: true,
        footMm: 30,
        leftFootDeg: 40,
        panelDeg: 48,
        creaseMm: 30,
      };
      return [`m${i}`, newInstance(family, gutter, `m${i}`, { params })];
    }),
  );
  return { ...design, instances };
}

/** A drafted part of about n lines: a grid of folds with windows, slits and crossings. */
function manyLines(n: number): DraftedPart {
  const random = seededRandom(n);
  const side = Math.ceil(Math.sqrt(n));
  const size = side * 12;
  const lines: DraftedPart['lines'] = {};
  const add = (layer: Layer, path: ReturnType<typeof straight>) => {
    const id = `l${Object.keys(lines).length}`;
    lines[id] = { id, ...workOf(layer), path };
  };
  add(
    'cut',
    polyline(
      [
        [0, 0],
        [size, 0],
        [size, size],
        [0, size],
      ],
      true,
    ),
  );
  for (let i = 0; Object.keys(lines).length < n; i++) {
    const [x, y] = [(i % side) * 12 + 2, (Math.floor(i / side) % side) * 12 + 2];
    if (i % 2 === 0)
      add(
        'cut',
        polyline(
          [
            [x, y],
            [x + 3 + random() * 3, y],
            [x + 2, y + 4],
          ],
          true,
        ),
      );
    else add('cut', straight([x, y + 2], [x + 6 + random(), y + 3]));
  }
  return {
    id: 'many',
    name: 'Many lines',
    stockId: 'slate-240',
    grainRad: null,
    quantity: 1,
    lines,
    glueZones: {},
    marks: {},
  };
}

/** One card with the named families, each where it usually goes. */
function withFamilies(...ids: string[]): Design {
  const design = newDesign('Bench', { closedWidthMm: 148, closedHeightMm: 150 });
  const { gutters } = expand(design);
  return {
    ...design,
    instances: Object.fromEntries(
      ids.map((id) => {
        const family = familyById(id)!;
        return [id, newInstance(family, usualHost(family, gutters), id)];
      }),
    ),
  };
}

const slowest: { title: string; ms: number }[] = [];

function motionBench(): void {
  const poses = (n: number) => {
    const linkage = linkageOf(expand(withSteps(n)));
    const ms = median(n > 5 ? 7 : 25, () => sweep(linkage));
    return { ms, perSecond: (POSES / ms) * 1000 };
  };
  const [one, twenty] = [poses(1), poses(20)];
  line('Motion: poses per second, one mechanism', one.perSecond.toFixed(0), 'budget 20,000');
  line('Motion: 20 mechanisms against one', `${(twenty.ms / one.ms).toFixed(1)} x`, 'budget 25 x');
  const design = withSteps(1);
  const report = median(15, () => {
    const expanded = expand({ ...design });
    const motion = sweep(linkageOf(expanded));
    closedState(motion);
    catchesOf(motion);
  });
  line('Fold report, one mechanism', `${report.toFixed(1)} ms`, 'budget 100 ms');
  const six = withSteps(6);
  const whole = median(7, () => {
    const motion = sweep(linkageOf(expand({ ...six })));
    closedState(motion);
    catchesOf(motion);
  });
  line('Fold report with catches, six mechanisms', `${whole.toFixed(1)} ms`, 'budget 500 ms');
  const floor = linkageOf(expand(withFamilies('uprights')));
  const solved = sweep(floor);
  const many = median(25, () => sweep(floor));
  const unknowns = Math.max(...solved.components.map((c) => c.unknowns));
  line(
    `Motion: poses per second, ${unknowns} unknowns in one component`,
    ((POSES / many) * 1000).toFixed(0),
    'budget 20,000 at 9',
  );
  for (const family of FAMILIES) {
    const one = withFamilies(family.id);
    const ms = median(3, () => reportOf(checkContext({ ...one })));
    slowest.push({ title: family.title, ms });
  }
  slowest.sort((a, b) => b.ms - a.ms);
  line(
    `Whole report, the slowest family alone (${slowest[0].title})`,
    `${slowest[0].ms.toFixed(1)} ms`,
    'budget 100 ms',
  );
  const rich = withFamilies('uprights', 'spinner', 'waterfall', 'vfold');
  line(
    'Whole report, four mechanisms with a pull',
    `${median(5, () => reportOf(checkContext({ ...rich }))).toFixed(1)} ms`,
    'budget 500 ms',
  );
  const { sweep: opened, pulls } = checkContext(rich);
  line(
    'A pull tried with the opening, after a change',
    `${median(3, () => inOneGo(together(opened, pulls[0].sweep))).toFixed(1)} ms`,
  );
  const placed = new Float64Array(12);
  let at = 0;
  const frame = median(200, () => {
    at = (at + 0.7) % 180;
    for (let body = 0; body < opened.linkage.bodyCount; body++) bodyAt(opened, body, at, placed);
  });
  line(
    'Opening control: placements of a frame, four mechanisms',
    `${frame.toFixed(3)} ms`,
    '60 frames/s: 16.7 ms',
  );
  const motion = sweep(linkageOf(expand(six)));
  const map = median(5, () =>
    decorateMap(
      motion,
      motion.linkage.panels.findIndex((p) => p.id === 'front'),
      2,
    ),
  );
  line('Where to decorate, one panel among six mechanisms', `${map.toFixed(1)} ms`);
}

function checksBench(): void {
  const cost = (n: number) => {
    const part = manyLines(n);
    const design = newDesign('Bench');
    return median(5, () => {
      // New part values each time: nothing may be remembered from the run before.
      const fresh = { ...design, parts: { many: { ...part } } };
      runChecks(checkContext(fresh));
    });
  };
  const [few, many] = [cost(500), cost(5000)];
  line('Checks: ms per 1,000 lines (at 5,000 lines)', (many / 5).toFixed(1), 'budget 80');
  line('Checks: 10 x the lines costs', `${(many / few).toFixed(1)} x`, 'budget 14 x');
}

/** Cuts in rows whose ends are 0.05 mm apart: as many loose ends as there can be. */
function looseRows(n: number): DraftedPart {
  const lines = Array.from({ length: n }, (_, i) => {
    const [x, y] = [(i % 70) * 5, Math.floor(i / 70) * 5];
    return { id: `l${i}`, ...workOf('cut'), path: straight([x, y], [x + 4.95, y]) };
  });
  return { ...manyLines(1), lines: Object.fromEntries(lines.map((each) => [each.id, each])) };
}

function cuttingBench(): void {
  const plain = (part: DraftedPart) =>
    expand({ ...newDesign('Bench'), parts: { many: { ...part } } }).parts[1];
  const loose = looseRows(5000);
  line(
    'Loose ends of 5,000 lines, 0.05 mm apart',
    `${median(3, () => panelPlan({ ...plain(loose) })).toFixed(0)} ms`,
    'budget 1,000 ms',
  );
  const part = plain(manyLines(5000));
  const placement = { angleRad: 0, flip: false, dx: 0, dy: 0 };
  panelPlan(part);
  line(
    'Cut order of 5,000 lines',
    `${median(3, () => cutOrder([{ part, copy: 1, placement }])).toFixed(0)} ms`,
    'budget 500 ms',
  );
  // Rows of squares with a hole each: what is told of one should cost no more among many.
  for (const count of [500, 1000, 2000, 4000]) {
    const strokes = Array.from({ length: count }, (_, i): Stroke => {
      const [x, y] = [12 * (i % 50), 12 * Math.floor(i / 50)];
      return { tool: 'cut', path: i % 2 ? circle([x - 6, y + 6], 2) : polyline(squareAt(x, y, 10), true) };
    });
    const ms = median(3, () => playCutter(strokes, usualCutter('blade', [600, 3000])));
    line(`Cut rehearsed: ${count} strokes`, `${((1000 * ms) / count).toFixed(0)} us a stroke`);
  }
  for (const count of [100, 400]) {
    const lines = Array.from({ length: count }, (_, i) => ({
      id: `l${i}`,
      ...workOf('cut'),
      path: polyline(squareAt(12 * (i % 20), 12 * Math.floor(i / 20), 10), true),
    }));
    const many = { ...manyLines(1), lines: Object.fromEntries(lines.map((each) => [each.id, each])) };
    const ms = median(3, () => compensated(plain({ ...many }), 0.2));
    line(`Kerf of ${count} outlines`, `${((1000 * ms) / count).toFixed(0)} us an outline`);
  }
  const random = seededRandom(1);
  for (const count of [10, 40]) {
    const across = 22 * Math.ceil(Math.sqrt(count));
    const sheet = { widthMm: across, heightMm: across, marginMm: 1, gapMm: 1, grainRad: null };
    const piece = (i: number) => ({
      partId: `p${i}`,
      copy: 1,
      outlines: [{ outer: squareAt(0, 0, 18), holes: [] }],
      grainRad: null,
    });
    const others = Array.from({ length: count - 1 }, (_, i) => {
      const [x, y] = [i % Math.ceil(Math.sqrt(count)), Math.floor(i / Math.ceil(Math.sqrt(count)))];
      return { piece: piece(i), sheet: 0, placement: shift(1 + 22 * x, 1 + 22 * y) };
    });
    const ms = median(5, () =>
      laidByHand(piece(count), shift(across * 0.8 * random(), across * 0.8 * random()), others, sheet),
    );
    line(`Dropped among ${count - 1} pieces: the nearest place`, `${ms.toFixed(0)} ms`);
  }
}

const squareAt = (x: number, y: number, side: number): Point[] => [
  [x, y],
  [x + side, y],
  [x + side, y + side],
  [x, y + side],
];

/** A card with n sliders one above the other: nothing that one moves concerns another. */
function withSliders(n: number): Design {
  const design = newDesign('Bench', { closedWidthMm: 400, closedHeightMm: 900 });
  const family = familyById('slider')!;
  const host = usualHost(family, expand(design).gutters);
  const params = { travelMm: 40, headMm: 40, stemMm: 8, landMm: 6, bridgeMm: 12, acrossMm: 10 };
  return {
    ...design,
    instances: Object.fromEntries(
      Array.from({ length: n }, (_, i) => [
        `s${i}`,
        newInstance(family, host, `s${i}`, { params: { ...params, alongMm: 20 + i * 26 } }),
      ]),
    ),
  };
}

function sizeBench(): void {
  const moved = (n: number) => {
    const opening = sweep(linkageOf(expand(withSliders(n))));
    return median(5, () => pullSweeps(opening.linkage, opening).forEach((pull) => catchesOf(pull)));
  };
  const [some, twice] = [moved(16), moved(32)];
  line('Pulls: 32 sliders with their catches', `${twice.toFixed(1)} ms`);
  line('Pulls: 32 sliders against 16', `${(twice / some).toFixed(1)} x`, 'budget 2.5 x');
  const sheet = drafted([zigzagSheet('Sheet', 11)], [glueAt('Sheet', 'z', [20, 20])]);
  const large = median(3, () => checkContext({ ...sheet }));
  line(
    'Folded sheet of 11 x 11 panels, not held: whole context',
    `${large.toFixed(0)} ms`,
    '5,000 ms at most',
  );
  const beyond = drafted([zigzagSheet('Sheet', 32)], [glueAt('Sheet', 'z', [20, 20])]);
  const told = median(3, () => runChecks(checkContext({ ...beyond })));
  line(
    'Sheet of 32 x 32 panels, said to be too large: whole report',
    `${told.toFixed(0)} ms`,
    '5,000 ms at most',
  );
}

function draftBench(): void {
  const part = manyLines(2000);
  const design = { ...newDesign('Bench'), parts: { many: part } };
  const whole = median(5, () =>
    panelPlan({ ...expand({ ...design, parts: { many: { ...part } } }).parts[1] }),
  );
  line('Draft: panels of a part of 2,000 lines from nothing', `${whole.toFixed(1)} ms`);
}

/** Drawings brought in, islands bridged, widths measured: as the lines grow. */
function drawingBench(): void {
  const drawingOf = (count: number): string => {
    const random = seededRandom(count);
    const shapes = Array.from({ length: count / 5 }, (_, i) => {
      const [x, y] = [20 * (i % 40), 20 * Math.floor(i / 40)];
      return `<path d="M${x} ${y}h${(12 + random()).toFixed(2)}v12"/><path d="M${x} ${y}v12"/><path d="M${x} ${y + 12}h12"/><circle cx="${x + 6}" cy="${y + 6}" r="3"/><path d="M${x + 4} ${y + 4}c2 1 3 2 4 4"/>`;
    });
    return `<svg xmlns="http://www.w3.org/2000/svg" width="800mm" height="800mm" viewBox="0 0 800 800"><g fill="none" stroke="red">${shapes.join('')}</g></svg>`;
  };
  const bringIn = (text: string) => {
    const drawing = readSvg(text);
    return settled(drawing, {
      mmPerUnit: 1,
      layers: Object.fromEntries(groupsOf(drawing.lines).map(({ key }) => [key, 'cut' as const])),
      withHidden: false,
      joinMm: 0.05,
      dropDoubles: true,
      findArcs: true,
    });
  };
  for (const count of [1000, 5000]) {
    const text = drawingOf(count);
    const ms = median(3, () => bringIn(text));
    line(`Bring in: ${count} lines from SVG to die lines`, `${ms.toFixed(0)} ms`, '2,000 ms for 5,000');
  }
  const stencil = (count: number) => [
    roundedRectangle([-20, -20], 40 * count + 40, 80),
    ...Array.from({ length: count }, (_, i) => [
      circle([40 * i + 10, 20], 15),
      circle([40 * i + 10, 20], 8),
    ]).flat(),
  ];
  for (const count of [4, 16]) {
    const paths = stencil(count);
    const ms = median(3, () => autoBridges(paths, 1.5));
    line(`Bridges: ${count} islands`, `${(ms / count).toFixed(1)} ms an island`);
  }
  const part = { ...expand({ ...newDesign('Bench'), parts: { many: manyLines(1000) } }).parts[1] };
  const from = performance.now();
  new Widths(part).picture(14_000);
  line('Widths: a picture of a part of 1,000 lines', `${(performance.now() - from).toFixed(0)} ms`);
}

console.log(`Hollow Finch bench, Node ${process.version}`);
motionBench();
sizeBench();
checksBench();
cuttingBench();
packingBench();
jigsawBench();
puzzleBench();
kitBench();
manyBench();
draftBench();
drawingBench();
