import { layerOf, stockOf, type DieLine, type Part } from '@hollow-finch/core/dieline/part';
import { keptOffNicks, madePaths } from '@hollow-finch/core/cutting/made';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import type { Region } from '@hollow-finch/core/geometry/polygon';
import { memo, useDeferredValue } from 'react';

/** Outline data of a ring, y turned over for the screen. */
export const ringData = (ring: readonly (readonly [number, number])[]): string =>
  `M${ring.map(([x, y]) => `${x} ${-y}`).join('L')}Z`;

/** Outline data of a region for an even-odd fill, y turned over for the screen. */
export const regionData = (region: Region): string => [region.outer, ...region.holes].map(ringData).join('');

/** @param part only where the line has nicks: where they lie hangs on its panels */
const DieLineDrawing = memo(function DieLineDrawing({ part, line }: { part?: Part; line: DieLine }) {
  const d = madePaths(line, part && keptOffNicks(part, line))
    .map(screenPathData)
    .join('');
  return (
    <>
      {line.process === 'kiss' && <path className="die die-kiss-ticks" d={d} />}
      {line.fold && line.process !== 'score' && (
        <path className={`die die-under die-${line.fold.sense}`} d={d} />
      )}
      <path className={`die die-${line.pattern ? 'dashes' : layerOf(line)}`} d={d} />
    </>
  );
});

/** The paper of a part: its panels, with a shadow under the whole piece. */
const PaperDrawing = memo(function PaperDrawing({ part }: { part: Part }) {
  const stock = stockOf(part);
  const outlines = panelPlan(part)
    .panels.map((panel) => regionData(panel.region))
    .join('');
  return (
    <g className="paper">
      <path className="paper-shadow" transform="translate(0.3 0.5)" d={outlines} fillRule="evenodd" />
      <path className="paper-base" d={outlines} fillRule="evenodd" />
      <path
        className={stock.kind === 'film' ? 'paper-film' : 'paper-colour'}
        d={outlines}
        fill={stock.colour}
        fillRule="evenodd"
      />
    </g>
  );
});

/**
 * A part as it lies on the table: paper with its colour, glue zones, lines by pattern. Redrawn only when the part changes;
 * the paper, which needs the panels, may follow a moment after the lines.
 */
export const PartDrawing = memo(function PartDrawing({
  part,
  paper = true,
}: {
  part: Part;
  paper?: boolean;
}) {
  const settled = useDeferredValue(part);
  return (
    <g className="part-drawing">
      {paper && <PaperDrawing part={settled} />}
      {part.glueZones.map((zone) => (
        <path
          key={zone.id}
          className={zone.kind === 'glue' ? 'zone-glue' : 'zone-keep-out'}
          d={ringData(zone.outline)}
          fill={zone.kind === 'glue' ? 'url(#glue-hatch)' : 'url(#keep-out-hatch)'}
        />
      ))}
      {part.lines.map((line) => (
        <DieLineDrawing key={line.id} line={line} {...(line.nicks ? { part } : {})} />
      ))}
    </g>
  );
});

/** Hatches that drawings refer to; once per board. */
export function DrawingDefs({ scale }: { scale: number }) {
  const size = 6 / scale;
  return (
    <defs>
      <pattern
        id="glue-hatch"
        width={size}
        height={size}
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <line
          x1="0"
          y1="0"
          x2="0"
          y2={size}
          stroke="var(--accent)"
          strokeWidth={1 / scale}
          strokeOpacity="0.55"
        />
      </pattern>
      <pattern
        id="keep-out-hatch"
        width={size}
        height={size}
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(-45)"
      >
        <line
          x1="0"
          y1="0"
          x2="0"
          y2={size}
          stroke="var(--wrong)"
          strokeWidth={1.4 / scale}
          strokeOpacity="0.6"
        />
      </pattern>
    </defs>
  );
}

const KEY = [
  ['cut', 'cut'],
  ['mountain', 'mountain'],
  ['valley', 'valley'],
  ['score', 'score'],
  ['perforation', 'perforation'],
  ['kiss', 'kiss cut'],
  ['mark', 'mark'],
  ['glue', 'glue'],
  ['keep-out', 'no glue'],
] as const;

/** What a person may hide on the board: the layers of lines, and the zones. */
export type Hidable = (typeof KEY)[number][0];

const ZONE_SAMPLES = {
  glue: { d: 'M0 8L8 0M7 8L15 0M14 8L22 0M21 8L28 0', stroke: 'var(--accent)' },
  'keep-out': { d: 'M0 0L8 8M7 0L15 8M14 0L22 8M21 0L28 8', stroke: 'var(--wrong)' },
};

/** The key to the lines and zones, drawn as they are drawn; a press on one hides it on the board, or shows it again. */
export function LineKey({
  hidden,
  onToggle,
}: {
  hidden: ReadonlySet<Hidable>;
  onToggle: (what: Hidable) => void;
}) {
  return (
    <ul className="line-key" aria-label="Key to the lines">
      {KEY.map(([what, name]) => (
        <li key={what}>
          <button
            type="button"
            aria-pressed={!hidden.has(what)}
            aria-label={`Show ${name}`}
            title={
              hidden.has(what)
                ? `Hidden on the board; files keep it. Press to show ${name} again.`
                : `Press to hide ${name} on the board.`
            }
            onClick={() => onToggle(what)}
          >
            <svg width="24" height="8" aria-hidden="true">
              {what === 'glue' || what === 'keep-out' ? (
                <path {...ZONE_SAMPLES[what]} strokeOpacity="0.7" />
              ) : (
                <>
                  {what === 'kiss' && <path className="die die-kiss-ticks" d="M1 4H27" />}
                  <path className={`die die-${what}`} d="M1 4H27" />
                </>
              )}
            </svg>
            {name}
          </button>
        </li>
      ))}
    </ul>
  );
}
