import type { Design } from '@hollow-finch/core/design/design';
import type { Isometry } from '@hollow-finch/core/geometry/isometry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Select, Switch } from '@mantine/core';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useLengths } from '../../shared/units.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { lockedPlan, pieceBox, turnedPlacement, type PieceRef } from './handMoves.ts';
import { LyingFields } from './LyingFields.tsx';

/** The piece that is chosen on a sheet: where it lies, by numbers; turned; sent to another sheet. */
export function ChosenPiece({
  design,
  chosen,
  said,
  onMove,
}: {
  design: Design;
  chosen: PieceRef;
  said: string | null;
  onMove: (ref: PieceRef, wanted: Isometry, toSheet?: number) => void;
}) {
  const { inUnit } = useLengths();
  const { edit } = useJob.getState();
  const plan = design.sheetPlan;
  const placed = plan?.sheets[chosen.sheet]?.pieces.find(
    ({ partId, copy }) => partId === chosen.partId && copy === chosen.copy,
  );
  const part = expand(design).parts.find(({ id }) => id === chosen.partId);
  const box = pieceBox(design, chosen);
  if (!plan || !placed || !part || !box) return null;
  const { placement } = placed;
  const own = plan.sheets[chosen.sheet];
  const alike = plan.sheets.flatMap(({ stockId }, i) => (stockId === own.stockId ? [i] : []));
  return (
    <section aria-label="Chosen piece">
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
          onCommit={(mm) => onMove(chosen, { ...placement, dx: placement.dx + mm - box.minX })}
        />
        <LengthField
          label="From below"
          valueMm={box.minY}
          minMm={0}
          maxMm={own.heightMm}
          onCommit={(mm) => onMove(chosen, { ...placement, dy: placement.dy + mm - box.minY })}
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
            value !== null && Number(value) !== chosen.sheet && onMove(chosen, placement, Number(value))
          }
        />
        <Button
          variant="default"
          className="at-foot"
          onClick={() => {
            const turned = turnedPlacement(design, chosen);
            if (turned) onMove(chosen, turned);
          }}
        >
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
