import { packingAlong } from '../along.ts';
import type { PackLayout, PackRequest } from '../packRequest.ts';

/** The best layout of a request, when its budget is spent. */
export function packed(request: PackRequest): PackLayout {
  let last: PackLayout | undefined;
  for (const { best } of packingAlong(request)) last = best;
  return last!;
}
