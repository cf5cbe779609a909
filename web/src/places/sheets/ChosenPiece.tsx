import type { Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Select, Switch } from '@mantine/core';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useLengths } from '../../shared/units.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import {
  lockedPlan,
  pieceAt,
  pieceBox,
  placementBy,
  placementOf,
  turnedPlacement,
  type PieceRef,
} from './handMoves.ts';
import { LyingFields } from './LyingFields.tsx';
import type { Hand } from './useHand.ts';

/** The piece that is chosen on a sheet: where it lies, by numbers; turned; sent to another sheet. */
export function ChosenPiece({
  design,
  chosen,
  hand: { said, move, busy },
}: {
  design: Design;
  chosen: PieceRef;
  hand: Hand;
}) {
  const { inUnit } = useLengths();
  const { edit } = useJob.getState();
  const plan = design.sheetPlan;
  const placed = pieceAt(design, chosen);
  const part = expand(design).parts.find(({ id }) => id === chosen.partId);
  const box = pieceBox(design, chosen);
  if (!plan || !placed || !part || !box) return null;
  /** Moves it along one way so far that its box begins at a place. */
  const begins = (axis: 0 | 1, mm: number) =>
    move(chosen, (now, ref) => {
      const at = pieceBox(now, ref);
      return at && placementBy(now, ref, axis === 0 ? [mm - at.minX, 0] : [0, mm - at.minY]);
    });
  const own = plan.sheets[chosen.sheet];
  const alike = plan.sheets.flatMap(({ stockId }, i) => (stockId === own.stockId ? [i] : []));
  return (
    <section aria-label="Chosen piece" aria-busy={busy}>
      <h2>
        {part.name}, piece {chosen.copy}
      </h2>
      <p className="quiet">
        {inUnit('Drag it, or move it by the arrow keys (with Shift by 10 mm); R turns it.')} Where it may not
        lie it goes to the nearest place where it may.
      </p>
      <div className="fields">
        <LengthField
          label="From the left"
          valueMm={box.minX}
          minMm={0}
          maxMm={own.widthMm}
          onCommit={(mm) => begins(0, mm)}
        />
        <LengthField
          label="From below"
          valueMm={box.minY}
          minMm={0}
          maxMm={own.heightMm}
          onCommit={(mm) => begins(1, mm)}
        />
        <Select
          label="On sheet"
          allowDeselect={false}
          value={String(chosen.sheet)}
          data={[
            ...alike.map((i) => ({ value: String(i), label: `Sheet ${i + 1}` })),
            ...(own.pieces.length > 1
              ? [{ value: String(plan.sheets.length), label: 'A sheet of its own' }]
              : []),
          ]}
          onChange={(value) =>
            value !== null && Number(value) !== chosen.sheet && move(chosen, placementOf, Number(value))
          }
        />
        <Button variant="default" className="at-foot" onClick={() => move(chosen, turnedPlacement)}>
          Turn it
        </Button>
      </div>
      <Switch
        label="Locked here when the rest is packed"
        checked={placed.locked === true}
        onChange={(event) => {
          const lock = event.currentTarget.checked;
          edit(lock ? 'Lock a piece' : 'Free a piece', {
            do: 'sheetPlan',
            value: lockedPlan(plan, chosen, lock),
          });
        }}
      />
      <LyingFields design={design} part={part} />
      {said && (
        <p role="status" className="warn">
          {inUnit(said)}
        </p>
      )}
    </section>
  );
}
