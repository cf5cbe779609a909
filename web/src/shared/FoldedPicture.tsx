import { boxOf } from '@hollow-finch/core/geometry/path';
import { foldedPicture, type Opening } from '@hollow-finch/core/motion/view';
import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { stockById } from '@hollow-finch/core/stock/stock';
import { memo, useMemo } from 'react';

/** Mixes a paper colour with light (towards white) or shade (towards dark). */
function shaded(colour: string, light: number, front: boolean): string {
  const factor = 0.62 + 0.4 * light - (front ? 0 : 0.07);
  const channel = (at: number) =>
    Math.max(0, Math.min(255, Math.round(parseInt(colour.slice(at, at + 2), 16) * factor)));
  return `rgb(${channel(1)} ${channel(3)} ${channel(5)})`;
}

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
  const faces = useMemo(
    () => foldedPicture(sweep, opening, deg, { riseDeg }),
    [sweep, opening, deg, riseDeg],
  );
  const frame = useMemo(() => {
    const box = boxOf(
      [deg, 180, 90].flatMap((at) =>
        foldedPicture(sweep, opening, at, { riseDeg }).flatMap((face) => face.rings.flat()),
      ),
    );
    const pad = 0.04 * Math.max(box.maxX - box.minX, box.maxY - box.minY);
    return `${box.minX - pad} ${-box.maxY - pad} ${box.maxX - box.minX + 2 * pad} ${box.maxY - box.minY + 2 * pad}`;
  }, [sweep, opening, deg, riseDeg]);
  return (
    <svg
      viewBox={frame}
      role="img"
      aria-label={label}
      style={{ width: '100%', height: '100%', display: 'block' }}
    >
      {faces.map((face, i) => (
        <path
          key={i}
          d={face.rings
            .map((ring) => `M${ring.map(([x, y]) => `${x.toFixed(2)} ${(-y).toFixed(2)}`).join('L')}Z`)
            .join('')}
          fill={shaded(stockById(face.stockId).colour, face.light, face.front)}
          fillRule="evenodd"
          stroke="var(--paper-edge)"
          strokeWidth={0.8}
          strokeLinejoin="round"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
});
