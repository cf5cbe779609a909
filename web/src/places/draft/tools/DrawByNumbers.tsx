import type { Path } from '@hollow-finch/core/geometry/path';
import { distance, type Point } from '@hollow-finch/core/geometry/point';
import {
  arcThrough,
  ellipse,
  regularPolygon,
  roundedRectangle,
  scallopedRectangle,
  star,
} from '@hollow-finch/core/drafting/shapes';
import { circle, straight } from '@hollow-finch/core/geometry/path';
import { Button, Popover, Switch } from '@mantine/core';
import { useState } from 'react';
import { AngleField } from '../../../shared/fields/AngleField.tsx';
import { CountField } from '../../../shared/fields/CountField.tsx';
import { LengthField } from '../../../shared/fields/LengthField.tsx';
import { LEAST_MM, type Pointed, type Shaped } from './drawGesture.ts';
import { cornered } from './pointsGesture.ts';

type Drawn = Shaped | Pointed;

/** A figure that is asked for: a name, what it begins with, the least that it may be, and what it counts. */
type Asked = readonly [label: string, usual: number, least?: number, counts?: 'deg' | 'count'];

const CENTRE: readonly Asked[] = [
  ['Centre x', 30],
  ['Centre y', 30],
];
const BOX: readonly Asked[] = [
  ['Left', 10],
  ['Bottom', 10],
  ['Width', 40, LEAST_MM],
  ['Height', 30, LEAST_MM],
];
const ENDS: readonly Asked[] = [
  ['From x', 10],
  ['From y', 10],
  ['To x', 60],
  ['To y', 10],
];

/** What is asked for each shape. */
const MEASURES: Readonly<Record<Drawn, readonly Asked[]>> = {
  line: ENDS,
  bridge: ENDS,
  rectangle: [...BOX, ['Corner radius', 0, 0]],
  circle: [...CENTRE, ['Diameter', 20, 2 * LEAST_MM]],
  curve: [
    ...ENDS,
    ['First handle x', 25],
    ['First handle y', 25],
    ['Second handle x', 45],
    ['Second handle y', 25],
  ],
  arc: [...ENDS, ['Through x', 35], ['Through y', 25]],
  ellipse: [...CENTRE, ['Across', 50, 2 * LEAST_MM], ['Up', 30, 2 * LEAST_MM], ['Turned by', 0, -360, 'deg']],
  polygon: [
    ...CENTRE,
    ['Radius', 20, LEAST_MM],
    ['Sides', 6, 3, 'count'],
    ['First corner at', 90, -360, 'deg'],
  ],
  star: [
    ...CENTRE,
    ['Radius', 20, LEAST_MM],
    ['Inner radius', 9, LEAST_MM],
    ['Points', 5, 3, 'count'],
    ['First tip at', 90, -360, 'deg'],
  ],
  scallop: [...BOX, ['Bow width', 10, 1]],
  polyline: [],
};

const RAD = Math.PI / 180;

/** The path of typed measures; null where they make none. */
function pathOf(tool: Drawn, [a, b, c, d, e, f, g, h]: readonly number[]): Path | null {
  const [from, to]: Point[] = [
    [a, b],
    [c, d],
  ];
  switch (tool) {
    case 'line':
    case 'bridge':
      return distance(from, to) < LEAST_MM ? null : straight(from, to);
    case 'rectangle':
      return roundedRectangle(from, c, d, e);
    case 'circle':
      return circle(from, c / 2);
    case 'curve':
      return { start: from, segments: [{ kind: 'cubic', c1: [e, f], c2: [g, h], to }] };
    case 'arc':
      return distance(from, to) < LEAST_MM ? null : arcThrough(from, [e, f], to);
    case 'ellipse':
      return ellipse(from, c / 2, d / 2, e * RAD);
    case 'polygon':
      return regularPolygon(from, c, d, e * RAD);
    case 'star':
      return d < c ? star(from, c, d, e, f * RAD) : null;
    case 'scallop':
      return scallopedRectangle(from, c, d, e);
    case 'polyline':
      return null;
  }
}

