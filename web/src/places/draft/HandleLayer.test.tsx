// @vitest-environment happy-dom
/** Handles on the board: one for each that a mechanism has, moved by keys, held to the limits, undone. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { expand, handlesOf } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { parameterLimits } from '@hollow-finch/core/mechanisms/limits';
import { step } from '@hollow-finch/core/mechanisms/step';
import { vfold } from '@hollow-finch/core/mechanisms/vfold';
import { act } from 'react';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openJob, useJob } from '../../shared/store/jobStore.ts';
import { mount, type Mounted } from '../../shared/testing/mount.tsx';
import { dragged, HandleLayer } from './HandleLayer.tsx';
import { boardLayout } from './layout.ts';

let page: Mounted;
beforeEach(() => {
  page = mount();
});
afterEach(() => page.close());

const base = newDesign('Handles', { closedWidthMm: 148, closedHeightMm: 150 });
const { gutters } = expand(base);
const host = usualHost(step, gutters);
const withStep = (params = {}, beyondLimits = false): Design => ({
  ...base,
  instances: { m: newInstance(step, host, 'm', { params, beyondLimits }) },
});
const layoutOf = (design: Design) => boardLayout(expand(design), design.board);

function show(design: Design): void {
  act(() => openJob({ id: 'j', design, undo: [], redo: [], revision: 1 }));
  page.show(
    <svg>
      <HandleLayer layout={layoutOf(design)} />
    </svg>,
  );
}
const knobs = () => [...page.host.querySelectorAll<SVGGElement>('[data-handle]')];
const knob = (label: string) => knobs().find((node) => node.getAttribute('aria-label') === label)!;
const params = () => useJob.getState().design.instances.m.params;
const press = (label: string, key: string, keys: { shiftKey?: boolean; altKey?: boolean } = {}) => {
  const event = new KeyboardEvent('keydown', { key, ...keys, bubbles: true, cancelable: true });
  act(() => void knob(label).dispatchEvent(event));
  return event;
};

describe('handles', () => {
  it('are there for every mechanism, named, in reach of the keyboard, where the part lies on the board', () => {
    const design = withStep();
    show(design);
    const made = handlesOf(design.instances.m, host);
    expect(knobs().map((node) => node.getAttribute('aria-label'))).toEqual(
      made.map((handle) => `Step: ${handle.label}`),
    );
    const offsets = new Map(layoutOf(design).map(({ part, offset }) => [part.id, offset]));
    made.forEach((handle, i) => {
      const [x, y] = /translate\((\S+) (\S+)\)/
        .exec(knobs()[i].getAttribute('transform')!)!
        .slice(1)
        .map(Number);
      const [dx, dy] = offsets.get(handle.partId)!;
      expect([x, -y]).toEqual([expect.closeTo(handle.at[0] + dx, 6), expect.closeTo(handle.at[1] + dy, 6)]);
      expect(knobs()[i].getAttribute('tabindex')).toBe('0');
      expect(knobs()[i].getAttribute('role')).toBe('button');
    });
  });

  it('are moved by keys: a millimetre, ten with Shift, a tenth with Alt; each is one entry that can be undone', () => {
    show(withStep({ leftMm: 30, rightMm: 30 }));
    expect(press('Step: left foot', 'ArrowLeft').defaultPrevented).toBe(true);
    expect(params().leftMm).toBe(31);
    press('Step: left foot', 'ArrowLeft', { shiftKey: true });
    expect(params().leftMm).toBe(41);
    press('Step: left foot', 'ArrowRight', { altKey: true });
    expect(params().leftMm).toBe(40.9);
    // Across its own way a handle does not go.
    press('Step: left foot', 'ArrowUp');
    expect(params().leftMm).toBe(40.9);
    expect(useJob.getState().undo).toHaveLength(3);
    act(() => useJob.getState().undoLast());
    expect(params().leftMm).toBe(41);
  });

  it('leave other keys alone', () => {
    show(withStep());
    expect(press('Step: left foot', 'a').defaultPrevented).toBe(false);
    expect(useJob.getState().undo).toHaveLength(0);
  });

  it('choose their mechanism when they are reached', () => {
    show(withStep());
    act(() => useJob.getState().select(null));
    act(
      () =>
        knob('Step: ridge').dispatchEvent(new FocusEvent('focusin', { bubbles: true })) as unknown as void,
    );
    expect(useJob.getState().selection).toEqual({ kind: 'instance', id: 'm' });
  });

  it('are none for measures that cannot be built', () => {
    show({ ...base, instances: { m: { ...newInstance(step, host, 'm'), params: { form: 'glued' } } } });
    expect(knobs()).toEqual([]);
  });
});

describe('what a drag makes of a mechanism', () => {
  const to = (design: Design, id: string, x: number, y: number) => {
    const instance = design.instances.m;
    const handle = handlesOf(instance, host).find((each) => each.id === `m/${id}`)!;
    return dragged(instance, handle, [x, y], host, 2).params;
  };

  it('is held to the limits, exactly at their end', () => {
    const design = withStep({ leftMm: 30, rightMm: 30 });
    const spec = step.specs.find(({ key }) => key === 'leftMm')!;
    const { max, min } = parameterLimits(step, design.instances.m.params, spec, host, 2)!;
    expect(to(design, 'left', -500, 0).leftMm).toBeCloseTo(max, 6);
    expect(to(design, 'left', 500, 0).leftMm).toBeCloseTo(min, 6);
    // Closed form: a + p may be as long as the card is deep, less the margin.
    expect(max).toBeCloseTo(host.reachMm - 2 - 30, 4);
  });

  it('is what the hand says when it may go beyond them, in tenths', () => {
    expect(to(withStep({}, true), 'left', -143.2345, 0).leftMm).toBe(143.2);
    // But never to where it could not be drawn at all.
    expect(to(withStep({}, true), 'left', 50, 0).leftMm).toBe(2);
    expect(to(withStep({}, true), 'left', -5000, 0).leftMm).toBe(600);
  });

  it('lands on halves of a degree and tenths of a millimetre', () => {
    const design: Design = {
      ...base,
      instances: { m: newInstance(vfold, host, 'm', { params: { alongMm: 40, footMm: 40 } }) },
    };
    const instance = design.instances.m;
    const handle = handlesOf(instance, host).find((each) => each.id === 'm/foot')!;
    const made = dragged(instance, handle, [-31.234, 40 + 28.777], host, 2).params;
    const [x, y] = [31.234, 28.777];
    expect(made.leftFootDeg).toBe(Math.round((2 * Math.atan2(x, y) * 180) / Math.PI) / 2);
    expect(made.footMm).toBe(Math.round(10 * Math.hypot(x, y)) / 10);
  });

  it('of the ridge makes the faces parallel no longer', () => {
    expect(to(withStep({ leftMm: 30, rightMm: 30, parallel: true }), 'ridge', 36, 0)).toMatchObject({
      parallel: false,
      panelMm: 36,
    });
  });
});
