import { fewestNicks } from '@hollow-finch/core/cutting/made';
import { freshId } from '@hollow-finch/core/design/ids';
import {
  canFold,
  EDGES,
  isFold,
  layerOf,
  PROCESSES,
  type DieLine,
  type Fold,
  type LineWork,
  type Process,
} from '@hollow-finch/core/dieline/part';
import {
  circle,
  endOf,
  flatten,
  pathLength,
  placePath,
  polyline,
  straight,
  type Path,
} from '@hollow-finch/core/geometry/path';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { distance, type Point } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Checkbox, Select, Switch } from '@mantine/core';
import { Suspense } from 'react';
import { AngleField } from '../../shared/fields/AngleField.tsx';
import { CountField } from '../../shared/fields/CountField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { IconTrash } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import { editableLine, removalOf } from './draftEdits.ts';
import { LAYER_NAMES } from './layerNames.ts';
import CraftTools from './CraftTools.tsx';
import FoldTools from './FoldTools.tsx';
import { LEAST_MM, shapeOf } from './tools/drawGesture.ts';
import OrderSection from './OrderSection.tsx';
import { PlaceLines } from './PlaceForm.tsx';
import { withPath } from './shaping.ts';
import Shaping from './Shaping.tsx';
import Sides from './Sides.tsx';

interface Measure {
  readonly label: string;
  readonly mm: number;
  readonly min?: number;
  path(mm: number): Path;
}

/** The measures by which a shape is edited, each with the path that a new value makes. */
function measuresOf(path: Path): Measure[] {
  const shape = shapeOf(path);
  const at = (p: Point, axis: 0 | 1, mm: number): Point => (axis === 0 ? [mm, p[1]] : [p[0], mm]);
  switch (shape.kind) {
    case 'straight': {
      const { from, to } = shape;
      return [
        { label: 'From x', mm: from[0], path: (mm) => straight(at(from, 0, mm), to) },
        { label: 'From y', mm: from[1], path: (mm) => straight(at(from, 1, mm), to) },
        { label: 'To x', mm: to[0], path: (mm) => straight(from, at(to, 0, mm)) },
        { label: 'To y', mm: to[1], path: (mm) => straight(from, at(to, 1, mm)) },
        {
          label: 'Length',
          mm: distance(from, to),
          min: LEAST_MM,
          path: (mm) => {
            const share = mm / distance(from, to);
            return straight(from, [from[0] + (to[0] - from[0]) * share, from[1] + (to[1] - from[1]) * share]);
          },
        },
      ];
    }
    case 'rectangle': {
      const make = (x: number, y: number, w: number, h: number) =>
        polyline(
          [
            [x, y],
            [x + w, y],
            [x + w, y + h],
            [x, y + h],
          ],
          true,
        );
      const { x, y, width, height } = shape;
      return [
        { label: 'Left', mm: x, path: (mm) => make(mm, y, width, height) },
        { label: 'Bottom', mm: y, path: (mm) => make(x, mm, width, height) },
        { label: 'Width', mm: width, min: LEAST_MM, path: (mm) => make(x, y, mm, height) },
        { label: 'Height', mm: height, min: LEAST_MM, path: (mm) => make(x, y, width, mm) },
      ];
    }
    case 'circle':
      return [
        {
          label: 'Centre x',
          mm: shape.centre[0],
          path: (mm) => circle(at(shape.centre, 0, mm), shape.radius),
        },
        {
          label: 'Centre y',
          mm: shape.centre[1],
          path: (mm) => circle(at(shape.centre, 1, mm), shape.radius),
        },
        { label: 'Radius', mm: shape.radius, min: LEAST_MM, path: (mm) => circle(shape.centre, mm) },
        {
          label: 'Diameter',
          mm: 2 * shape.radius,
          min: 2 * LEAST_MM,
          path: (mm) => circle(shape.centre, mm / 2),
        },
      ];
    case 'other':
      return [
        {
          label: 'Moved to x',
          mm: path.start[0],
          path: (mm) => placePath(shift(mm - path.start[0], 0), path),
        },
        {
          label: 'Moved to y',
          mm: path.start[1],
          path: (mm) => placePath(shift(0, mm - path.start[1]), path),
        },
      ];
  }
}

