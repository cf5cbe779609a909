import {
  RULERS,
  scorePlanOf,
  type RulerId,
  type ScoreLine,
  type ScoreSide,
} from '@hollow-finch/core/dieline/scorePlan';
import { isCut, isFold } from '@hollow-finch/core/dieline/part';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { formatLength } from '@hollow-finch/core/units/length';
import { Button, Select, Table } from '@mantine/core';
import { useMemo, useState } from 'react';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';

/** A scoring board usually measures so far, mm: twelve inches. */
const USUAL_BOARD_MM = 304.8;

const rulerText = (id: RulerId, mm: number): string =>
  id === 'mm'
    ? `${Math.round(mm * 10) / 10} mm`
    : formatLength(mm, 'in', { denominator: id === 'in16' ? 16 : 32 });

const errorText = (mm: number): string =>
  Math.abs(mm) < 0.005 ? 'exact' : `${mm > 0 ? '+' : '−'}${Math.abs(mm).toFixed(2)} mm`;

/** From which edge a line is counted. */
const edgeOf = ({ along }: ScoreSide, { fromFarEdge }: ScoreLine): string =>
  along === 'x' ? (fromFarEdge ? 'right edge' : 'left edge') : fromFarEdge ? 'upper edge' : 'lower edge';

/** The lines of one side on every ruler. */
function SideTable({ side, title }: { side: ScoreSide; title: string }) {
  const { say } = useLengths();
  if (side.lines.length === 0)
    return (
      <p className="quiet">
        {title}, {say(side.sizeMm)}: nothing to score across it.
      </p>
    );
  return (
    <>
      <h3>
        {title}, {say(side.sizeMm)}
      </h3>
      <Table className="figure score-plan" verticalSpacing={4}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th scope="col">Score at</Table.Th>
            {RULERS.map(({ id, name }) => (
              <Table.Th key={id} scope="col">
                {name}
              </Table.Th>
            ))}
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {side.lines.map((line) => (
            <Table.Tr key={line.atMm}>
              <Table.Td>
                {say(line.measuredMm)}
                <span className="quiet">
                  {' '}
                  from the {edgeOf(side, line)}, {line.senses.join(' and ')}
                  {line.stretches.map(([from, to]) => `, from ${say(from)} to ${say(to)} along it`).join('')}
                </span>
              </Table.Td>
              {RULERS.map(({ id }) => {
                const { mm, errorMm, shows } = line.rulers[id];
                return (
                  <Table.Td key={id} className={shows ? 'wrong' : ''}>
                    {rulerText(id, mm)} <span className={shows ? '' : 'quiet'}>{errorText(errorMm)}</span>
                  </Table.Td>
                );
              })}
            </Table.Tr>
          ))}
          <Table.Tr>
            <Table.Th scope="row">All errors together</Table.Th>
            {RULERS.map(({ id }) => (
              <Table.Td key={id}>{errorText(side.sumErrorMm[id])}</Table.Td>
            ))}
          </Table.Tr>
        </Table.Tbody>
      </Table>
    </>
  );
}

/** What is scored on a part, for a ruler or a scoring board; printed on one page with a drawing. */
export default function ScorePlan() {
  const design = useJob((s) => s.calm);
  const { say } = useLengths();
  const { parts } = expand(design);
  const [chosen, setChosen] = useState<string | null>(null);
  const [boardMm, setBoard] = useState(USUAL_BOARD_MM);
  const planned = useMemo(() => parts.filter((part) => scorePlanOf(part) !== undefined), [parts]);
  const part = planned.find(({ id }) => id === chosen) ?? planned[0];
  const plan = part && scorePlanOf(part, boardMm);
  if (!part || !plan)
    return (
      <section>
        <h2>Blank and score</h2>
        <p className="quiet">Draw a part with a closed outline: what is scored on it is listed here.</p>
      </section>
    );
  const { box, sides, corners, others } = plan;
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const [long, short] = sides;
  const room = Math.max(w, h) * 0.06;
  return (
    <section className="print-alone">
      <h2>Blank and score</h2>
      <div className="fields no-print">
        <Select
          label="Plan of"
          allowDeselect={false}
          value={part.id}
          data={planned.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setChosen}
        />
        <LengthField
          label="Scoring board"
          hint="How far it measures: what lies further is counted from the other edge."
          valueMm={boardMm}
          minMm={50}
          maxMm={2000}
          onCommit={setBoard}
        />
      </div>
      <p className="figure">
        {part.name}: cut the blank {say(w)} × {say(h)}.
      </p>
      <svg
        className="score-picture"
        viewBox={`${box.minX - room} ${-box.maxY - room} ${w + 2 * room} ${h + 2 * room}`}
        role="img"
        aria-label={`The blank of ${part.name} with its scores`}
      >
        {part.lines
          .filter((line) => isCut(line) || isFold(line))
          .map((line) => (
            <path
              key={line.id}
              className={`die ${isCut(line) ? 'die-cut' : `die-${line.fold?.sense ?? 'score'}`}`}
              d={screenPathData(line.path)}
            />
          ))}
        {sides.flatMap((side) =>
          side.lines.map((line) => (
            <text
              key={`${side.along} ${line.atMm}`}
              fontSize={room * 0.55}
              textAnchor="middle"
              x={side.along === 'x' ? box.minX + line.atMm : box.minX - room / 2}
              y={side.along === 'x' ? -box.maxY - room * 0.3 : -(box.minY + line.atMm)}
              transform={
                side.along === 'x'
                  ? undefined
                  : `rotate(-90 ${box.minX - room / 2} ${-(box.minY + line.atMm)})`
              }
            >
              {say(line.measuredMm)}
            </text>
          )),
        )}
      </svg>
      <SideTable side={long} title="Along the long side" />
      <SideTable side={short} title="Turn it; along the short side" />
      {corners.length > 0 && (
        <p>
          Cut out of its corners:{' '}
          {corners
            .map(
              ({ corner, widthMm, heightMm, square }) =>
                `${corner} ${say(widthMm)} × ${say(heightMm)}${square ? '' : ' (shaped)'}`,
            )
            .join('; ')}
          .
        </p>
      )}
      {others > 0 && (
        <p className="quiet">
          {others === 1 ? 'One fold is' : `${others} folds are`} slanting or curved: mark{' '}
          {others === 1 ? 'it' : 'them'} from a template.
        </p>
      )}
      <p className="quiet">
        Places are counted from one edge, not from line to line. A fold more than 0.3 mm off shows at the
        edges; rounding that moves it so far is marked.
      </p>
      <Button className="no-print" variant="default" onClick={() => window.print()}>
        Print the plan
      </Button>
    </section>
  );
}
