import { boxCentre } from '../geometry/path.ts';
import type { Design } from '../design/design.ts';
import type { ClosedState } from '../motion/closed.ts';
import { ENVELOPES } from '../stock/reference.ts';
import type { Envelope } from '../stock/stock.ts';
import { storeWith } from '../stock/store.ts';
import { CARD_ID } from '../design/frames.ts';
import { mm, type Rule } from './finding.ts';

export interface EnvelopeFit {
  readonly envelope: Envelope;
  /** Room left (negative: lacking) along the long and the short side, in mm, clearance and bulk already taken off. */
  readonly spareLongMm: number;
  readonly spareShortMm: number;
  /** The clearance and the bulk that were taken off, mm. */
  readonly clearMm: number;
  readonly bulkMm: number;
}

/** As thick as a plain card is when it is closed: what the usual pairs of card and envelope allow for, mm. */
export const PLAIN_BULK_MM = 0.8;

/**
 * How a closed card fits an envelope lying flat: long side to long side. Needed = closed size with everything that sticks
 * out + clearance + bulk (the envelope bulges by about the thickness of what is in it). A card and the envelope that is made
 * for it fit each other by definition: of the clearance no more is asked than that pair has, and of the bulk what comes on top
 * of a plain card.
 */
export function envelopeFitOf(
  closed: Pick<ClosedState, 'box' | 'bulkMm'>,
  envelope: Envelope,
  clearanceMm: number,
): EnvelopeFit {
  const size = [closed.box.maxX - closed.box.minX, closed.box.maxY - closed.box.minY].sort((a, b) => b - a);
  const inner = [envelope.widthMm, envelope.heightMm].sort((a, b) => b - a);
  const pair = envelope.cardMm && [...envelope.cardMm].sort((a, b) => b - a);
  const bulkMm = pair ? Math.max(0, closed.bulkMm - PLAIN_BULK_MM) : closed.bulkMm;
  const clear = (k: 0 | 1): number => (pair ? Math.min(clearanceMm, inner[k] - pair[k]) : clearanceMm);
  const spare = (k: 0 | 1): number => inner[k] - size[k] - clear(k) - bulkMm;
  const [spareLongMm, spareShortMm] = [spare(0), spare(1)];
  return { envelope, spareLongMm, spareShortMm, clearMm: clear(spareLongMm <= spareShortMm ? 0 : 1), bulkMm };
}

/**
 * The smallest envelope that the closed card fits, by area.
 *
 * @param envelopes those to choose among; the usual ones unless said
 */
export function smallestFitting(
  closed: Pick<ClosedState, 'box' | 'bulkMm'>,
  clearanceMm: number,
  envelopes: readonly Envelope[] = ENVELOPES,
): Envelope | undefined {
  return [...envelopes]
    .sort((a, b) => a.widthMm * a.heightMm - b.widthMm * b.heightMm)
    .find((envelope) => {
      const fit = envelopeFitOf(closed, envelope, clearanceMm);
      return fit.spareLongMm >= 0 && fit.spareShortMm >= 0;
    });
}

/** The envelope that a brief names. */
export function chosenEnvelope({ brief, store }: Pick<Design, 'brief' | 'store'>): Envelope | undefined {
  const { envelopes } = storeWith(store);
  return brief.envelopeId !== null && Object.hasOwn(envelopes, brief.envelopeId)
    ? envelopes[brief.envelopeId]
    : undefined;
}

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
    return [
      {
        key: 'envelopeFit',
        rule: 'envelopeFit',
        severity: 'fault',
        sentence: `${design.base.kind === 'card' ? 'The closed card' : 'The sheet with all that lies on it'} is ${mm(lacking)} too large for ${envelope.name} (${mm(envelope.widthMm)} x ${mm(envelope.heightMm)}).`,
        measured: lacking,
        limit: 0,
        unit: 'mm',
        limitFrom: `inner size less ${mm(fit.clearMm)} clearance${fit.bulkMm > 0 ? ` and ${mm(fit.bulkMm)} ${envelope.cardMm ? 'bulk beyond a plain card' : 'bulk'}` : ''}`,
        places: [{ partId: CARD_ID, at: boxCentre(closed.box), points: [] }],
        mend: better
          ? { label: `Take ${better.name}`, command: { do: 'brief', value: { envelopeId: better.id } } }
          : null,
      },
    ];
  },
};
