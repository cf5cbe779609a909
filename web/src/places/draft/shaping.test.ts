/** What is done to chosen lines, on drafted parts and on a mechanism's: applied, taken back, areas and lengths as they should be. */
import { applyCommand } from '@hollow-finch/core/design/commands';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { workOf, type DieLine } from '@hollow-finch/core/dieline/part';
import { isClosedPath } from '@hollow-finch/core/geometry/curve';
import {
  circle,
  endOf,
  flatten,
  pathLength,
  polyline,
  straight,
  type Path,
} from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { ringArea } from '@hollow-finch/core/geometry/polygon';
import { describe, expect, it } from 'vitest';
import { drawOn } from './draftEdits.ts';
import {
  changeableLines,
  lineAt,
  shaped,
  shapedAt,
  withPath,
  type Operation,
  type Shaped,
} from './shaping.ts';

const withLines = (...paths: Path[]): Design => ({
  ...newDesign('Shapes'),
  parts: {
    p: {
      id: 'p',
      name: 'Part',
      stockId: 'ember-160',
      grainRad: null,
      quantity: 1,
      glueZones: {},
      marks: {},
      lines: Object.fromEntries(
        paths.map((path, i) => [`l${i}`, { id: `l${i}`, ...workOf('cut'), path } as DieLine]),
      ),
    },
  },
});
const box = polyline(
  [
    [0, 0],
    [40, 0],
    [40, 30],
    [0, 30],
  ],
  true,
);

/** A design after an operation; what is done is a legal design, and is taken back to the same bytes. */
function done(
  design: Design,
  ids: string[],
  operation: Operation,
  partId = 'p',
): { design: Design; made: Shaped } {
  const made = shaped(design, partId, ids, operation);
  if ('refused' in made) throw new Error(made.refused);
  const { design: after, inverse } = applyCommand(design, made.command);
  expect(readDesign(JSON.parse(JSON.stringify(after))).ok).toBe(true);
  expect(JSON.stringify(applyCommand(after, inverse).design)).toBe(JSON.stringify(design));
  return { design: after, made };
}
const paths = (design: Design) => Object.values(design.parts.p.lines).map(({ path }) => path);
const area = (path: Path) => ringArea(flatten(path, 1e-4));

