import { Button, Loader, Select, Slider } from '@mantine/core';
import { lazy, Suspense, useState } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { OpeningStrip } from '../../shared/strip/OpeningStrip.tsx';
import { useLengths } from '../../shared/units.ts';
import { moveTo, placeText, useTravel, type Travel } from '../../shared/strip/useTravel.ts';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { Sweep } from '@hollow-finch/core/motion/sweep';
import type { PlaceProps } from '../workspace/place.ts';
import { DecorateSection } from './DecorateSection.tsx';
import { BulkView, ClosedView } from './ClosedView.tsx';
import { HeldSection } from './HeldSection.tsx';
import { RehearsalSection, type Rehearsing } from './RehearsalSection.tsx';
import type { Catch } from '@hollow-finch/core/motion/catches';
import { useLoose } from './useLoose.ts';
import './fold.css';

const Scene = lazy(() => import('./Scene.tsx'));

const RAD = 180 / Math.PI;
const NONE: readonly Catch[] = [];

/** What moves and how: each independent group of folds in words. */
function Movement({
  travel,
  meantLoose,
  partName,
  shown,
}: {
  travel: Travel;
  meantLoose: ReadonlySet<string>;
  partName: (id: string) => string;
  /** What shows a loose part moving. */
  shown: ReturnType<typeof useLoose>;
}) {
  const { say, inUnit } = useLengths();
  const { sweep } = travel;
  const { loose, show, go, stop } = shown;
  const { links, creases, drivers, panels } = sweep.linkage;
  const driver = drivers[sweep.driver];
  const instances = useJob((s) => s.shown.instances);
  /** The part that a link moves: its crease’s, or the paper on its other side. */
  const partOf = (i: number): string[] => {
    const { crease, left, right } = links[i];
    if (crease >= 0) return [creases[crease].partId];
    return panels.filter((p) => p.body === right || p.body === left).map((p) => p.part.id);
  };
  /** What a component is called: its parts, or what was cut into the card. */
  const nameOf = (own: readonly number[]): string => {
    const names = own.flatMap((i) => {
      const ids = partOf(i).filter((id) => id !== 'card');
      if (ids.length > 0 || links[i].crease < 0) return ids.map(partName);
      const [owner] = creases[links[i].crease].lineIds[0].split('/');
      return [instances[owner]?.name ?? partName('card')];
    });
    return [...new Set(names)].join(', ');
  };
  return (
    <ul className="plain-list">
      {sweep.components.length === 0 && (
        <li className="quiet">
          {driver.id === 'opening' ? 'Only the card itself folds.' : `Moved by hand: ${driver.name}.`}
        </li>
      )}
      {sweep.components.map((component, index) => {
        const parts = nameOf(component.links);
        const spreads = component.links.flatMap(partOf).some((id) => meantLoose.has(id));
        const words = {
          moves: driver.id === 'opening' ? 'follows the card, fully determined' : 'follows, fully determined',
          floppy: spreads
            ? `${component.freedom} free, spread evenly by the paper`
            : `not held: ${component.freedom} free`,
          locked:
            component.closing.length === 0
              ? 'cannot close up: strained everywhere'
              : `moves only ${component.closing.map(([from, to]) => `from ${inUnit(placeText(driver, from))} to ${inUnit(placeText(driver, to))}`).join(' and ')}`,
          torn: 'torn: held in two places that do not stay together',
          turnedOver: `${component.turned.length > 1 ? `${component.turned.length} folds turn` : 'a fold turns'} over to the other side`,
          unfolded: 'a fold that is drawn stays flat',
          tooLarge: `too many folds to move on screen (${component.unknowns})`,
          stopped: 'runs beyond its stop',
          stands: 'does not lie flat when the card is closed',
        }[component.state];
        return (
          <li
            key={component.links.join()}
            className={
              component.state === 'moves' || (component.state === 'floppy' && spreads)
                ? ''
                : component.state === 'floppy'
                  ? 'warn'
                  : 'wrong'
            }
          >
            <strong>{parts}</strong>: {words}
            {component.state !== 'moves' &&
              component.worstMm > 1e-3 &&
              `, by up to ${say(component.worstMm)} at ${inUnit(placeText(driver, component.worstDeg))}`}
            {component.state === 'floppy' &&
              (loose?.component === index ? (
                <div className="loose">
                  <Slider
                    thumbLabel={`How ${parts} is loose`}
                    min={0}
                    max={180}
                    step={1}
                    label={null}
                    value={loose.at}
                    onChange={go}
                  />
                  <Button size="compact-xs" variant="default" onClick={stop}>
                    Hold it still
                  </Button>
                </div>
              ) : (
                <>
                  {' '}
                  <Button
                    size="compact-xs"
                    variant="default"
                    onClick={() => void show(sweep.driver, index, travel.at)}
                  >
                    Show how
                  </Button>
                </>
              ))}
          </li>
        );
      })}
    </ul>
  );
}