/** A line with corners by numbers: each corner typed, as a place or as a way on from the one before. */
function CornersByNumbers({ onDraw }: { onDraw: (path: Path) => void }) {
  const [corners, setCorners] = useState<readonly Point[]>([[10, 10]]);
  const [next, setNext] = useState<Point>([50, 10]);
  const [fromLast, setFromLast] = useState(false);
  const last = corners[corners.length - 1];
  const way: Point = [next[0] - last[0], next[1] - last[1]];
  const set = (k: 0 | 1, mm: number) => {
    const value = fromLast ? last[k] + mm : mm;
    setNext(k === 0 ? [value, next[1]] : [next[0], value]);
  };
  const add = (corner: Point) => setCorners([...corners, corner]);
  const path = cornered(corners);
  const closed = corners.length > 2 ? cornered([...corners, corners[0]]) : undefined;
  return (
    <>
      <LengthField
        label="First x"
        valueMm={corners[0][0]}
        onCommit={(x) => setCorners([[x, corners[0][1]], ...corners.slice(1)])}
      />
      <LengthField
        label="First y"
        valueMm={corners[0][1]}
        onCommit={(y) => setCorners([[corners[0][0], y], ...corners.slice(1)])}
      />
      <Switch
        className="wide"
        label="From the last corner"
        checked={fromLast}
        onChange={(event) => setFromLast(event.currentTarget.checked)}
      />
      <LengthField
        label={fromLast ? 'On by x' : 'Next x'}
        valueMm={fromLast ? way[0] : next[0]}
        onCommit={(mm) => set(0, mm)}
      />
      <LengthField
        label={fromLast ? 'On by y' : 'Next y'}
        valueMm={fromLast ? way[1] : next[1]}
        onCommit={(mm) => set(1, mm)}
      />
      <LengthField
        label="Or as long as"
        valueMm={Math.hypot(...way)}
        minMm={0}
        onCommit={(mm) => {
          const angle = Math.atan2(way[1], way[0]);
          setNext([last[0] + mm * Math.cos(angle), last[1] + mm * Math.sin(angle)]);
        }}
      />
      <AngleField
        label="In the direction"
        valueDeg={Math.atan2(way[1], way[0]) / RAD}
        onCommit={(deg) => {
          const long = Math.hypot(...way);
          setNext([last[0] + long * Math.cos(deg * RAD), last[1] + long * Math.sin(deg * RAD)]);
        }}
      />
      <Button
        variant="default"
        disabled={distance(next, last) < LEAST_MM}
        onClick={() => {
          add(next);
          setNext([next[0] + way[0], next[1] + way[1]]);
        }}
      >
        Add corner {corners.length + 1}
      </Button>
      <Button
        variant="default"
        disabled={corners.length < 2}
        onClick={() => setCorners(corners.slice(0, -1))}
      >
        Take it back
      </Button>
      <p className="quiet wide figure">
        {corners.length} {corners.length === 1 ? 'corner' : 'corners'} so far
      </p>
      <Button variant="default" disabled={!closed} onClick={() => closed && onDraw(closed)}>
        Close and draw it
      </Button>
      <Button disabled={!path} onClick={() => path && onDraw(path)}>
        Draw it open
      </Button>
    </>
  );
}

/** Drawing without a mouse: every point and size typed, in the plane of the chosen part or of a new one. */
export default function DrawByNumbers({
  tool,
  where,
  onDraw,
}: {
  tool: Drawn;
  where: string | undefined;
  onDraw: (path: Path) => void;
}) {
  const measures = MEASURES[tool];
  const [values, setValues] = useState(measures.map(([, mm]) => mm));
  const [open, setOpen] = useState(false);
  const path = pathOf(tool, values);
  const draw = (made: Path) => {
    onDraw(made);
    setOpen(false);
  };
  return (
    <Popover opened={open} onChange={setOpen} trapFocus returnFocus position="bottom-start" shadow="md">
      <Popover.Target>
        <Button variant="default" onClick={() => setOpen(!open)}>
          By numbers
        </Button>
      </Popover.Target>
      <Popover.Dropdown aria-label={`A ${tool} by numbers`}>
        <form
          className="fields"
          style={{ width: 250 }}
          onSubmit={(event) => {
            event.preventDefault();
            if (path) draw(path);
          }}
        >
          {measures.map(([label, , least, counts], i) => {
            const put = (value: number) => setValues(values.with(i, value));
            if (counts === 'count')
              return (
                <CountField
                  key={label}
                  label={label}
                  value={values[i]}
                  min={least!}
                  max={60}
                  onCommit={put}
                />
              );
            if (counts === 'deg')
              return (
                <AngleField
                  key={label}
                  label={label}
                  valueDeg={values[i]}
                  minDeg={-360}
                  maxDeg={360}
                  onCommit={put}
                />
              );
            return (
              <LengthField
                key={label}
                label={label}
                valueMm={values[i]}
                minMm={least ?? -4000}
                maxMm={4000}
                onCommit={put}
              />
            );
          })}
          {tool === 'polyline' && <CornersByNumbers onDraw={draw} />}
          <p className="quiet wide">{where ? `On ${where}, from its own corner.` : 'On a new part.'}</p>
          {tool !== 'polyline' && (
            <Button className="wide" type="submit" disabled={!path}>
              Draw it
            </Button>
          )}
        </form>
      </Popover.Dropdown>
    </Popover>
  );
}
