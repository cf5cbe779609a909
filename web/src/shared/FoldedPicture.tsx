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
  /** Whether parts that hang together with nothing are shown beside it. */
  readonly withLoose?: boolean;
  /** It is never shown otherwise: the frame is that of this one moment. */
  readonly still?: boolean;
}

/** A small drawing of the folded shape at an opening, from the solved motion. The frame holds the card at every opening. */
export const FoldedPicture = memo(function FoldedPicture({
  sweep,
  opening,
  deg,
  label,
  riseDeg = 34,
  withLoose = false,
  still = false,
}: FoldedPictureProps) {
  const picture = useMemo(() => {
    const view = { turnDeg: 28, riseDeg };
    return {
      box: pictureFrame(sweep, opening, view, withLoose, still ? [deg] : undefined),
      faces: pictureFaces(sweep, opening, deg, view, withLoose),
    };
  }, [sweep, opening, deg, riseDeg, withLoose, still]);
  return <PictureSvg picture={picture} label={label} />;
});
