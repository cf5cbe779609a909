import type { Design } from '@hollow-finch/core/design/design';
import { openFindings } from '@hollow-finch/core/checks/finding';
import { openingOf } from '@hollow-finch/core/design/frames';
import { layerOf, type Layer } from '@hollow-finch/core/dieline/part';
import { pathLength } from '@hollow-finch/core/geometry/path';
import { differences } from '@hollow-finch/core/mechanisms/compare';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { sheetUsage } from '@hollow-finch/core/sheets/partsList';
import { Button, Loader, Select } from '@mantine/core';
import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { FoldedPicture } from '../../shared/FoldedPicture.tsx';
import { reportWorker } from '../../shared/store/reporter.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import type { TimedReport } from '../../workers/report.worker.ts';

interface Side {
  readonly name: string;
  readonly design: Design;
  readonly report: TimedReport;
}

const lengthOf = (design: Design, layers: readonly Layer[]): number =>
  expand(design)
    .parts.flatMap(({ lines, quantity }) =>
      lines.filter((line) => layers.includes(layerOf(line))).map(({ path }) => quantity * pathLength(path)),
    )
    .reduce((sum, mm) => sum + mm, 0);

/** The figures of a revision, in the order in which they are shown. */
function figures(
  { design, report }: Side,
  say: (mm: number) => string,
): readonly (readonly [string, string])[] {
  const { parts } = expand(design);
  const found = openFindings(design, report.findings);
  const sheets = design.sheetPlan?.sheets ?? [];
  const partOf = new Map(parts.map((part) => [part.id, part]));
  const usage = sheets.reduce((sum, sheet) => sum + sheetUsage(sheet, partOf), 0) / (sheets.length || 1);
  const { minX, maxX, minY, maxY } = report.closed.box;
  return [
    ['Parts', String(parts.length)],
    ['Lines', String(parts.reduce((sum, { lines }) => sum + lines.length, 0))],
    ['Cut', say(lengthOf(design, ['cut']))],
    ['Scored', say(lengthOf(design, ['mountain', 'valley', 'score']))],
    ['Perforated', say(lengthOf(design, ['perforation']))],
    ['Closed', minX <= maxX ? `${say(maxX - minX)} × ${say(maxY - minY)}` : 'nothing'],
    ['Thickness closed', say(report.closed.bulkMm)],
    ['Faults', String(found.filter(({ severity }) => severity === 'fault').length)],
    ['Warnings', String(found.filter(({ severity }) => severity === 'warning').length)],
    ['Catches', String(report.catches.length)],
    ['Sheets', sheets.length === 0 ? 'not packed' : `${sheets.length}, ${Math.round(100 * usage)} % used`],
  ];
}

/**
 * Two revisions side by side: picture, lines, measures, findings, usage, and what differs.
 *
 * @param asked two revisions to be compared at once, as when the change is looked at to which a trial led
 */
export function CompareSection({ asked }: { asked: readonly [number, number] | null }) {
  const id = useJob((s) => s.id);
  const revision = useJob((s) => s.revision);
  const now = useJob((s) => s.design);
  const { say, inUnit } = useLengths();
  const [names, setNames] = useState<readonly [string, string]>([String(Math.max(1, revision - 1)), 'now']);
  const [sides, setSides] = useState<readonly [Side, Side] | null>(null);
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const place = useRef<HTMLElement>(null);
  const compare = async (pair: readonly [string, string]) => {
    setBusy(true);
    setFailure(null);
    try {
      const read = async (name: string): Promise<Side> => {
        const design = name === 'now' ? now : await api.past(id, `r${name}`);
        return {
          name: name === 'now' ? 'As it is now' : `Revision ${name}`,
          design,
          report: await reportWorker().report(design),
        };
      };
      setSides([await read(pair[0]), await read(pair[1])]);
    } catch (fault) {
      setFailure(saidOf(fault));
    }
    setBusy(false);
  };
  const compareAsked = useEffectEvent((pair: readonly [number, number]) => {
    const [first, second] = pair.map(String);
    setNames([first, second]);
    place.current?.scrollIntoView({ block: 'start' });
    place.current?.focus();
    void compare([first, second]);
  });
  useEffect(() => {
    if (asked) compareAsked(asked);
  }, [asked]);
  const data = [
    { value: 'now', label: 'As it is now' },
    ...Array.from({ length: revision }, (_, i) => ({
      value: String(revision - i),
      label: `Revision ${revision - i}`,
    })),
  ];
  const differ = sides ? differences(sides[0].design, sides[1].design) : [];
  const [left, right] = sides ? sides.map((side) => figures(side, say)) : [[], []];
  return (
    <section aria-label="Compare revisions" ref={place} tabIndex={-1}>
      <h2>Compare revisions</h2>
      <div className="build-head">
        {(['First', 'Second'] as const).map((label, i) => (
          <Select
            key={label}
            label={label}
            searchable
            allowDeselect={false}
            value={names[i]}
            data={data}
            onChange={(value) => value && setNames(i === 0 ? [value, names[1]] : [names[0], value])}
          />
        ))}
        <Button variant="default" disabled={busy} onClick={() => void compare(names)}>
          {busy ? <Loader size="xs" /> : 'Compare'}
        </Button>
      </div>
      {failure && (
        <p role="alert" className="wrong">
          {failure}
        </p>
      )}
      {sides && (
        <>
          <div className="compared">
            {sides.map(({ name, design, report }, i) => (
              <figure key={`${i} ${name}`}>
                <div className="compared-picture">
                  <FoldedPicture
                    sweep={report.sweep}
                    opening={openingOf(design)}
                    deg={115}
                    label={`${name}, folded open`}
                    still
                  />
                </div>
                <figcaption>{name}</figcaption>
              </figure>
            ))}
          </div>
          <table className="compared-table figure">
            <thead>
              <tr>
                <td />
                {sides.map(({ name }, i) => (
                  <th key={`${i} ${name}`} scope="col">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {left.map(([what, value], i) => (
                <tr key={what} className={value === right[i][1] ? undefined : 'compared-differs'}>
                  <th scope="row">{what}</th>
                  <td>{value}</td>
                  <td>{right[i][1]}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {differ.length === 0 ? (
            <p className="quiet">They are the same.</p>
          ) : (
            <ul aria-label="What differs">
              {differ.map(({ subject, words }, i) => (
                <li key={`${i} ${subject}`}>
                  {subject}: {inUnit(words)}
                </li>
              ))}
            </ul>
          )}
        </>
      )}
    </section>
  );
}
