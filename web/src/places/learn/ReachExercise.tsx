import { openingOf } from '@hollow-finch/core/design/frames';
import { boxOf } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { fromFold, REACH_RIGHT_MM } from '@hollow-finch/core/practice/terms';
import { Button, Slider } from '@mantine/core';
import { useCallback, useEffect, useState } from 'react';
import { ringData } from '../../shared/drawing/PartDrawing.tsx';
import { placeOn } from '../../shared/drawing/placeOn.ts';
import { FoldedPicture } from '../../shared/FoldedPicture.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useLengths } from '../../shared/units.ts';
import type { ExerciseProps } from './Learn.tsx';
import { newSeed, practiceWorker } from './practice.ts';
import { useExercise } from './useExercise.ts';
import { Waiting } from './Waiting.tsx';

/** Say how far from its fold a mechanism reaches when the card is closed; then close it and see. */
export default function ReachExercise({ difficulty, onRound }: ExerciseProps) {
  const make = useCallback(() => practiceWorker.api.reach(difficulty, newSeed()), [difficulty]);
  const { exercise, failure, again } = useExercise(make);
  const [guess, setGuess] = useState<number | null>(null);
  const [closed, setClosed] = useState(false);
  const [deg, setDeg] = useState(150);
  const { say } = useLengths();
  useEffect(() => {
    setGuess(null);
    setClosed(false);
    setDeg(150);
  }, [exercise]);
  if (!exercise) return <Waiting failure={failure} />;
  const { card, fold, reachMm, motion, design } = exercise;
  const { minX, minY, maxX, maxY } = boxOf(card);
  const depth = Math.max(...card.map((p) => fromFold(fold, p)));
  /** The line across the half that is so far from the fold. */
  const lineAt = (mm: number): string => {
    const side = openingOf(design) === 'side';
    const far = (p: Point) => fromFold(fold, p);
    if (side) {
      const x = far([minX, 0]) < far([maxX, 0]) ? minX + mm : maxX - mm;
      return `M${x} ${-minY}V${-maxY}`;
    }
    const y = far([0, minY]) < far([0, maxY]) ? minY + mm : maxY - mm;
    return `M${minX} ${-y}H${maxX}`;
  };
  const press = (event: React.MouseEvent<SVGSVGElement>) => {
    const at = placeOn(event.currentTarget, event);
    if (at && !closed) setGuess(Math.min(depth, Math.round(10 * fromFold(fold, at)) / 10));
  };
  const off = guess === null ? 0 : Math.abs(guess - reachMm);
  const right = off <= REACH_RIGHT_MM[difficulty];
  const close = async () => {
    setClosed(true);
    setDeg(1);
    await onRound({
      exercise: 'closed',
      group: 'closed',
      difficulty,
      of: 1,
      right: Number(right),
      wrong: Number(!right),
    });
  };
  return (
    <section aria-label="Where does it lie?">
      <div className="learn-columns">
        <div className="learn-folded tall">
          <FoldedPicture
            sweep={motion}
            opening={openingOf(design)}
            deg={closed ? deg : Math.max(deg, 90)}
            label="The card, open"
          />
          <Slider
            aria-label="How far open it is"
            thumbLabel="How far open it is"
            min={closed ? 0 : 90}
            max={180}
            value={deg}
            onChange={setDeg}
          />
        </div>
        <div>
          <h2>Closed, how far from the fold does it reach?</h2>
          <p className="quiet">Press on the closed half, or type it. The fold is the heavy line.</p>
          <svg
            className="closed-half"
            viewBox={`${minX - 6} ${-maxY - 6} ${maxX - minX + 12} ${maxY - minY + 12}`}
            role="img"
            aria-label="The closed half of the card"
            onClick={press}
          >
            <path d={ringData(card)} className="closed-paper" />
            <path d={`M${fold[0][0]} ${-fold[0][1]}L${fold[1][0]} ${-fold[1][1]}`} className="closed-fold" />
            {closed &&
              exercise.closed.map((ring, i) => <path key={i} d={ringData(ring)} className="closed-in" />)}
            {guess !== null && <path d={lineAt(guess)} className="closed-guess" />}
            {closed && <path d={lineAt(reachMm)} className="closed-true" />}
          </svg>
          <div className="fields">
            <LengthField
              label="It reaches"
              valueMm={guess ?? 0}
              minMm={0}
              maxMm={depth}
              onCommit={(mm) => !closed && setGuess(mm)}
            />
          </div>
          {closed ? (
            <div role="status">
              <p className={right ? 'good' : 'wrong'}>
                {right ? 'Right' : 'Not quite'}: it reaches {say(reachMm)}, you said {say(guess ?? 0)},{' '}
                {say(off)} off.
              </p>
              <Button onClick={again}>Another card</Button>
            </div>
          ) : (
            <Button disabled={guess === null} onClick={() => void close()}>
              Close it
            </Button>
          )}
        </div>
      </div>
    </section>
  );
}
