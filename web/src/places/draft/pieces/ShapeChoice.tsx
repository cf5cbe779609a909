import { workOf, type DieLine } from '@hollow-finch/core/dieline/part';
import type { Design } from '@hollow-finch/core/design/design';
import { shift } from '@hollow-finch/core/geometry/isometry';
import {
  boxCentre,
  boxOfPaths,
  endOf,
  flatten,
  placePath,
  type Path,
} from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { ringArea } from '@hollow-finch/core/geometry/polygon';
import { SNAP_MM } from '@hollow-finch/core/geometry/tolerances';
import { shapeOutline, SHAPES, type Shape } from '@hollow-finch/core/mechanisms/shapes';
import type { Joined } from '@hollow-finch/core/words/piece';
import { FileInput, Select } from '@mantine/core';
import { useEffect, useState } from 'react';
import { api, saidOf } from '../../../shared/api.ts';
import { useJob } from '../../../shared/store/jobStore.ts';
import { FaceFields, USUAL_LETTERING } from './FaceFields.tsx';
import { pictureOutline } from './pictureShape.ts';
import { wordShape } from './words.ts';

/** A shape to lay: its lines about the origin, the outline first, what it is called, and what there is to say of it. */
export interface ChosenShape {
  readonly name: string;
  readonly lines: Record<string, DieLine>;
  readonly stockId?: string;
  readonly said?: string;
}

/** Makes the chosen shape; throws with a sentence where it cannot be made. */
export type MakeShape = () => Promise<ChosenShape>;

const SHAPE_NAMES: Readonly<Record<Shape, string>> = {
  rectangle: 'Rectangle',
  rounded: 'Rounded rectangle',
  circle: 'Circle',
  star: 'Star',
  heart: 'Heart',
  cloud: 'Cloud',
  pennant: 'Pennant',
};

/** Closed paths as cut lines. */
const cutLines = (paths: readonly Path[]): Record<string, DieLine> =>
  Object.fromEntries(paths.map((path, i) => [`l${i + 1}`, { id: `l${i + 1}`, ...workOf('cut'), path }]));

/** How much a closed cut encloses; 0 of any other line. */
const encloses = ({ process, path }: DieLine): number =>
  process === 'cut' && distance(path.start, endOf(path)) <= SNAP_MM ? Math.abs(ringArea(flatten(path))) : 0;

/** A drafted part of a design, moved so that its middle is the origin, its outline first. */
function copied({ parts }: Design, partId: string): ChosenShape {
  const { lines, name, stockId } = parts[partId];
  const outline = Object.values(lines).reduce((a, b) => (encloses(b) > encloses(a) ? b : a));
  if (encloses(outline) === 0)
    throw new Error(`The outline of ${name} is no single closed line: join its lines first.`);
  const [x, y] = boxCentre(boxOfPaths(Object.values(lines).map((line) => line.path)));
  const middle = shift(-x, -y);
  const ordered = [outline, ...Object.values(lines).filter((line) => line !== outline)];
  return {
    name,
    stockId,
    lines: Object.fromEntries(
      ordered
        .map((line) => [line.id, line] as const)
        .map(([id, line]) => [id, { ...line, path: placePath(middle, line.path) }]),
    ),
  };
}

const drawnParts = (design: Design) =>
  Object.values(design.parts).filter((part) => Object.keys(part.lines).length > 0);

/** Another job's parts: chosen by the job, then by the part. */
function OtherJob({ onMake }: { onMake: (make: MakeShape) => void }) {
  const own = useJob((s) => s.id);
  const [jobs, setJobs] = useState<{ value: string; label: string }[]>([]);
  const [jobId, setJob] = useState<string | null>(null);
  const [other, setOther] = useState<Design | null>(null);
  const [partId, setPart] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    api.list().then(
      (list) =>
        setJobs(list.filter(({ id }) => id !== own).map(({ id, name }) => ({ value: id, label: name }))),
      (fault: unknown) => setWrong(saidOf(fault)),
    );
  }, [own]);
  const choose = async (id: string | null) => {
    setJob(id);
    setOther(null);
    setPart(null);
    setWrong(null);
    if (!id) return;
    try {
      setOther((await api.job(id)).design);
    } catch (fault) {
      setWrong(saidOf(fault));
    }
  };
  const parts = other ? drawnParts(other) : [];
  return (
    <>
      <Select
        className="wide"
        label="Job"
        placeholder="Choose a job"
        value={jobId}
        data={jobs}
        onChange={(id) => void choose(id)}
      />
      {other && parts.length > 0 && (
        <Select
          className="wide"
          label="Its part"
          placeholder="Choose a part"
          value={partId}
          data={parts.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(id) => {
            setPart(id);
            if (id) onMake(async () => copied(other, id));
          }}
        />
      )}
      {other && parts.length === 0 && <p className="wide quiet">That job has no parts that were drawn.</p>}
      {wrong && (
        <p role="alert" className="wide wrong">
          {wrong}
        </p>
      )}
    </>
  );
}

