import { Button } from '@mantine/core';
import { useEffect, useState } from 'react';
import { firstJobStep, setFirstJobStep } from '../../shared/firstJob.ts';
import { useKeys } from '../../shared/keys.ts';
import { useJob, type JobState } from '../../shared/store/jobStore.ts';
import type { StageId } from './stages.ts';

interface Step {
  readonly stage: StageId;
  readonly title: string;
  readonly words: string;
  /** Whether it was done. */
  done(state: JobState, stage: StageId): boolean;
}

const STEPS: readonly Step[] = [
  {
    stage: 'draft',
    title: 'Choose the step',
    words:
      'On the board press the strip of the dome step, or choose it with Tab and Enter: its measures appear on the right.',
    done: ({ selection }) => selection !== null,
  },
  {
    stage: 'draft',
    title: 'Change a measure',
    words:
      'Type another value into one of its measures, such as “30 mm” or “1 1/4in”, and look at the rail: the figures follow.',
    done: ({ undo }) => undo.length > 0,
  },
  {
    stage: 'fold',
    title: 'Fold it',
    words: 'Go to Fold and move the opening from closed to open. A catch would be marked on the strip below.',
    done: ({ openingDeg }, stage) => stage === 'fold' && (openingDeg < 60 || openingDeg > 150),
  },
  {
    stage: 'inspect',
    title: 'Inspect it',
    words:
      'Go to Inspect. Each finding says what was measured and what to do; none means that all was looked at.',
    done: ({ report }, stage) => stage === 'inspect' && report !== null,
  },
  {
    stage: 'sheets',
    title: 'Pack the sheets',
    words: 'Go to Sheets and press “Pack the sheets”: every part finds its place.',
    done: ({ design }) => design.sheetPlan !== null,
  },
  {
    stage: 'cut',
    title: 'Save a cut file',
    words: 'Go to Cut and save the SVG. It becomes a numbered cut job.',
    done: ({ cuts }) => cuts.length > 0,
  },
  {
    stage: 'build',
    title: 'Read the build sheet',
    words: 'Go to Build: the steps in order, each with its picture, to print and to change.',
    done: (_, stage) => stage === 'build',
  },
];

/** The guided first job: one thing after another, each ticked off when it was done. */
export default function FirstJob({ stage, onStage }: { stage: StageId; onStage: (stage: StageId) => void }) {
  const [at, setAt] = useState(firstJobStep);
  const state = useJob();
  const go = (next: number | null) => {
    setFirstJobStep(next);
    setAt(next);
  };
  const step = at === null ? undefined : STEPS[at];
  const isDone = step?.done(state, stage) ?? false;
  const finished = at !== null && at >= STEPS.length;
  useEffect(() => {
    if (!isDone || at === null) return;
    const timer = setTimeout(() => go(at + 1), 900);
    return () => clearTimeout(timer);
  }, [isDone, at]);
  useKeys(
    at === null ? [] : [['Escape', () => (document.activeElement?.closest('.first-job') ? go(null) : false)]],
  );
  if (at === null) return null;
  return (
    <section className="first-job" aria-label="First job" aria-live="polite">
      {finished || !step ? (
        <>
          <h2>That was a whole job</h2>
          <p>Begin one of your own with “New card” on the shelf. The help has a page for every mechanism.</p>
          <div className="first-job-acts">
            <Button size="compact-sm" onClick={() => go(null)}>
              Close
            </Button>
            <a href="/">To the shelf</a>
          </div>
        </>
      ) : (
        <>
          <h2>
            {at + 1} of {STEPS.length}: {step.title}
          </h2>
          <p>{step.words}</p>
          <div className="first-job-acts">
            {isDone ? (
              <span className="good" role="status">
                Done
              </span>
            ) : (
              stage !== step.stage && (
                <Button size="compact-sm" onClick={() => onStage(step.stage)}>
                  Take me there
                </Button>
              )
            )}
            <Button size="compact-sm" variant="default" onClick={() => go(at + 1)}>
              Skip this
            </Button>
            <Button size="compact-sm" variant="default" onClick={() => go(null)}>
              End the guide
            </Button>
          </div>
        </>
      )}
    </section>
  );
}
