/** The guided first job: how far one is, kept in this browser. */
const KEY = 'hollow-finch:first-job';

/** The demo job that it goes through. */
export const FIRST_JOB = 'dome-night';

/** The step at which the guide is; null while nobody is guided. */
export function firstJobStep(): number | null {
  try {
    const kept = Number(localStorage.getItem(KEY) ?? NaN);
    return Number.isInteger(kept) && kept >= 0 ? kept : null;
  } catch {
    return null;
  }
}

/** Goes to a step; null ends it. */
export function setFirstJobStep(step: number | null): void {
  try {
    if (step === null) localStorage.setItem(KEY, 'done');
    else localStorage.setItem(KEY, String(step));
  } catch {
    // A browser that keeps nothing guides no further than this page.
  }
}

/** Whether it was never begun nor put away. */
export function isNewHere(): boolean {
  try {
    return localStorage.getItem(KEY) === null;
  } catch {
    return false;
  }
}
