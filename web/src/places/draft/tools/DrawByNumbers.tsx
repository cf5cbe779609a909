import { circle, polyline, straight, type Path } from '@hollow-finch/core/geometry/path';
import { Button, Popover } from '@mantine/core';
import { useState } from 'react';
import { LengthField } from '../../../shared/fields/LengthField.tsx';
import { LEAST_MM, type Shaped as Drawn } from './drawGesture.ts';

/** What is asked for each shape: a name, what it begins with, and the least that it may be. */
const MEASURES: Readonly<Record<Drawn, readonly (readonly [string, number, number?])[]>> = {
  line: [
    ['From x', 10],
    ['From y', 10],
    ['To x', 60],
    ['To y', 10],
  ],
  rectangle: [
    ['Left', 10],
    ['Bottom', 10],
    ['Width', 40, LEAST_MM],
    ['Height', 30, LEAST_MM],
  ],
  circle: [
    ['Centre x', 30],
    ['Centre y', 30],
    ['Diameter', 20, 2 * LEAST_MM],
  ],
};

/** The path of typed measures; null where two points are one. */
function pathOf(tool: Drawn, [a, b, c, d]: readonly number[]): Path | null {
  switch (tool) {
    case 'line':
      return Math.hypot(c - a, d - b) < LEAST_MM ? null : straight([a, b], [c, d]);
    case 'rectangle':
      return polyline(
        [
          [a, b],
          [a + c, b],
          [a + c, b + d],
          [a, b + d],
        ],
        true,
      );
    case 'circle':
      return circle([a, b], c / 2);
  }
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
          style={{ width: 230 }}
          onSubmit={(event) => {
            event.preventDefault();
            if (path) onDraw(path);
            setOpen(false);
          }}
        >
          {measures.map(([label, , least], i) => (
            <LengthField
              key={label}
              label={label}
              valueMm={values[i]}
              minMm={least ?? -4000}
              maxMm={4000}
              onCommit={(mm) => setValues(values.with(i, mm))}
            />
          ))}
          <p className="quiet wide">{where ? `On ${where}, from its own corner.` : 'On a new part.'}</p>
          <Button className="wide" type="submit" disabled={!path}>
            Draw it
          </Button>
        </form>
      </Popover.Dropdown>
    </Popover>
  );
}