/** Every catch with its stretch and depth; choosing one goes to where it is worst. */
function CatchList({ travel }: { travel: Travel }) {
  const { say, inUnit } = useLengths();
  const { sweep, catches, driver, at } = travel;
  const { panels } = sweep.linkage;
  const name = (i: number) => `${panels[i].part.name}, ${panels[i].name}`;
  return (
    <ul className="plain-list">
      {catches.map((caught) => (
        <li key={`${caught.a}/${caught.b}/${caught.fromDeg}`}>
          <button
            type="button"
            className="row-button figure"
            aria-current={at >= caught.fromDeg && at <= caught.toDeg ? 'true' : undefined}
            onClick={() => moveTo(travel, caught.worstDeg)}
          >
            <span className="wrong">
              {inUnit(placeText(driver, caught.fromDeg, 1))} to {inUnit(placeText(driver, caught.toDeg, 1))}
            </span>{' '}
            {name(caught.a)} runs into {name(caught.b)}, {say(caught.depthMm)} deep at{' '}
            {inUnit(placeText(driver, caught.worstDeg))}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Every fold's angle at the present opening. */
function FoldAngles({
  sweep,
  deg,
  partName,
}: {
  sweep: Sweep;
  deg: number;
  partName: (id: string) => string;
}) {
  const { creases, links } = sweep.linkage;
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
                    <td>{(Math.abs(sweep.values[at * links.length + i]) * RAD).toFixed(1)}°</td>
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
  const { inUnit } = useLengths();
  const shown = useJob((s) => s.shown);
  const report = useJob((s) => s.report);
  const travel = useTravel();
  const [resetCount, setReset] = useState(0);
  const shownLoose = useLoose();
  const { loose: swaying } = shownLoose;
  const [rehearsing, setRehearsing] = useState<Rehearsing | null>(null);
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
        {report && travel ? (
          <Suspense
            fallback={
              <div className="scene-wait quiet">
                <Loader size="sm" />
              </div>
            }
          >
            <Scene
              sweep={rehearsing?.answer.sweep ?? swaying?.sweep ?? travel.sweep}
              opening={shown.brief.opening}
              deg={
                rehearsing ? (travel.driver.id === 'opening' ? travel.at : 180) : (swaying?.at ?? travel.at)
              }
              catches={rehearsing || swaying ? NONE : travel.catches}
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
        {report && travel && (
          <>
            <section>
              <h2>What moves</h2>
              <Movement
                travel={travel}
                meantLoose={expand(shown).loose}
                partName={partName}
                shown={shownLoose}
              />
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
            <HeldSection report={report} />
            {travel.catches.length > 0 && (
              <section>
                <h2>Catches</h2>
                <CatchList travel={travel} />
              </section>
            )}
            <section>
              <h2>Closed</h2>
              <ClosedView report={report} design={shown} />
              <h3>How thick where</h3>
              <BulkView report={report} />
            </section>
            <RehearsalSection rehearsing={rehearsing} onChange={setRehearsing} />
            <DecorateSection report={report} />
            <section>
              <h2>Folds at {inUnit(placeText(travel.driver, travel.at))}</h2>
              <FoldAngles sweep={travel.sweep} deg={travel.at} partName={partName} />
            </section>
          </>
        )}
      </aside>
      <OpeningStrip />
    </main>
  );
}
