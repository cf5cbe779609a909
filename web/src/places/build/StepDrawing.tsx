import { shapeData, type Drawing, type Shape } from '@hollow-finch/core/assembly/stepDrawing';
import { memo, type SVGProps } from 'react';
import { shaded } from '../../shared/PictureSvg.tsx';

/** How a shape is painted. */
function looksOf(shape: Shape): SVGProps<SVGPathElement> {
  switch (shape.kind) {
    case 'paper':
      return {
        fill: shaded(shape.colour, shape.light, shape.front),
        fillRule: 'evenodd',
        className: `step-edge-${shape.edge}`,
      };
    case 'glue':
      return { className: 'step-glue' };
    case 'line':
      return { className: `step-line step-${shape.layer}` };
  }
}

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
      {drawing.shapes.map((shape, i) => (
        <path key={i} d={shapeData(shape)} {...looksOf(shape)} />
      ))}
    </svg>
  );
});
