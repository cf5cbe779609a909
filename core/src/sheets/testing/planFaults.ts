import type { Design } from '../../design/design.ts';
import { expand } from '../../mechanisms/expand.ts';
import { packedSpec, piecesByStock } from '../plan.ts';
import { packingFaults } from '../validity.ts';

/** What is wrong with the sheets that a design keeps, in sentences; a piece that the design does not have is an error. */
export function planFaults(design: Design): string[] {
  const expanded = expand(design);
  const { stocks } = piecesByStock(expanded, design.settings);
  return design.sheetPlan!.sheets.flatMap((sheet) => {
    const { stock, pieces } = stocks.find((each) => each.stock.id === sheet.stockId)!;
    return packingFaults(
      sheet.pieces.map(({ partId, copy, placement }) => ({
        piece: pieces.find((piece) => piece.partId === partId && piece.copy === copy)!,
        sheet: 0,
        placement,
      })),
      packedSpec(sheet, stock, design.settings, expanded.store),
    );
  });
}
