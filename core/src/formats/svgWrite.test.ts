/** The written file read back by other means (an XML parser and a path library) and compared with the design. */
import { SaxesParser } from 'saxes';
import svgpath from 'svgpath';
import { describe, expect, it } from 'vitest';
import { PROFILES } from '../cutting/profile.ts';
import { newDesign } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import type { Part } from '../dieline/part.ts';
import { turn } from '../geometry/isometry.ts';
import { circle, flatten, placePath, straight, type Path } from '../geometry/path.ts';
import { distanceToSegment, type Point } from '../geometry/point.ts';
import { expand } from '../mechanisms/expand.ts';
import { step } from '../mechanisms/step.ts';
import { writePartSvg, writeSvg } from './svgWrite.ts';

interface Read {
  groups: string[];
  size: { width: string; height: string; viewBox: string };
  paths: { group: string; part: string; line: string; d: string }[];
}

function readBack(svg: string): Read {
  const read: Read = { groups: [], size: { width: '', height: '', viewBox: '' }, paths: [] };
  const stack: string[] = [];
  const parser = new SaxesParser();
  parser.on('opentag', ({ name, attributes }) => {
    const a = attributes as Record<string, string>;
    if (name === 'svg') read.size = { width: a.width, height: a.height, viewBox: a.viewBox };
    if (name === 'g') read.groups.push(a.id);
    if (name === 'path') read.paths.push({ group: stack.filter((s) => s.startsWith('g:')).at(-1)!.slice(2), part: a['data-part'], line: a['data-line'], d: a.d });
    stack.push(name === 'g' ? `g:${a.id}` : name);
  });
  parser.on('closetag', () => stack.pop());
  parser.on('error', (error) => {
    throw error;
  });
  parser.write(svg).close();
  return read;
}

/** Points of an arc by the SVG standard's own conversion from end points to centre (circles only). */
function arcPoints([x1, y1]: Point, r: number, large: boolean, sweep: boolean, [x2, y2]: Point): Point[] {
  const [hx, hy] = [(x1 - x2) / 2, (y1 - y2) / 2];
  const factor = Math.sqrt(Math.max(0, (r * r) / (hx * hx + hy * hy) - 1)) * (large !== sweep ? 1 : -1);
  const [cx, cy] = [factor * hy + (x1 + x2) / 2, -factor * hx + (y1 + y2) / 2];
  const from = Math.atan2(y1 - cy, x1 - cx);
  let turned = Math.atan2(y2 - cy, x2 - cx) - from;
  if (sweep && turned < 0) turned += 2 * Math.PI;
  if (!sweep && turned > 0) turned -= 2 * Math.PI;
  return Array.from({ length: 64 }, (_, k): Point => {
    const angle = from + (turned * (k + 1)) / 64;
    return [cx + r * Math.cos(angle), cy + r * Math.sin(angle)];
  });
}

/** Points along path data, curves sampled. */
function points(d: string, heightMm: number): Point[] {
  const out: Point[] = [];
  let at: Point = [0, 0];
  svgpath(d).abs().iterate((segment) => {
    const n = segment.slice(1) as number[];
    if (segment[0] === 'C')
      for (let k = 1; k <= 128; k++) {
        const t = k / 128;
        const u = 1 - t;
        out.push([0, 1].map((i) => u ** 3 * at[i] + 3 * u * u * t * n[i] + 3 * u * t * t * n[2 + i] + t ** 3 * n[4 + i]) as unknown as Point);
      }
    else if (segment[0] === 'A') out.push(...arcPoints(at, n[0], n[3] === 1, n[4] === 1, [n[5], n[6]]));
    else out.push([n[0], n[1]]);
    at = [n[n.length - 2], n[n.length - 1]];
  });
  return out.map(([x, y]): Point => [x, heightMm - y]);
}

