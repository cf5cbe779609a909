import {
  PLATE_BEDS,
  platePrice,
  USUAL_PLATE,
  type Plate,
  type PlateOptions,
} from '@hollow-finch/core/cutting/plates';
import type { Design } from '@hollow-finch/core/design/design';
import type { Region } from '@hollow-finch/core/geometry/polygon';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Checkbox, Loader, MultiSelect, Select } from '@mantine/core';
import { useMemo, useState } from 'react';
import { regionData, ringData } from '../../shared/drawing/PartDrawing.tsx';
import { download } from '../../shared/download.ts';
import { CountField } from '../../shared/fields/CountField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { MoneyField } from '../../shared/fields/MoneyField.tsx';
import { fileNameOf } from '../../shared/fileName.ts';
import { faultWords, Helper } from '../../shared/helper.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import type { MadePlate, PlatesApi } from '../../workers/plates.worker.ts';

const worker = new Helper<PlatesApi>(
  () => new Worker(new URL('../../workers/plates.worker.ts', import.meta.url), { type: 'module' }),
);

/** Parts smaller than this are doubled where that is asked for, mm2. */
const SMALL_MM2 = 2000;

const regionsData = (regions: readonly Region[]): string => regions.map(regionData).join('');

function PlatePicture({ plate }: { plate: Plate }) {
  const { minX, minY, maxX, maxY } = plate.box;
  const size = Math.max(maxX - minX, maxY - minY);
  return (
    <svg
      className="plate-picture"
      viewBox={`${minX - 2} ${-maxY - 2} ${maxX - minX + 4} ${maxY - minY + 4}`}
      role="img"
      aria-label="The plate: metal, rules, bridges and connectors"
    >
      <path d={regionsData(plate.metal)} className="plate-metal" fillRule="evenodd" />
      <path d={plate.connectors.map(ringData).join('')} className="plate-connector" />
      <path d={plate.bridges.map(ringData).join('')} className="plate-bridge" />
      <path d={plate.rules.map(screenPathData).join('')} className="plate-rule" />
      <path d={plate.scores.map(screenPathData).join('')} className="plate-score" />
      {plate.faults.map(({ at: [x, y] }, i) => (
        <circle key={i} cx={x} cy={-y} r={size / 45} className="plate-fault" />
      ))}
    </svg>
  );
}

