import type { Design } from '../design/design.ts';
import type { ClosedState } from '../motion/closed.ts';
import { ENVELOPES, type Envelope } from '../stock/stock.ts';
import { CARD_ID } from '../design/frames.ts';
import { mm, type Rule } from './finding.ts';

export interface EnvelopeFit {
  readonly envelope: Envelope;
  /** Room left (negative: lacking) along the long and the short side, in mm, clearance and bulk already taken off. */
  readonly spareLongMm: number;
  readonly spareShortMm: number;
}

/**
 * How a closed card fits an envelope lying flat: long side to long side. Needed = closed size with everything that sticks
 * out + clearance + bulk (the envelope bulges by about the thickness of what is in it).
 */
export function envelopeFitOf(
  closed: Pick<ClosedState, 'box' | 'bulkMm'>,
  envelope: Envelope,
  clearanceMm: number,
): EnvelopeFit {
  const size = [closed.box.maxX - closed.box.minX, closed.box.maxY - closed.box.minY].sort((a, b) => b - a);
  const inner = [envelope.widthMm, envelope.heightMm].sort((a, b) => b - a);
  const extra = clearanceMm + closed.bulkMm;
  return { envelope, spareLongMm: inner[0] - size[0] - extra, spareShortMm: inner[1] - size[1] - extra };
}

/** The smallest known envelope that the closed card fits, by area. */
export function smallestFitting(
  closed: Pick<ClosedState, 'box' | 'bulkMm'>,
  clearanceMm: number,
): Envelope | undefined {
  return [...ENVELOPES]
    .sort((a, b) => a.widthMm * a.heightMm - b.widthMm * b.heightMm)
    .find((envelope) => {
      const fit = envelopeFitOf(closed, envelope, clearanceMm);
      return fit.spareLongMm >= 0 && fit.spareShortMm >= 0;
    });
}

/** The envelope that a brief names. */
export const chosenEnvelope = (design: Design): Envelope | undefined =>
  ENVELOPES.find((envelope) => envelope.id === design.brief.envelopeId);

/** The closed card, with all that sticks out and its bulk, must go into its envelope. */
export const envelopeFit: Rule = {
  id: 'envelopeFit',
  title: 'Envelope',
  protects: 'The card goes into its envelope without force.',
  needs: ['motion'],
  limit: 'the envelope’s inner size less clearance and bulk',
  unit: 'mm',
  run({ design, closed }) {
    const envelope = chosenEnvelope(design);
    if (!envelope || design.base.kind === 'structure') return [];
    const fit = envelopeFitOf(closed, envelope, design.brief.clearanceMm);
    const lacking = Math.max(-fit.spareLongMm, -fit.spareShortMm);
    if (lacking <= 1e-6) return [];
    const better = smallestFitting(closed, design.brief.clearanceMm);
    const { minX, minY, maxX, maxY } = closed.box;
    return [
      {
        key: 'envelopeFit',
        rule: 'envelopeFit',
        severity: 'fault',
        sentence: `${design.base.kind === 'card' ? 'The closed card' : 'The sheet with all that lies on it'} is ${mm(lacking)} too large for ${envelope.name} (${mm(envelope.widthMm)} x ${mm(envelope.heightMm)}).`,
        measured: lacking,
        limit: 0,
        unit: 'mm',
        limitFrom: `inner size less ${mm(design.brief.clearanceMm)} clearance and ${mm(closed.bulkMm)} bulk`,
        places: [{ partId: CARD_ID, at: [(minX + maxX) / 2, (minY + maxY) / 2], points: [] }],
        mend: better
          ? { label: `Take ${better.name}`, command: { do: 'brief', value: { envelopeId: better.id } } }
          : null,
      },
    ];
  },
};
