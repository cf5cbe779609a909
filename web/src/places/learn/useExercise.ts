/** An exercise: made when it is asked for, again for another one; what went wrong is said. */
import { useCallback, useEffect, useState } from 'react';
import { faultWords } from '../../shared/helper.ts';

export function useExercise<T>(make: () => Promise<T>): {
  readonly exercise: T | null;
  readonly failure: string | null;
  again(): void;
} {
  const [exercise, setExercise] = useState<T | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [asked, setAsked] = useState(0);
  useEffect(() => {
    let left = false;
    setExercise(null);
    setFailure(null);
    make().then(
      (made) => !left && setExercise(made),
      (fault: unknown) => !left && setFailure(faultWords(fault)),
    );
    return () => {
      left = true;
    };
  }, [make, asked]);
  return { exercise, failure, again: useCallback(() => setAsked((n) => n + 1), []) };
}
