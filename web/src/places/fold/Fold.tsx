import { openingOf } from '@hollow-finch/core/design/frames';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { Catch } from '@hollow-finch/core/motion/catches';
import type { Viewpoint } from '@hollow-finch/core/motion/view';
import { bestView, VIEWS } from '@hollow-finch/core/motion/viewpoint';
import { Accordion, Button, Loader, SegmentedControl } from '@mantine/core';
import { useSessionStorage } from '@mantine/hooks';
import { Suspense, useMemo, useState, type ReactNode } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { OpeningStrip } from '../../shared/strip/OpeningStrip.tsx';
import { placeText, useTravel } from '../../shared/strip/useTravel.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import type { PlaceProps } from '../workspace/place.ts';
import { artworkByPart } from './artwork.ts';
import { BulkView, ClosedView } from './ClosedView.tsx';
import { DecorateSection } from './DecorateSection.tsx';
import { FoldAngles } from './FoldAngles.tsx';
import { HeldSection } from './HeldSection.tsx';
import { CatchList, Movement } from './Movement.tsx';
import { PoseFiles } from './PoseFiles.tsx';
import { RehearsalSection, type Rehearsing } from './RehearsalSection.tsx';
import { Steps } from './Steps.tsx';
import { useLoose } from './useLoose.ts';
import './fold.css';

const Scene = later(() => import('./Scene.tsx'));

const NONE: readonly Catch[] = [];

/** A section of the particulars that opens; its head says in a word how it stands. */
function Section({
  value,
  title,
  says,
  wrong = false,
  children,
}: {
  value: string;
  title: string;
  says?: string | null;
  wrong?: boolean;
  children: ReactNode;
}) {
  return (
    <Accordion.Item value={value} data-section={value}>
      <Accordion.Control>
        <span className="section-title title-face">{title}</span>
        {says && <span className={`section-says figure ${wrong ? 'wrong' : 'quiet'}`}>{says}</span>}
      </Accordion.Control>
      <Accordion.Panel>{children}</Accordion.Panel>
    </Accordion.Item>
  );
}

type ViewName = 'best' | keyof typeof VIEWS;

const VIEW_NAMES: readonly { value: ViewName; label: string }[] = [
  { value: 'best', label: 'Best' },
  { value: 'reader', label: 'Reader' },
  { value: 'front', label: 'Front' },
  { value: 'left', label: 'Left' },
  { value: 'right', label: 'Right' },
  { value: 'above', label: 'Above' },
];

/** From where the scene is looked at: a named view, or (empty) as a hand has turned it. */
function useView() {
  const report = useJob((s) => s.report);
  const travel = useTravel();
  const opening = useJob((s) => openingOf(s.shown));
  const [name, setName] = useState<ViewName | ''>('best');
  const [count, setCount] = useState(0);
  // The best view is that of the moment at which it is asked for, or something else is moved: it does not jump about
  // while the card opens.
  const [best, setBest] = useState<{ key: string; view: Viewpoint } | null>(null);
  const key = `${count}/${travel?.driver.id}`;
  if (report && travel && best?.key !== key)
    setBest({ key, view: bestView(travel.sweep, opening, travel.driver.id === 'opening' ? travel.at : 90) });
  return {
    name,
    count,
    view: name === '' || name === 'best' ? (best?.view ?? VIEWS.reader) : VIEWS[name],
    choose: (next: ViewName) => {
      setName(next);
      setCount(count + 1);
    },
    turned: () => setName(''),
  };
}

