import { regionData } from '../../shared/drawing/PartDrawing.tsx';
import { useLengths } from '../../shared/units.ts';
import type { TimedReport } from '../../workers/report.worker.ts';
import { chosenEnvelope } from '@hollow-finch/core/checks/envelopeFit';
import type { Design } from '@hollow-finch/core/design/design';

/** The closed card from the front: its outline, what lies inside, what pokes out, and the envelope round it. */
export function ClosedView({ report, design }: { report: TimedReport; design: Design }) {
  const { say } = useLengths();
  const { closed } = report;
  const { box, cardBox } = closed;
  const envelope = chosenEnvelope(design);
  const inner = envelope ? [envelope.widthMm, envelope.heightMm].sort((a, b) => b - a) : null;
  const [w, h] = [cardBox.maxX - cardBox.minX, cardBox.maxY - cardBox.minY];
  const [ew, eh] = inner ? (w >= h ? inner : [inner[1], inner[0]]) : [0, 0];
  const [cx, cy] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const [vw, vh] = [Math.max(box.maxX - box.minX, ew) + 12, Math.max(box.maxY - box.minY, eh) + 12];
  const top = design.brief.opening === 'top';
  const edges = [
    ['left', top ? 'left edge' : 'spine'],
    ['right', top ? 'right edge' : 'open edge'],
    ['low', top ? 'open edge' : 'lower edge'],
    ['high', top ? 'spine' : 'upper edge'],
  ] as const;
  const over = edges
    .map(([side, name]) => ({ name, mm: Math.max(0, ...closed.overhangs.map((o) => o.overMm[side])) }))
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
          Thickest at the cross: {closed.bulkMm.toFixed(2)} mm of paper
          {inner ? `; dashed: ${envelope!.name}` : ''}.
        </span>
      </figcaption>
    </figure>
  );
}
