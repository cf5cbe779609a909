import { largestRectangle } from '@hollow-finch/core/geometry/largestRectangle';
import { sayFault } from '../../shared/sayFault.ts';
import { useLengths } from '../../shared/units.ts';
import { applyCommand, type Command } from '@hollow-finch/core/design/commands';
import type { Design } from '@hollow-finch/core/design/design';
import { boxOf, polyline } from '@hollow-finch/core/geometry/path';
import { insidePoint, regionArea, tidyRing } from '@hollow-finch/core/geometry/polygon';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { DecorateMap } from '@hollow-finch/core/motion/decorate';
import { Button, Loader, Select } from '@mantine/core';
import { useEffect, useMemo, useState } from 'react';
import { regionData } from '../../shared/drawing/PartDrawing.tsx';
import { faultWords } from '../../shared/helper.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportWorker } from '../../shared/store/reporter.ts';
import type { TimedReport } from '../../workers/report.worker.ts';
import { drawOn } from '../draft/draftEdits.ts';

/** Outlines of the free area as marks on the part, in one edit. */
function marksFor(
  design: Design,
  partId: string,
  at: readonly [number, number],
  map: DecorateMap,
): Command | { refused: string } {
  const commands: Command[] = [];
  let current = design;
  for (const region of map.free)
    for (const ring of [region.outer, ...region.holes]) {
      const drawn = drawOn(current, partId, 'mark', polyline(tidyRing(ring, 0.02), true), at);
      if ('refused' in drawn) return drawn;
      commands.push(drawn.command);
      // Ids are given out one after another: each line must see the ones before it.
      current = applyCommand(current, drawn.command).design;
    }
  return { do: 'all', commands };
}

/** The free area of a chosen panel, computed for the design as it is shown. */
export function DecorateSection({ report }: { report: TimedReport }) {
  const { panels, attached } = report.sweep.linkage;
  const design = useJob((s) => s.shown);
  const { area, say } = useLengths();
  const { edit } = useJob.getState();
  const choices = panels.filter((panel) => attached[panel.body] && !/tab/.test(panel.id));
  const [chosen, setChosen] = useState<string | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [again, setAgain] = useState(0);
  const [map, setMap] = useState<{ key: string; design: Design; map: DecorateMap | null } | null>(null);
  const panel = choices.find((p) => `${p.part.id}|${p.id}` === chosen);
  const key = panel ? `${panel.part.id}|${panel.id}` : null;

  const free = map?.key === key ? map?.map?.free : undefined;
  const rectangle = useMemo(() => (free ? largestRectangle(free) : undefined), [free]);

  useEffect(() => {
    if (!key) return;
    let left = false;
    const [partId, panelId] = key.split('|');
    setFailure(null);
    reportWorker()
      .decorate(design, partId, panelId)
      .then(
        (found) => !left && setMap({ key, design, map: found }),
        (fault: unknown) => !left && setFailure(faultWords(fault)),
      );
    return () => {
      left = true;
    };
  }, [key, design, again]);

  const current = map && map.key === key && map.design === design ? map.map : null;
  const box =
    panel && current ? boxOf([...panel.region.outer, ...current.free.flatMap((r) => r.outer)]) : null;
  const pad = box ? 0.05 * Math.max(box.maxX - box.minX, box.maxY - box.minY) : 0;
  const keep = () => {
    if (!panel || !current) return;
    const command = marksFor(design, panel.part.id, insidePoint(panel.region), current);
    if ('refused' in command) sayFault(command.refused);
    else edit(`Guide on ${panel.part.name}`, command);
  };
  const onCard = expand(design).parts.some((part) => part.id === panel?.part.id);
  return (
    <>
      {failure && (
        <p role="alert" className="wrong">
          {failure}{' '}
          <Button size="compact-xs" variant="default" onClick={() => setAgain(again + 1)}>
            Try again
          </Button>
        </p>
      )}
      <Select
        aria-label="Panel to decorate"
        placeholder="Choose a panel"
        searchable
        value={key}
        onChange={setChosen}
        data={choices.map((p) => ({ value: `${p.part.id}|${p.id}`, label: `${p.part.name}, ${p.name}` }))}
      />
      {!panel && (
        <p className="quiet">
          The area in which a flat piece glued to a panel neither pokes out closed nor catches on the way.
        </p>
      )}
      {panel && !current && (
        <p className="quiet">
          <Loader size="xs" /> Working it out…
        </p>
      )}
      {panel && current && box && (
        <figure className="closed-view decorate-view">
          <svg
            viewBox={`${box.minX - pad} ${-box.maxY - pad} ${box.maxX - box.minX + 2 * pad} ${box.maxY - box.minY + 2 * pad}`}
            role="img"
            aria-label={`Where ${panel.name} of ${panel.part.name} can be decorated`}
          >
            {current.free.map((region, i) => (
              <path key={i} className="decorate-free" d={regionData(region)} fillRule="evenodd" />
            ))}
            {rectangle && (
              <rect
                className="decorate-rectangle"
                x={rectangle.minX}
                y={-rectangle.maxY}
                width={rectangle.maxX - rectangle.minX}
                height={rectangle.maxY - rectangle.minY}
              />
            )}
            <path className="decorate-panel" d={regionData(panel.region)} fillRule="evenodd" />
          </svg>
          <figcaption>
            {current.free.length === 0 ? (
              <span className="wrong">Nothing flat can be glued here without catching.</span>
            ) : (
              <span>
                Green is free:{' '}
                <span className="figure">
                  {area(current.free.reduce((sum, r) => sum + regionArea(r), 0))}
                </span>
                {rectangle &&
                  `, a rectangle of ${say(rectangle.maxX - rectangle.minX)} × ${say(rectangle.maxY - rectangle.minY)} in it`}
                , the panel itself dotted.
              </span>
            )}
          </figcaption>
          <Button mt={6} variant="default" disabled={current.free.length === 0 || !onCard} onClick={keep}>
            Keep it as a mark on the part
          </Button>
        </figure>
      )}
    </>
  );
}