/** A word: what it says, in which face, and how its letters hang together. */
function Word({ onMake }: { onMake: (make: MakeShape) => void }) {
  const [lettering, setLettering] = useState(USUAL_LETTERING);
  const [joined, setJoined] = useState<Joined>('bar');
  useEffect(() => {
    onMake(async () => {
      const { text, face, file } = lettering;
      if (text.trim() === '') throw new Error('Write a word first.');
      const { paths, missing } = await wordShape(file ?? face, text, joined);
      return {
        name: text.trim().slice(0, 40).replace(/\s+/g, ' '),
        lines: cutLines(paths),
        ...(missing.length > 0 ? { said: `The face lacks ${missing.join(' ')}: the rest is there.` } : {}),
      };
    });
  }, [lettering, joined, onMake]);
  return (
    <>
      <FaceFields value={lettering} onChange={setLettering} />
      <Select
        className="wide"
        label="Its letters hang together"
        value={joined}
        data={[
          { value: 'bar', label: 'On a bar under them' },
          { value: 'plate', label: 'On a plate of their outline' },
        ]}
        onChange={(next) => next && setJoined(next as Joined)}
      />
    </>
  );
}

/** Chooses the shape of a new piece: drawn, a word, the outline of a picture, a part of this job or of another one. */
export function ShapeChoice({ onMake }: { onMake: (make: MakeShape | null) => void }) {
  const design = useJob((s) => s.calm);
  const [shape, setShape] = useState<string>('star');
  const choose = (value: string) => {
    setShape(value);
    if (value.startsWith('copy:')) {
      const id = value.slice(5);
      onMake(async () => copied(useJob.getState().design, id));
    } else if ((SHAPES as readonly string[]).includes(value))
      onMake(() =>
        Promise.resolve({
          name: SHAPE_NAMES[value as Shape],
          lines: cutLines([shapeOutline(value as Shape)]),
        }),
      );
    else onMake(null);
  };
  return (
    <>
      <Select
        className="wide"
        label="Shape"
        value={shape}
        allowDeselect={false}
        data={[
          ...SHAPES.map((value) => ({ value: value as string, label: SHAPE_NAMES[value] })),
          { value: 'word', label: 'A word' },
          { value: 'picture', label: 'The outline of a picture' },
          ...drawnParts(design).map((part) => ({ value: `copy:${part.id}`, label: `As ${part.name}` })),
          { value: 'other', label: 'A part of another job' },
        ]}
        onChange={(value) => value && choose(value)}
      />
      {shape === 'word' && <Word onMake={onMake} />}
      {shape === 'other' && <OtherJob onMake={onMake} />}
      {shape === 'picture' && (
        <FileInput
          className="wide"
          size="xs"
          label="Picture"
          description="A PNG with a clear ground, or one dark on light."
          placeholder="Choose a file"
          accept="image/png,image/jpeg,image/webp"
          clearable
          onChange={(file) =>
            onMake(
              file &&
                (async () => ({
                  name: file.name.replace(/\.\w+$/, '').slice(0, 40) || 'Picture',
                  lines: cutLines([await pictureOutline(file)]),
                })),
            )
          }
        />
      )}
    </>
  );
}

/** The shape that stands there at first. */
export const firstShape: MakeShape = () =>
  Promise.resolve({ name: SHAPE_NAMES.star, lines: cutLines([shapeOutline('star')]) });
