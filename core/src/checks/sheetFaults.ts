import { stockOf, type Part } from '../dieline/part.ts';
import { distance, middle, subtract } from '../geometry/point.ts';
import { panelPlan } from '../dieline/panels.ts';
import { outerOutlines } from '../sheets/outlines.ts';
import { packingFingerprint } from '../sheets/packingFingerprint.ts';
import { sheetSpec } from '../sheets/plan.ts';
import { findingOf, mm, type CheckContext, type Finding, type Rule } from './finding.ts';

const RULE = 'sheetFaults';
/** Folds longer than this across the grain crack or wander, in stock of so much and more. */
const LONG_FOLD_MM = 80;
const STIFF_GSM = 200;
/** Folds that lean to the grain by more than this run across it (sine of 60 degrees). */
const ACROSS = Math.sin(Math.PI / 3);
/** Angles at which a piece that may lie anyhow is tried, degrees. */
const EVERY_DEG = 3;

/** By how much a part is too large for the printable area of its sheet, however it may lie; 0 when it fits. */
function tooLargeMm(part: Part, { design, expanded }: Pick<CheckContext, 'design' | 'expanded'>): number {
  const stock = stockOf(part);
  const sheet = sheetSpec(stock, design.settings, expanded.store);
  const [wide, high] = [sheet.widthMm - 2 * sheet.marginMm, sheet.heightMm - 2 * sheet.marginMm];
  const points = outerOutlines(part).flatMap((region) => region.outer);
  if (points.length === 0) return 0;
  const bound = part.grainRad !== null && sheet.grainRad !== null;
  // With the grain a piece lies one way and half a turn on; else every few degrees, upright and across among them.
  const angles = bound
    ? [sheet.grainRad! - part.grainRad!]
    : Array.from({ length: 180 / EVERY_DEG }, (_, i) => (i * EVERY_DEG * Math.PI) / 180);
  let least = Infinity;
  for (const angle of angles) {
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const xs = points.map(([x, y]) => c * x - s * y);
    const ys = points.map(([x, y]) => s * x + c * y);
    const over = Math.max(Math.max(...xs) - Math.min(...xs) - wide, Math.max(...ys) - Math.min(...ys) - high);
    least = Math.min(least, over);
  }
  return Math.max(0, least);
}

function partFindings(context: CheckContext, part: Part): Finding[] {
  const findings: Finding[] = [];
  const whole = { partId: part.id, at: panelPlan(part).panels[0]?.inside ?? ([0, 0] as const), points: [] };
  if (!Object.hasOwn(context.expanded.store.stocks, part.stockId))
    findings.push(
      findingOf(
        RULE,
        `stock:${part.id}`,
        `The stock of ${part.name} (“${part.stockId}”) is not in the store: it would be packed and cut as ${stockOf(part).name}. Choose one that is there.`,
        [whole],
        { limitFrom: 'the stocks in the store' },
      ),
    );
  const over = part.quantity > 0 ? tooLargeMm(part, context) : 0;
  if (over > 1e-6) {
    const sheet = sheetSpec(stockOf(part), context.design.settings, context.expanded.store);
    const bound = part.grainRad !== null && sheet.grainRad !== null;
    findings.push(
      findingOf(
        RULE,
        `large:${part.id}`,
        `${part.name} is ${mm(over)} too large for the printable area of its sheet (${mm(sheet.widthMm - 2 * sheet.marginMm)} × ${mm(sheet.heightMm - 2 * sheet.marginMm)})${bound ? ' the way its grain lies' : ''}.`,
        [whole],
        { measured: over, limit: 0, limitFrom: 'the sheet less its margins, on the machine’s bed' },
      ),
    );
  }
  return [...findings, ...grainFindings(part)];
}

/** Long folds that run across the grain of stiff stock. */
function grainFindings(part: Part): Finding[] {
  const stock = stockOf(part);
  const { grainRad } = part;
  if (grainRad === null || stock.grain === 'none' || stock.grammageGsm < STIFF_GSM) return [];
  const across = panelPlan(part).hinges.filter(({ from, to }) => {
    const d = subtract(to, from);
    const turn = Math.abs(Math.sin(Math.atan2(d[1], d[0]) - grainRad));
    return distance(from, to) > LONG_FOLD_MM && turn > ACROSS;
  });
  if (across.length === 0) return [];
  const longest = Math.max(...across.map(({ from, to }) => distance(from, to)));
  return [
    findingOf(
      RULE,
      `grain:${part.id}`,
      `${across.length === 1 ? 'A fold' : `${across.length} folds`} of ${part.name}, up to ${mm(longest)} long, ${across.length === 1 ? 'runs' : 'run'} across the grain of ${stock.name}: ${across.length === 1 ? 'it' : 'they'} may crack. Turn the grain, or score deeper.`,
      across.map(({ from, to }) => ({ partId: part.id, at: middle(from, to), points: [from, to] })),
      {
        severity: 'warning',
        measured: longest,
        limit: LONG_FOLD_MM,
        limitFrom: `shorter folds do in stock under ${STIFF_GSM} g/m² too`,
      },
    ),
  ];
}

/** Parts must fit their sheets, stocks must be there, and what was packed or saved must be what is drawn now. */
export const sheetFaults: Rule = {
  id: RULE,
  title: 'Sheets and cut files',
  protects:
    'Every part fits its sheet and folds along the grain; nothing is cut from an old packing or file.',
  needs: ['lines', 'sheets', 'cuts'],
  limit: 'the printable area, the store, the design as it is now',
  unit: 'mm',
  run(context) {
    const { design, expanded, cuts } = context;
    const findings = expanded.parts.flatMap((part) => partFindings(context, part));
    if (
      design.sheetPlan &&
      design.sheetPlan.sheets.length > 0 &&
      design.sheetPlan.fingerprint !== packingFingerprint(expanded, design.settings)
    )
      findings.push(
        findingOf(
          RULE,
          'packed',
          'The sheets were packed before the design was changed: pack again before anything is cut.',
          [],
          { severity: 'warning', limitFrom: 'the design as it is now' },
        ),
      );
    for (const cut of cuts)
      if (!cut.current)
        findings.push(
          findingOf(
            RULE,
            `cut:${cut.number}`,
            `Cut job ${cut.number} (${cut.title}) was saved before the design was changed: save it again before it is cut.`,
            [],
            { severity: 'warning', limitFrom: 'the design as it is now' },
          ),
        );
    return findings;
  },
};