/** The folded shape, the opening control, and what happens on the way. */
export default function Fold({ onStage }: PlaceProps) {
  const { inUnit, say } = useLengths();
  const shown = useJob((s) => s.shown);
  const artwork = useMemo(() => artworkByPart(shown), [shown]);
  const report = useJob((s) => s.report);
  const heldPulls = useJob((s) => s.heldPulls);
  const travel = useTravel();
  const view = useView();
  const [open, setOpen] = useSessionStorage<string[]>({
    key: 'fold-sections',
    defaultValue: ['motion', 'closed'],
    getInitialValueInEffect: false,
  });
  const shownLoose = useLoose();
  const { loose: swaying } = shownLoose;
  const [rehearsing, setRehearsing] = useState<Rehearsing | null>(null);
  const names = new Map(report?.sweep.linkage.panels.map((panel) => [panel.part.id, panel.part.name]));
  const partName = (id: string) => names.get(id) ?? id;
  const linkage = report?.sweep.linkage;
  const { alone } = expand(shown);
  const besides = linkage
    ? [
        ...new Map(
          linkage.panels.filter((p) => !linkage.attached[p.body]).map((p) => [p.part.id, p.part.name]),
        ),
      ]
    : [];
  const loose = besides.flatMap(([id, name]) => (alone.has(id) ? [] : [name]));
  const standing = besides.flatMap(([id, name]) => (alone.has(id) ? [name] : []));
  const stuck =
    travel?.sweep.components.filter((c) => c.state !== 'moves' && c.state !== 'floppy').length ?? 0;
  const pokes = Math.max(0, ...(report?.closed.overhangs.map((o) => o.mostMm) ?? []));
  const heldCaught = heldPulls.filter((pull) => pull.levels.some((level) => level.caught.length > 0)).length;
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
              opening={openingOf(shown)}
              deg={
                rehearsing ? (travel.driver.id === 'opening' ? travel.at : 180) : (swaying?.at ?? travel.at)
              }
              catches={rehearsing || swaying ? NONE : travel.catches}
              view={view.view}
              viewCount={view.count}
              withLoose={rehearsing !== null || besides.length > 0}
              artwork={artwork}
              onTurn={view.turned}
            />
          </Suspense>
        ) : (
          <div className="scene-wait quiet">Folding…</div>
        )}
        <SegmentedControl
          className="scene-views"
          aria-label="Look at it from"
          value={view.name}
          data={[...VIEW_NAMES]}
          onChange={(next) => view.choose(next as ViewName)}
        />
      </div>
      <aside className="particulars sections" aria-label="Particulars">
        {report && travel && (
          <Accordion multiple variant="default" value={open} onChange={setOpen} order={2}>
            <Section
              value="motion"
              title="Motion"
              says={
                travel.catches.length > 0
                  ? `${travel.catches.length} ${travel.catches.length > 1 ? 'catches' : 'catch'}`
                  : stuck > 0
                    ? 'does not move freely'
                    : 'free'
              }
              wrong={travel.catches.length > 0 || stuck > 0}
            >
              {travel.catches.length > 0 && <CatchList travel={travel} />}
              <Movement
                travel={travel}
                meantLoose={expand(shown).loose}
                partName={partName}
                shown={shownLoose}
              />
              {report.leanings.map(({ words }) => (
                <p key={words} className="warn">
                  {inUnit(words)}
                </p>
              ))}
              <Steps travel={travel} />
              {shown.base.kind !== 'structure' && Object.keys(shown.instances).length === 0 && (
                <p>
                  {shown.base.kind === 'card'
                    ? 'Nothing stands on the card yet.'
                    : 'Nothing lies on the sheet yet.'}{' '}
                  <Button size="compact-xs" variant="default" onClick={() => onStage('draft')}>
                    Add a mechanism
                  </Button>
                </p>
              )}
              {standing.length > 0 && (
                <p className="quiet">
                  Flat beside the card, on which they do not stand: {standing.join(', ')}. In a job without a
                  card they fold up.
                </p>
              )}
              {loose.length > 0 && (
                <p className="quiet">Glued to nothing, so they lie beside the card: {loose.join(', ')}.</p>
              )}
            </Section>
            <Section
              value="closed"
              title="Closed"
              says={
                pokes > 0.01
                  ? `pokes out ${say(pokes)}`
                  : inUnit(`${report.closed.bulkMm.toFixed(2)} mm thick`)
              }
              wrong={pokes > 0.01}
            >
              <ClosedView report={report} design={shown} />
            </Section>
            <Section value="bulk" title="How thick where">
              <BulkView report={report} />
            </Section>
            {report.pulls.length > 0 && (
              <Section
                value="held"
                title="Opened while pulled"
                says={
                  heldPulls.length < report.pulls.length ? 'trying…' : heldCaught > 0 ? 'catches' : 'free'
                }
                wrong={heldCaught > 0}
              >
                <HeldSection report={report} />
              </Section>
            )}
            <Section
              value="rehearsal"
              title="Rehearse the glue-up"
              says={rehearsing ? `${rehearsing.made.length} of ${rehearsing.order.length}` : null}
            >
              <RehearsalSection rehearsing={rehearsing} onChange={setRehearsing} />
            </Section>
            <Section value="decorate" title="Where can I decorate?">
              <DecorateSection report={report} />
            </Section>
            <Section value="files" title="Save this pose">
              <PoseFiles
                sweep={travel.sweep}
                deg={Math.round(travel.at)}
                placeWords={inUnit(placeText(travel.driver, travel.at))}
              />
            </Section>
            <Section value="folds" title={`Folds at ${inUnit(placeText(travel.driver, travel.at))}`}>
              <FoldAngles sweep={travel.sweep} deg={travel.at} partName={partName} />
            </Section>
          </Accordion>
        )}
      </aside>
      <OpeningStrip />
    </main>
  );
}
