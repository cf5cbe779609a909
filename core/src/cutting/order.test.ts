import { describe, expect, it } from 'vitest';
import { circle, endOf, pathLength, polyline, straight } from '../geometry/path.ts';
import { distance } from '../geometry/point.ts';
import { turn } from '../geometry/isometry.ts';
import { workOf, type DieLine, type Layer, type Part } from '../dieline/part.ts';
import { seededRandom } from '../geometry/random.ts';
import { cutOrder, STAGES } from './order.ts';

const line = (id: string, layer: Layer, path: DieLine['path']): DieLine => ({ id, ...workOf(layer), path });
const random = seededRandom(14);

function card(id: string): Part {
  const lines = [
    line(
      'outline',
      'cut',
      polyline(
        [
          [0, 0],
          [90, 0],
          [90, 60],
          [0, 60],
        ],
        true,
      ),
    ),
    line('hole', 'cut', circle([20, 30], 8)),
    line('slit', 'cut', straight([60, 20], [60, 40])),
    line('fold', 'valley', straight([45, 0], [45, 60])),
    line('ridge', 'mountain', straight([75, 0], [75, 60])),
    line('tear', 'perforation', straight([0, 50], [45, 50])),
    line('skin', 'kiss', circle([80, 30], 2)),
    line('help', 'mark', straight([0, 0], [90, 60])),
  ];
  for (let i = 0; i < 12; i++) {
    const [x, y] = [5 + 30 * random(), 5 + 10 * random()];
    lines.push(line(`speck${i}`, 'cut', circle([x, y], 0.4)));
  }
  return {
    id,
    name: id,
    stockId: 'slate-240',
    grainRad: null,
    quantity: 1,
    glueZones: [],
    marks: [],
    lines: lines.sort(() => random() - 0.5),
  };
}

describe('the order of cutting', () => {
  const pieces = [card('a'), card('b')].map((part, i) => ({
    part,
    copy: 1,
    placement: turn(0.3 * i, 120 * i, 5),
  }));
  const cuts = cutOrder(pieces);

  it('has every line once, marks only when asked for, and keeps its length', () => {
    for (const { part } of pieces) {
      const wanted = part.lines.filter((l) => l.process !== 'mark');
      const mine = cuts.filter((cut) => cut.partId === part.id);
      expect(mine.map((cut) => cut.lineId).sort()).toEqual(wanted.map((l) => l.id).sort());
      for (const cut of mine)
        expect(pathLength(cut.path)).toBeCloseTo(
          pathLength(part.lines.find((l) => l.id === cut.lineId)!.path),
          6,
        );
    }
    const all = cutOrder(pieces, true);
    expect(all).toHaveLength(pieces.reduce((sum, { part }) => sum + part.lines.length, 0));
    expect(all.map(({ stage }) => stage === 'mark').lastIndexOf(true)).toBe(1);
  });

  it('scores before it cuts, inner lines before the outline that sets the piece free', () => {
    const stages = cuts.map((cut) => STAGES.indexOf(cut.stage));
    expect(stages).toEqual([...stages].sort((a, b) => a - b));
    const stageOf = (id: string) => cuts.find((cut) => cut.lineId === id)!.stage;
    expect(['fold', 'ridge', 'tear', 'skin', 'hole', 'slit', 'outline'].map(stageOf)).toEqual([
      'valley',
      'mountain',
      'perforation',
      'kiss',
      'inner',
      'inner',
      'outer',
    ]);
  });

  it('travels less than the drawn order does', () => {
    const travel = (list: typeof cuts) =>
      list.slice(1).reduce((sum, cut, i) => sum + distance(endOf(list[i].path), cut.path.start), 0);
    const inner = cuts.filter((cut) => cut.partId === 'a' && cut.stage === 'inner');
    const drawn = pieces[0].part.lines.flatMap((l) => inner.filter((cut) => cut.lineId === l.id));
    expect(travel(inner)).toBeLessThan(0.7 * travel(drawn));
  });

  it.each([30, 300])('goes to the nearest end each time, as trying all of %i lines does', (count) => {
    // Ends on a coarse grid: many are at one place, or equally far.
    const at = (): [number, number] => [Math.floor(20 * random()) * 5, Math.floor(20 * random()) * 5];
    const lines = Array.from({ length: count }, (_, i) => {
      const [x, y] = at();
      return line(`l${i}`, 'perforation', straight([x, y], [x + 3, y + 2]));
    });
    const part: Part = { ...card('grid'), lines };
    const order = cutOrder([{ part, copy: 1, placement: turn(0) }]);
    const left = new Set(lines.map(({ id }) => id));
    let here: readonly [number, number] = [0, 0];
    for (const { lineId, path } of order) {
      const away = lines
        .filter(({ id }) => left.has(id))
        .map((l) => Math.min(distance(here, l.path.start), distance(here, endOf(l.path))));
      expect(distance(here, path.start)).toBeCloseTo(Math.min(...away), 9);
      left.delete(lineId);
      here = endOf(path);
    }
    expect(left.size).toBe(0);
  });
});
