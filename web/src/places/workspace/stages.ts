/** The stages of a job and the live figure of each: the state that nobody has to open a screen for. */
import { chosenEnvelope, envelopeFitOf } from '@hollow-finch/core/checks/envelopeFit';
import { openFindings } from '@hollow-finch/core/checks/finding';
import { JOINT_TOLERANCE_MM } from '@hollow-finch/core/geometry/tolerances';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { sheetUsage } from '@hollow-finch/core/sheets/partsList';
import type { Trial } from '../../shared/records.ts';
import { VERDICTS } from '../../shared/trialWords.ts';
import type { JobState } from '../../shared/store/jobStore.ts';

export const STAGES = ['brief', 'draft', 'fold', 'inspect', 'sheets', 'cut', 'build'] as const;
export type StageId = (typeof STAGES)[number];

export const STAGE_NAMES: Readonly<Record<StageId, string>> = {
  brief: 'Brief',
  draft: 'Draft',
  fold: 'Fold',
  inspect: 'Inspect',
  sheets: 'Sheets',
  cut: 'Cut',
  build: 'Build',
};

export interface StageFigure {
  readonly words: string;
  readonly tone: 'good' | 'wrong' | 'warn' | 'plain';
}

type Facts = Pick<JobState, 'shown' | 'report' | 'cuts' | 'notLooked'> & {
  /** The trial builds, newest first; null until they are known. */
  readonly trials?: readonly Trial[] | null;
  /** How many faults were seen on trials of other jobs with its mechanisms. */
  readonly lessons?: number;
  /** How far the sheets are packed, 0 to 1; null when nothing is packed now. */
  readonly packed?: number | null;
};

const plain = (words: string): StageFigure => ({ words, tone: 'plain' });

function briefFigure(facts: Facts, say: (mm: number) => string): StageFigure {
  const { shown, report } = facts;
  const envelope = chosenEnvelope(shown);
  if (shown.base.kind === 'structure') return plain('no card');
  if (!envelope) return plain(`${say(shown.brief.closedWidthMm)} × ${say(shown.brief.closedHeightMm)}`);
  if (!report) return unknown(facts, 'measuring…');
  const fit = envelopeFitOf(report.closed, envelope, shown.brief.clearanceMm);
  const spare = Math.min(fit.spareLongMm, fit.spareShortMm);
  return spare >= 0
    ? { words: `fits ${envelope.name}, ${say(spare)} spare`, tone: 'good' }
    : { words: `${say(-spare)} too large for ${envelope.name}`, tone: 'wrong' };
}

/** What is said while nothing is known yet, or because nothing was looked at. */
const unknown = ({ notLooked }: Facts, words: string): StageFigure =>
  notLooked ? { words: 'not looked at', tone: 'warn' } : plain(words);

function foldFigure(facts: Facts, say: (mm: number) => string): StageFigure {
  const { report } = facts;
  if (!report) return unknown(facts, 'folding…');
  const travels = [report.sweep, ...report.pulls.map((pull) => pull.sweep)];
  const components = travels.flatMap((travel) => travel.components);
  const torn = travels.flatMap(({ linkage }) => linkage.heldFolds.map((fold) => fold.offMm));
  const worst = Math.max(
    0,
    ...components.filter((c) => c.state === 'locked' || c.state === 'torn').map((c) => c.worstMm),
    ...torn.filter((mm) => mm > JOINT_TOLERANCE_MM),
  );
  if (report.sweep.linkage.heldFolds.some((fold) => fold.opens))
    return { words: 'cannot close', tone: 'wrong' };
  if (worst > 0) return { words: `strains by ${say(worst)}`, tone: 'wrong' };
  if (components.some((c) => c.state === 'turnedOver')) return { words: 'a fold turns over', tone: 'wrong' };
  if (components.some((c) => c.state === 'tooLarge')) return { words: 'too large to fold', tone: 'wrong' };
  const out = Math.max(0, ...report.closed.overhangs.map((o) => o.mostMm));
  const catches = report.catches.length + report.pulls.reduce((sum, pull) => sum + pull.catches.length, 0);
  const wrong = [
    out > 0 ? `pokes out ${say(out)}` : '',
    catches > 0 ? `${catches} ${catches === 1 ? 'catch' : 'catches'}` : '',
  ].filter(Boolean);
  if (wrong.length > 0) return { words: wrong.join(', '), tone: 'wrong' };
  // What is meant to spread by itself is no finding.
  const said = report.findings.filter((f) => f.rule === 'motionFaults');
  if (said.some((f) => f.severity === 'fault')) return { words: 'does not move as drawn', tone: 'wrong' };
  if (said.length > 0) return { words: 'a part hangs loose', tone: 'warn' };
  return { words: 'folds away', tone: 'good' };
}

