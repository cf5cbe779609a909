/**
 * Keeps the report of the open job live: the newest design asked for next, never more than one on the way. When the hand
 * rests, the joints that lock something are named, mends are tried, and each pull is tried together with the opening.
 */
import type { Design } from '@hollow-finch/core/design/design';
import { proxy, type Remote } from 'comlink';
import type { ReportApi } from '../../workers/report.worker.ts';
import type { CutJob } from '../contracts.ts';
import { faultWords, Helper } from '../helper.ts';
import { latest } from '../latest.ts';
import { useJob } from './jobStore.ts';

/** So long nothing may have changed before the slower questions are asked, ms. */
const REST_MS = 350;

const helper = new Helper<ReportApi>(
  () => new Worker(new URL('../../workers/report.worker.ts', import.meta.url), { type: 'module' }),
);

/** While a hand drags, the worker rests for as long as it took, but no longer than this, ms: the page needs the machine, too. */
const LONGEST_REST_MS = 300;

/** The report worker: every question is answered, or refused in words when it fails or is ended. */
export const reportWorker = (): Remote<ReportApi> => helper.api;

/** Stops the report on its way: what was not looked at is said to be so, and a new worker is started for the next. */
export function stopReport(words = 'Stopped: this design was not looked at.'): void {
  helper.end(words);
}

/** Looks again at a design that was not looked at. */
let lookAgain = (): void => undefined;
export const reportAgain = (): void => lookAgain();

/** Starts reporting on every change of the shown design; gives back how to stop. */
export function startReporting(): () => void {
  let running = false;
  let done: Design | undefined;
  let doneCuts: readonly CutJob[] | undefined;
  let version = 0;
  let restUntil = 0;
  let resting: ReturnType<typeof setTimeout> | undefined;
  const next = async () => {
    const { design, shown, cuts } = useJob.getState();
    if (running || !shown || (shown === done && cuts === doneCuts)) return;
    const rest = restUntil - performance.now();
    if (shown !== design && rest > 0) {
      clearTimeout(resting);
      resting = setTimeout(() => void next(), rest);
      return;
    }
    running = true;
    const from = performance.now();
    // What is told may come later than the answer.
    const said = latest((words: string) => useJob.setState({ reportProgress: { words } }));
    useJob.setState({ reporting: true, notLooked: null });
    try {
      const report = await reportWorker().report(shown, ++version, cuts, proxy(said.tell));
      [done, doneCuts] = [shown, cuts];
      useJob.setState({ report, reportVersion: version, heldPulls: [], held: null });
      void followUp(version, report.pulls.length).catch((fault: unknown) => {
        if (version === useJob.getState().reportVersion && !running)
          useJob.setState({ notLooked: `Not everything was looked at. ${faultWords(fault)}` });
      });
    } catch (fault) {
      [done, doneCuts] = [shown, cuts];
      useJob.setState({ report: null, notLooked: faultWords(fault) });
    } finally {
      running = false;
      said.end();
      const now = performance.now();
      restUntil = now + Math.min(LONGEST_REST_MS, now - from);
      useJob.setState({ reporting: false, reportProgress: null });
      const present = useJob.getState();
      if (present.shown !== shown || present.cuts !== cuts) void next();
    }
  };
  lookAgain = () => {
    done = undefined;
    void next();
  };
  const followUp = async (of: number, pulls: number) => {
    await new Promise((resolve) => setTimeout(resolve, REST_MS));
    if (running || of !== version) return;
    for (const question of ['blamed', 'mended'] as const) {
      const answered = await reportWorker()[question](of);
      const before = useJob.getState().report;
      if (!answered || !before || of !== version) return;
      const better = new Map(answered.map((finding) => [finding.key, finding]));
      if (better.size > 0)
        useJob.setState({
          report: {
            ...before,
            findings: before.findings.map((finding) => better.get(finding.key) ?? finding),
          },
        });
    }
    for (let index = 0; index < pulls; index++) {
      if (running || of !== version) return;
      const held = await reportWorker().heldPull(of, index);
      const { report, heldPulls } = useJob.getState();
      if (!held || !report || of !== version) return;
      useJob.setState({
        heldPulls: [...heldPulls, held],
        report: { ...report, findings: [...held.findings, ...report.findings] },
      });
    }
  };
  void next();
  const stop = useJob.subscribe((state, before) => {
    if (state.shown !== before.shown || state.cuts !== before.cuts) void next();
  });
  return () => {
    clearTimeout(resting);
    stop();
  };
}

let asking = false;

/**
 * Holds a pull at a whole place of its travel while the opening is looked at; null puts it back to rest. The newest place is
 * asked for next, one at a time; until it comes the last travel is shown.
 */
export async function holdPull(at: { readonly index: number; readonly place: number } | null): Promise<void> {
  const { held } = useJob.getState();
  useJob.setState(
    at ? { held: { ...at, opened: held?.opened ?? null }, travelId: 'opening' } : { held: null },
  );
  if (asking) return;
  asking = true;
  try {
    for (let known = ''; ;) {
      const { held: wanted, reportVersion } = useJob.getState();
      const key = `${reportVersion}/${wanted?.index}/${wanted?.place}`;
      if (!wanted || key === known) return;
      known = key;
      const opened = await reportWorker().opened(reportVersion, wanted.index, wanted.place);
      const now = useJob.getState();
      if (opened && now.held && now.reportVersion === reportVersion)
        useJob.setState({ held: { ...now.held, opened } });
    }
  } catch (fault) {
    // The pull is put back: a picture that is none is not shown.
    useJob.setState({ held: null, notLooked: `The pull could not be held. ${faultWords(fault)}` });
  } finally {
    asking = false;
  }
}
