import type { Part } from '@hollow-finch/core/dieline/part';
import { boxOfPaths } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { Button } from '@mantine/core';
import { useMemo, useState } from 'react';
import { placeOn } from '../../shared/drawing/placeOn.ts';
import { DrawingDefs, PartDrawing } from '../../shared/drawing/PartDrawing.tsx';

const GAP_MM = 12;
/** The drawing is so high at most, and enlarged so many times. */
const MOST_HIGH_PX = 380;
const MOST_SCALE = 8;

/** Where each part lies in a row: how far it is moved, and its name's place. */
function laidOut(parts: readonly Part[]) {
  let x = 0;
  let height = 0;
  const places = parts
    .filter(({ lines }) => lines.length > 0)
    .map((part) => {
      const { minX, minY, maxX, maxY } = boxOfPaths(part.lines.map(({ path }) => path));
      const place = { part, dx: x - minX, dy: maxY };
      x += maxX - minX + GAP_MM;
      height = Math.max(height, maxY - minY);
      return place;
    });
  return { places, width: Math.max(10, x - GAP_MM), height: Math.max(10, height) };
}

export interface Mark {
  readonly partId: string;
  readonly at: Point;
  readonly name: string;
  readonly tone: 'mark' | 'good' | 'wrong';
}

/** Parts flat, side by side, as they are drafted: pressed where something is seen. */
export function FlatParts({
  parts,
  marks,
  onPress,
}: {
  parts: readonly Part[];
  marks: readonly Mark[];
  onPress?: (partId: string, at: Point) => void;
}) {
  const { places, width, height } = useMemo(() => laidOut(parts), [parts]);
  const size = Math.max(width, height);
  const press = (event: React.MouseEvent<SVGSVGElement>) => {
    const at = placeOn(event.currentTarget, event);
    if (!at || !onPress) return;
    const [x, y] = at;
    // The part nearest to where it was pressed.
    const away = places.map(({ part, dx }) => {
      const { minX, maxX } = boxOfPaths(part.lines.map(({ path }) => path));
      return Math.max(minX + dx - x, x - maxX - dx, 0);
    });
    const place = places[away.indexOf(Math.min(...away))];
    if (place) onPress(place.part.id, [x - place.dx, y + place.dy]);
  };
  const [scale, setScale] = useState(1);
  const svg = (
    <svg
      className="flat-parts"
      style={{ width: `${100 * scale}%`, maxHeight: scale * MOST_HIGH_PX }}
      viewBox={`${-GAP_MM} ${-GAP_MM} ${width + 2 * GAP_MM} ${height + 2 * GAP_MM}`}
      role="img"
      aria-label={`Parts as they are drafted: ${places.map(({ part }) => part.name).join(', ')}`}
      onClick={press}
    >
      <DrawingDefs scale={size / 600} />
      {places.map(({ part, dx, dy }) => (
        <g key={part.id} transform={`translate(${dx} ${dy})`}>
          <PartDrawing part={part} />
          {marks
            .filter(({ partId }) => partId === part.id)
            .map(({ at, name, tone }) => (
              <g
                key={`${name} ${at.join()}`}
                transform={`translate(${at[0]} ${-at[1]})`}
                className={`learn-${tone}`}
              >
                <circle r={size / 50} />
                <text y={size / 110} fontSize={size / 34} textAnchor="middle">
                  {name}
                </text>
              </g>
            ))}
        </g>
      ))}
    </svg>
  );
  return (
    <div className="flat-parts-frame">
      {/* Drawings that are larger than their frame are moved about in it, by the keyboard too. */}
      <div
        className="flat-parts-scroll"
        tabIndex={scale > 1 ? 0 : undefined}
        style={{ maxHeight: MOST_HIGH_PX }}
      >
        {svg}
      </div>
      <div className="flat-parts-zoom">
        {(['Smaller', 'Larger'] as const).map((label) => {
          const to = label === 'Larger' ? 2 * scale : scale / 2;
          return (
            <Button
              key={label}
              size="compact-xs"
              variant="default"
              disabled={to < 1 || to > MOST_SCALE}
              onClick={() => setScale(to)}
            >
              {label}
            </Button>
          );
        })}
      </div>
    </div>
  );
}
