import { applyCommand, type Command } from '@hollow-finch/core/design/commands';
import { gluesOf, newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { workOf } from '@hollow-finch/core/dieline/part';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { polyline, straight } from '@hollow-finch/core/geometry/path';
import { describe, expect, it } from 'vitest';
import { cardGutter } from '@hollow-finch/core/design/frames';
import { newInstance } from '@hollow-finch/core/mechanisms/instance';
import { step } from '@hollow-finch/core/mechanisms/step';
import { drawOn, editableLine, emptyPart, removalOf, standingOn } from './draftEdits.ts';
import { boardBox, boardLayout } from './layout.ts';

const does = (design: Design, command: Command): Design => applyCommand(design, command).design;
const base = (): Design => {
  const design = newDesign('Draft', { closedWidthMm: 148, closedHeightMm: 105 });
  return { ...design, instances: { m1: newInstance(step, cardGutter(design), 'm1') } };
};
const drawn = (
  design: Design,
  partId: string | null,
  at: [number, number] = [0, 0],
  path = straight([0, 0], [10, 0]),
) => {
  const result = drawOn(design, partId, 'cut', path, at);
  if ('refused' in result) throw new Error(result.refused);
  return result;
};

describe('drawing', () => {
  it('on nothing makes a part, on a drafted part adds to it, with names that are never used twice', () => {
    let design = does(base(), drawn(base(), null).command);
    expect(Object.keys(design.parts)).toEqual(['p1']);
    for (let i = 0; i < 3; i++) design = does(design, drawn(design, 'p1').command);
    expect(Object.keys(design.parts.p1.lines)).toEqual(['l1', 'l2', 'l3', 'l4']);
    design = does(design, { do: 'line', partId: 'p1', id: 'l2', value: null });
    design = does(design, drawn(design, 'p1').command);
    expect(Object.keys(design.parts.p1.lines).sort()).toEqual(['l1', 'l2', 'l3', 'l4']);
  });

  it('on a mechanism’s panel belongs to the panel, and moves with it', () => {
    const start = base();
    const width = Number(start.instances.m1.params.panelMm);
    // On the right panel, 5 mm from the ridge.
    const result = drawn(start, 'm1/strip', [width + 5, 10], straight([width + 5, 10], [width + 9, 10]));
    let design = does(start, result.command);
    expect(Object.values(design.additions)[0]).toMatchObject({
      panelId: 'front',
      line: { path: { start: [5, 10] } },
    });
    const instance = {
      ...design.instances.m1,
      params: { ...design.instances.m1.params, rightMm: width + 20 },
    };
    design = does(design, { do: 'put', in: 'instances', id: 'm1', value: instance });
    const strip = expand(design).parts.find((part) => part.id === 'm1/strip')!;
    expect(strip.lines.find((line) => line.id.startsWith('added-'))!.path.start).toEqual([width + 25, 10]);
    const without = does(design, { do: 'put', in: 'instances', id: 'm1', value: null });
    expect(
      expand(without)
        .faults.map((fault) => fault.message)
        .join(),
    ).toMatch(/has lost its panel/);
    expect(Object.keys(without.additions)).toHaveLength(1);
  });

  it('on a tab, or on a part that is gone, is refused in words', () => {
    expect(drawOn(base(), 'm1/strip', 'cut', straight([0, 0], [1, 1]), [-4, 10])).toMatchObject({
      refused: expect.stringMatching(/not to a tab/),
    });
    expect(drawOn(base(), 'gone', 'cut', straight([0, 0], [1, 1]), [0, 0])).toMatchObject({
      refused: expect.stringMatching(/no longer there/),
    });
  });
});

describe('editing and taking away', () => {
  it('finds drafted lines and additions in the part’s plane, and puts changes back where they belong', () => {
    const start = base();
    const width = Number(start.instances.m1.params.panelMm);
    const design = does(
      start,
      drawn(start, 'm1/strip', [width + 5, 10], straight([width + 5, 10], [width + 9, 10])).command,
    );
    const found = editableLine(design, 'm1/strip', 'added-a1')!;
    expect(found.line.path.start).toEqual([width + 5, 10]);
    const moved = does(
      design,
      found.change({ ...found.line, path: straight([width + 1, 2], [width + 3, 2]) }),
    );
    expect(moved.additions.a1.line.path.start[0]).toBeCloseTo(1, 9);
    expect(does(design, found.change(null)).additions).toEqual({});
    expect(editableLine(design, 'm1/strip', 'ridge')).toBeUndefined();
  });

  it('takes a part away with its glue and its place, in one edit that is undone as one', () => {
    let design = does(base(), drawn(base(), null).command);
    design = does(design, { do: 'put', in: 'board', id: 'p1', value: { x: 3, y: 4 } });
    design = does(design, {
      do: 'put',
      in: 'joints',
      id: 'j1',
      value: {
        id: 'j1',
        kind: 'glue',
        partId: 'p1',
        zoneId: 'z',
        hostPartId: 'card',
        placement: shift(0, 0),
        mate: null,
      },
    });
    const removal = removalOf(design, { kind: 'part', id: 'p1' })!;
    const applied = applyCommand(design, removal.command);
    expect([applied.design.parts, applied.design.joints, applied.design.board]).toEqual([{}, {}, {}]);
    expect(does(applied.design, applied.inverse)).toEqual(design);
    expect(removalOf(design, { kind: 'part', id: 'card' })).toBeUndefined();
    expect(removalOf(design, { kind: 'line', partId: 'card', id: 'outline' })).toBeUndefined();
    expect(removalOf(design, null)).toBeUndefined();
  });
});

describe('the board', () => {
  it('lays parts in rows without overlap, and leaves them where a person put them', () => {
    let design = base();
    for (let i = 0; i < 7; i++)
      design = does(
        design,
        drawn(
          design,
          null,
          [0, 0],
          polyline(
            [
              [0, 0],
              [60 + i * 9, 0],
              [60, 40],
            ],
            true,
          ),
        ).command,
      );
    design = does(design, { do: 'put', in: 'board', id: 'p3', value: { x: 500, y: 500 } });
    const layout = boardLayout(expand(design), design.board);
    const boxes = layout.map(({ box, offset: [dx, dy] }) => ({
      minX: box.minX + dx,
      maxX: box.maxX + dx,
      minY: box.minY + dy,
      maxY: box.maxY + dy,
    }));
    boxes.forEach((a, i) =>
      boxes.slice(i + 1).forEach((b) => {
        const overlap = a.minX < b.maxX && b.minX < a.maxX && a.minY < b.maxY && b.minY < a.maxY;
        expect(overlap).toBe(false);
      }),
    );
    expect(layout.find(({ part }) => part.id === 'p3')!.offset).toEqual([500, 500]);
    expect(boardBox(layout).maxX).toBeGreaterThan(560);
  });
});

describe('what stands on a panel of a drafted part', () => {
  it('stays where it is when folds are added, and the panel keeps its name', () => {
    const base = newDesign('Pinned', { closedWidthMm: 150, closedHeightMm: 110 });
    const rect = polyline(
      [
        [0, 0],
        [160, 0],
        [160, 80],
        [0, 80],
      ],
      true,
    );
    const part = {
      ...emptyPart(base),
      id: 'p1',
      lines: {
        o: { id: 'o', ...workOf('cut'), path: rect },
        f: { id: 'f', ...workOf('valley'), path: straight([60, 0], [60, 80]) },
      },
    };
    const drafted: Design = { ...base, parts: { p1: part } };
    const host = expand(drafted).gutters.find((g) => g.lineId === 'panel:panel-2')!;
    const family = familyById('layered')!;
    const value = newInstance(family, host, 'm1', { params: { widthMm: 20, heightMm: 20 } });
    const command = standingOn(drafted, host, { do: 'put', in: 'instances', id: 'm1', value });
    const { design, inverse } = applyCommand(drafted, command);
    expect(readDesign(JSON.parse(JSON.stringify(design))).ok).toBe(true);
    expect(applyCommand(design, inverse).design).toEqual(drafted);
    const placed = (d: Design) =>
      gluesOf(expand(d).joints).find(({ partId }) => partId === 'm1/layer-1')!.placement;
    const more = (x: number): Design => ({
      ...design,
      parts: {
        p1: {
          ...design.parts.p1,
          lines: {
            ...design.parts.p1.lines,
            g: { id: 'g', ...workOf('mountain'), path: straight([x, 0], [x, 80]) },
          },
        },
      },
    });
    for (const x of [20, 85, 130]) {
      expect(placed(more(x))).toEqual(placed(design));
      const ids = panelPlan(expand(more(x)).parts.find(({ id }) => id === 'p1')!).panels.map(({ id }) => id);
      expect(new Set(ids).size).toBe(ids.length);
      expect(ids).toContain('panel-2');
    }
    // Nothing is marked twice, and nothing on the card or on a fold.
    expect(standingOn(design, host, command)).toBe(command);
    const fold = expand(drafted).gutters.find((g) => g.partId === 'p1' && g.kind === 'fold')!;
    expect(standingOn(drafted, fold, command)).toBe(command);
  });
});
