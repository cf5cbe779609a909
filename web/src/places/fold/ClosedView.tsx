import { boxCentre } from '@hollow-finch/core/geometry/path';
import { regionData } from '../../shared/drawing/PartDrawing.tsx';
import { placeOn } from '../../shared/drawing/placeOn.ts';
import { useLengths } from '../../shared/units.ts';
import type { TimedReport } from '../../workers/report.worker.ts';
import { closedEdges } from '@hollow-finch/core/checks/closedOverhang';
import { chosenEnvelope } from '@hollow-finch/core/checks/envelopeFit';
import { BULK_GRID } from '@hollow-finch/core/motion/bulk';
import { stackAt } from '@hollow-finch/core/motion/stack';
import { useMemo, useState } from 'react';
import type { Point } from '@hollow-finch/core/geometry/point';
import type { Design } from '@hollow-finch/core/design/design';

/** Cells of equal thickness as one path each, with the share of the greatest thickness. */
function bulkLevels({
  bulkMap,
  bulkMm,
  box,
}: TimedReport['closed']): { mm: number; share: number; d: string }[] {
  const [w, h] = [(box.maxX - box.minX) / BULK_GRID, (box.maxY - box.minY) / BULK_GRID];
  const paths = new Map<number, string[]>();
  bulkMap.forEach((mm, i) => {
    if (mm === 0) return;
    const [x, y] = [box.minX + (i % BULK_GRID) * w, box.minY + Math.floor(i / BULK_GRID) * h];
    const level = Math.round(mm * 100) / 100;
    paths.set(level, [...(paths.get(level) ?? []), `M${x} ${-y}h${w}v${-h}h${-w}Z`]);
  });
  // The thickest place may be narrower than a cell of the map: it is in the key all the same.
  const most = Math.round(bulkMm * 100) / 100;
  if (!paths.has(most)) paths.set(most, []);
  return [...paths].sort((a, b) => a[0] - b[0]).map(([mm, d]) => ({ mm, share: mm / bulkMm, d: d.join('') }));
}

/** How thick the closed card is where: every level of thickness in its own tint, with a key. */
export function BulkView({ report }: { report: TimedReport }) {
  const { inUnit } = useLengths();
  const { box, bulkMm, bulkAt } = report.closed;
  const [spot, setSpot] = useState<Point | null>(null);
  const at = spot ?? bulkAt;
  const layers = useMemo(() => stackAt(report.sweep, at), [report.sweep, at]);
  const levels = useMemo(() => bulkLevels(report.closed), [report.closed]);
  const pad = 0.03 * (box.maxX - box.minX);
  return (
    <figure className="closed-view">
      <svg
        viewBox={`${box.minX - pad} ${-box.maxY - pad} ${box.maxX - box.minX + 2 * pad} ${box.maxY - box.minY + 2 * pad}`}
        role="img"
        aria-label={inUnit(`Thickness of the closed card, ${bulkMm.toFixed(2)} mm at most`)}
        style={{ cursor: 'crosshair' }}
        onPointerDown={(event) => {
          const at = placeOn(event.currentTarget, event);
          if (at) setSpot(at);
        }}
      >
        {levels.map(({ mm, share, d }) => (
          <path
            key={mm}
            d={d}
            fill="var(--accent)"
            fillOpacity={0.08 + 0.8 * share * share}
            shapeRendering="crispEdges"
          />
        ))}
        <path
          d={`M${at[0] - 3} ${-at[1]}h6m-3 -3v6`}
          stroke="var(--wrong)"
          strokeWidth={2}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <figcaption className="bulk-key figure">
        {levels.map(({ mm, share }) => (
          <span key={mm}>
            <i style={{ opacity: 0.08 + 0.8 * share * share }} /> {mm.toFixed(2)}
          </span>
        ))}{' '}
        <span className="quiet">mm of paper, glue and brads</span>
      </figcaption>
      <details className="layers-here">
        <summary>
          {layers.length} layers {spot ? 'at the cross' : 'at the thickest place'}, from the back up
        </summary>
        <ol>
          {layers.map((panel, i) => (
            <li key={i}>
              {panel.part.name}, {panel.name}
            </li>
          ))}
        </ol>
        <p className="quiet">Press on the map to look at another place.</p>
      </details>
    </figure>
  );
}

/** The closed card from the front: its outline, what lies inside, what pokes out, and the envelope round it. */
export function ClosedView({ report, design }: { report: TimedReport; design: Design }) {
  const { say, inUnit } = useLengths();
  const { closed } = report;
  const { box, cardBox } = closed;
  const envelope = chosenEnvelope(design);
  const inner = envelope ? [envelope.widthMm, envelope.heightMm].sort((a, b) => b - a) : null;
  const [w, h] = [cardBox.maxX - cardBox.minX, cardBox.maxY - cardBox.minY];
  const [ew, eh] = inner ? (w >= h ? inner : [inner[1], inner[0]]) : [0, 0];
  const [cx, cy] = boxCentre(box);
  const [vw, vh] = [Math.max(box.maxX - box.minX, ew) + 12, Math.max(box.maxY - box.minY, eh) + 12];
  const edges = closedEdges(design.brief);
  const over = (Object.keys(edges) as (keyof typeof edges)[])
    .map((side) => ({ name: edges[side], mm: Math.max(0, ...closed.overhangs.map((o) => o.overMm[side])) }))
    .filter((o) => o.mm > 0.01);
  return (
    <figure className="closed-view">
      <svg
        viewBox={`${cx - vw / 2} ${-cy - vh / 2} ${vw} ${vh}`}
        role="img"
        aria-label="The closed card from the front"
      >
        {inner && (
          <rect className="closed-envelope" x={cx - ew / 2} y={-cy - eh / 2} width={ew} height={eh} />
        )}
        {closed.card.map((region, i) => (
          <path key={i} d={regionData(region)} className="closed-cover" />
        ))}
        {closed.panels
          .filter((panel) => !panel.isCover)
          .map((panel, i) => (
            <path key={i} d={regionData(panel.region)} fillRule="evenodd" className="closed-layer" />
          ))}
        {closed.overhangs.flatMap((o, i) =>
          o.outside.map((region, k) => (
            <path key={`${i}/${k}`} d={regionData(region)} className="closed-out" />
          )),
        )}
        <path d={`M${closed.bulkAt[0] - 3} ${-closed.bulkAt[1]}h6m-3 -3v6`} className="closed-bulk" />
      </svg>
      <figcaption className="figure">
        {over.length === 0 ? (
          <span>Nothing pokes out.</span>
        ) : (
          over.map((o) => (
            <span key={o.name} className="wrong">
              {say(o.mm)} over the {o.name}{' '}
            </span>
          ))
        )}
        <span className="quiet">
          {' '}
          Thickest at the cross: {inUnit(`${closed.bulkMm.toFixed(2)} mm`)}
          {inner ? `; dashed: ${envelope!.name}` : ''}.
        </span>
      </figcaption>
    </figure>
  );
}
