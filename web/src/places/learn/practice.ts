/** The worker that makes and marks exercises. */
import { Helper } from '../../shared/helper.ts';
import type { PracticeApi } from '../../workers/practice.worker.ts';

export const practiceWorker = new Helper<PracticeApi>(
  () => new Worker(new URL('../../workers/practice.worker.ts', import.meta.url), { type: 'module' }),
);

/** A seed that nobody has had. */
export const newSeed = (): number => Math.floor(Math.random() * 1_000_000_000);

export const DIFFICULTIES = [
  { value: '1', label: 'Easy' },
  { value: '2', label: 'Middling' },
  { value: '3', label: 'Hard' },
];
