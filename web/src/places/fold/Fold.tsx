import { Button, Loader, Select } from '@mantine/core';
import { lazy, Suspense, useState } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { OpeningStrip } from '../../shared/strip/OpeningStrip.tsx';
import { useLengths } from '../../shared/units.ts';
import type { TimedReport } from '../../workers/report.worker.ts';
import type { PlaceProps } from '../workspace/place.ts';
import { DecorateSection } from './DecorateSection.tsx';
import { BulkView, ClosedView } from './ClosedView.tsx';
import './fold.css';

const Scene = lazy(() => import('./Scene.tsx'));

const RAD = 180 / Math.PI;

/** What moves and how: each independent group of folds in words. */
function Movement({ report, partName }: { report: TimedReport; partName: (id: string) => string }) {
  const { say } = useLengths();
  const { sweep } = report;
  return (
    <ul className="plain-list">
      {sweep.components.length === 0 && <li className="quiet">Only the card itself folds.</li>}
      {sweep.components.map((component) => {
        const parts = [
          ...new Set(component.creases.map((c) => partName(sweep.linkage.creases[c].partId))),
        ].join(', ');
        const words = {
          moves: 'follows the card, fully determined',
          floppy: `not held: ${component.freedom} free`,
          locked:
            component.fromDeg > component.toDeg
              ? 'cannot close up: strained everywhere'
              : `moves from ${component.fromDeg}° to ${component.toDeg}° only`,
          turnedOver: 'a fold turns over on the way',
        }[component.state];
        return (
          <li
            key={component.creases.join()}
            className={component.state === 'moves' ? '' : component.state === 'floppy' ? 'warn' : 'wrong'}
          >
            <strong>{parts}</strong>: {words}
            {component.state !== 'moves' &&
              component.worstMm > 1e-3 &&
              `, by up to ${say(component.worstMm)} at ${component.worstDeg}°`}
          </li>
        );
      })}
    </ul>
  );
}

/** Every catch with its stretch and depth; choosing one goes to where it is worst. */
function CatchList({ report, deg }: { report: TimedReport; deg: number }) {
  const { say } = useLengths();
  const { panels } = report.sweep.linkage;
  const name = (i: number) => `${panels[i].part.name}, ${panels[i].name}`;
  return (
    <ul className="plain-list">
      {report.catches.map((caught) => (
        <li key={`${caught.a}/${caught.b}/${caught.fromDeg}`}>
          <button
            type="button"
            className="row-button figure"
            aria-current={deg >= caught.fromDeg && deg <= caught.toDeg ? 'true' : undefined}
            onClick={() => useJob.getState().setOpening(caught.worstDeg)}
          >
            <span className="wrong">
              {caught.fromDeg.toFixed(1)}° to {caught.toDeg.toFixed(1)}°
            </span>{' '}
            {name(caught.a)} runs into {name(caught.b)}, {say(caught.depthMm)} deep at {caught.worstDeg}°
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Every fold's angle at the present opening. */
function FoldAngles({
  report,
  deg,
  partName,
}: {
  report: TimedReport;
  deg: number;
  partName: (id: string) => string;
}) {
  const { creases } = report.sweep.linkage;
  const [part, setPart] = useState<string>('all');
  const at = Math.round(deg);
  const partIds = [...new Set(creases.map((c) => c.partId))];
  return (
    <>
      <Select
        aria-label="Part"
        value={part}
        onChange={(value) => setPart(value ?? 'all')}
        data={[
          { value: 'all', label: 'All parts' },
          ...partIds.map((id) => ({ value: id, label: partName(id) })),
        ]}
      />
      <table className="fold-angles figure">
        <thead>
          <tr>
            <th scope="col">Fold</th>
            <th scope="col">Drawn</th>
            <th scope="col">Turned by</th>
          </tr>
        </thead>
        {partIds
          .filter((id) => part === 'all' || part === id)
          .map((id) => (
            <tbody key={id}>
              <tr>
                <th colSpan={3} scope="rowgroup">
                  {partName(id)}
                </th>
              </tr>
              {creases.map((crease, i) =>
                crease.partId !== id ? null : (
                  <tr key={crease.id}>
                    <td>{crease.lineIds[0].split('/').pop()!.replace(/-/g, ' ')}</td>
                    <td>{crease.sign > 0 ? 'valley' : 'mountain'}</td>
                    <td>{(Math.abs(report.sweep.folds[at * creases.length + i]) * RAD).toFixed(1)}°</td>
                  </tr>
                ),
              )}
            </tbody>
          ))}
      </table>
    </>
  );
}

/** The folded shape, the opening control, and what happens on the way. */
export default function Fold({ onStage }: PlaceProps) {
  const shown = useJob((s) => s.shown);
  const report = useJob((s) => s.report);
  const deg = useJob((s) => s.openingDeg);
  const [resetCount, setReset] = useState(0);
  const names = new Map(report?.sweep.linkage.panels.map((panel) => [panel.part.id, panel.part.name]));
  const partName = (id: string) => names.get(id) ?? id;
  const loose = report
    ? [
        ...new Set(
          report.sweep.linkage.panels
            .filter((p) => !report.sweep.linkage.attached[p.body])
            .map((p) => p.part.name),
        ),
      ]
    : [];
  return (
    <main className="place bench">
      <div className="scene">
        {report ? (
          <Suspense
            fallback={
              <div className="scene-wait quiet">
                <Loader size="sm" />
              </div>
            }
          >
            <Scene
              sweep={report.sweep}
              opening={shown.brief.opening}
              deg={deg}
              catches={report.catches}
              size={{ widthMm: shown.brief.closedWidthMm, heightMm: shown.brief.closedHeightMm }}
              resetCount={resetCount}
            />
          </Suspense>
        ) : (
          <div className="scene-wait quiet">Folding…</div>
        )}
        <Button className="scene-reset" variant="default" onClick={() => setReset(resetCount + 1)}>
          Straighten the view
        </Button>
      </div>
      <aside className="particulars" aria-label="Particulars">
        {report && (
          <>
            <section>
              <h2>What moves</h2>
              <Movement report={report} partName={partName} />
              {Object.keys(shown.instances).length === 0 && (
                <p>
                  Nothing stands on the card yet.{' '}
                  <Button size="compact-xs" variant="default" onClick={() => onStage('draft')}>
                    Add a mechanism
                  </Button>
                </p>
              )}
              {loose.length > 0 && (
                <p className="quiet">Not glued to anything, so not shown: {loose.join(', ')}.</p>
              )}
            </section>
            {report.catches.length > 0 && (
              <section>
                <h2>Catches</h2>
                <CatchList report={report} deg={deg} />
              </section>
            )}
            <section>
              <h2>Closed</h2>
              <ClosedView report={report} design={shown} />
              <h3>How thick where</h3>
              <BulkView report={report} />
            </section>
            <DecorateSection report={report} />
            <section>
              <h2>Folds at {Math.round(deg)}°</h2>
              <FoldAngles report={report} deg={deg} partName={partName} />
            </section>
          </>
        )}
      </aside>
      <OpeningStrip />
    </main>
  );
}
