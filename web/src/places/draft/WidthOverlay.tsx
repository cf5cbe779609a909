import { WIDE_MM, type WidthPicture } from '@hollow-finch/core/checks/widths';
import { stockOf } from '@hollow-finch/core/dieline/part';
import { useMemo } from 'react';
import { useBoardScale } from '../../shared/drawing/Board.tsx';
import type { BoardPart } from './layout.ts';
import { useWidths } from './widthStore.ts';

/** From thin to wide: dark red, orange, pale, told apart without colour as well. */
const STOPS = [
  [122, 16, 10],
  [216, 92, 32],
  [238, 190, 110],
  [240, 240, 225],
] as const;

/** The picture as an image: what is below the least web is darkest; above four times that nothing is thin any more. */
function imageOf({ columns, rows, widths }: WidthPicture, leastMm: number): string {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [columns, rows];
  const context = canvas.getContext('2d');
  if (!context) return '';
  const image = context.createImageData(columns, rows);
  const wide = Math.min(WIDE_MM, 8 * leastMm);
  widths.forEach((width, i) => {
    if (Number.isNaN(width)) return;
    const share = Math.min(
      1,
      Math.max(0, Math.log(Math.max(width, 0.01) / leastMm) / Math.log(wide / leastMm)),
    );
    const at = share * (STOPS.length - 1);
    const k = Math.min(STOPS.length - 2, Math.floor(at));
    // Rows of the picture go up, those of an image down.
    const to = 4 * ((rows - 1 - Math.floor(i / columns)) * columns + (i % columns));
    for (let c = 0; c < 3; c++)
      image.data[to + c] = Math.round(STOPS[k][c] + (at - k) * (STOPS[k + 1][c] - STOPS[k][c]));
    image.data[to + 3] = 215;
  });
  context.putImageData(image, 0, 0);
  return canvas.toDataURL();
}

/** The widths of a part over it on the board, and the thin places with their numbers. */
export default function WidthOverlay({ layout }: { layout: readonly BoardPart[] }) {
  const { partId, found, place } = useWidths();
  const scale = useBoardScale();
  const on = layout.find(({ part }) => part.id === partId);
  const least = on ? stockOf(on.part).minWebMm : 1;
  const picture = found?.picture;
  const href = useMemo(() => (picture ? imageOf(picture, least) : ''), [picture, least]);
  if (!on || !found || !picture) return null;
  const { minX, minY, columns, rows, stepMm } = picture;
  return (
    <g transform={`translate(${on.offset[0]} ${-on.offset[1]})`} pointerEvents="none" className="widths">
      <image
        href={href}
        x={minX}
        y={-minY - rows * stepMm}
        width={columns * stepMm}
        height={rows * stepMm}
        preserveAspectRatio="none"
      />
      {found.thinnest.map(({ from, to }, i) => (
        <g key={i} className={i === place ? 'width-place chosen' : 'width-place'}>
          <path d={`M${from[0]} ${-from[1]}L${to[0]} ${-to[1]}`} />
          <text x={from[0] + 6 / scale} y={-from[1] - 5 / scale} fontSize={11.5 / scale}>
            {i + 1}
          </text>
        </g>
      ))}
    </g>
  );
}
