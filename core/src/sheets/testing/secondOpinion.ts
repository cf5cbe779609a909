/** A second method that looks at layouts: by the areas of grown and placed outlines. */
import { place } from '../../geometry/isometry.ts';
import { boxesApart, boxOf } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import { areaOfRegions, placeRegion, type Region } from '../../geometry/polygon.ts';
import { difference, intersection, offset, solid } from '../../geometry/regions.ts';
import { rectangle } from '../../mechanisms/pieces.ts';
import type { PackLayout, PackRequest } from '../packRequest.ts';
import type { PlacedOnSheet } from '../pieces.ts';

/** What areas may be off by, mm2: coordinates are kept to a tenth of a micrometre, corners to a thousandth of a millimetre. */
const OFF_MM2 = 0.02;

/** The outlines of a piece where it lies. */
export const regionsOf = ({ piece, placement }: PlacedOnSheet): Region[] =>
  piece.outlines.map((region) => placeRegion(placement, region));

/** What is wrong with a layout, without anything of the engine. */
export function faultsOf(request: PackRequest, layout: PackLayout): string[] {
  const kinds = [request.sheet, ...(request.others ?? [])];
  const { gapMm } = request.sheet;
  const faults: string[] = [];
  const seen = new Set<string>();
  const locked = request.locked?.placed ?? [];
  for (const { piece } of [...layout.placed, ...layout.unplaced.map((each) => ({ piece: each }))]) {
    const key = `${piece.partId}/${piece.copy}`;
    if (seen.has(key)) faults.push(`${key} twice`);
    seen.add(key);
  }
  if (seen.size !== request.pieces.length) faults.push('quantities');
  kinds.forEach(({ count = Infinity }, kind) => {
    if (layout.kinds.filter((each) => each === kind).length > count) faults.push(`too many of kind ${kind}`);
  });
  const price = layout.kinds.reduce((sum, kind) => sum + (kinds[kind].price ?? 0), 0);
  if (Math.abs(price - layout.price) > 1e-9) faults.push('price');
  const all = [...locked, ...layout.placed];
  const laid = all.map(regionsOf);
  const together = new Map<string, number>();
  all.forEach(({ piece, sheet, placement }, i) => {
    const spec = kinds[layout.kinds[sheet]];
    const { marginMm, widthMm, heightMm } = spec;
    const whole = spec.outline ? [solid(spec.outline)] : [solid(rectangle(0, 0, widthMm, heightMm))];
    const printable = spec.outline
      ? intersection(offset(whole, -marginMm, 0.001), [
          solid(rectangle(marginMm, marginMm, widthMm - 2 * marginMm, heightMm - 2 * marginMm)),
        ])
      : [solid(rectangle(marginMm, marginMm, widthMm - 2 * marginMm, heightMm - 2 * marginMm))];
    const out = areaOfRegions(difference(laid[i], printable));
    // Along a whole edge a thousandth of a millimetre may stand over.
    if (i >= locked.length && out > 0.5) faults.push(`${piece.partId} outside by ${out}`);
    if (placement.flip && !piece.mirror) faults.push(`${piece.partId} face down`);
    const turned = (rad: number): Point =>
      place({ ...placement, dx: 0, dy: 0 }, [Math.cos(rad), Math.sin(rad)]);
    if (piece.grainRad !== null && spec.grainRad !== null) {
      const [x, y] = turned(piece.grainRad);
      if (Math.abs(x * Math.sin(spec.grainRad) - y * Math.cos(spec.grainRad)) > 1e-9)
        faults.push(`${piece.partId} across the grain`);
    }
    if (
      i >= locked.length &&
      piece.turnsRad &&
      !piece.turnsRad.some((rad) => Math.cos(rad - placement.angleRad) > 1 - 1e-12)
    )
      faults.push(`${piece.partId} turned`);
    if (piece.together !== undefined) {
      if ((together.get(piece.together) ?? sheet) !== sheet) faults.push(`${piece.partId} without its twin`);
      together.set(piece.together, sheet);
    }
    const box = boxOf(laid[i].flatMap(({ outer }) => outer));
    const grown = gapMm > 0 ? offset(laid[i], gapMm, 0.001) : laid[i];
    for (let j = 0; j < i; j++) {
      if (all[j].sheet !== sheet || (i < locked.length && j < locked.length)) continue;
      if (boxesApart(box, boxOf(laid[j].flatMap(({ outer }) => outer)), gapMm)) continue;
      const shared = areaOfRegions(intersection(grown, laid[j]));
      if (shared > OFF_MM2) faults.push(`${piece.partId} and ${all[j].piece.partId} share ${shared}`);
    }
  });
  return faults;
}
