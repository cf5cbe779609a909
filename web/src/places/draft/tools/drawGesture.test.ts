import { workOf } from '@hollow-finch/core/dieline/part';
import { circle, pathLength, placePath, polyline, straight } from '@hollow-finch/core/geometry/path';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { describe, expect, it } from 'vitest';
import {
  drawnPath,
  drawStep,
  shapeOf,
  snapped,
  type DrawEvent,
  type Drawing,
  type Tool,
} from './drawGesture.ts';

const run = (tool: Tool, ...events: DrawEvent[]): Drawing =>
  events.reduce<Drawing>((state, event) => drawStep(state, tool, event), null);
const press = (x: number, y: number): DrawEvent => ({ kind: 'press', at: [x, y] });
const drag = (x: number, y: number, square = false): DrawEvent => ({ kind: 'drag', at: [x, y], square });

describe('drawing', () => {
  it('makes what the tool says', () => {
    expect(drawnPath(run('line', press(0, 0), drag(30, 40)), 'line')).toEqual(straight([0, 0], [30, 40]));
    expect(pathLength(drawnPath(run('rectangle', press(30, 40), drag(0, 0)), 'rectangle')!)).toBe(140);
    expect(pathLength(drawnPath(run('circle', press(5, 5), drag(5, 15)), 'circle')!)).toBeCloseTo(
      20 * Math.PI,
      9,
    );
  });

  it('holds lines straight and rectangles square when asked', () => {
    expect(run('line', press(0, 0), drag(30, 4, true))!.to).toEqual([30, 0]);
    expect(run('line', press(0, 0), drag(3, -40, true))!.to).toEqual([0, -40]);
    expect(run('rectangle', press(0, 0), drag(-20, 30, true))!.to).toEqual([-30, 30]);
  });

  it('makes nothing of slips, of a drag without a press, or when given up', () => {
    expect(drawnPath(run('line', press(0, 0), drag(0.1, 0.1)), 'line')).toBeUndefined();
    expect(drawnPath(run('rectangle', press(0, 0), drag(0, 30)), 'rectangle')).toBeUndefined();
    expect(run('line', drag(5, 5))).toBeNull();
    expect(run('circle', press(0, 0), drag(5, 5), { kind: 'giveUp' })).toBeNull();
    expect(run('choose', press(0, 0))).toBeNull();
  });

  it('snaps to ends of lines first, to millimetres else', () => {
    const lines = [{ id: 'a', ...workOf('cut'), path: straight([0.25, 0], [10.4, 7.3]) }];
    expect(snapped([10.1, 7.1], lines, 1)).toEqual([10.4, 7.3]);
    expect(snapped([5.2, 7.6], lines, 1)).toEqual([5, 8]);
    const guides = [{ axis: 'x' as const, atMm: 5.5 }];
    expect(snapped([5.2, 7.6], lines, 1, guides)).toEqual([5.5, 8]);
    expect(snapped([3.9, 7.6], lines, 1, guides)).toEqual([4, 8]);
  });

  it('knows shapes again wherever they lie', () => {
    const move = shift(12.5, -3);
    expect(shapeOf(placePath(move, circle([1, 2], 7)))).toMatchObject({
      kind: 'circle',
      centre: [13.5, -1],
      radius: expect.closeTo(7, 9),
    });
    expect(
      shapeOf(
        polyline(
          [
            [0, 0],
            [10, 0],
            [10, 5],
            [0, 5],
          ],
          true,
        ),
      ),
    ).toEqual({ kind: 'rectangle', x: 0, y: 0, width: 10, height: 5 });
    expect(
      shapeOf(
        polyline(
          [
            [0, 0],
            [10, 1],
            [10, 5],
            [0, 5],
          ],
          true,
        ),
      ).kind,
    ).toBe('other');
    expect(shapeOf(straight([1, 1], [2, 2]))).toMatchObject({ kind: 'straight' });
  });
});
