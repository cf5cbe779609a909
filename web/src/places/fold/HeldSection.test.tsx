// @vitest-environment happy-dom
/** The map of a pull against the opening: what it says, where a press or a key goes, and that it waits to be worked out. */
import { heldPullReport, reportOf } from '@hollow-finch/core/checks/report';
import { inOneGo } from '@hollow-finch/core/motion/turns';
import { checkContext } from '@hollow-finch/core/checks/context';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { liftFlap } from '@hollow-finch/core/mechanisms/flaps';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { Family } from '@hollow-finch/core/mechanisms/family';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { step } from '@hollow-finch/core/mechanisms/step';
import { wheel } from '@hollow-finch/core/mechanisms/wheel';
import { act } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openJob, useJob } from '../../shared/store/jobStore.ts';
import { mount, type Mounted } from '../../shared/testing/mount.tsx';
import { HeldSection } from './HeldSection.tsx';

/** Places asked of the worker: it never answers here. */
const asked = vi.hoisted((): unknown[][] => []);
vi.mock('comlink', () => ({
  wrap: () => ({
    opened: (...args: unknown[]) => {
      asked.push(args);
      return Promise.resolve(null);
    },
  }),
}));
vi.stubGlobal('Worker', class extends EventTarget {});

let page: Mounted;
beforeEach(() => {
  page = mount();
  asked.length = 0;
});
afterEach(() => page.close());

const base = newDesign('Held', { closedWidthMm: 148, closedHeightMm: 150 });

function show(family: Family, ready = true) {
  const host = usualHost(family, expand(base).gutters);
  const design: Design = { ...base, instances: { m: newInstance(family, host, 'm', { name: 'Comet' }) } };
  const context = checkContext(design);
  const report = { ...reportOf(context), tookMs: 1, packing: '', cutsCurrent: new Map() };
  const heldPulls = ready ? report.pulls.map((_, index) => inOneGo(heldPullReport(context, index))) : [];
  act(() => {
    openJob({ id: 'j', design, undo: [], redo: [], revision: 1 });
    useJob.setState({ report, heldPulls, openingDeg: 90, reportVersion: 7 });
  });
  page.show(<HeldSection report={report} />);
  return heldPulls;
}
const map = () => page.host.querySelector<HTMLElement>('.held-press')!;
const key = async (name: string) => {
  await act(async () => {
    map().dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
    await Promise.resolve();
  });
};

describe('the map of a pull against the opening', () => {
  it('is not there when nothing is pulled, and waits while it is worked out', () => {
    show(step);
    expect(page.host.querySelector('section')).toBeNull();
    show(wheel, false);
    expect(page.host.textContent).toContain('Trying the opening with each pull…');
    expect(map()).toBeNull();
  });

  it('says that a wheel may be left anywhere', () => {
    const [pull] = show(wheel);
    expect(pull.levels.every((level) => level.caught.length === 0)).toBe(true);
    expect(page.host.querySelectorAll('.held-caught')).toHaveLength(0);
    expect(page.host.querySelector('figcaption')!.textContent).toBe(
      'Comet may be left anywhere while the card opens and closes.',
    );
  });

  it('draws every stretch in which something catches, and says to put a flap back', () => {
    const [pull] = show(liftFlap);
    const stretches = pull.levels.flatMap((level) => level.caught);
    expect(stretches.length).toBeGreaterThan(3);
    const drawn = [...page.host.querySelectorAll('.held-caught')];
    expect(drawn).toHaveLength(stretches.length);
    // Wider where it catches over more of the opening.
    const widths = drawn.map((rect) => Number(rect.getAttribute('width')));
    stretches.forEach(([from, to], i) =>
      expect(widths[i]).toBeCloseTo(Math.max(2, ((to - from) / 180) * 202), 6),
    );
    expect(page.host.querySelector('figcaption')!.textContent).toMatch(
      /put it back to 0° before the card is/,
    );
  });

  it('goes by keys, a twelfth of the pull and five degrees at a time, and stays on the map', async () => {
    show(liftFlap);
    await key('ArrowUp');
    expect(useJob.getState().held).toMatchObject({ index: 0, place: 15 });
    expect(asked.at(-1)).toEqual([7, 0, 15]);
    await key('ArrowRight');
    expect(useJob.getState().openingDeg).toBe(95);
    for (let i = 0; i < 3; i++) await key('ArrowDown');
    expect(useJob.getState().held).toMatchObject({ place: 0 });
    expect(page.host.querySelectorAll('.held-here')).toHaveLength(1);
    page.press('Put it back to rest');
    expect(useJob.getState().held).toBeNull();
    expect(page.host.querySelectorAll('.held-here')).toHaveLength(0);
  });

  it('goes where it is pressed', async () => {
    show(liftFlap);
    vi.spyOn(map(), 'getBoundingClientRect').mockReturnValue({
      left: 100,
      top: 50,
      width: 252,
      height: 104,
    } as DOMRect);
    const press = (x: number, y: number) =>
      act(async () => {
        map().dispatchEvent(
          new PointerEvent('pointerdown', { clientX: 100 + x, clientY: 50 + y, bubbles: true }),
        );
        await Promise.resolve();
      });
    // The field runs from 44 to 246 across and from 6 down to 86.
    await press(44 + 202 / 2, 6 + 80 / 4);
    expect(useJob.getState().openingDeg).toBeCloseTo(90, 6);
    expect(useJob.getState().held!.place).toBe(135);
    await press(300, 200);
    expect(useJob.getState().openingDeg).toBe(180);
    expect(useJob.getState().held!.place).toBe(0);
  });
});
