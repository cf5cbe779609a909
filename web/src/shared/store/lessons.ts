import { api } from '../api.ts';
import { useJob } from './jobStore.ts';

/** Fetches what was seen on the trials of all jobs. */
export async function fetchLessons(): Promise<void> {
  useJob.setState({ lessons: await api.lessons() });
}
