import type { Answer, FoldCheck, GlueStep } from '@hollow-finch/core/assembly/rehearsal';
import type { Design } from '@hollow-finch/core/design/design';
import { isFold } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Loader, Select } from '@mantine/core';
import { useEffect, useState } from 'react';
import { faultWords } from '../../shared/helper.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportWorker } from '../../shared/store/reporter.ts';
import { useLengths } from '../../shared/units.ts';

export interface Rehearsing {
  readonly design: Design;
  readonly order: readonly GlueStep[];
  readonly made: readonly string[];
  readonly answer: Answer;
}

const words = (lineId: string): string => lineId.split('/').pop()!.replace(/-/g, ' ');

/** The folds of a part, each to be folded one way or the other; every choice is answered. */
function FoldPractice({ design, partId }: { design: Design; partId: string }) {
  const { inUnit } = useLengths();
  const [answers, setAnswers] = useState<Readonly<Record<string, FoldCheck>>>({});
  const part = expand(design).parts.find((p) => p.id === partId);
  const folds = part?.lines.filter((line) => isFold(line)) ?? [];
  if (!part || folds.length === 0) return null;
  const choose = (lineId: string, way: 'mountain' | 'valley') =>
    void reportWorker()
      .checkFold(design, partId, lineId, way)
      .catch((fault: unknown): FoldCheck => ({ right: false, text: faultWords(fault) }))
      .then((answer) => setAnswers((known) => ({ ...known, [lineId]: answer })));
  return (
    <div className="fold-practice" role="group" aria-label={`Folds of ${part.name}`}>
      <p className="quiet">Which way do its folds go, seen from the front?</p>
      {folds.map((line) => (
        <div key={line.id}>
          <span>{words(line.id)}</span>
          {(['mountain', 'valley'] as const).map((way) => (
            <Button
              key={way}
              size="compact-xs"
              variant="default"
              aria-label={`${words(line.id)} ${way}`}
              onClick={() => choose(line.id, way)}
            >
              {way}
            </Button>
          ))}
          {answers[line.id] && (
            <span className={answers[line.id].right ? 'good' : 'wrong'}>{inUnit(answers[line.id].text)}</span>
          )}
        </div>
      ))}
    </div>
  );
}

/** Practising the glue-up: choose what to join next, and see what it does; ends with the finished movement. */
export function RehearsalSection({
  rehearsing,
  onChange,
}: {
  rehearsing: Rehearsing | null;
  onChange: (next: Rehearsing | null) => void;
}) {
  const { inUnit } = useLengths();
  const design = useJob((s) => s.shown);
  const [next, setNext] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const stale = rehearsing !== null && rehearsing.design !== design;
  // A changed design is another one to practise.
  useEffect(() => {
    if (stale) onChange(null);
  }, [stale, onChange]);

  const go = (order: readonly GlueStep[], made: readonly string[]) => {
    setBusy(true);
    setFailure(null);
    reportWorker()
      .afterSteps(design, [...made])
      .then((answer) => {
        setNext(order.find((step) => !made.includes(step.jointId))?.jointId ?? null);
        onChange({ design, order, made, answer });
      })
      .catch((fault: unknown) => setFailure(faultWords(fault)))
      .finally(() => setBusy(false));
  };
  const start = () => {
    setBusy(true);
    setFailure(null);
    reportWorker()
      .glueOrder(design)
      .then((order) => go(order, []))
      .catch((fault: unknown) => {
        setBusy(false);
        setFailure(faultWords(fault));
      });
  };
  const failed = failure && (
    <p role="alert" className="wrong">
      {failure}
    </p>
  );
  if (!rehearsing || stale)
    return (
      <>
        <p className="quiet">
          Join it on screen first, one place after another: each step tells what it does to the movement, and
          what can no longer be reached.
        </p>
        <Button variant="default" onClick={start} disabled={busy}>
          {busy ? <Loader size="xs" /> : 'Begin with loose parts'}
        </Button>
        {failed}
      </>
    );
  const { order, made, answer } = rehearsing;
  const left = order.filter((step) => !made.includes(step.jointId));
  const chosen = left.find((step) => step.jointId === next) ?? left[0];
  const firstOfPart =
    chosen && !order.some((step) => step.partId === chosen.partId && made.includes(step.jointId));
  return (
    <>
      <p className="figure">
        {made.length} of {order.length} joined
      </p>
      {failed}
      <ul className="plain-list" aria-live="polite" aria-label="What the last step did">
        {answer.said.map(({ tone, text }) => (
          <li key={text} className={tone}>
            {inUnit(text)}
          </li>
        ))}
      </ul>
      {chosen && (
        <>
          <Select
            label="Next"
            value={chosen.jointId}
            allowDeselect={false}
            data={left.map((step, i) => ({
              value: step.jointId,
              label: `${i === 0 ? 'Best: ' : ''}${step.name}`,
            }))}
            onChange={setNext}
          />
          {firstOfPart && <FoldPractice key={chosen.partId} design={design} partId={chosen.partId} />}
          <Button mt={8} onClick={() => go(order, [...made, chosen.jointId])} disabled={busy}>
            Join it
          </Button>
        </>
      )}
      <div className="rehearsal-row">
        <Button
          variant="default"
          disabled={busy || made.length === 0}
          onClick={() => go(order, made.slice(0, -1))}
        >
          Take the last apart
        </Button>
        <Button variant="default" onClick={() => onChange(null)}>
          {answer.finished ? 'Finish' : 'Stop'}
        </Button>
      </div>
    </>
  );
}
