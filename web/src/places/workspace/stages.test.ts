/** The live figures of the rail, from real reports of real designs. */
import { reportOf } from '@hollow-finch/core/checks/report';
import { checkContext } from '@hollow-finch/core/checks/context';
import { PROFILES } from '@hollow-finch/core/cutting/profile';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { packing } from '@hollow-finch/core/sheets/packing';
import { packPlan, toSheetPlan } from '@hollow-finch/core/sheets/plan';
import { describe, expect, it } from 'vitest';
import { demoJobs } from '../../demo/jobs.ts';
import type { CutJob } from '../../shared/contracts.ts';
import { marksOf } from '../../shared/strip/OpeningStrip.tsx';
import { cutIsCurrent, packingIsCurrent, packingOf } from '../cut/currentCuts.ts';
import { subjectsOf } from '../cut/subjects.ts';
import { subjectFingerprint } from '../cut/subjectSvg.ts';
import { cardGutter } from '@hollow-finch/core/design/frames';
import { newInstance } from '@hollow-finch/core/mechanisms/instance';
import { step } from '@hollow-finch/core/mechanisms/step';
import { STAGES, stageFigure } from './stages.ts';

const say = (mm: number) => `${Math.round(mm * 10) / 10} mm`;
const figures = (design: Design, cuts: CutJob[] = []) => {
  const report = {
    ...reportOf(checkContext(design)),
    packing: packingOf(design),
    cutsCurrent: new Map(cuts.map((cut) => [cut.number, cutIsCurrent(cut, design)])),
    tookMs: 0,
  };
  return Object.fromEntries(
    STAGES.map((stage) => [
      stage,
      stageFigure(stage, { shown: design, report, cuts, notLooked: null }, say).words,
    ]),
  );
};

function packed(design: Design): Design {
  const wanted = packPlan(expand(design), design.settings, 1, 3);
  const layouts = wanted.requests.map(({ request }) => [...packing(request)].at(-1)!.best!);
  return { ...design, sheetPlan: toSheetPlan(wanted, layouts, 1) };
}

const withStep = (params: Record<string, number> = {}): Design => {
  const design = newDesign('Figures', { envelopeId: 'c5' });
  const instance = newInstance(step, cardGutter(design), 'm1');
  return { ...design, instances: { m1: { ...instance, params: { ...instance.params, ...params } } } };
};

describe('the figures of the stages', () => {
  it('tell a sound card', () => {
    expect(figures(withStep())).toEqual({
      brief: expect.stringMatching(/^fits C5, [\d.]+ mm spare$/),
      draft: '2 parts, 8 lines',
      fold: 'folds away',
      inspect: 'nothing found',
      sheets: 'not packed',
      cut: 'none yet',
      build: 'not tried yet',
    });
    expect(
      stageFigure('fold', { shown: withStep(), report: null, cuts: [], notLooked: null }, say).words,
    ).toBe('folding…');
    const stopped = { shown: withStep(), report: null, cuts: [], notLooked: 'Stopped.' };
    for (const stage of ['fold', 'inspect'] as const)
      expect(stageFigure(stage, stopped, say)).toEqual({ words: 'not looked at', tone: 'warn' });
  });

  it('tell how much is wrong', () => {
    const big = withStep({ leftMm: 70, rightMm: 90 });
    expect(figures({ ...big, brief: { ...big.brief, envelopeId: 'c7' } })).toMatchObject({
      brief: expect.stringMatching(/too large for C7$/),
      fold: 'pokes out 12 mm',
      inspect: '2 faults',
    });
    const bigReport = reportOf(checkContext(big));
    expect(marksOf(bigReport, bigReport.sweep, bigReport.catches)).toEqual([
      { fromDeg: 0, toDeg: 2, words: 'Closed: pokes out by 12.0 mm' },
    ]);
    const accepted = {
      ...big,
      accepted: Object.fromEntries(
        reportOf(checkContext(big)).findings.map((f) => [f.key, { reason: 'Meant so.' }]),
      ),
    };
    expect(figures(accepted).inspect).toBe('nothing found');
  });

  it('tell packing and cutting, and when they are out of date', () => {
    const design = packed(withStep());
    expect(packingIsCurrent(design)).toBe(true);
    expect(figures(design).sheets).toMatch(/^2 sheets, \d+ %$/);
    const subjects = subjectsOf(design);
    expect(subjects.map((s) => s.id)).toEqual(['sheet:0', 'sheet:1', 'part:card', 'part:m1/strip']);
    const cutOf = (id: string): CutJob => {
      const subject = subjects.find((s) => s.id === id)!;
      return {
        number: 4,
        revision: 2,
        subject: id,
        title: '',
        fileName: '',
        stockId: '',
        machineId: '',
        profileId: PROFILES[0].id,
        marks: 'none' as const,
        fingerprint: subjectFingerprint(design, subject, PROFILES[0].id, 'none'),
        createdAt: 0,
        checksum: '',
        result: 'open',
        minutes: null,
        sheets: 0,
        sheetId: '',
        estimatedS: null,
        times: 1,
      };
    };
    expect(figures(design, [cutOf('sheet:0')]).cut).toBe('job 4');
    const wider = {
      ...design,
      instances: { m1: { ...design.instances.m1, params: { ...design.instances.m1.params, widthMm: 41 } } },
    };
    expect(figures(wider, [cutOf('sheet:0')])).toMatchObject({
      sheets: 'out of date',
      cut: 'job 4 out of date',
    });
    // A note changes nothing that is cut; the strip's own file is stale, the strip of another design is not.
    expect(cutIsCurrent(cutOf('sheet:0'), { ...design, brief: { ...design.brief, note: 'New words' } })).toBe(
      true,
    );
    expect(cutIsCurrent(cutOf('part:m1/strip'), wider)).toBe(false);
    expect(cutIsCurrent({ ...cutOf('part:card'), subject: 'part:gone' }, design)).toBe(false);
  });
});

describe('the demo jobs', () => {
  const reports = new Map(demoJobs().map(({ id, design }) => [id, reportOf(checkContext(design))]));

  it('are sound, except the one that is there to be faulty', () => {
    for (const [id, report] of reports) {
      if (id === 'comet-draft') continue;
      expect(report.findings.map((f) => f.sentence)).toEqual([]);
      // The zigzag between the shutters is meant to spread by itself.
      const states = id === 'shutter-stars' ? ['floppy'] : ['moves'];
      expect(report.sweep.components.every((c) => states.includes(c.state))).toBe(true);
    }
  });

  it('show every kind of fault once in the faulty one', () => {
    const rules = new Set(reports.get('comet-draft')!.findings.map((f) => f.rule));
    for (const rule of [
      'openOutline',
      'doubledLine',
      'motionFaults',
      'closedOverhang',
      'glueLanding',
      'tabsColliding',
      'matingEdges',
      'thinWeb',
      'envelopeFit',
    ])
      expect(rules).toContain(rule);
  });

  it('pack on sheets that their stock has', () => {
    for (const { design } of demoJobs()) {
      const wanted = packPlan(expand(design), design.settings, 1, 1);
      for (const { request } of wanted.requests)
        expect([...packing(request)].at(-1)!.best!.unplaced.map((p) => p.partId)).toEqual([]);
    }
  });
});
