/** What a played cut file is told in. */
import type { CutterFault, Stroke, Tool } from '@hollow-finch/core/cutting/cutter';

export const TOOL_NAMES: Readonly<Record<Tool, string>> = {
  mark: 'Marks',
  score: 'Scores',
  perforate: 'Perforations',
  kiss: 'Kiss cuts',
  cut: 'Cuts',
};

const STROKE_OF: Readonly<Record<Tool, string>> = {
  mark: 'a mark',
  score: 'a score',
  perforate: 'a perforation',
  kiss: 'a kiss cut',
  cut: 'a cut',
};

/** Seconds as a person reads them: `48 s`, `3 min 05 s`, `1 h 02 min`. */
export function sayTime(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole < 60) return `${whole} s`;
  const [hours, minutes] = [Math.floor(whole / 3600), Math.floor((whole % 3600) / 60)];
  const two = (value: number) => String(value).padStart(2, '0');
  return hours > 0 ? `${hours} h ${two(minutes)} min` : `${minutes} min ${two(whole % 60)} s`;
}

/** How long a file takes that is cut so many times: once, and all of them. */
export const sayTimes = (seconds: number, times: number): string =>
  times === 1
    ? `about ${sayTime(seconds)}`
    : `about ${sayTime(seconds)} a sheet and ${sayTime(seconds * times)} for all ${times}`;

export const piecesWords = (count: number): string =>
  count === 0 ? 'no piece' : count === 1 ? '1 piece' : `${count} pieces`;

/** What is wrong with a stroke, and what to do. */
export function faultSentence(
  { kind, stroke, at, mm }: CutterFault,
  strokes: readonly Stroke[],
  say: (mm: number) => string,
): string {
  const which = `Stroke ${stroke + 1}, ${STROKE_OF[strokes[stroke].tool]} at ${say(at[0])}, ${say(at[1])},`;
  if (kind === 'offBed')
    return `${which} leaves the bed by ${say(mm)}: move it, or choose a machine with a larger bed.`;
  if (kind === 'twice')
    return `${which} goes over ${say(mm)} that are cut already: the paper frays there, and time is lost.`;
  return `${which} is made in a piece that is loose by then, and may shift: make it before the outline, or hold the piece with nicks.`;
}
