// @vitest-environment happy-dom
/** The drawing board: what it shows at first, keys and buttons that move it, rulers, and points that are drawn. */
import { act } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { mount, type Mounted } from '../testing/mount.tsx';
import { Board, useBoardScale } from './Board.tsx';

vi.mock('@mantine/hooks', async (original) => ({
  ...(await original<typeof import('@mantine/hooks')>()),
  useElementSize: () => ({ ref: { current: null }, width: 900, height: 600 }),
}));

const CONTENT = { minX: -50, minY: 0, maxX: 150, maxY: 100 };

let page: Mounted;
beforeEach(() => {
  page = mount();
});
afterEach(() => page.close());

const Scale = () => <text className="scale">{useBoardScale()}</text>;
const show = (props: Partial<Parameters<typeof Board>[0]> = {}) =>
  page.show(
    <Board content={CONTENT} label="Drawing" {...props}>
      <Scale />
    </Board>,
  );
const svg = () => page.host.querySelector<SVGSVGElement>('svg[role="application"]')!;
/** Where the board's origin is on the screen, and pixels per millimetre. */
const view = () => {
  const moved = [...svg().children].find((g) => g.getAttribute('transform')?.startsWith('translate'))!;
  const [x, y, k] = [...moved.getAttribute('transform')!.matchAll(/-?[\d.]+(?:e-?\d+)?/g)].map(Number);
  return { x, y, k };
};
const press = (key: string, target: Element = svg()) => {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
  act(() => void target.dispatchEvent(event));
  return event;
};

describe('the board', () => {
  it('opens with everything in sight, as large as it goes', () => {
    show();
    const { x, y, k } = view();
    const [left, right, top, bottom] = [x + k * -50, x + k * 150, y - k * 100, y];
    expect(left).toBeGreaterThanOrEqual(20);
    expect(right).toBeLessThanOrEqual(900);
    expect(top).toBeGreaterThanOrEqual(20);
    expect(bottom).toBeLessThanOrEqual(600);
    // One of both is filled, but for the air round it; and both have as much air on either side.
    expect(Math.max((right - left) / (900 - 76), (bottom - top) / (600 - 92))).toBeCloseTo(1, 6);
    expect(left - 48).toBeCloseTo(900 - 28 - right, 6);
    expect(Number(page.host.querySelector('.scale')!.textContent)).toBe(k);
  });

  it('hides the layers that are pressed in its key, and shows them again', () => {
    show();
    const button = (name: string) =>
      page.host.querySelector<HTMLButtonElement>(`.line-key [aria-label="Show ${name}"]`)!;
    const toggle = (name: string) => act(() => button(name).click());
    const hidden = () =>
      page.host.querySelector<HTMLElement>('.board-sheet')!.dataset.hidden!.split(' ').filter(Boolean);
    expect(hidden()).toEqual([]);
    toggle('mountain');
    toggle('no glue');
    expect(hidden()).toEqual(['mountain', 'keep-out']);
    expect(button('mountain').getAttribute('aria-pressed')).toBe('false');
    expect(button('cut').getAttribute('aria-pressed')).toBe('true');
    toggle('mountain');
    expect(hidden()).toEqual(['keep-out']);
  });

  it('is moved and scaled by keys and buttons, and fitted again', () => {
    show();
    const first = view();
    press('ArrowRight');
    expect(view()).toEqual({ ...first, x: expect.closeTo(first.x - 40, 6) as number });
    press('ArrowLeft');
    press('ArrowUp');
    expect(view().y).toBeCloseTo(first.y + 40, 6);
    press('ArrowDown');
    expect(view().x).toBeCloseTo(first.x, 6);
    press('+');
    expect(view().k).toBeCloseTo(first.k * 1.25, 6);
    press('-');
    expect(view().k).toBeCloseTo(first.k, 6);
    act(() => page.host.querySelector<HTMLButtonElement>('[aria-label="Zoom in"]')!.click());
    act(() => page.host.querySelector<HTMLButtonElement>('[aria-label="Zoom in"]')!.click());
    expect(view().k).toBeCloseTo(first.k * 1.25 ** 2, 6);
    page.press('Fit');
    expect(view()).toEqual(first);
    press('-');
    press('0');
    expect(view()).toEqual(first);
  });

  it('leaves other keys, and keys that are pressed on what lies on it, to others', () => {
    show();
    const first = view();
    expect(press('ArrowRight').defaultPrevented).toBe(true);
    press('ArrowLeft');
    expect(press('a').defaultPrevented).toBe(false);
    press('ArrowRight', page.host.querySelector('.scale')!);
    expect(view()).toEqual(first);
  });

  it('has rulers whose marks lie where their figures say, in either unit', () => {
    show();
    const { x, k } = view();
    const ruler = page.host.querySelector('.ruler-marks')!;
    const marks = [...ruler.querySelectorAll('text')].map((text) => ({
      px: Number(/translate\((-?[\d.]+)/.exec(text.getAttribute('transform')!)![1]) - 2,
      mm: Number(text.textContent),
    }));
    expect(marks.length).toBeGreaterThan(4);
    for (const { px, mm } of marks) expect(px).toBeCloseTo(x + k * mm, 4);
    expect(page.host.querySelector('.ruler-unit')!.textContent).toBe('mm');
  });

  it('tells where something is drawn, in millimetres with y up', () => {
    const onDraw = vi.fn();
    show({ onDraw });
    svg().setPointerCapture = () => undefined;
    svg().getBoundingClientRect = () => ({ left: 100, top: 50, width: 900, height: 600 }) as DOMRect;
    const { x, y, k } = view();
    const point = (type: string, mm: [number, number], button = 0) =>
      act(() => {
        svg().dispatchEvent(
          new PointerEvent(type, {
            clientX: 100 + x + k * mm[0],
            clientY: 50 + y - k * mm[1],
            button,
            bubbles: true,
          }),
        );
      });
    point('pointerdown', [10, 20]);
    point('pointermove', [15.5, 20]);
    point('pointerup', [30, -5]);
    expect(onDraw.mock.calls.map(([phase, at]) => [phase, at])).toEqual([
      ['start', [expect.closeTo(10, 6), expect.closeTo(20, 6)]],
      ['move', [expect.closeTo(15.5, 6), expect.closeTo(20, 6)]],
      ['end', [expect.closeTo(30, 6), expect.closeTo(-5, 6)]],
    ]);
    onDraw.mockClear();
    point('pointerdown', [10, 20], 2);
    expect(onDraw).not.toHaveBeenCalled();
  });

  it('tells when its bare ground is pressed, and not when something on it is', () => {
    const onBackground = vi.fn();
    show({ onBackground });
    const down = (target: Element) =>
      act(() => void target.dispatchEvent(new PointerEvent('pointerdown', { button: 0, bubbles: true })));
    down(page.host.querySelector('.scale')!);
    expect(onBackground).not.toHaveBeenCalled();
    down(svg());
    expect(onBackground).toHaveBeenCalledTimes(1);
  });
});
