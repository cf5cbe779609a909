/** What drawing costs: a part of 2,000 lines drawn on the board, and drawn again after one line changed. */
import { Window } from 'happy-dom';
import type { Part } from '@hollow-finch/core/dieline/part';
import { polyline, straight } from '@hollow-finch/core/geometry/path';
import { line } from '../../core/bench/measure.ts';

const window = new Window();
Object.assign(globalThis, {
  window,
  document: window.document,
  HTMLElement: window.HTMLElement,
  IS_REACT_ACT_ENVIRONMENT: false,
});

const { createRoot } = await import('react-dom/client');
const { flushSync } = await import('react-dom');
const { PartDrawing } = await import('../src/shared/drawing/PartDrawing.tsx');

const SIDE = 45;
const lines = Array.from({ length: 2000 }, (_, i) => {
  const [x, y] = [(i % SIDE) * 12 + 2, Math.floor(i / SIDE) * 12 + 2];
  return {
    id: `l${i}`,
    process: i % 3 === 0 ? ('cut' as const) : ('mark' as const),
    path:
      i % 3 === 0
        ? polyline(
            [
              [x, y],
              [x + 5, y],
              [x + 2, y + 4],
            ],
            true,
          )
        : straight([x, y], [x + 6, y + 3]),
  };
});
const part = (moved: number): Part => ({
  id: 'many',
  name: 'Many lines',
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  glueZones: [],
  marks: [],
  lines: lines.map((line, i) => (i === moved ? { ...line, path: straight([0, 0], [moved, 1]) } : line)),
});

const host = document.createElement('div');
document.body.append(host);
const root = createRoot(host);
const draw = (value: Part): number => {
  const from = performance.now();
  flushSync(() => root.render(<PartDrawing part={value} paper={false} />));
  return performance.now() - from;
};
const first = draw(part(-1));
const again = Array.from({ length: 21 }, (_, i) => draw(part(i * 3 + 1))).sort((a, b) => a - b)[10];
line('Draft: first drawing of 2,000 lines', `${first.toFixed(0)} ms`);
line('Draft: drawn again after one line changed', `${again.toFixed(1)} ms`, 'budget 20 ms (50 a second)');
process.exit(0);
