/** Keeps the report of the open job live: the newest design asked for next, never more than one on the way. */
import { wrap, type Remote } from 'comlink';
import type { Design } from '@hollow-finch/core/design/design';
import type { ReportApi } from '../../workers/report.worker.ts';
import { useJob } from './jobStore.ts';

let remote: Remote<ReportApi> | undefined;

/** The report worker, started when first needed. */
export function reportWorker(): Remote<ReportApi> {
  remote ??= wrap<ReportApi>(
    new Worker(new URL('../../workers/report.worker.ts', import.meta.url), { type: 'module' }),
  );
  return remote;
}

/** Starts reporting on every change of the shown design; gives back how to stop. */
export function startReporting(): () => void {
  let running = false;
  let done: Design | undefined;
  const next = async () => {
    const { shown } = useJob.getState();
    if (running || !shown || shown === done) return;
    running = true;
    useJob.setState({ reporting: true });
    try {
      const report = await reportWorker().report(shown);
      done = shown;
      useJob.setState({ report });
    } finally {
      running = false;
      useJob.setState({ reporting: false });
      if (useJob.getState().shown !== shown) void next();
    }
  };
  void next();
  return useJob.subscribe((state, before) => {
    if (state.shown !== before.shown) void next();
  });
}
