import { cornersOf } from '@hollow-finch/core/drafting/corners';
import { isClosedPath } from '@hollow-finch/core/geometry/curve';
import { boxCentre, boxOfPaths, pathLength } from '@hollow-finch/core/geometry/path';
import { pointAlong } from '@hollow-finch/core/geometry/stretch';
import { Button, Checkbox, Select } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useMemo, useState } from 'react';
import { AngleField } from '../../shared/fields/AngleField.tsx';
import { CountField } from '../../shared/fields/CountField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { editableLine } from './draftEdits.ts';
import { MOST_COPIES, OPERATION_NAMES, shaped, type Operation } from './shaping.ts';

type Kind = Exclude<Operation['kind'], 'splitAt'>;

/** Figures of all operations, as they were last typed. */
interface Figures {
  readonly cornerMm: number;
  readonly corner: string;
  readonly offsetMm: number;
  readonly keep: boolean;
  readonly axis: 'upright' | 'level';
  readonly axisMm: number | null;
  readonly deg: number;
  readonly aboutX: number | null;
  readonly aboutY: number | null;
  readonly across: number;
  readonly up: number;
  readonly count: number;
  readonly stepX: number;
  readonly stepY: number;
  readonly turned: boolean;
  readonly simpleMm: number;
  readonly arcs: boolean;
  readonly alongMm: number;
  readonly end: 'start' | 'end';
  readonly joinMm: number;
}

const USUAL: Figures = {
  cornerMm: 3,
  corner: 'all',
  offsetMm: 3,
  keep: true,
  axis: 'upright',
  axisMm: null,
  deg: 90,
  aboutX: null,
  aboutY: null,
  across: 100,
  up: 100,
  count: 3,
  stepX: 10,
  stepY: 0,
  turned: true,
  simpleMm: 0.02,
  arcs: true,
  alongMm: 10,
  end: 'end',
  joinMm: 0.05,
};

const FOR_ONE: readonly Kind[] = ['fillet', 'chamfer', 'offset', 'split', 'trim', 'extend', 'simplify'];
const FOR_ANY: readonly Kind[] = ['mirror', 'turn', 'scale', 'row', 'round'];
const FOR_SEVERAL: readonly Kind[] = ['join', 'unite', 'subtract', 'intersect'];

