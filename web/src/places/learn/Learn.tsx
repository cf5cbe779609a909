import { Loader, SegmentedControl, Tabs } from '@mantine/core';
import type { Difficulty } from '@hollow-finch/core/practice/terms';
import { Suspense, useCallback, useEffect, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { PageHead } from '../../shared/PageHead.tsx';
import type { Round, RoundWritten } from '../../shared/records.ts';
import { DIFFICULTIES } from './practice.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { later } from '../../shared/later.ts';
import '../shelf/shelf.css';
import './learn.css';

const FaultsExercise = later(() => import('./FaultsExercise.tsx'));
const ReachExercise = later(() => import('./ReachExercise.tsx'));
const SheetsExercise = later(() => import('./SheetsExercise.tsx'));
const Progress = later(() => import('./Progress.tsx'));

/** Learning to see what a master sees: faults, where things lie when closed, how many sheets; and how it goes. */
export function Learn() {
  const [difficulty, setDifficulty] = useState<Difficulty>(1);
  const [rounds, setRounds] = useState<readonly Round[] | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    api.rounds().then(setRounds, (fault: unknown) => setFailure(saidOf(fault)));
  }, []);
  const keep = useCallback(async (round: RoundWritten) => {
    try {
      const kept = await api.addRound(round);
      setRounds((was) => [...(was ?? []), kept]);
    } catch (fault) {
      sayFault(saidOf(fault), 'The round was not kept');
    }
  }, []);
  const exercise = { difficulty, onRound: keep };
  return (
    <main className="shelf">
      <PageHead title="Learn" />
      <div className="shelf-body learn">
        <div className="learn-head">
          <p className="quiet">
            What is drawn here is made anew each time, and inspected before it is shown: what is said about it
            is measured.
          </p>
          <SegmentedControl
            aria-label="How hard"
            value={String(difficulty)}
            data={DIFFICULTIES}
            onChange={(value) => setDifficulty(Number(value) as Difficulty)}
          />
        </div>
        <Tabs defaultValue="faults" keepMounted={false}>
          <Tabs.List aria-label="Exercises">
            <Tabs.Tab value="faults">Find the fault</Tabs.Tab>
            <Tabs.Tab value="closed">Where does it lie?</Tabs.Tab>
            <Tabs.Tab value="sheets">How many sheets?</Tabs.Tab>
            <Tabs.Tab value="progress">How it goes</Tabs.Tab>
          </Tabs.List>
          <Suspense fallback={<Loader size="sm" mt="md" />}>
            <Tabs.Panel value="faults">
              <FaultsExercise key={difficulty} {...exercise} />
            </Tabs.Panel>
            <Tabs.Panel value="closed">
              <ReachExercise key={difficulty} {...exercise} />
            </Tabs.Panel>
            <Tabs.Panel value="sheets">
              <SheetsExercise key={difficulty} {...exercise} />
            </Tabs.Panel>
            <Tabs.Panel value="progress">
              {failure ? (
                <p role="alert" className="wrong">
                  {failure}
                </p>
              ) : rounds ? (
                <Progress rounds={rounds} />
              ) : (
                <Loader size="sm" />
              )}
            </Tabs.Panel>
          </Suspense>
        </Tabs>
      </div>
    </main>
  );
}

export interface ExerciseProps {
  readonly difficulty: Difficulty;
  onRound(round: RoundWritten): Promise<void>;
}
