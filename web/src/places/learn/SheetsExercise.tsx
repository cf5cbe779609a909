import { openingOf } from '@hollow-finch/core/design/frames';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { SHEETS_RIGHT } from '@hollow-finch/core/practice/terms';
import { partsList } from '@hollow-finch/core/sheets/partsList';
import { Button } from '@mantine/core';
import { useCallback, useEffect, useState } from 'react';
import { CountField } from '../../shared/fields/CountField.tsx';
import { FoldedPicture } from '../../shared/FoldedPicture.tsx';
import { faultWords } from '../../shared/helper.ts';
import { useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';
import { PackingBar } from '../../shared/PackingBar.tsx';
import { packKit, stopKit } from '../kits/kitWork.ts';
import type { ExerciseProps } from './Learn.tsx';
import { FlatParts } from './FlatParts.tsx';
import { newSeed, practiceWorker } from './practice.ts';
import { useExercise } from './useExercise.ts';
import { Waiting } from './Waiting.tsx';

/** Say how many sheets a run takes; then pack it and see. */
export default function SheetsExercise({ difficulty, onRound }: ExerciseProps) {
  const make = useCallback(() => practiceWorker.api.sheets(difficulty, newSeed()), [difficulty]);
  const { exercise, failure, again } = useExercise(make);
  const { store } = useStudioStore();
  const { say } = useLengths();
  const [guess, setGuess] = useState(1);
  const [progress, setProgress] = useState<number | null>(null);
  const [sheets, setSheets] = useState<number | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  useEffect(() => {
    setGuess(1);
    setSheets(null);
    setSaid(null);
  }, [exercise]);
  if (!exercise) return <Waiting failure={failure} />;
  const { design, motion, copies } = exercise;
  const expanded = expand(design);
  const list = partsList(expanded, design.settings).filter(({ quantity }) => quantity > 0);
  const allowed = SHEETS_RIGHT[difficulty];
  const pack = async () => {
    setProgress(0);
    try {
      const found = await packKit(design, { sheets: {}, stocks: store.stocks }, setProgress);
      const count = found?.plan.sheets.length ?? 0;
      setSheets(count);
      const right = Math.abs(count - guess) <= allowed;
      await onRound({
        exercise: 'sheets',
        group: 'sheets',
        difficulty,
        of: 1,
        right: Number(right),
        wrong: Number(!right),
      });
    } catch (fault) {
      setSaid(faultWords(fault));
    }
    setProgress(null);
  };
  return (
    <section aria-label="How many sheets?">
      <div className="learn-columns">
        <div>
          <FlatParts parts={expanded.parts} marks={[]} />
          <div className="learn-folded">
            <FoldedPicture
              sweep={motion}
              opening={openingOf(design)}
              deg={110}
              label="The card, open"
              still
            />
          </div>
        </div>
        <div>
          <h2>{copies === 1 ? 'One card' : `${copies} cards`}: how many sheets?</h2>
          <ul>
            {list.map(({ part, stock, quantity, widthMm, heightMm }) => (
              <li key={part.id}>
                {quantity} × {part.name}, {say(widthMm)} × {say(heightMm)}, of {stock.name} (sheets of{' '}
                {say(stock.sheetWidthMm)} × {say(stock.sheetHeightMm)})
              </li>
            ))}
          </ul>
          <div className="fields">
            <CountField label="Sheets in all" value={guess} min={1} max={500} onCommit={setGuess} />
          </div>
          {said && (
            <p role="alert" className="wrong">
              {said}
            </p>
          )}
          {progress !== null ? (
            <PackingBar progress={progress} onStop={stopKit} />
          ) : sheets === null ? (
            <Button onClick={() => void pack()}>Pack it</Button>
          ) : (
            <div role="status">
              <p className={Math.abs(sheets - guess) <= allowed ? 'good' : 'wrong'}>
                {Math.abs(sheets - guess) <= allowed ? 'Right' : 'Not quite'}: it takes {sheets}, you said{' '}
                {guess}.
              </p>
              <Button onClick={again}>Another run</Button>
            </div>
          )}
        </div>
      </div>
    </section>
  );
}