const PROCESS_NAMES: Readonly<Record<Process, string>> = {
  cut: 'Cut',
  score: 'Score',
  perforate: 'Perforation',
  kiss: 'Kiss cut',
  mark: 'Mark',
};

/** What a pattern and nicks begin as. */
const USUAL_PATTERN = { cutMm: 3, gapMm: 1 };
const EDGE_WORDS = {
  upper: 'Upper edge',
  lower: 'Lower edge',
  left: 'Left edge',
  right: 'Right edge',
} as const;
const USUAL_NICK_MM = 0.5;

/** Fetched where there is something that could have been measured. */
const MeasuredHint = later(() => import('./MeasuredHint.tsx'));

/** How a line is made, whether it is a fold, and the angle that the fold keeps by itself. */
function WorkFields({
  line,
  path,
  stockId,
  onChange,
}: {
  line: LineWork;
  path: Path;
  stockId: string;
  onChange: (label: string, work: LineWork) => void;
}) {
  const machineId = useJob((state) => state.calm.settings.machineId);
  const foldsUp = useJob((state) => state.calm.base.kind === 'structure');
  const { process, fold, pattern, nicks } = line;
  return (
    <>
      <Select
        label="Made as"
        value={process}
        data={PROCESSES.map((value) => ({ value, label: PROCESS_NAMES[value] }))}
        onChange={(value) => {
          const next = value as Process | null;
          if (next)
            onChange('Make the line otherwise', { process: next, fold: canFold(next) ? fold : undefined });
        }}
      />
      <Select
        label="Fold"
        disabled={!canFold(process)}
        value={fold?.sense ?? 'none'}
        data={[
          { value: 'none', label: 'No fold' },
          { value: 'mountain', label: 'Mountain' },
          { value: 'valley', label: 'Valley' },
        ]}
        onChange={(value) => {
          if (value === 'none') onChange('Make it no fold', { ...line, fold: undefined });
          else if (value)
            onChange(`Make it a ${value}`, { ...line, fold: { ...fold, sense: value as Fold['sense'] } });
        }}
      />
      {fold && (
        <Switch
          className="wide"
          label="Keeps an angle by itself"
          checked={fold.restDeg !== undefined}
          onChange={(event) =>
            onChange('Angle of the fold', {
              ...line,
              fold: {
                sense: fold.sense,
                ...(fold.stage === undefined ? {} : { stage: fold.stage }),
                ...(event.currentTarget.checked ? { restDeg: 90 } : {}),
              },
            })
          }
        />
      )}
      {fold?.restDeg !== undefined && (
        <AngleField
          label="Rests at"
          hint="How far it is folded from flat while nothing moves it."
          valueDeg={fold.restDeg}
          minDeg={0}
          maxDeg={180}
          minReason="0 is flat."
          maxReason="180 is folded right over."
          onCommit={(restDeg) => {
            // A course that was told ends at another angle.
            const { course: _course, ...rest } = fold;
            onChange('Angle of the fold', { ...line, fold: { ...rest, restDeg } });
          }}
        />
      )}
      {fold && foldsUp && (
        <CountField
          label="Folds up in step"
          hint="What is folded up by hand is folded step by step; 0: this fold turns all the way along."
          value={fold.stage === undefined ? 0 : fold.stage + 1}
          min={0}
          max={20}
          onCommit={(step) => {
            const { stage: _stage, ...rest } = fold;
            onChange('Step of the fold', {
              ...line,
              fold: step === 0 ? rest : { ...rest, stage: step - 1 },
            });
          }}
        />
      )}
      {process === 'perforate' && (
        <>
          <Switch
            className="wide"
            label="Cut and left by its own measures"
            checked={pattern !== undefined}
            onChange={(event) =>
              onChange('Pattern of the perforation', {
                ...line,
                pattern: event.currentTarget.checked ? USUAL_PATTERN : undefined,
              })
            }
          />
          {pattern && (
            <>
              <LengthField
                label="Cut"
                valueMm={pattern.cutMm}
                minMm={0.2}
                maxMm={100}
                onCommit={(cutMm) =>
                  onChange('Pattern of the perforation', { ...line, pattern: { ...pattern, cutMm } })
                }
              />
              <LengthField
                label="Left"
                hint="The bridges keep this width; the cuts take up what the division leaves."
                valueMm={pattern.gapMm}
                minMm={0.1}
                maxMm={100}
                onCommit={(gapMm) =>
                  onChange('Pattern of the perforation', { ...line, pattern: { ...pattern, gapMm } })
                }
              />
            </>
          )}
        </>
      )}
      {process === 'cut' && (
        <>
          <Switch
            className="wide"
            label="Held by nicks until it is broken out"
            checked={nicks !== undefined}
            onChange={(event) =>
              onChange('Nicks of the cut', {
                ...line,
                nicks: event.currentTarget.checked
                  ? { count: fewestNicks(path, USUAL_NICK_MM), widthMm: USUAL_NICK_MM }
                  : undefined,
              })
            }
          />
          {nicks && (
            <>
              <CountField
                label="Nicks"
                min={1}
                max={100}
                value={nicks.count}
                onCommit={(count) => onChange('Nicks of the cut', { ...line, nicks: { ...nicks, count } })}
              />
              <LengthField
                label="Each as wide as"
                valueMm={nicks.widthMm}
                minMm={0.1}
                maxMm={10}
                onCommit={(widthMm) =>
                  onChange('Nicks of the cut', { ...line, nicks: { ...nicks, widthMm } })
                }
              />
              <Checkbox.Group
                className="wide"
                label="None where it shows"
                value={[...(nicks.notOn ?? [])]}
                onChange={(chosen) => {
                  const { notOn: _before, ...rest } = nicks;
                  const notOn = EDGES.filter((edge) => chosen.includes(edge));
                  onChange('Edges without nicks', {
                    ...line,
                    nicks: notOn.length > 0 ? { ...rest, notOn } : rest,
                  });
                }}
              >
                <div className="edges-row">
                  {EDGES.map((edge) => (
                    <Checkbox key={edge} value={edge} label={EDGE_WORDS[edge]} />
                  ))}
                </div>
              </Checkbox.Group>
            </>
          )}
        </>
      )}
      {((process === 'cut' && nicks) || (process === 'perforate' && pattern)) && (
        <Suspense fallback={null}>
          <MeasuredHint line={line} stockId={stockId} machineId={machineId} onChange={onChange} />
        </Suspense>
      )}
    </>
  );
}

