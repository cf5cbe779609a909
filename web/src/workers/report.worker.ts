import { clearingMend } from '@hollow-finch/core/checks/catching';
import type { Mend } from '@hollow-finch/core/checks/finding';
import { reportOf, type Report } from '@hollow-finch/core/checks/report';
import type { Design } from '@hollow-finch/core/design/design';
import { checkContext } from '@hollow-finch/core/checks/runChecks';
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
  /** The smallest change that clears a catch, tried on the design; null when no single measure does it. */
  clearCatch(design: Design, key: string): Mend | null {
    return clearingMend(checkContext(design), key);
  },
};

export type ReportApi = typeof api;
expose(api);