function inspectFigure(facts: Facts): StageFigure {
  const { shown, report } = facts;
  if (!report) return unknown(facts, 'inspecting…');
  const open = openFindings(shown, report.findings);
  const faults = open.filter((f) => f.severity === 'fault').length;
  const warnings = open.length - faults;
  const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;
  if (faults > 0)
    return {
      words: [count(faults, 'fault'), warnings > 0 ? count(warnings, 'warning') : '']
        .filter(Boolean)
        .join(', '),
      tone: 'wrong',
    };
  return warnings > 0
    ? { words: count(warnings, 'warning'), tone: 'warn' }
    : { words: 'nothing found', tone: 'good' };
}

function sheetsFigure(facts: Facts): StageFigure {
  if (typeof facts.packed === 'number') return plain(`packing, ${Math.round(100 * facts.packed)} %`);
  const { shown, report } = facts;
  const plan = shown.sheetPlan;
  if (!plan || plan.sheets.length === 0) return plain('not packed');
  if (!report) return unknown(facts, 'looking…');
  if (plan.fingerprint !== report.packing) return { words: 'out of date', tone: 'warn' };
  const parts = new Map(expand(shown).parts.map((part) => [part.id, part]));
  const usage = plan.sheets.reduce((sum, sheet) => sum + sheetUsage(sheet, parts), 0) / plan.sheets.length;
  return {
    words: `${plan.sheets.length} ${plan.sheets.length === 1 ? 'sheet' : 'sheets'}, ${Math.round(usage * 100)} %`,
    tone: 'good',
  };
}

function cutFigure(facts: Facts): StageFigure {
  const { report, cuts } = facts;
  const [last] = cuts;
  if (!last) return plain('none yet');
  const current = report?.cutsCurrent.get(last.number);
  if (current === undefined) return unknown(facts, `job ${last.number}`);
  return current
    ? { words: `job ${last.number}`, tone: 'good' }
    : { words: `job ${last.number} out of date`, tone: 'warn' };
}

function buildFigure({ trials, lessons = 0 }: Facts): StageFigure {
  const [last] = trials ?? [];
  if (!last)
    return lessons === 0
      ? plain('not tried yet')
      : { words: `${lessons} ${lessons === 1 ? 'fault' : 'faults'} seen on others`, tone: 'warn' };
  const count = trials!.length;
  return {
    words: `${count} ${count === 1 ? 'trial' : 'trials'}, ${VERDICTS[last.verdict]}`,
    tone: last.verdict === 'good' ? 'good' : last.verdict === 'nearly' ? 'warn' : 'wrong',
  };
}

/** The figure of a stage from what is known now. */
export function stageFigure(stage: StageId, facts: Facts, say: (mm: number) => string): StageFigure {
  switch (stage) {
    case 'brief':
      return briefFigure(facts, say);
    case 'draft': {
      const { parts } = expand(facts.shown);
      const lines = parts.reduce((sum, part) => sum + part.lines.length, 0);
      return plain(
        `${parts.length} ${parts.length === 1 ? 'part' : 'parts'}, ${lines} ${lines === 1 ? 'line' : 'lines'}`,
      );
    }
    case 'fold':
      return foldFigure(facts, say);
    case 'inspect':
      return inspectFigure(facts);
    case 'sheets':
      return sheetsFigure(facts);
    case 'cut':
      return cutFigure(facts);
    case 'build':
      return buildFigure(facts);
  }
}
