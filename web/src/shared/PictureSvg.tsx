import { memo } from 'react';
import type { Picture } from './contracts.ts';

/** Mixes a paper colour with light (towards white) or shade (towards dark). */
export function shaded(colour: string, light: number, front: boolean): string {
  const factor = 0.62 + 0.4 * light - (front ? 0 : 0.07);
  const channel = (at: number) =>
    Math.max(0, Math.min(255, Math.round(parseInt(colour.slice(at, at + 2), 16) * factor)));
  return `rgb(${channel(1)} ${channel(3)} ${channel(5)})`;
}

/** A small picture of a folded card. */
export const PictureSvg = memo(function PictureSvg({ picture, label }: { picture: Picture; label: string }) {
  return (
    <svg
      viewBox={picture.box.join(' ')}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
      style={{ width: '100%', height: '100%', display: 'block' }}
    >
      {picture.faces.map((face, i) => (
        <path
          key={i}
          d={face.d}
          fill={shaded(face.colour, face.light, face.front)}
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