describe('lines of a drafted part', () => {
  it('are rounded, offset, mirrored, turned, scaled and repeated', () => {
    const design = withLines(box);
    expect(area(paths(done(design, ['l0'], { kind: 'fillet', mm: 5, corner: 'all' }).design)[0])).toBeCloseTo(
      1200 - (4 - Math.PI) * 25,
      2,
    );
    expect(area(paths(done(design, ['l0'], { kind: 'chamfer', mm: 4, corner: 1 }).design)[0])).toBeCloseTo(
      1192,
      6,
    );
    const offset = paths(done(design, ['l0'], { kind: 'offset', mm: -3, keep: true }).design);
    expect(offset.map((p) => Math.round(Math.abs(area(p))))).toEqual([1200, 816]);
    const mirror = paths(
      done(design, ['l0'], { kind: 'mirror', axis: 'upright', atMm: 50, keep: true }).design,
    );
    expect(mirror[1].start[0]).toBeCloseTo(100, 9);
    const turn = paths(done(design, ['l0'], { kind: 'turn', deg: 90, about: [0, 0] }).design);
    expect(turn[0].segments[0].to[1]).toBeCloseTo(40, 9);
    const scale = paths(done(design, ['l0'], { kind: 'scale', across: 2, up: 0.5, about: [0, 0] }).design);
    expect(area(scale[0])).toBeCloseTo(1200, 6);
    const row = paths(done(design, ['l0'], { kind: 'row', count: 4, step: [50, 5] }).design);
    expect(row.map((p) => p.start)).toEqual([
      [0, 0],
      [50, 5],
      [100, 10],
      [150, 15],
    ]);
    const round = paths(
      done(withLines(circle([20, 0], 3)), ['l0'], { kind: 'round', count: 6, about: [0, 0], turned: true })
        .design,
    );
    expect(round).toHaveLength(6);
    for (const p of round)
      expect(flatten(p).every((q) => Math.abs(distance(q, [0, 0]) - 20) < 3.01)).toBe(true);
  });

  it('are joined, united, trimmed, split and made longer', () => {
    const open = withLines(
      straight([0, 0], [40, 0]),
      straight([40.03, 0], [40, 30]),
      straight([0, 0.02], [40, 30]),
    );
    const joined = done(open, ['l0', 'l1', 'l2'], { kind: 'join', mm: 0.05 });
    expect(Object.keys(joined.design.parts.p.lines)).toEqual(['l0']);
    expect(isClosedPath(paths(joined.design)[0])).toBe(true);
    expect(joined.made.note).toMatch(/2 gaps were closed, 0\.03 mm at most/);
    const two = withLines(circle([0, 0], 10), circle([12, 0], 10));
    expect(paths(done(two, ['l0', 'l1'], { kind: 'unite' }).design)).toHaveLength(1);
    expect(paths(done(two, ['l0', 'l1'], { kind: 'subtract' }).design)).toHaveLength(1);
    const cross = withLines(
      straight([0, 0], [60, 0]),
      straight([20, -9], [20, 9]),
      straight([40, -9], [40, 9]),
    );
    const trimmed = done(cross, ['l0'], { kind: 'trim', at: [30, 0] });
    expect(Object.keys(trimmed.design.parts.p.lines)).toHaveLength(4);
    expect(
      paths(trimmed.design)
        .map(pathLength)
        .sort((a, b) => a - b),
    ).toEqual([18, 18, 20, 20]);
    const split = done(cross, ['l0'], { kind: 'split', alongMm: 25 });
    expect(pathLength(split.design.parts.p.lines.l0.path)).toBeCloseTo(25, 9);
    const short = withLines(straight([0, 0], [10, 0]), straight([20, -9], [20, 9]));
    const longer = done(short, ['l0'], { kind: 'extend', end: 'end' });
    expect(endOf(longer.design.parts.p.lines.l0.path)).toEqual([20, 0]);
    expect(lineAt(cross, 'p', [30, 1], 2)!.id).toBe('l0');
    expect(shapedAt(cross, 'p', [30, 20], 2, 'trim')).toBeUndefined();
    expect(shapedAt(short, 'p', [9, 0.5], 2, 'extend')).toMatchObject({
      label: 'Make longer until it meets a line',
    });
  });

  it('say why where something cannot be done', () => {
    const refused = (design: Design, ids: string[], operation: Operation) =>
      (shaped(design, 'p', ids, operation) as { refused: string }).refused;
    expect(
      refused(withLines(straight([0, 0], [9, 9])), ['l0'], { kind: 'offset', mm: 2, keep: true }),
    ).toContain('closed outline');
    expect(refused(withLines(box, circle([200, 0], 3)), ['l0', 'l1'], { kind: 'join', mm: 0.05 })).toContain(
      'No two of their ends',
    );
    expect(refused(withLines(box), ['gone'], { kind: 'split', alongMm: 3 })).toContain(
      'belongs to a mechanism',
    );
    expect(refused(withLines(circle([0, 0], 5)), ['l0'], { kind: 'fillet', mm: 3, corner: 'all' })).toContain(
      'no corner',
    );
  });

  it('keep meeting when one of them is given another end', () => {
    const corners = [
      [0, 0],
      [50, 0],
      [60, 30],
      [25, 50],
      [-10, 30],
    ] as const;
    const five = withLines(...corners.map((from, i) => straight(from, corners[(i + 1) % 5])));
    const after = applyCommand(five, withPath(five, 'p', 'l0', straight([0, 0], [72.5, 4]))!).design;
    const now = Object.values(after.parts.p.lines).map(({ path }) => path);
    now.forEach((path, i) => expect(distance(endOf(path), now[(i + 1) % 5].start)).toBeLessThan(1e-9));
    expect(endOf(now[0])).toEqual([72.5, 4]);
  });
});

it('lines that were drawn on the card are shaped as well, and copies stay on their panel', () => {
  const bare = newDesign('Card');
  const drawn = drawOn(bare, 'card', 'cut', circle([-40, 50], 8), [-40, 50]);
  if ('refused' in drawn) throw new Error(drawn.refused);
  const design = applyCommand(bare, drawn.command).design;
  const [line] = changeableLines(design, 'card');
  const { design: after } = done(design, [line.id], { kind: 'row', count: 3, step: [0, -18] }, 'card');
  expect(Object.values(after.additions).map(({ panelId }) => panelId)).toEqual(
    Array(3).fill(Object.values(design.additions)[0].panelId),
  );
  expect(changeableLines(after, 'card')).toHaveLength(3);
});
