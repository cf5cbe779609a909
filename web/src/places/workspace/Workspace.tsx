import { Button } from '@mantine/core';
import { Suspense, useCallback, useEffect, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { autosave, loadJob } from '../../shared/store/autosave.ts';
import { firstJobStep } from '../../shared/firstJob.ts';
import { useKeys } from '../../shared/keys.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { fetchLessons } from '../../shared/store/lessons.ts';
import { startReporting } from '../../shared/store/reporter.ts';
import { later } from '../../shared/later.ts';
import { StageRail } from './StageRail.tsx';
import { STAGES, type StageId } from './stages.ts';
import './workspace.css';

const ConflictDialog = later(() => import('./ConflictDialog.tsx'));
const KeysDialog = later(() => import('./KeysDialog.tsx'));
const FirstJob = later(() => import('./FirstJob.tsx'));

const PLACES = {
  brief: later(() => import('../brief/Brief.tsx')),
  draft: later(() => import('../draft/Draft.tsx')),
  fold: later(() => import('../fold/Fold.tsx')),
  inspect: later(() => import('../inspect/Inspect.tsx')),
  sheets: later(() => import('../sheets/Sheets.tsx')),
  cut: later(() => import('../cut/Cut.tsx')),
  build: later(() => import('../build/Build.tsx')),
} satisfies Record<StageId, unknown>;

function stageFromAddress(): StageId {
  const last = window.location.pathname.split('/')[3];
  return STAGES.find((stage) => stage === last) ?? 'draft';
}

/** Brings the focus to a place that was gone to; not when the page has just been opened. */
function Arrived({ byHand }: { byHand: boolean }) {
  useEffect(() => {
    const main = document.querySelector<HTMLElement>('main');
    if (!byHand || !main) return;
    main.tabIndex = -1;
    main.focus({ preventScroll: true });
  }, [byHand]);
  return null;
}

/** What the address asks to be chosen: a new card’s mechanism. */
function chooseAsked(): void {
  const id = decodeURIComponent(window.location.hash.slice(1));
  if (!id) return;
  window.history.replaceState(null, '', window.location.pathname);
  const { design, select } = useJob.getState();
  if (design.instances[id]) select({ kind: 'instance', id });
}

/** One job: the stage rail and the place that is open. */
export function Workspace({ id }: { id: string }) {
  const [stage, setStage] = useState<StageId>(stageFromAddress);
  const [loaded, setLoaded] = useState(false);
  const [moved, setMoved] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const [keys, setKeys] = useState(false);
  const conflict = useJob((s) => s.save.kind === 'conflict');
  const name = useJob((s) => (loaded ? s.shown.name : ''));

  const load = useCallback(async () => {
    setFailure(null);
    try {
      await loadJob(id);
      chooseAsked();
      const [cuts, trials] = await Promise.all([api.cuts(id), api.trials(id)]);
      useJob.setState({ cuts, trials });
      // The job is worked on without them; where they are looked at, it is said that they are not there.
      void fetchLessons().catch(() => undefined);
      setLoaded(true);
    } catch (fault) {
      setFailure(saidOf(fault));
    }
  }, [id]);
  useEffect(() => void load(), [load]);

  useEffect(() => {
    if (!loaded) return;
    const stops = [autosave.start(), startReporting()];
    return () => stops.forEach((stop) => stop());
  }, [loaded]);

  const go = useCallback(
    (next: StageId) => {
      window.history.pushState(null, '', `/job/${id}/${next}`);
      setStage(next);
      setMoved(true);
    },
    [id],
  );
  useEffect(() => {
    const back = () => setStage(stageFromAddress());
    window.addEventListener('popstate', back);
    return () => window.removeEventListener('popstate', back);
  }, []);
  useEffect(() => {
    if (name) document.title = `${name} – Hollow Finch`;
  }, [name]);

  const refused = useJob((s) => s.refused);
  useEffect(() => {
    if (refused) sayFault(refused.words);
  }, [refused]);

  const { undoLast, redoLast } = useJob.getState();
  useKeys([
    ['mod+z', undoLast],
    ['mod+y', redoLast],
    ['mod+shift+z', redoLast],
    ['?', () => setKeys(true)],
    ['shift+?', () => setKeys(true)],
    ...STAGES.map((id, i) => [`alt+${i + 1}`, () => go(id)] as const),
  ]);
  useKeys([['mod+s', () => autosave.schedule(0)]], true);

  if (failure)
    return (
      <div className="starting" role="alert">
        <div>
          <h2>The job could not be opened</h2>
          <p>{failure}</p>
          <Button onClick={() => void load()}>Try again</Button> <a href="/">Back to the shelf</a>
        </div>
      </div>
    );
  if (!loaded) return <div className="starting">Opening the job…</div>;
  const Place = PLACES[stage];
  return (
    <div className="workspace">
      <StageRail stage={stage} onStage={go} onKeys={() => setKeys(true)} />
      <Suspense fallback={<main className="place starting">One moment…</main>}>
        <Place onStage={go} />
        <Arrived key={stage} byHand={moved} />
      </Suspense>
      <Suspense fallback={null}>
        {conflict && <ConflictDialog />}
        {firstJobStep() !== null && <FirstJob stage={stage} onStage={go} />}
        {keys && <KeysDialog onClose={() => setKeys(false)} />}
      </Suspense>
    </div>
  );
}
