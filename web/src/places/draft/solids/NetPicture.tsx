/** A net as it will be cut, each piece beside the others; its edges are pressed to fold or to cut them. */
import type { Net } from '@hollow-finch/core/solids/net';
import { boxOf } from '@hollow-finch/core/geometry/path';
import type { KeyboardEvent } from 'react';

const GAP_MM = 12;

export function NetPicture({
  net,
  onEdge,
}: {
  net: Net;
  /** Called with an edge that is pressed; without it nothing can be pressed. */
  onEdge?: (edge: number) => void;
}) {
  let x = 0;
  const placed = net.pieces.map((piece) => {
    const box = boxOf(piece.outline);
    const at = x - box.minX;
    x += box.maxX - box.minX + GAP_MM;
    return { piece, at, box };
  });
  const high = Math.max(1, ...placed.map(({ box }) => box.maxY - box.minY));
  const wide = Math.max(1, x - GAP_MM);
  // Many edges are too many to step through by Tab: those are pressed only.
  const byKeys = placed.reduce((sum, { piece }) => sum + piece.folds.length + piece.cuts.length, 0) <= 240;
  const grip = (edge: number, name: string) =>
    onEdge && {
      role: 'button',
      tabIndex: byKeys ? 0 : -1,
      'aria-label': name,
      onClick: () => onEdge(edge),
      onKeyDown: (event: KeyboardEvent) => {
        if (event.key !== 'Enter' && event.key !== ' ') return;
        event.preventDefault();
        onEdge(edge);
      },
    };
  return (
    <svg
      className="net-picture"
      viewBox={`-4 -4 ${wide + 8} ${high + 8}`}
      role="group"
      aria-label={`The net, ${net.pieces.length} ${net.pieces.length === 1 ? 'piece' : 'pieces'}`}
    >
      {placed.map(({ piece, at, box }, i) => (
        <g key={i} transform={`translate(${at} ${box.maxY})`}>
          <path className="net-paper" d={`M${piece.outline.map(([u, v]) => `${u} ${-v}`).join('L')}Z`} />
          {piece.folds.map(({ from, to, turnRad, edge, tab }, k) => (
            <path
              key={`f${k}`}
              className={`die ${turnRad >= 0 ? 'die-mountain' : 'die-valley'}`}
              d={`M${from[0]} ${-from[1]}L${to[0]} ${-to[1]}`}
              data-edge={tab === undefined ? edge : undefined}
            />
          ))}
          {onEdge &&
            piece.folds.map(({ from, to, edge, tab }, k) =>
              tab === undefined ? (
                <path
                  key={`h${k}`}
                  className="net-edge"
                  d={`M${from[0]} ${-from[1]}L${to[0]} ${-to[1]}`}
                  data-fold={edge}
                  {...grip(edge, `Cut at fold ${edge + 1}`)}
                />
              ) : null,
            )}
          {onEdge &&
            piece.cuts.map(({ from, to, edge }, k) => (
              <path
                key={`c${k}`}
                className="net-edge"
                d={`M${from[0]} ${-from[1]}L${to[0]} ${-to[1]}`}
                data-cut={edge}
                {...grip(edge, `Fold at cut ${edge + 1}, side ${k + 1}`)}
              />
            ))}
          {piece.numbers.map(({ number, at: [u, v], roomMm, angleRad }, k) => (
            <text
              key={`n${k}`}
              fontSize={roomMm}
              textAnchor="middle"
              dominantBaseline="central"
              transform={`translate(${u} ${-v}) rotate(${(-angleRad * 180) / Math.PI})`}
            >
              {number}
            </text>
          ))}
        </g>
      ))}
    </svg>
  );
}
