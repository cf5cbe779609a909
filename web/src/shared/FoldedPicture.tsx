import type { Opening } from '@hollow-finch/core/motion/view';
import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { memo, useMemo } from 'react';
import { pictureFaces, pictureFrame } from './picture.ts';
import { PictureSvg } from './PictureSvg.tsx';

export interface FoldedPictureProps {
  readonly sweep: Sweep;
  readonly opening: Opening;
  readonly deg: number;
  readonly label: string;
  /** How far above the table the eye is, in degrees. */
  readonly riseDeg?: number;
}

/** A small drawing of the folded shape at an opening, from the solved motion. The frame holds the card at every opening. */
export const FoldedPicture = memo(function FoldedPicture({
  sweep,
  opening,
  deg,
  label,
  riseDeg = 34,
}: FoldedPictureProps) {
  const picture = useMemo(() => {
    const view = { turnDeg: 28, riseDeg };
    return {
      box: pictureFrame(sweep, opening, view),
      faces: pictureFaces(sweep, opening, deg, view),
    };
  }, [sweep, opening, deg, riseDeg]);
  return <PictureSvg picture={picture} label={label} />;
});