/** A thin cutting plate of some parts: lands, bridges, what is left to the guillotine, area and price, files. */
export default function PlateSection() {
  const design = useJob((s) => s.calm);
  const { say, inUnit, area } = useLengths();
  const parts = useMemo(() => expand(design).parts.filter(({ lines }) => lines.length > 0), [design]);
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  const [options, setOptions] = useState<PlateOptions>(USUAL_PLATE);
  const [bed, setBed] = useState('Studio press');
  const [perCm2, setPerCm2] = useState(0.2);
  const [each, setEach] = useState(0);
  const [last, setLast] = useState<{
    readonly of: string;
    readonly on: Design;
    readonly now: MadePlate;
    readonly other: MadePlate;
  } | null>(null);
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const ids = chosen ?? parts.map(({ id }) => id);
  const widestMm = PLATE_BEDS.find(({ name }) => name === bed)?.widthMm ?? 330;
  // Another design, or other options, make another plate.
  const of = JSON.stringify([ids, options, widestMm]);
  const made = last?.of === of && last.on === design ? last : null;
  const set = (change: Partial<PlateOptions>) => setOptions((was) => ({ ...was, ...change }));
  const make = async () => {
    setBusy(true);
    setFailure(null);
    try {
      const plate = (given: PlateOptions) => worker.api.plate(design, ids, given, widestMm);
      setLast({
        of,
        on: design,
        now: await plate(options),
        other: await plate({ ...options, leaveRectangles: !options.leaveRectangles }),
      });
    } catch (fault) {
      setFailure(faultWords(fault));
    }
    setBusy(false);
  };
  const save = async (plate: Plate, kind: 'svg' | 'dxf' | 'pdf') => {
    setFailure(null);
    try {
      const content = await worker.api.file(plate, `${design.name}, plate`, kind);
      const type = { svg: 'image/svg+xml', dxf: 'application/dxf', pdf: 'application/pdf' }[kind];
      download(`${fileNameOf(design.name)}-plate.${kind}`, content, type);
    } catch (fault) {
      setFailure(faultWords(fault));
    }
  };
  const told = (name: string, { plate, beds }: MadePlate) =>
    plate ? (
      <tr>
        <th scope="row">{name}</th>
        <td>{area(plate.areaMm2)}</td>
        <td>{platePrice(plate.areaMm2, perCm2, each).toFixed(2)}</td>
        <td>
          {say(plate.box.maxX - plate.box.minX)} × {say(plate.box.maxY - plate.box.minY)}
        </td>
        <td>{beds.length > 0 ? beds[0] : <span className="wrong">none</span>}</td>
      </tr>
    ) : (
      <tr>
        <th scope="row">{name}</th>
        <td colSpan={4}>all is left to the guillotine: no plate</td>
      </tr>
    );
  const plate = made?.now.plate ?? null;
  return (
    <div aria-label="Plate" role="region">
      <div className="fields">
        <MultiSelect
          className="wide"
          label="Parts on the plate"
          value={[...ids]}
          data={parts.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setChosen}
        />
        <LengthField
          label="Land"
          hint="Metal on either side of each rule."
          valueMm={options.landMm}
          minMm={0.5}
          maxMm={10}
          onCommit={(landMm) => set({ landMm })}
        />
        <LengthField
          label="Blade gap"
          hint="Rules nearer to each other than this cannot be made."
          valueMm={options.bladeGapMm}
          minMm={0.5}
          maxMm={10}
          onCommit={(bladeGapMm) => set({ bladeGapMm })}
        />
        <CountField
          label="Bridges of each inner rule"
          value={options.bridges}
          min={0}
          max={8}
          onCommit={(bridges) => set({ bridges })}
        />
        <LengthField
          label="Width of a bridge"
          valueMm={options.bridgeMm}
          minMm={0.3}
          maxMm={5}
          onCommit={(bridgeMm) => set({ bridgeMm })}
        />
        <Select
          label="Widest machine"
          allowDeselect={false}
          value={bed}
          data={PLATE_BEDS.map(({ name, widthMm }) => ({ value: name, label: `${name}, ${say(widthMm)}` }))}
          onChange={(value) => value && setBed(value)}
        />
        <span />
        <MoneyField label="Price of 1 cm²" value={perCm2} max={1000} onChange={setPerCm2} />
        <MoneyField label="Price of each plate" value={each} max={1000} onChange={setEach} />
      </div>
      <div className="plate-choices">
        <Checkbox
          label="Leave rectangles to the guillotine"
          checked={options.leaveRectangles}
          onChange={(event) => set({ leaveRectangles: event.currentTarget.checked })}
        />
        <Checkbox
          label="Small parts twice"
          checked={options.doubleBelowMm2 > 0}
          onChange={(event) => set({ doubleBelowMm2: event.currentTarget.checked ? SMALL_MM2 : 0 })}
        />
        <Checkbox
          label="Left and right twins"
          checked={options.twins}
          onChange={(event) => set({ twins: event.currentTarget.checked })}
        />
      </div>
      <Button variant="default" disabled={busy || ids.length === 0} onClick={() => void make()}>
        {busy ? <Loader size="xs" /> : 'Make the plate'}
      </Button>
      {failure && (
        <p role="alert" className="wrong">
          {failure}
        </p>
      )}
      {made && (
        <>
          {plate && <PlatePicture plate={plate} />}
          <table className="plate-table figure">
            <thead>
              <tr>
                <td />
                <th scope="col">Area</th>
                <th scope="col">Price</th>
                <th scope="col">Size</th>
                <th scope="col">From</th>
              </tr>
            </thead>
            <tbody>
              {told(options.leaveRectangles ? 'Without rectangles' : 'With rectangles', made.now)}
              {told(options.leaveRectangles ? 'With rectangles' : 'Without rectangles', made.other)}
            </tbody>
          </table>
          {plate?.faults.map(({ words }, i) => (
            <p key={i} className="wrong">
              {inUnit(words)}
            </p>
          ))}
          {plate && plate.faults.length === 0 && <p className="good">Lands, gaps and bridges hold.</p>}
          {plate && (
            <div className="plate-choices">
              {(['svg', 'dxf', 'pdf'] as const).map((kind) => (
                <Button key={kind} variant="default" onClick={() => void save(plate, kind)}>
                  Save the plate as {kind.toUpperCase()}
                </Button>
              ))}
            </div>
          )}
          <p className="quiet">The machines and prices are examples: ask whoever makes your plates.</p>
        </>
      )}
    </div>
  );
}
