// @vitest-environment happy-dom
/** The opening control: keys, marks of what is wrong, playing, and a pull that is held. */
import { checkContext } from '@hollow-finch/core/checks/context';
import { reportOf } from '@hollow-finch/core/checks/report';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { slider } from '@hollow-finch/core/mechanisms/slider';
import { step } from '@hollow-finch/core/mechanisms/step';
import { act } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openJob, useJob } from '../store/jobStore.ts';
import { mount, type Mounted } from '../testing/mount.tsx';
import { marksOf, OpeningStrip } from './OpeningStrip.tsx';

let page: Mounted;
beforeEach(() => {
  page = mount();
});
afterEach(() => {
  page.close();
  vi.useRealTimers();
});

const base = newDesign('Strip', { closedWidthMm: 148, closedHeightMm: 150 });
const { gutters } = expand(base);
const withStep = (id: string, params = {}): Design['instances'] => ({
  [id]: newInstance(step, usualHost(step, gutters), id, { name: id, params }),
});

/** Two steps through each other: a catch over most of the opening. */
const crossing: Design = {
  ...base,
  instances: {
    ...withStep('one', { leftMm: 40, rightMm: 40, panelMm: 40, alongMm: 40, widthMm: 60 }),
    ...withStep('two', { leftMm: 60, rightMm: 30, panelMm: 30, alongMm: 50, widthMm: 40 }),
  },
};

const show = (design: Design) => {
  const report = { ...reportOf(checkContext(design)), tookMs: 1, packing: '', cutsCurrent: new Map() };
  act(() => {
    openJob({ id: 'j', design, undo: [], redo: [], revision: 1 });
    useJob.setState({ report, openingDeg: 90 });
  });
  page.show(<OpeningStrip />);
  return report;
};
const track = () => page.host.querySelector<HTMLElement>('.strip-track')!;
const press = (key: string, shiftKey = false) =>
  act(() => {
    track().dispatchEvent(new KeyboardEvent('keydown', { key, shiftKey, bubbles: true, cancelable: true }));
  });
const value = () => page.host.querySelector('.strip-value')!.textContent;

describe('the opening control', () => {
  it('is a slider that tells its value, moved by keys between its ends', () => {
    show({ ...base, instances: withStep('one') });
    expect(track().getAttribute('role')).toBe('slider');
    expect(track().getAttribute('aria-valuetext')).toBe('90 degrees open');
    press('ArrowRight');
    expect(value()).toBe('91°');
    press('ArrowLeft', true);
    expect(value()).toBe('81°');
    press('PageDown');
    expect(value()).toBe('51°');
    press('End');
    press('ArrowRight');
    expect(value()).toBe('180°');
    press('Home');
    press('ArrowDown');
    expect([value(), track().getAttribute('aria-valuenow')]).toEqual(['0°', '0']);
    expect(page.host.querySelector('.strip-marks')!.textContent).toBe('opens and closes freely');
  });

  it('marks where something catches, and goes there', () => {
    const report = show(crossing);
    expect(report.catches.length).toBeGreaterThan(0);
    const marks = marksOf(report, report.sweep, report.catches);
    expect(marks[0].words).toMatch(/^\d.* to \d.*: .* catches /);
    // Every catch lies in one of the marked stretches, and stretches do not run into each other.
    for (const caught of report.catches)
      expect(marks.some((m) => m.fromDeg <= caught.fromDeg && m.toDeg >= caught.toDeg)).toBe(true);
    const catches = marks.filter((m) => m.words.includes('catches')).sort((a, b) => a.fromDeg - b.fromDeg);
    for (let i = 1; i < catches.length; i++) expect(catches[i].fromDeg).toBeGreaterThan(catches[i - 1].toDeg);
    const button = page.host.querySelector<HTMLButtonElement>('.strip-mark')!;
    act(() => button.click());
    expect(useJob.getState().openingDeg).toBeCloseTo(marks[0].fromDeg, 9);
  });

  it('says when it is closed and something pokes out', () => {
    const report = show({
      ...base,
      instances: withStep('long', { leftMm: 120, rightMm: 120, panelMm: 60 }),
    });
    expect(report.closed.overhangs.length).toBeGreaterThan(0);
    expect(page.host.querySelector('.strip-marks')!.textContent).toMatch(/Closed: pokes out by \d+\.\d mm/);
  });

  it('plays to and fro, and stops', () => {
    vi.useFakeTimers({ toFake: ['requestAnimationFrame', 'cancelAnimationFrame', 'performance'] });
    show({ ...base, instances: withStep('one') });
    const play = () => act(() => page.host.querySelector<HTMLButtonElement>('.strip-play')!.click());
    play();
    act(() => void vi.advanceTimersByTime(1000));
    const later = useJob.getState().openingDeg;
    expect(later).toBeGreaterThan(110);
    play();
    act(() => void vi.advanceTimersByTime(1000));
    expect(useJob.getState().openingDeg).toBe(later);
  });

  it('tells which pull is held and where, over the travel that comes of it', () => {
    const design: Design = {
      ...base,
      instances: { s: newInstance(slider, usualHost(slider, gutters), 's', { name: 'Comet' }) },
    };
    const report = show(design);
    const opened = { sweep: report.sweep, catches: [] };
    act(() => useJob.setState({ held: { index: 0, place: 90, opened } }));
    const travel = report.sweep.linkage.drivers[1];
    expect(page.host.querySelector('.strip-mark')!.textContent).toBe(
      `Comet held at ${((travel.from + travel.to) / 2).toFixed(1)} mm: put it back`,
    );
    act(() => page.host.querySelector<HTMLButtonElement>('.strip-mark')!.click());
    expect(useJob.getState().held).toBeNull();
    expect(page.host.querySelector('.strip-marks')!.textContent).toBe('opens and closes freely');
  });
});
