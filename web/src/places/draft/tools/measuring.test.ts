import { workOf, type DieLine } from '@hollow-finch/core/dieline/part';
import { straight } from '@hollow-finch/core/geometry/path';
import { expect, it } from 'vitest';
import { measureStep } from './measuring.ts';

const lines: DieLine[] = [{ id: 'a', ...workOf('cut'), path: straight([0, 0], [40, 0]) }];
const at = (kind: 'press' | 'drag', x: number, y: number) =>
  ({ kind, at: [x, y] as const, lines, reachMm: 1 }) as const;

it('takes a measure from corner to corner, or from anywhere', () => {
  const pressed = measureStep(null, at('press', 0.4, 0.3), 'p');
  expect(pressed).toEqual({ partId: 'p', from: { lineId: 'a', corner: 0 }, to: { lineId: 'a', corner: 0 } });
  const dragged = measureStep(pressed, at('drag', 40.2, -0.4));
  expect(dragged).toMatchObject({ partId: 'p', to: { lineId: 'a', corner: 1 } });
  expect(measureStep(dragged, at('drag', 20, 5))!.to).toEqual({ at: [20, 5] });
  expect(measureStep(dragged, { kind: 'giveUp' })).toBeNull();
  expect(measureStep(null, at('drag', 1, 1))).toBeNull();
});
