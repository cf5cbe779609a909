import type { Design } from '@hollow-finch/core/design/design';
import { openingOf } from '@hollow-finch/core/design/frames';
import type { Point } from '@hollow-finch/core/geometry/point';
import { pressedOn, seenPlace, type Pressed } from '@hollow-finch/core/motion/pressed';
import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { bestView } from '@hollow-finch/core/motion/viewpoint';
import { Slider } from '@mantine/core';
import { useMemo, useState } from 'react';
import type { TrialFault } from '../../shared/records.ts';
import { placeOn } from '../../shared/drawing/placeOn.ts';
import { PictureSvg } from '../../shared/PictureSvg.tsx';
import { pictureFaces, pictureFrame } from '../../shared/picture.ts';

/** The card as it opens: where something was seen is pressed on it; what is written down already is marked. */
export function PressPicture({
  sweep,
  design,
  faults,
  onPress,
}: {
  sweep: Sweep;
  design: Pick<Design, 'base' | 'brief'>;
  faults: readonly TrialFault[];
  onPress: (pressed: Pressed, openDeg: number) => void;
}) {
  const [deg, setDeg] = useState(110);
  const opening = openingOf(design);
  const view = useMemo(() => bestView(sweep, opening, 110), [sweep, opening]);
  const box = useMemo(() => pictureFrame(sweep, opening, view), [sweep, opening, view]);
  const faces = useMemo(() => pictureFaces(sweep, opening, deg, view), [sweep, opening, deg, view]);
  const press = (event: React.MouseEvent<SVGSVGElement>) => {
    const at = placeOn(event.currentTarget, event);
    const pressed = at && pressedOn(sweep, opening, deg, view, at);
    if (pressed) onPress(pressed, deg);
  };
  const dots = faults.flatMap(({ id, partId, at }, i): { id: string; n: number; p: Point }[] => {
    const p = partId !== null && at ? seenPlace(sweep, opening, deg, view, partId, at) : null;
    return p ? [{ id, n: i + 1, p }] : [];
  });
  const size = Math.max(box[2], box[3]);
  return (
    <div className="press-picture">
      <div className="press-view">
        <PictureSvg picture={{ box, faces }} label="The card, as it opens" />
        <svg viewBox={box.join(' ')} className="press-layer" onClick={press} aria-hidden="true">
          {dots.map(({ id, n, p: [x, y] }) => (
            <g key={id} transform={`translate(${x} ${-y})`}>
              <circle r={size / 36} />
              <text y={size / 90} fontSize={size / 24} textAnchor="middle">
                {n}
              </text>
            </g>
          ))}
        </svg>
      </div>
      <Slider
        aria-label="How far open it is"
        min={0}
        max={180}
        value={deg}
        onChange={setDeg}
        label={(value) => `${value}°`}
        thumbLabel="How far open it is"
      />
      <p className="quiet">Press where it went wrong, as far open as it was then.</p>
    </div>
  );
}