/** What can be done to the chosen lines of one part, with its figures. */
export default function Shaping({ partId, lineIds }: { partId: string; lineIds: readonly string[] }) {
  const design = useJob((s) => s.calm);
  const { say } = useLengths();
  const [kind, setKind] = useState<Kind>(lineIds.length > 1 ? 'join' : 'fillet');
  const [figures, setFigures] = useState(USUAL);
  const put = (change: Partial<Figures>) => setFigures({ ...figures, ...change });
  const lines = useMemo(
    () => lineIds.flatMap((id) => editableLine(design, partId, id)?.line ?? []),
    [design, partId, lineIds],
  );
  if (lines.length === 0) return null;
  const paths = lines.map(({ path }) => path);
  const middle = boxCentre(boxOfPaths(paths));
  const corners = lines.length === 1 ? cornersOf(paths[0]) : [];
  const about = [figures.aboutX ?? middle[0], figures.aboutY ?? middle[1]] as const;
  const axisMm = figures.axisMm ?? middle[figures.axis === 'upright' ? 0 : 1];
  const isClosed = paths.every((path) => isClosedPath(path));
  const kinds = [
    ...(lines.length > 1
      ? FOR_SEVERAL.filter((each) => each === 'join' || isClosed)
      : FOR_ONE.filter((each) => (each === 'offset' ? isClosed : each === 'extend' ? !isClosed : true))),
    ...FOR_ANY,
  ];
  const now = kinds.includes(kind) ? kind : kinds[0];
  const operation = (): Operation => {
    const f = figures;
    switch (now) {
      case 'fillet':
      case 'chamfer':
        return {
          kind: now,
          mm: f.cornerMm,
          corner: corners.some(({ after }) => String(after) === f.corner) ? Number(f.corner) : 'all',
        };
      case 'offset':
        return { kind: now, mm: f.offsetMm, keep: f.keep };
      case 'mirror':
        return { kind: now, axis: f.axis, atMm: axisMm, keep: f.keep };
      case 'turn':
        return { kind: now, deg: f.deg, about };
      case 'scale':
        return { kind: now, across: f.across / 100, up: f.up / 100, about };
      case 'row':
        return { kind: now, count: f.count, step: [f.stepX, f.stepY] };
      case 'round':
        return { kind: now, count: f.count, about, turned: f.turned };
      case 'simplify':
        return { kind: now, mm: f.simpleMm, arcs: f.arcs };
      case 'split':
        return { kind: now, alongMm: f.alongMm };
      case 'trim':
        return { kind: now, at: pointAlong(paths[0], f.alongMm) };
      case 'extend':
        return { kind: now, end: f.end };
      case 'join':
        return { kind: now, mm: f.joinMm };
      default:
        return { kind: now };
    }
  };
  const doIt = () => {
    const made = shaped(
      useJob.getState().design,
      partId,
      lines.map(({ id }) => id),
      operation(),
    );
    if ('refused' in made) return sayFault(made.refused);
    useJob.getState().edit(made.label, made.command);
    useJob.getState().select(made.selection);
    if (made.note) notifications.show({ message: made.note, color: 'juniper' });
  };
  const centre = (
    <>
      <LengthField label="About x" valueMm={about[0]} onCommit={(aboutX) => put({ aboutX })} />
      <LengthField label="About y" valueMm={about[1]} onCommit={(aboutY) => put({ aboutY })} />
    </>
  );
  const keep = (label: string) => (
    <Checkbox
      className="wide"
      size="xs"
      label={label}
      checked={figures.keep}
      onChange={(event) => put({ keep: event.currentTarget.checked })}
    />
  );
  const copies = (
    <CountField
      label="In all"
      value={figures.count}
      min={2}
      max={MOST_COPIES}
      onCommit={(count) => put({ count })}
    />
  );
  const whole = pathLength(paths[0]);
  const fields = () => {
    switch (now) {
      case 'fillet':
      case 'chamfer':
        return (
          <>
            <LengthField
              label={now === 'fillet' ? 'Radius' : 'From the corner'}
              valueMm={figures.cornerMm}
              minMm={0.05}
              maxMm={1000}
              onCommit={(cornerMm) => put({ cornerMm })}
            />
            <Select
              label="Which"
              allowDeselect={false}
              value={corners.some(({ after }) => String(after) === figures.corner) ? figures.corner : 'all'}
              data={[
                { value: 'all', label: `All ${corners.length} corners` },
                ...corners.slice(0, 60).map(({ after, at }, i) => ({
                  value: String(after),
                  label: `Corner ${i + 1}, at ${say(at[0])}, ${say(at[1])}`,
                })),
              ]}
              onChange={(corner) => corner && put({ corner })}
            />
          </>
        );
      case 'offset':
        return (
          <>
            <LengthField
              label="By"
              hint="Outwards; negative inwards."
              valueMm={figures.offsetMm}
              minMm={-500}
              maxMm={500}
              onCommit={(offsetMm) => put({ offsetMm })}
            />
            {keep('Keep the line itself')}
          </>
        );
      case 'mirror':
        return (
          <>
            <Select
              label="Axis"
              allowDeselect={false}
              value={figures.axis}
              data={[
                { value: 'upright', label: 'Upright' },
                { value: 'level', label: 'Level' },
              ]}
              onChange={(axis) => axis && put({ axis: axis as 'upright' | 'level', axisMm: null })}
            />
            <LengthField
              label={figures.axis === 'upright' ? 'At x' : 'At y'}
              valueMm={axisMm}
              onCommit={(mm) => put({ axisMm: mm })}
            />
            {keep('Keep the line itself')}
          </>
        );
      case 'turn':
        return (
          <>
            <AngleField label="By" valueDeg={figures.deg} onCommit={(deg) => put({ deg })} />
            {centre}
          </>
        );
      case 'scale':
        return (
          <>
            <CountField
              label="Across, %"
              value={figures.across}
              min={1}
              max={2000}
              onCommit={(across) => put({ across, ...(figures.up === figures.across ? { up: across } : {}) })}
            />
            <CountField label="Up, %" value={figures.up} min={1} max={2000} onCommit={(up) => put({ up })} />
            {centre}
          </>
        );
      case 'row':
        return (
          <>
            {copies}
            <LengthField label="On by x" valueMm={figures.stepX} onCommit={(stepX) => put({ stepX })} />
            <LengthField label="On by y" valueMm={figures.stepY} onCommit={(stepY) => put({ stepY })} />
          </>
        );
      case 'round':
        return (
          <>
            {copies}
            {centre}
            <Checkbox
              className="wide"
              size="xs"
              label="Each turned with its place"
              checked={figures.turned}
              onChange={(event) => put({ turned: event.currentTarget.checked })}
            />
          </>
        );
      case 'simplify':
        return (
          <>
            <LengthField
              label="Within"
              hint="How far the simpler line may lie from this one."
              valueMm={figures.simpleMm}
              minMm={0.001}
              maxMm={5}
              onCommit={(simpleMm) => put({ simpleMm })}
            />
            <Checkbox
              className="wide"
              size="xs"
              label="Arcs where its corners lie on circles"
              checked={figures.arcs}
              onChange={(event) => put({ arcs: event.currentTarget.checked })}
            />
          </>
        );
      case 'split':
      case 'trim':
        return (
          <LengthField
            label={now === 'split' ? 'So far along' : 'The stretch so far along'}
            hint={`It is ${say(whole)} long.`}
            valueMm={Math.min(figures.alongMm, whole)}
            minMm={0}
            maxMm={whole}
            onCommit={(alongMm) => put({ alongMm })}
          />
        );
      case 'extend':
        return (
          <Select
            className="wide"
            label="From"
            allowDeselect={false}
            value={figures.end}
            data={[
              { value: 'end', label: 'Its end' },
              { value: 'start', label: 'Its beginning' },
            ]}
            onChange={(end) => end && put({ end: end as 'start' | 'end' })}
          />
        );
      case 'join':
        return (
          <LengthField
            label="Gaps up to"
            valueMm={figures.joinMm}
            minMm={0.001}
            maxMm={20}
            onCommit={(joinMm) => put({ joinMm })}
          />
        );
      default:
        return null;
    }
  };
  return (
    <section aria-label="Shape" className="shaping">
      <h3>{lines.length > 1 ? 'Shape them' : 'Shape it'}</h3>
      <div className="fields">
        <Select
          className="wide"
          label="What to do"
          allowDeselect={false}
          value={now}
          data={kinds.map((value) => ({ value, label: OPERATION_NAMES[value] }))}
          onChange={(value) => value && setKind(value as Kind)}
        />
        {fields()}
        <Button className="wide" variant="default" onClick={doIt}>
          {OPERATION_NAMES[now]}
        </Button>
      </div>
    </section>
  );
}
