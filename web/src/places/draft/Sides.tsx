import { withCorner } from '@hollow-finch/core/drafting/lines';
import { isClosedPath, legsOf } from '@hollow-finch/core/geometry/curve';
import { arcGeometry, pathLength, type Path, type Segment } from '@hollow-finch/core/geometry/path';
import { add, distance, scale, type Point } from '@hollow-finch/core/geometry/point';
import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import { AngleField } from '../../shared/fields/AngleField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { useLengths } from '../../shared/units.ts';
import { LEAST_MM } from './tools/drawGesture.ts';

const KINDS: Readonly<Record<Segment['kind'], string>> = { line: 'straight', arc: 'arc', cubic: 'curve' };

/** The path with one of its segments changed, its ends as they are. */
const withSegment = (path: Path, k: number, segment: Segment): Path => ({
  start: path.start,
  segments: path.segments.with(k, segment),
});

/** The sides of a line with corners, one after the other: each by its end, its length, its direction, its radius. */
export default function Sides({
  path,
  onChange,
  onPreview,
}: {
  path: Path;
  onChange: (label: string, path: Path) => void;
  onPreview: (path: Path | null) => void;
}) {
  const { say } = useLengths();
  const [side, setSide] = useState(0);
  const legs = legsOf(path);
  const k = Math.min(side, legs.length - 1);
  const { from, segment } = legs[k];
  const { to } = segment;
  const chord = distance(from, to);
  const deg = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
  const arc = segment.kind === 'arc' ? arcGeometry(from, to, segment.bulge) : undefined;
  const end = (at: Point) => withCorner(path, k + 1, at);
  const along = (mm: number, angleRad: number): Point =>
    add(from, scale([Math.cos(angleRad), Math.sin(angleRad)], mm));
  const field = (label: string, mm: number, made: (value: number) => Path, minMm?: number, hint?: string) => (
    <LengthField
      key={label}
      label={label}
      hint={hint}
      valueMm={mm}
      minMm={minMm}
      onPreview={(value) => onPreview(value === null ? null : made(value))}
      onCommit={(value) => onChange(`Side ${k + 1}: ${label.toLowerCase()}`, made(value))}
    />
  );
  const bulgeOf = (radius: number, bulge: number): number => {
    // The shorter arc of that radius over the chord stays the shorter one, the longer the longer.
    const half = Math.asin(Math.min(1, chord / (2 * radius)));
    const quarter = Math.abs(bulge) > 1 ? (Math.PI - half) / 2 : half / 2;
    return Math.sign(bulge) * Math.tan(quarter);
  };
  return (
    <>
      <Select
        className="wide"
        label={`Sides (${legs.length}${isClosedPath(path) ? ', closed' : ''})`}
        allowDeselect={false}
        searchable={legs.length > 20}
        value={String(k)}
        data={legs.slice(0, 500).map((leg, i) => ({
          value: String(i),
          label: `Side ${i + 1}: ${KINDS[leg.segment.kind]}, ${say(pathLength({ start: leg.from, segments: [leg.segment] }))}`,
        }))}
        onChange={(value) => setSide(Number(value ?? 0))}
      />
      {k === 0 && !isClosedPath(path) && (
        <>
          {field('Begins at x', from[0], (x) => withCorner(path, 0, [x, from[1]]))}
          {field('Begins at y', from[1], (y) => withCorner(path, 0, [from[0], y]))}
        </>
      )}
      {field('Ends at x', to[0], (x) => end([x, to[1]]))}
      {field('Ends at y', to[1], (y) => end([to[0], y]))}
      {field(
        segment.kind === 'line' ? 'Side length' : 'End from end',
        chord,
        (mm) => end(along(mm, (deg * Math.PI) / 180)),
        LEAST_MM,
        'Its far corner moves; the outline stays closed.',
      )}
      <AngleField
        label="Direction"
        valueDeg={deg}
        onCommit={(value) => onChange(`Side ${k + 1}: direction`, end(along(chord, (value * Math.PI) / 180)))}
      />
      {segment.kind === 'arc' &&
        arc &&
        field(
          'Side radius',
          arc.radius,
          (radius) => withSegment(path, k, { ...segment, bulge: bulgeOf(radius, segment.bulge) }),
          chord / 2,
        )}
      {segment.kind === 'arc' &&
        field(
          'Bows out by',
          (segment.bulge * chord) / 2,
          (mm) => withSegment(path, k, { ...segment, bulge: Math.abs(mm) < 1e-6 ? 1e-6 : (2 * mm) / chord }),
          undefined,
          'To the right of the way from its beginning to its end; negative to the left.',
        )}
      {segment.kind === 'cubic' &&
        (['c1', 'c2'] as const).flatMap((handle, i) =>
          ([0, 1] as const).map((axis) =>
            field(
              `${i === 0 ? 'First' : 'Second'} handle ${axis === 0 ? 'x' : 'y'}`,
              segment[handle][axis],
              (mm) => {
                const at: Point = axis === 0 ? [mm, segment[handle][1]] : [segment[handle][0], mm];
                return withSegment(path, k, { ...segment, [handle]: at });
              },
            ),
          ),
        )}
      {segment.kind === 'line' && chord > LEAST_MM && (
        <Button
          className="wide"
          variant="default"
          onClick={() =>
            onChange(`Side ${k + 1} as an arc`, withSegment(path, k, { kind: 'arc', to, bulge: 0.2 }))
          }
        >
          Bend this side into an arc
        </Button>
      )}
      {segment.kind !== 'line' && (
        <Button
          className="wide"
          variant="default"
          onClick={() => onChange(`Side ${k + 1} made straight`, withSegment(path, k, { kind: 'line', to }))}
        >
          Make this side straight
        </Button>
      )}
    </>
  );
}
