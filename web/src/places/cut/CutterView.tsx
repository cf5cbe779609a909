import { toolAt } from '@hollow-finch/core/cutting/cutter';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import { Button, Slider } from '@mantine/core';
import { useEffect, useMemo, useState } from 'react';
import { IconPlayerPause, IconPlayerPlay } from '../../shared/icons.ts';
import type { PlayedFile } from '../../workers/cutter.worker.ts';
import { piecesWords, sayTime, TOOL_NAMES } from './cutterWords.ts';

/** A job is played in so long on screen, s; short ones in their own time. */
const SHOWN_S = 20;

const LAYER = { mark: 'mark', score: 'score', perforate: 'perforation', kiss: 'kiss', cut: 'cut' } as const;

/** The sheet as the cutter goes over it: what is made, what has come loose, where the tool is. */
export default function CutterView({ played: { file, sim } }: { played: PlayedFile }) {
  const [now, setNow] = useState(sim.totalS);
  const [playing, setPlaying] = useState(false);
  useEffect(() => {
    if (!playing) return;
    let [frame, before] = [0, performance.now()];
    const factor = Math.max(1, sim.totalS / SHOWN_S);
    const go = (at: number) => {
      const passed = ((at - before) / 1000) * factor;
      before = at;
      setNow((s) => Math.min(sim.totalS, s + passed));
      frame = requestAnimationFrame(go);
    };
    frame = requestAnimationFrame(go);
    return () => cancelAnimationFrame(frame);
  }, [playing, sim]);
  if (playing && now >= sim.totalS) setPlaying(false);
  const data = useMemo(() => file.strokes.map(({ path }) => screenPathData(path)), [file]);
  const { at, down, pass } = toolAt(sim, now);
  const current = sim.passes[pass];
  // Done are strokes all of whose passes have ended.
  const made = current
    ? now >= current.atS[current.atS.length - 1]
      ? current.stroke + 1
      : current.stroke
    : 0;
  const { widthMm: w, heightMm: h } = file;
  const border = Math.max(w, h) / 40;
  const loose = sim.loosened.filter(({ atS }) => atS <= now + 1e-9);
  return (
    <>
      <svg
        viewBox={`${-border} ${-h - border} ${w + 2 * border} ${h + 2 * border}`}
        className="order-preview"
        role="img"
        aria-label={`The sheet after ${sayTime(now)}: ${made} of ${file.strokes.length} strokes made, ${piecesWords(loose.length)} loose`}
      >
        <rect className="cut-sheet" y={-h} width={w} height={h} />
        {loose.map(({ region }, i) => (
          <path
            key={i}
            className="loose-piece"
            d={[region.outer, ...region.holes]
              .map((ring) => `M${ring.map(([x, y]) => `${x} ${-y}`).join('L')}Z`)
              .join('')}
          />
        ))}
        {file.strokes.map(({ tool }, i) => (
          <path key={i} d={data[i]} className={`die die-${LAYER[tool]}`} opacity={i < made ? 1 : 0.16} />
        ))}
        {down && (
          <polyline
            className={`die die-${LAYER[file.strokes[current.stroke].tool]}`}
            points={[...current.points.filter((_, i) => current.atS[i] <= now), at]
              .map(([x, y]) => `${x},${-y}`)
              .join(' ')}
          />
        )}
        {sim.faults.map((fault, i) => (
          <circle key={i} className="cutter-fault" cx={fault.at[0]} cy={-fault.at[1]} r={border / 2.5} />
        ))}
        <circle className={down ? 'cutter-tool' : 'cutter-tool up'} cx={at[0]} cy={-at[1]} r={border / 4} />
      </svg>
      <div className="order-strip cutter-strip">
        <Button
          size="compact-md"
          variant="default"
          aria-label={playing ? 'Stop' : 'Play the cut'}
          onClick={() => {
            if (!playing && now >= sim.totalS) setNow(0);
            setPlaying(!playing);
          }}
        >
          {playing ? <IconPlayerPause size={16} /> : <IconPlayerPlay size={16} />}
        </Button>
        <Slider
          aria-label="Time of the cut"
          min={0}
          max={Math.ceil(sim.totalS * 10) / 10}
          step={0.1}
          value={now}
          onChange={(value) => {
            setPlaying(false);
            setNow(Math.min(value, sim.totalS));
          }}
          label={null}
          thumbLabel="Time of the cut"
        />
        <p className="quiet figure">
          {sayTime(now)} of {sayTime(sim.totalS)}
          {current && now < sim.totalS
            ? `, ${TOOL_NAMES[file.strokes[current.stroke].tool].toLowerCase()}`
            : ''}
          ; {made} of {file.strokes.length} strokes, {piecesWords(loose.length)} loose
        </p>
      </div>
    </>
  );
}
