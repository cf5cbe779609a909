/** Pieces in the apertures of others, passes, tools, and nicks kept off tabs. */
import { strFromU8, strToU8 } from 'fflate';
import { describe, expect, it } from 'vitest';
import { EDGES, workOf, type DieLine, type Edge, type Layer, type Part } from '../dieline/part.ts';
import { readCutFile } from '../formats/cutFile.ts';
import { writeSvg } from '../formats/svgWrite.ts';
import { readBack } from '../formats/testing/svgReadBack.ts';
import { place, turn } from '../geometry/isometry.ts';
import { circle, flatten, placePath, polyline, straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { insideRing } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { pointAlong } from '../geometry/stretch.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { MACHINES, stockById } from '../stock/stock.ts';
import { cutterOf, playCutter } from './cutter.ts';
import { keptOffNicks, madePaths, nicksAlong } from './made.ts';
import { cutOrder, type CutPath, type CutPiece } from './order.ts';
import { PROFILES, profileIn, toolsOf } from './profile.ts';

const line = (id: string, layer: Layer, path: DieLine['path']): DieLine => ({ id, ...workOf(layer), path });
const part = (id: string, lines: readonly DieLine[], rest: Partial<Part> = {}): Part => ({
  id,
  name: id,
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  glueZones: [],
  marks: [],
  lines,
  ...rest,
});
const frame = (id: string, size: number, rim: number, more: readonly DieLine[] = []): Part =>
  part(id, [
    line('outline', 'cut', polyline(rectangle(0, 0, size, size), true)),
    line('window', 'cut', polyline(rectangle(rim, rim, size - 2 * rim, size - 2 * rim), true)),
    ...more,
  ]);

const decode = (bytes: Uint8Array): string => strFromU8(bytes);
const ringOf = ({ path }: CutPath): Point[] => flatten(path).slice(0, -1);

/** Every cut that lies in a closed one comes before it. */
function expectNested(cuts: readonly CutPath[]): void {
  const closed = cuts.filter(({ stage }) => stage === 'inner' || stage === 'outer');
  closed.forEach((one, i) => {
    const within = closed.filter((other) => other !== one && insideRing(ringOf(other)[0], ringOf(one)));
    for (const other of within)
      expect(closed.indexOf(other), `${other.partId} in ${one.partId}`).toBeLessThan(i);
  });
}

describe('pieces in the apertures of others', () => {
  const inner = part('leaf', [
    line('outline', 'cut', polyline(rectangle(0, 0, 30, 20), true)),
    line('hole', 'cut', circle([15, 10], 4)),
    line('fold', 'valley', straight([10, 0], [10, 20])),
  ]);
  const pieces: CutPiece[] = [
    { part: frame('frame', 120, 8), copy: 1, placement: turn(0, 10, 10) },
    { part: frame('small', 60, 6), copy: 1, placement: turn(0, 25, 25) },
    { part: inner, copy: 1, placement: turn(0, 36, 36) },
    { part: inner, copy: 2, placement: turn(0, 140, 20) },
  ];

  it('are cut wholly before the aperture is, however deep, and in whichever order they come', () => {
    const random = seededRandom(5);
    for (let k = 0; k < 30; k++) {
      const cuts = cutOrder(pieces.toSorted(() => random() - 0.5));
      expectNested(cuts);
      expect(cuts).toHaveLength(10);
      const stages = cuts.map(({ stage }) => stage);
      // Scores come before all that is cut through.
      expect(stages.lastIndexOf('valley')).toBeLessThan(stages.indexOf('inner'));
    }
  });

  it('stay held while they are cut, as the file is read back and played', () => {
    const svg = writeSvg(pieces, { title: 'Nested', widthMm: 300, heightMm: 200, profile: PROFILES[0] });
    expect(readBack(svg).groups).toEqual([
      'score-valley',
      'cut',
      'cut-inner-within-2',
      'cut-outer-within-2',
      'cut-inner-within-1',
      'cut-outer-within-1',
      'cut-inner',
      'cut-outer',
    ]);
    const { strokes } = readCutFile(strToU8(svg), (bytes) => bytes, decode);
    const settings = cutterOf(MACHINES[1]);
    expect(playCutter(strokes, settings).faults).toEqual([]);
    // The other way round they are not.
    const flat = readCutFile(
      strToU8(svg.replace(/ {2}<g id="cut-(inner|outer)-within-[12]">[\s\S]*?<\/g>\n/g, '')),
      (bytes) => bytes,
      decode,
    ).strokes;
    const late = strokes.filter(
      (stroke) => !flat.some((each) => JSON.stringify(each) === JSON.stringify(stroke)),
    );
    expect(playCutter([...flat, ...late], settings).faults.map(({ kind }) => kind)).toContain('unheld');
  });

  it('holes in what falls out of a window come before the window', () => {
    const nested = frame('nested', 100, 10, [
      line('a-speck', 'cut', circle([50, 50], 5)),
      line('z-slit', 'cut', straight([30, 30], [40, 30])),
      line('m-ring', 'cut', circle([50, 50], 15)),
    ]);
    const order = cutOrder([{ part: nested, copy: 1, placement: turn(0.4, 120, 20) }]).map(
      ({ lineId }) => lineId,
    );
    const at = (id: string) => order.indexOf(id);
    expect(at('a-speck')).toBeLessThan(at('m-ring'));
    expect(at('m-ring')).toBeLessThan(at('window'));
    expect(at('z-slit')).toBeLessThan(at('window'));
    expect(at('outline')).toBe(order.length - 1);
  });
});

describe('passes', () => {
  const thick = { ...stockById('chalk-300')!, passes: 3 };
  const board = { ...frame('board', 80, 15, [line('slit', 'cut', straight([4, 4], [4, 40]))]), stock: thick };
  const pieces: CutPiece[] = [{ part: board, copy: 1, placement: turn(0, 20, 20) }];

  it('of stock that needs them follow one another in the file; open cuts run back', () => {
    const cuts = cutOrder(pieces);
    expect(cuts.map(({ lineId, pass }) => [lineId, pass ?? 1])).toEqual(
      cuts.map(({ lineId }, i) => [lineId, (i % 3) + 1]),
    );
    const slit = cuts.filter(({ lineId }) => lineId === 'slit').map(({ path }) => path);
    expect(slit[1].start).toEqual(slit[0].segments[0].kind === 'line' ? slit[0].segments[0].to : null);
    expect(slit[2]).toEqual(slit[0]);
  });

  it('are no fault when they are played, but the same again is', () => {
    const svg = writeSvg(pieces, { title: 'Thick', widthMm: 200, heightMm: 200, profile: PROFILES[0] });
    const read = (text: string) => readCutFile(strToU8(text), (bytes) => bytes, decode).strokes;
    const settings = cutterOf(MACHINES[1]);
    const played = playCutter(read(svg), settings);
    expect(played.faults).toEqual([]);
    const once = playCutter(read(svg.replace(/.*data-pass.*\n/g, '')), settings);
    expect(played.byTool.cut.mm).toBeCloseTo(3 * once.byTool.cut.mm, 6);
    const kinds = playCutter(read(svg.replace(/ data-pass="\d"/g, '')), settings).faults.map(
      ({ kind }) => kind,
    );
    expect(kinds).toContain('twice');
  });
});

describe('tools', () => {
  const pieces: CutPiece[] = [
    {
      part: frame('framed', 60, 10, [
        line('fold', 'valley', straight([5, 0], [5, 60])),
        line('tear', 'perforation', straight([0, 5], [60, 5])),
        line('help', 'mark', straight([0, 55], [60, 55])),
      ]),
      copy: 1,
      placement: turn(0, 10, 10),
    },
  ];

  it('share all that is made between them, each taken up once', () => {
    const profile = PROFILES[0];
    const options = { title: 'Tools', widthMm: 100, heightMm: 100, profile, marks: 'drawn' as const };
    const whole = readBack(writeSvg(pieces, options)).paths;
    const apart = toolsOf(profile).map(({ tool }) => readBack(writeSvg(pieces, { ...options, tool })).paths);
    expect(apart.map((paths) => paths.length)).toEqual([1, 1, 3]);
    expect(apart.flat()).toEqual(whole);
  });

  it('are those of the store, and colours, too', () => {
    const own = {
      id: 'own',
      name: 'Own',
      strokeMm: 0.2,
      cut: '#ff0000',
      mountain: '#00ff00',
      valley: '#00ff00',
      perforation: '#ff0000',
      kiss: '#ff0000',
      score: '#00ff00',
      mark: '#0000ff',
      cutTool: 'Knife',
      scoreTool: 'Knife',
      markTool: 'Pencil',
    };
    const profile = profileIn({ profiles: { own } }, 'own');
    expect(toolsOf(profile).map(({ tool }) => tool)).toEqual(['Pencil', 'Knife']);
    const svg = writeSvg(pieces, { title: 'Own', widthMm: 100, heightMm: 100, profile });
    expect(svg).toMatch(
      /id="cut" data-layer="cut" data-tool="Knife" fill="none" stroke="#ff0000" stroke-width="0.2"/,
    );
    expect(profileIn({}, 'nothing like that')).toBe(PROFILES[0]);
  });
});

describe('nicks', () => {
  // A panel with a tab along its upper edge.
  const nicked: Part = part(
    'nicked',
    [
      {
        ...line(
          'outline',
          'cut',
          polyline(
            [
              [0, 0],
              [100, 0],
              [100, 40],
              [92, 50],
              [8, 50],
              [0, 40],
            ],
            true,
          ),
        ),
        nicks: { count: 5, widthMm: 0.5 },
      },
      line('fold', 'mountain', straight([0, 40], [100, 40])),
    ],
    {
      marks: [
        { id: 'panel', name: 'panel', at: [50, 20] },
        { id: 'tab', name: 'tab', at: [50, 45], role: 'tab' },
      ],
    },
  );

  it('keep off edges that show, whichever way the outline runs, where there is another', () => {
    const box = (ring: readonly Point[]): DieLine => ({
      ...line('outline', 'cut', polyline(ring, true)),
      nicks: { count: 4, widthMm: 0.5 },
    });
    const ring: Point[] = [
      [0, 0],
      [80, 0],
      [80, 50],
      [0, 50],
    ];
    const from: Record<Edge, (p: Point) => number> = {
      lower: ([, y]) => y,
      upper: ([, y]) => 50 - y,
      left: ([x]) => x,
      right: ([x]) => 80 - x,
    };
    for (const way of [ring, ring.toReversed()])
      for (const edges of [['upper'], ['lower', 'left'], ['right'], ['upper', 'lower', 'right']] as const) {
        const outline = { ...box(way), nicks: { count: 4, widthMm: 0.5, notOn: edges } };
        const own = part('box', [outline], { marks: [{ id: 'panel', name: 'panel', at: [40, 25] }] });
        const places = nicksAlong(outline.path, outline.nicks, keptOffNicks(own, outline));
        expect(places).toHaveLength(4);
        for (const at of places) {
          const p = pointAlong(outline.path, at);
          for (const edge of edges) expect(from[edge](p)).toBeGreaterThan(0.2);
        }
        expect(madePaths(outline, keptOffNicks(own, outline))).toHaveLength(5);
      }
    // On all edges at once there is no other place: it is held all the same.
    const all = { ...box(ring), nicks: { count: 4, widthMm: 0.5, notOn: EDGES } };
    const whole = part('box', [all], { marks: [{ id: 'panel', name: 'panel', at: [40, 25] }] });
    expect(madePaths(all, keptOffNicks(whole, all))).toHaveLength(5);
  });

  it('keep off tabs, and stay as many and as wide', () => {
    const [outline] = nicked.lines;
    const off = keptOffNicks(nicked, outline);
    expect(off.reduce((sum, [from, to]) => sum + to - from, 0)).toBeCloseTo(84 + 2 * Math.hypot(8, 10), 6);
    const places = nicksAlong(outline.path, outline.nicks!, off);
    expect(places).toHaveLength(5);
    for (const at of places) for (const [from, to] of off) expect(at < from || at > to).toBe(true);
    expect(
      nicksAlong(outline.path, outline.nicks!).some((at) => off.some(([a, b]) => at > a && at < b)),
    ).toBe(true);
    expect(madePaths(outline, off)).toHaveLength(6);
    // Drawn in another place they are the same ones.
    const t = turn(1, 30, 40);
    const moved: Part = {
      ...nicked,
      lines: nicked.lines.map((each) => ({ ...each, path: placePath(t, each.path) })),
      marks: nicked.marks.map((mark) => ({ ...mark, at: place(t, mark.at) })),
    };
    expect(keptOffNicks(moved, moved.lines[0]).flat()).toEqual(
      off.flat().map((mm): unknown => expect.closeTo(mm, 6)),
    );
  });
});
