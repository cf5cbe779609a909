import type { Settings } from '../design/design.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { fingerprint } from './fingerprint.ts';
import { packedOutlines } from './outlines.ts';
import { partsList } from './partsList.ts';

/** What the packing depends on: a packing made for another fingerprint is out of date. */
export function packingFingerprint(expanded: Expanded, settings: Settings): string {
  const { gapMm, marginMm, copies, machineId, acrossGrain, lying, alikeSheets } = settings;
  return fingerprint([
    partsList(expanded, settings).map(({ part, quantity }) => [
      part.id,
      part.stockId,
      part.grainRad,
      quantity,
      packedOutlines(part),
    ]),
    // Said only where it says something: packings of before stay current.
    {
      gapMm,
      marginMm,
      copies,
      machineId,
      ...(acrossGrain.length > 0 ? { acrossGrain } : {}),
      ...(alikeSheets ? { alikeSheets } : {}),
      ...(Object.keys(lying).length > 0 ? { lying } : {}),
    },
  ]);
}