/** Greatest distance of points from a path, at a fine flattening. */
function off(list: readonly Point[], path: Path): number {
  const fine = flatten(path, 0.0005);
  return Math.max(...list.map((p) => Math.min(...fine.slice(1).map((q, i) => distanceToSegment(p, fine[i], q)))));
}

describe('SVG cut files', () => {
  it('hold every cut and fold line at its place to 0.01 mm, on its layer, and no guide', () => {
    const design = newDesign('Svg');
    const params = step.defaults(cardGutter(design));
    const expanded = expand({ ...design, instances: { m: { id: 'm', name: 'Step', family: 'step', stockId: 'slate-240', params, host: { partId: 'card', gutterId: 'gutter' }, beyondLimits: false } } });
    const round: Part = {
      id: 'round',
      name: 'Round & <square>',
      stockId: 'slate-240',
      grainRad: null,
      quantity: 1,
      glueZones: [],
      marks: [],
      lines: [
        { id: 'rim', layer: 'cut', path: circle([0, 0], 40) },
        { id: 'hole', layer: 'cut', path: { start: [5, 0], segments: [{ kind: 'arc', to: [-5, 0], bulge: 0.4 }, { kind: 'cubic', c1: [-9, -9], c2: [9, -9], to: [5, 0] }] } },
        { id: 'tear', layer: 'perforation', path: straight([-39, 0], [-10, 0]) },
        { id: 'skin', layer: 'kiss', path: circle([20, 10], 3) },
      ],
    };
    const all = [...expanded.parts, round].map((part, i) => ({ part, copy: 1, placement: turn(0.4 * i, 150 + 40 * i, 120) }));
    const svg = writeSvg(all, { title: 'Sheet <1> & more', widthMm: 420, heightMm: 297.5, profile: PROFILES[0] });
    const read = readBack(svg);
    expect(read.size).toEqual({ width: '420mm', height: '297.5mm', viewBox: '0 0 420 297.5' });
    expect(read.groups).toEqual(['score-mountain', 'score-valley', 'perforation', 'kiss', 'cut', 'cut-inner', 'cut-outer']);
    const group = { mountain: ['score-mountain'], valley: ['score-valley'], perforation: ['perforation'], kiss: ['kiss'], cut: ['cut-inner', 'cut-outer'], guide: [] };
    let lines = 0;
    for (const { part, placement } of all)
      for (const line of part.lines) {
        const found = read.paths.filter((p) => p.part === part.id && p.line === line.id);
        expect(found).toHaveLength(line.layer === 'guide' ? 0 : 1);
        if (line.layer === 'guide') continue;
        lines++;
        expect(group[line.layer] as string[]).toContain(found[0].group);
        const placed = placePath(placement, line.path);
        const written = points(found[0].d, 297.5);
        expect(off(written, placed)).toBeLessThan(0.01);
        const writtenPath: Path = { start: written[0], segments: written.slice(1).map((to) => ({ kind: 'line', to })) };
        expect(off(flatten(placed), writtenPath)).toBeLessThan(0.03);
      }
    expect(read.paths).toHaveLength(lines);
    const groupOf = (id: string) => read.paths.find((p) => p.part === 'round' && p.line === id)!.group;
    expect([groupOf('hole'), groupOf('rim')]).toEqual(['cut-inner', 'cut-outer']);
  });

  it('export a single part with a border, in true size', () => {
    const part: Part = { id: 'p', name: 'P', stockId: 'slate-240', grainRad: null, quantity: 1, glueZones: [], marks: [], lines: [{ id: 'o', layer: 'cut', path: circle([7, 9], 20) }] };
    const read = readBack(writePartSvg(part, 'P', PROFILES[1], 5));
    expect([parseFloat(read.size.width), parseFloat(read.size.height)]).toEqual([50, 50]);
    expect(read.paths[0].d).toMatch(/^M45 25A20 20 0 0 0 25 5A20 20 0 0 0 5 25A20 20 0 0 0 25 45A20 20 0 0 0 45 25$/);
  });
});
