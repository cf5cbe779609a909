import { IconPlayerPause, IconPlayerPlay } from '../icons.ts';
import { useElementSize } from '@mantine/hooks';
import { memo, useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { TimedReport } from '../../workers/report.worker.ts';
import { useJob } from '../store/jobStore.ts';
import { holdPull } from '../store/reporter.ts';
import { JOINT_TOLERANCE_MM } from '@hollow-finch/core/geometry/tolerances';
import type { Sweep } from '@hollow-finch/core/motion/sweep';
import type { Catch } from '@hollow-finch/core/motion/catches';
import type { Driver } from '@hollow-finch/core/motion/links';
import { ActionIcon, Select, UnstyledButton } from '@mantine/core';
import { chooseTravel, moveTo, placeText, useTravel } from './useTravel.ts';
import { useLengths } from '../units.ts';

/** What the strip marks: stretches of the travel where something is wrong, in degrees, with words. */
export interface StripMark {
  readonly fromDeg: number;
  readonly toDeg: number;
  readonly words: string;
}

/** Catches of all pairs of panels as stretches of the travel, those that run into each other made one. */
function catchStretches(sweep: Sweep, catches: readonly Catch[]): StripMark[] {
  const { panels, drivers } = sweep.linkage;
  const say = (at: number) => placeText(drivers[sweep.driver], at, 1);
  const sorted = [...catches].sort((a, b) => a.fromDeg - b.fromDeg);
  const merged: { fromDeg: number; toDeg: number; worst: (typeof sorted)[number] }[] = [];
  for (const caught of sorted) {
    const last = merged[merged.length - 1];
    if (last && caught.fromDeg <= last.toDeg + 1) {
      last.toDeg = Math.max(last.toDeg, caught.toDeg);
      if (caught.depthMm > last.worst.depthMm) last.worst = caught;
    } else merged.push({ fromDeg: caught.fromDeg, toDeg: caught.toDeg, worst: caught });
  }
  return merged.map(({ fromDeg, toDeg, worst }) => ({
    fromDeg,
    toDeg,
    words: `${say(fromDeg)} to ${say(toDeg)}: ${panels[worst.a].part.name} catches ${panels[worst.b].part.name}`,
  }));
}

/** The stretches at which something catches or loops do not close, and the closed end when something pokes out. */
export function marksOf(
  report: Pick<TimedReport, 'closed'> | null,
  sweep: Sweep | undefined,
  catches: readonly Catch[],
): StripMark[] {
  if (!report || !sweep) return [];
  const marks = catchStretches(sweep, catches);
  const { residualMm } = sweep;
  const say = (at: number) => placeText(sweep.linkage.drivers[sweep.driver], at);
  for (let deg = 0; deg < residualMm.length; deg++) {
    if (residualMm[deg] <= JOINT_TOLERANCE_MM) continue;
    let to = deg;
    while (to + 1 < residualMm.length && residualMm[to + 1] > JOINT_TOLERANCE_MM) to++;
    const worst = Math.max(...residualMm.slice(deg, to + 1));
    marks.push({
      fromDeg: deg,
      toDeg: to,
      words: `${say(deg)} to ${say(to)}: paper would bend by up to ${worst.toFixed(2)} mm`,
    });
    deg = to;
  }
  if (sweep.driver === 0 && report.closed.overhangs.length > 0) {
    const most = Math.max(...report.closed.overhangs.map((over) => over.mostMm));
    marks.push({ fromDeg: 0, toDeg: 2, words: `Closed: pokes out by ${most.toFixed(1)} mm` });
  }
  return marks;
}

/** That nothing is in the way of what is moved, in words. */
const freely = (driver: Driver | undefined): string =>
  driver?.id !== 'opening'
    ? 'moves freely'
    : driver.still
      ? 'lies flat: nothing of it opens or is pulled'
      : driver.name === 'Opening'
        ? 'opens and closes freely'
        : 'folds up freely';

/** Which pull is held, and where. */
function heldWords(report: TimedReport, { index, place }: { index: number; place: number }): string {
  const { sweep } = report.pulls[index];
  const driver = sweep.linkage.drivers[sweep.driver];
  return `${driver.name} held at ${placeText(driver, place)}`;
}

const SECONDS = 5;

/** The opening control: drag, arrows (1°, 10° with Shift), Home, End, space to play. Marks are where something is wrong. */
export const OpeningStrip = memo(function OpeningStrip() {
  const { inUnit } = useLengths();
  const report = useJob((s) => s.report);
  const openingDeg = useJob((s) => s.openingDeg);
  const held = useJob((s) => s.held);
  const travel = useTravel();
  const deg = travel?.at ?? openingDeg;
  const drivers = (report?.sweep.linkage.drivers ?? []).filter(({ still }) => !still);
  const latest = useRef(travel);
  latest.current = travel;
  const setOpening = (at: number) => moveTo(travel, at);
  const { ref, width } = useElementSize();
  const [playing, setPlaying] = useState(false);
  const towards = useRef(1);
  const marks = marksOf(report, travel?.sweep, travel?.catches ?? []);
  const inner = Math.max(1, width - 24);
  const at = (d: number) => 12 + (d / 180) * inner;

  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    let last = performance.now();
    const tick = (now: number) => {
      // From where it is by now, drawn or not: a slow picture must not hold it up.
      const { openingDeg: opened, pullAt } = useJob.getState();
      const here = (latest.current?.driver.id ?? 'opening') === 'opening' ? opened : pullAt;
      let next = here + (towards.current * ((now - last) / 1000) * 180) / SECONDS;
      last = now;
      if (next >= 180) [next, towards.current] = [180, -1];
      if (next <= 0) [next, towards.current] = [0, 1];
      moveTo(latest.current, next);
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [playing]);

  const move = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setOpening(((event.clientX - box.left - 12) / inner) * 180);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 10 : 1;
    const to = {
      ArrowRight: deg + step,
      ArrowUp: deg + step,
      ArrowLeft: deg - step,
      ArrowDown: deg - step,
      Home: 0,
      End: 180,
      PageUp: deg + 30,
      PageDown: deg - 30,
    }[event.key];
    if (event.key === ' ') setPlaying(!playing);
    else if (to !== undefined) setOpening(Math.round(to));
    else return;
    event.preventDefault();
  };
  return (
    <div className="strip">
      {drivers.length > 1 && (
        <Select
          className="strip-travel"
          aria-label="What is moved"
          size="xs"
          value={travel?.driver.id ?? 'opening'}
          data={drivers.map((d) => ({ value: d.id, label: d.name }))}
          allowDeselect={false}
          onChange={(id) => id && chooseTravel(drivers, id)}
        />
      )}
      <ActionIcon
        className="strip-play"
        size="lg"
        aria-label={
          playing ? 'Stop' : travel && travel.driver.id !== 'opening' ? 'Move to and fro' : 'Open and close'
        }
        onClick={() => setPlaying(!playing)}
      >
        {playing ? <IconPlayerPause size={16} /> : <IconPlayerPlay size={16} />}
      </ActionIcon>
      <div
        ref={ref}
        className="strip-track"
        role="slider"
        tabIndex={0}
        aria-label={travel?.driver.name ?? 'Opening'}
        aria-valuemin={0}
        aria-valuemax={180}
        aria-valuenow={Math.round(deg)}
        aria-valuetext={
          travel && travel.driver.id !== 'opening'
            ? inUnit(placeText(travel.driver, deg))
            : `${Math.round(deg)} degrees open`
        }
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setPlaying(false);
          move(event);
        }}
        onPointerMove={(event) => event.buttons === 1 && move(event)}
        onKeyDown={onKeyDown}
      >
        <svg width={width} height={36} aria-hidden="true">
          {marks.map((mark) => (
            <rect
              key={mark.words}
              x={at(mark.fromDeg) - 2}
              width={at(mark.toDeg) - at(mark.fromDeg) + 4}
              y={6}
              height={12}
              fill="var(--wrong)"
            />
          ))}
          <line x1={at(0)} x2={at(180)} y1={18.5} y2={18.5} stroke="var(--ink-soft)" />
          {Array.from({ length: 37 }, (_, i) => i * 5).map((d) => (
            <line
              key={d}
              x1={at(d)}
              x2={at(d)}
              y1={18}
              y2={d % 45 === 0 ? 28 : d % 15 === 0 ? 24 : 21}
              stroke="var(--ink-soft)"
            />
          ))}
          {[0, 45, 90, 135, 180].map((d) => (
            <text
              key={d}
              x={at(d) + (d === 180 ? -3 : 3)}
              y={34}
              textAnchor={d === 180 ? 'end' : 'start'}
              className="strip-text"
            >
              {travel ? inUnit(placeText(travel.driver, d)) : `${d}°`}
            </text>
          ))}
          <path d={`M${at(deg)} 19l-6 -9v-8h12v8z`} fill="var(--accent)" stroke="var(--board)" />
        </svg>
      </div>
      <output className="strip-value title-face" aria-live="off" data-unit={travel?.driver.unit}>
        {travel ? inUnit(placeText(travel.driver, deg)) : `${Math.round(deg)}°`}
      </output>
      <ul className="strip-marks" aria-label="Where something is wrong">
        {held && report && (
          <li>
            <UnstyledButton className="strip-mark" onClick={() => void holdPull(null)}>
              {heldWords(report, held)}: put it back
            </UnstyledButton>
          </li>
        )}
        {marks.length === 0 ? (
          <li className="quiet">{!report ? 'working it out…' : freely(travel?.driver)}</li>
        ) : null}
        {marks.map((mark) => (
          <li key={mark.words}>
            <UnstyledButton className="strip-mark wrong" onClick={() => setOpening(mark.fromDeg)}>
              {inUnit(mark.words)}
            </UnstyledButton>
          </li>
        ))}
      </ul>
    </div>
  );
});