/** A line's work without what it does not have: what is undefined is not stored. */
const whole = ({ process, fold, pattern, nicks }: LineWork): LineWork => ({
  process,
  ...(fold && { fold }),
  ...(pattern && { pattern }),
  ...(nicks && { nicks }),
});

/** A line without how it is made. */
const withoutWork = ({ process: _p, fold: _f, pattern: _t, nicks: _n, ...rest }: DieLine) => rest;

/** Whether a path comes back to where it began, with few enough corners for a zone. */
const isClosed = (path: Path): boolean =>
  distance(path.start, endOf(path)) < 0.05 && flatten(path).length <= 500;

/** One drafted line: how it is made and its exact measures. */
export function LineParticulars({ partId, lineId }: { partId: string; lineId: string }) {
  const shown = useJob((s) => s.calm);
  const { edit, preview, select } = useJob.getState();
  const { say } = useLengths();
  const found = editableLine(shown, partId, lineId);
  if (!found)
    return (
      <section>
        <h2>Line</h2>
        <p className="quiet">This line belongs to a mechanism and follows its measures.</p>
      </section>
    );
  const { line, change } = found;
  const part = expand(shown).parts.find(({ id }) => id === partId);
  const partName = part?.name ?? partId;
  /** The line along another path; what meets its ends stays with them. */
  const along = (path: Path) => withPath(shown, partId, lineId, path) ?? change({ ...line, path });
  const set = (label: string, path: Path) => edit(label, along(path));
  /** A zone with the outline of this line, on the back; a mark that was drawn for it goes. */
  const zone = (kind: 'glue' | 'keepOut') => {
    const drafted = shown.parts[partId];
    const id = freshId('z', drafted.glueZones);
    const outline = [...flatten(line.path)].slice(0, -1);
    const glueZones = { ...drafted.glueZones, [id]: { id, outline, face: 'back' as const, kind } };
    edit(kind === 'glue' ? 'Use as glue zone' : 'Keep free of glue', {
      do: 'all',
      commands: [
        { do: 'part', id: partId, value: { glueZones } },
        ...(line.process === 'mark' ? [change(null)] : []),
      ],
    });
    select({ kind: 'part', id: partId });
  };
  const shape = shapeOf(line.path);
  const angleDeg =
    shape.kind === 'straight'
      ? (Math.atan2(shape.to[1] - shape.from[1], shape.to[0] - shape.from[0]) * 180) / Math.PI
      : 0;
  return (
    <section>
      <h2>{LAYER_NAMES[layerOf(line)]}</h2>
      <p className="quiet figure">
        {say(pathLength(line.path))} long, on{' '}
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => select({ kind: 'part', id: partId })}
          aria-label={`Choose ${partName}`}
        >
          {partName}
        </Button>
      </p>
      {(line.imageOf !== undefined || line.group !== undefined) && (
        <p className="quiet">
          {line.imageOf !== undefined &&
            'The mirror image of a line across the axis: both follow each other. '}
          {line.group !== undefined &&
            'One of a group: a press on any of them chooses all, with Alt only one.'}
        </p>
      )}
      <div className="fields">
        <WorkFields
          stockId={part?.stockId ?? ''}
          line={line}
          path={line.path}
          onChange={(label, work) => edit(label, change({ ...withoutWork(line), ...whole(work) }))}
        />
        {measuresOf(line.path).map((measure) => (
          <LengthField
            key={measure.label}
            label={measure.label}
            valueMm={measure.mm}
            minMm={measure.min}
            onPreview={(mm) => preview(mm === null ? null : along(measure.path(mm)))}
            onCommit={(mm) => set(`Line: ${measure.label.toLowerCase()}`, measure.path(mm))}
          />
        ))}
        {shape.kind === 'straight' && (
          <AngleField
            label="Angle"
            valueDeg={angleDeg}
            onCommit={(deg) => {
              const length = distance(shape.from, shape.to);
              const a = (deg * Math.PI) / 180;
              set(
                'Line: angle',
                straight(shape.from, [
                  shape.from[0] + length * Math.cos(a),
                  shape.from[1] + length * Math.sin(a),
                ]),
              );
            }}
          />
        )}
        {shape.kind === 'other' && (
          <Sides
            key={lineId}
            path={line.path}
            onChange={set}
            onPreview={(path) => preview(path && along(path))}
          />
        )}
      </div>
      <PlaceLines key={`place ${lineId}`} partId={partId} lineIds={[lineId]} />
      <Shaping key={`shape ${lineId}`} partId={partId} lineIds={[lineId]} />
      {shown.parts[partId] && line.process === 'cut' && isClosed(line.path) && (
        <CraftTools key={`craft ${lineId}`} partId={partId} lineId={lineId} path={line.path} />
      )}
      {isFold(line) && !isClosed(line.path) && (
        <FoldTools key={`fold ${lineId}`} partId={partId} lineId={lineId} path={line.path} />
      )}
      <OrderSection selection={{ kind: 'line', partId, id: lineId }} />
      {shown.parts[partId] && isClosed(line.path) && (
        <div className="fields">
          <Button variant="default" onClick={() => zone('glue')}>
            Use as glue zone
          </Button>
          <Button variant="default" onClick={() => zone('keepOut')}>
            Keep it free of glue
          </Button>
        </div>
      )}
      <Button
        mt="md"
        variant="default"
        leftSection={<IconTrash size={15} />}
        onClick={() => {
          const removal = removalOf(shown, { kind: 'line', partId, id: lineId });
          if (removal) edit(removal.label, removal.command);
          select(null);
        }}
      >
        Take the line away
      </Button>
    </section>
  );
}
