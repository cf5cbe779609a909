import type { Drawing } from '@hollow-finch/core/assembly/stepDrawing';
import { memo } from 'react';
import { shaded } from '../../shared/PictureSvg.tsx';

type Ring = readonly (readonly [number, number])[];
const pathOf = (rings: readonly Ring[]): string =>
  rings.map((ring) => `M${ring.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}Z`).join('');

/** A picture of a step: paper in its colour, what is in hand with a heavy outline, glue hatched. */
export const StepDrawing = memo(function StepDrawing({
  drawing,
  label,
}: {
  drawing: Drawing;
  label: string;
}) {
  return (
    <svg viewBox={drawing.box.join(' ')} role="img" aria-label={label} className="step-drawing">
      {drawing.shapes.map((shape, i) => {
        switch (shape.kind) {
          case 'paper':
            return (
              <path
                key={i}
                d={pathOf(shape.rings)}
                fill={shaded(shape.colour, shape.light, shape.front)}
                fillRule="evenodd"
                className={`step-edge-${shape.edge}`}
              />
            );
          case 'glue':
            return (
              <path
                key={i}
                d={`${pathOf(shape.rings)}${shape.hatch
                  .map(
                    ([a, b]) =>
                      `M${a[0].toFixed(1)} ${a[1].toFixed(1)}L${b[0].toFixed(1)} ${b[1].toFixed(1)}`,
                  )
                  .join('')}`}
                className="step-glue"
              />
            );
          case 'line':
            return (
              <path
                key={i}
                d={`M${shape.points.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}`}
                className={`step-line step-${shape.layer}`}
              />
            );
        }
      })}
    </svg>
  );
});
