import { reportOf, type Report } from '@hollow-finch/core/checks/report';
import type { Design } from '@hollow-finch/core/design/design';
import { expose, transfer } from 'comlink';

export interface TimedReport extends Report {
  readonly tookMs: number;
}

const api = {
  /** Motion, closed state and findings of a design. */
  report(design: Design): TimedReport {
    const from = performance.now();
    const report = reportOf(design);
    const timed = { ...report, tookMs: performance.now() - from };
    return transfer(timed, [
      report.sweep.bodies.buffer as ArrayBuffer,
      report.sweep.folds.buffer as ArrayBuffer,
    ]);
  },
};

export type ReportApi = typeof api;
expose(api);
