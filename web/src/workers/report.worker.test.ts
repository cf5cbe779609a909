/** The report worker, asked as the page asks it: what is kept for follow-up questions, what is given up, what fails. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { slider } from '@hollow-finch/core/mechanisms/slider';
import { step } from '@hollow-finch/core/mechanisms/step';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import type { ReportApi } from './report.worker.ts';

const exposed = vi.hoisted(() => ({ api: undefined as unknown }));
vi.mock('comlink', () => ({ expose: (api: unknown) => (exposed.api = api) }));

let worker: ReportApi;
beforeAll(async () => {
  await import('./report.worker.ts');
  worker = exposed.api as ReportApi;
});

const base = newDesign('Asked', { closedWidthMm: 148, closedHeightMm: 150 });
const { gutters } = expand(base);
const host = usualHost(step, gutters);
const sound: Design = {
  ...base,
  instances: { s: newInstance(slider, usualHost(slider, gutters), 's'), m: newInstance(step, host, 'm') },
};
/** A step that pokes out of the card, for which mends are offered. */
const poking: Design = {
  ...base,
  instances: {
    m: newInstance(step, host, 'm', { params: { leftMm: 124, rightMm: 36 }, beyondLimits: true }),
  },
};
const KEY = 'closedOverhang:m';

describe('the report worker', () => {
  it('answers what follows for the design that it reported last, by its number', async () => {
    const report = worker.report(sound, 7);
    expect(report.pulls).toHaveLength(1);
    expect(await worker.heldPull(7, 0)).toMatchObject({ findings: expect.any(Array) as unknown });
    expect(worker.opened(7, 0, 90)).not.toBeNull();
    expect(await worker.mended(7)).toEqual([]);
    expect(await worker.blamed(7)).toEqual([]);
  });

  it('answers nothing for a design that is not the last, or that had no number', async () => {
    worker.report(sound, 8);
    for (const asked of [7, 9]) {
      expect(await worker.heldPull(asked, 0)).toBeNull();
      expect(worker.opened(asked, 0, 90)).toBeNull();
      expect(worker.loose(asked, 0, 0, 90)).toBeNull();
      expect(await worker.mended(asked)).toBeNull();
      expect(await worker.blamed(asked)).toBeNull();
    }
    // Looked at by the way: what was reported under a number stays.
    worker.report(poking);
    expect(await worker.heldPull(8, 0)).not.toBeNull();
  });

  it('gives a search up as soon as a newer design is reported', async () => {
    worker.report(poking, 10);
    const asked = worker.mended(10);
    worker.report(sound, 11);
    expect(await asked).toBeNull();
    // A pull that is being tried is given up as well.
    const pulled = worker.heldPull(11, 0);
    worker.report(poking, 12);
    expect(await pulled).toBeNull();
  });

  it('offers mends for what it reported, under the same keys', async () => {
    const report = worker.report(poking, 13);
    expect(report.findings.find((f) => f.key === KEY)).toMatchObject({ mend: null });
    const mended = await worker.mended(13);
    expect(mended!.find((f) => f.key === KEY)!.mend!.label).toMatch(/^Set (left|right) foot to/);
  });

  it('searches a mend, tells how far it is, and stops when it is asked to', async () => {
    const found = await worker.findMend(poking, KEY);
    expect(found!.label).toMatch(/^Set/);
    expect(await worker.findMend(poking, 'no such finding')).toBeNull();
    // A glacial clock: every trial is told.
    const now = vi.spyOn(performance, 'now');
    let clock = 0;
    now.mockImplementation(() => (clock += 1000));
    const told: number[] = [];
    const stopped = await worker.findMend(poking, KEY, [], ({ tried }) => {
      told.push(tried);
      worker.stopMend();
    });
    now.mockRestore();
    expect([stopped, told.length]).toEqual([null, 1]);
  });

  it('tells what it is at when that takes long, and nothing when it does not', () => {
    const words: string[] = [];
    const now = vi.spyOn(performance, 'now').mockReturnValue(0);
    worker.report(sound, 14, [], (said) => words.push(said));
    expect(words).toEqual([]);
    let clock = 0;
    now.mockImplementation(() => (clock += 1000));
    worker.report(sound, 15, [], (said) => words.push(said));
    now.mockRestore();
    expect(words.length).toBeGreaterThan(3);
    expect(words.join()).toMatch(/moving/);
    expect(words.join()).toMatch(/checking/);
  });

  it('throws on what is no design, and works on afterwards', async () => {
    expect(() => worker.report({} as Design, 16)).toThrow();
    expect(await worker.heldPull(16, 0)).toBeNull();
    expect(worker.report(sound, 17).pulls).toHaveLength(1);
    expect(worker.decorate(sound, 'card', 'no such panel')).toBeNull();
  });
});
