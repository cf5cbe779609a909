/** Pictures on the board: backdrops under the parts, artwork on them; the one in hand is dragged, and scaled by its corner. */
import type { Design } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { distance, type Point } from '@hollow-finch/core/geometry/point';
import { inverse, place, placing } from '@hollow-finch/core/geometry/isometry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { laidPicture, type LaidPicture } from '@hollow-finch/core/mechanisms/pictures';
import { useDrag } from '@use-gesture/react';
import { useId, useRef, type KeyboardEvent } from 'react';
import { useBoardScale } from '../../../shared/drawing/Board.tsx';
import { regionData } from '../../../shared/drawing/PartDrawing.tsx';
import { stepMm } from '../../../shared/fields/LengthField.tsx';
import { arrowMove } from '../../../shared/keys.ts';
import { useJob } from '../../../shared/store/jobStore.ts';
import { useUnit } from '../../../shared/units.ts';
import type { BoardPart } from '../layout.ts';
import { usePictures } from './pictureStore.ts';

interface OnBoard {
  readonly laid: LaidPicture;
  readonly offset: Point;
  readonly on: BoardPart | undefined;
}

/** All pictures of a use as they lie on the board. */
function onBoard(design: Design, layout: readonly BoardPart[], use: 'backdrop' | 'artwork'): OnBoard[] {
  return Object.values(design.pictures).flatMap((picture) => {
    if (picture.use !== use) return [];
    const on = layout.find(({ part }) => part.id === picture.partId);
    const laid = picture.partId === null || on ? laidPicture(design, picture) : undefined;
    return laid ? [{ laid, offset: on?.offset ?? ([0, 0] as Point), on }] : [];
  });
}

/** The map of a picture's plane onto the screen's, as numbers of an SVG matrix: y turned over on both sides. */
function matrixOf({ frame }: LaidPicture, [dx, dy]: Point): string {
  const [o, x, y] = (
    [
      [0, 0],
      [1, 0],
      [0, 1],
    ] as const
  ).map(placing(frame));
  const numbers = [x[0] - o[0], -(x[1] - o[1]), -(y[0] - o[0]), y[1] - o[1], o[0] + dx, -(o[1] + dy)];
  return `matrix(${numbers.join(' ')})`;
}

function OnePicture({ laid, offset, on }: OnBoard) {
  const clip = useId();
  const href = useJob((s) => s.shown.images[laid.picture.imageId]?.data);
  const { picture, widthMm, heightMm } = laid;
  const artwork = picture.use === 'artwork' && on;
  // Artwork of the back is not seen from here: its frame tells where it is.
  const behind = picture.face === 'back';
  return (
    <g clipPath={artwork ? `url(#${clip})` : undefined} pointerEvents="none">
      {artwork && (
        <clipPath id={clip}>
          <path
            transform={`translate(${offset[0]} ${-offset[1]})`}
            d={panelPlan(on.part)
              .panels.map(({ region }) => regionData(region))
              .join('')}
            clipRule="evenodd"
          />
        </clipPath>
      )}
      <g transform={matrixOf(laid, offset)}>
        {behind ? (
          <rect
            className="picture-behind"
            x={-widthMm / 2}
            y={-heightMm / 2}
            width={widthMm}
            height={heightMm}
          />
        ) : (
          <image
            className={artwork ? 'artwork' : undefined}
            href={href}
            x={-widthMm / 2}
            y={-heightMm / 2}
            width={widthMm}
            height={heightMm}
            opacity={picture.strength}
            preserveAspectRatio="none"
          />
        )}
      </g>
    </g>
  );
}

/** The picture in hand: its frame to drag it by, and a corner to scale it by. */
function PictureHandles({ laid, offset }: OnBoard) {
  const scale = useBoardScale();
  const [unit] = useUnit();
  const { edit, preview } = useJob.getState();
  const { picture, corners } = laid;
  const start = useRef(laid);
  const put = (from: LaidPicture, change: Partial<typeof picture>) => ({
    do: 'put' as const,
    in: 'pictures' as const,
    id: picture.id,
    value: { ...from.picture, ...change },
  });
  /** A move on the board as one in the plane that the picture's place is told in. */
  const moved = (from: LaidPicture, by: Point): Partial<typeof picture> => {
    const { design } = useJob.getState();
    const { partId, panelId, at } = from.picture;
    const panel =
      partId === null || panelId === undefined ? undefined : expand(design).panelFrames[partId]?.[panelId];
    const turned = panel ? place({ ...inverse(panel), dx: 0, dy: 0 }, by) : by;
    return { at: [at[0] + turned[0], at[1] + turned[1]] };
  };
  const drag = useDrag(
    ({ first, last, tap, movement: [mx, my], event }) => {
      event.stopPropagation();
      if (first) start.current = laid;
      if (tap || (mx === 0 && my === 0)) return preview(null);
      const command = put(start.current, moved(start.current, [mx / scale, -my / scale]));
      if (last) edit('Move a picture', command);
      else preview(command);
    },
    { filterTaps: true, pointer: { keys: false, capture: true } },
  );
  const grow = useDrag(
    ({ first, last, movement: [mx, my], event }) => {
      event.stopPropagation();
      if (first) start.current = laid;
      const from = start.current;
      const middle: Point = [
        (from.corners[0][0] + from.corners[2][0]) / 2,
        (from.corners[0][1] + from.corners[2][1]) / 2,
      ];
      const corner = from.corners[2];
      const to: Point = [corner[0] + mx / scale, corner[1] - my / scale];
      const factor = distance(to, middle) / (distance(corner, middle) || 1);
      const widthMm = Math.min(4000, Math.max(1, Math.round(from.widthMm * factor * 10) / 10));
      if (mx === 0 && my === 0) return preview(null);
      if (last) edit('Scale a picture', put(from, { widthMm }));
      else preview(put(from, { widthMm }));
    },
    { pointer: { keys: false, capture: true } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowMove(event.key, stepMm(unit, event));
    if (!by) return;
    edit('Move a picture', put(laid, moved(laid, by)));
    event.preventDefault();
    event.stopPropagation();
  };
  const at = ([x, y]: Point): string => `${x + offset[0]} ${-(y + offset[1])}`;
  const [cx, cy] = corners[2];
  return (
    <g>
      <path
        {...drag()}
        data-drag
        className="picture-frame"
        d={`M${corners.map(at).join('L')}Z`}
        role="button"
        tabIndex={0}
        aria-label={`Picture ${picture.name}: drag or move it by arrow keys`}
        onKeyDown={onKeyDown}
      />
      <circle
        {...grow()}
        data-drag
        className="picture-corner"
        cx={cx + offset[0]}
        cy={-(cy + offset[1])}
        r={5 / scale}
      />
    </g>
  );
}

/** Pictures of one use; with artwork, the handles of the picture in hand. */
export default function PictureLayer({
  layout,
  use,
  held,
}: {
  layout: readonly BoardPart[];
  use: 'backdrop' | 'artwork';
  /** Whether the picture in hand can be dragged. */
  held: boolean;
}) {
  const design = useJob((s) => s.shown);
  const chosen = usePictures((s) => s.chosen);
  const pictures = onBoard(design, layout, use);
  const inHand =
    use === 'artwork' && held
      ? [...pictures, ...onBoard(design, layout, 'backdrop')].find(({ laid }) => laid.picture.id === chosen)
      : undefined;
  return (
    <g>
      {pictures.map((each) => (
        <OnePicture key={each.laid.picture.id} {...each} />
      ))}
      {inHand && <PictureHandles {...inHand} />}
    </g>
  );
}
