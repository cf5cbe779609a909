import type { HeldPull } from '@hollow-finch/core/checks/report';
import { Button, Loader } from '@mantine/core';
import type { KeyboardEvent, PointerEvent } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { holdPull } from '../../shared/store/reporter.ts';
import { placeText } from '../../shared/strip/useTravel.ts';
import { useLengths } from '../../shared/units.ts';
import type { TimedReport } from '../../workers/report.worker.ts';

const WIDTH = 252;
const HEIGHT = 104;
const LEFT = 44;
const LOW = 18;
/** Places of the pull between one tried level and the next. */
const STEP = 15;

/** One pull against the opening: where something catches, and where the card stands now. Pressing goes there. */
function HeldMap({ report, pull, index }: { report: TimedReport; pull: HeldPull; index: number }) {
  const { inUnit } = useLengths();
  const held = useJob((s) => s.held);
  const openingDeg = useJob((s) => s.openingDeg);
  const driver = report.sweep.linkage.drivers[pull.driver];
  const x = (deg: number) => LEFT + (deg / 180) * (WIDTH - LEFT - 6);
  const y = (place: number) => HEIGHT - LOW - (place / 180) * (HEIGHT - LOW - 6);
  const at = held?.index === index ? held.place : null;
  const go = (place: number, deg: number) => {
    useJob.getState().setOpening(deg);
    void holdPull({ index, place: Math.min(180, Math.max(0, Math.round(place))) });
  };
  const press = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [px, py] = [
      ((event.clientX - box.left) / box.width) * WIDTH,
      ((event.clientY - box.top) / box.height) * HEIGHT,
    ];
    const deg = ((px - LEFT) / (WIDTH - LEFT - 6)) * 180;
    go(((HEIGHT - LOW - py) / (HEIGHT - LOW - 6)) * 180, Math.min(180, Math.max(0, deg)));
  };
  const keys = (event: KeyboardEvent) => {
    const [place, deg] = [at ?? 0, openingDeg];
    const to = {
      ArrowUp: [place + STEP, deg],
      ArrowDown: [place - STEP, deg],
      ArrowRight: [place, deg + 5],
      ArrowLeft: [place, deg - 5],
    }[event.key];
    if (!to) return;
    event.preventDefault();
    go(to[0], to[1]);
  };
  const caught = pull.levels.some((level) => level.caught.length > 0);
  const { free } = pull;
  return (
    <figure className="held-map">
      <div
        className="held-press"
        role="application"
        tabIndex={0}
        aria-label={`${driver.name} against the opening: press, or use the arrow keys, to go to a place`}
        onPointerDown={press}
        onPointerMove={(event) => event.buttons === 1 && press(event)}
        onKeyDown={keys}
      >
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true">
          <rect className="held-field" x={x(0)} y={y(180)} width={x(180) - x(0)} height={y(0) - y(180)} />
          {pull.levels.flatMap(({ place, caught: stretches }) =>
            stretches.map(([from, to], i) => (
              <rect
                key={`${place}/${i}`}
                className="held-caught"
                x={x(from)}
                width={Math.max(2, x(to) - x(from))}
                y={y(Math.min(180, place + STEP / 2))}
                height={y(Math.max(0, place - STEP / 2)) - y(Math.min(180, place + STEP / 2))}
              />
            )),
          )}
          {[0, 90, 180].map((deg) => (
            <text
              key={deg}
              x={x(deg)}
              y={HEIGHT - 5}
              textAnchor={deg === 0 ? 'start' : deg === 90 ? 'middle' : 'end'}
            >
              {deg}°
            </text>
          ))}
          {[0, 180].map((place) => (
            <text key={place} x={LEFT - 4} y={y(place) + (place ? 8 : 0)} textAnchor="end">
              {inUnit(placeText(driver, place))}
            </text>
          ))}
          {at !== null && <circle className="held-here" cx={x(openingDeg)} cy={y(at)} r={4} />}
        </svg>
      </div>
      <figcaption>
        {!caught ? (
          <>
            <strong>{driver.name}</strong> may be left anywhere while the card opens and closes.
          </>
        ) : (
          <>
            <strong>{driver.name}</strong>:{' '}
            {free
              ? free.to - free.from < 3
                ? `put it back to ${inUnit(placeText(driver, free.from))} before the card is opened or closed: where it is marked, something catches or tears.`
                : `the card opens and closes freely while it is between ${inUnit(placeText(driver, free.from))} and ${inUnit(placeText(driver, free.to))}.`
              : 'something catches or tears wherever it is.'}
          </>
        )}
      </figcaption>
    </figure>
  );
}

/** Every pull tried together with the opening. */
export function HeldSection({ report }: { report: TimedReport }) {
  const pulls = useJob((s) => s.heldPulls);
  const held = useJob((s) => s.held);
  if (report.pulls.length === 0) return null;
  return (
    <>
      {pulls.map((pull, i) => (
        <HeldMap key={report.sweep.linkage.drivers[pull.driver].id} report={report} pull={pull} index={i} />
      ))}
      {pulls.length < report.pulls.length && (
        <p className="quiet">
          <Loader size="xs" /> Trying the opening with each pull…
        </p>
      )}
      {held && (
        <Button size="compact-xs" variant="default" onClick={() => void holdPull(null)}>
          Put it back to rest
        </Button>
      )}
    </>
  );
}
