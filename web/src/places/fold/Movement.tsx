import { Button, Slider, UnstyledButton } from '@mantine/core';
import { useJob } from '../../shared/store/jobStore.ts';
import { moveTo, placeText, type Travel } from '../../shared/strip/useTravel.ts';
import { useLengths } from '../../shared/units.ts';
import type { useLoose } from './useLoose.ts';

/** What is said when nothing moves beside the base itself. */
const ALONE = {
  card: 'Only the card itself folds.',
  sheet: 'The sheet lies flat.',
  structure: 'Its own folds fold it up.',
} as const;

/** What moves and how: each independent group of folds in words. */
export function Movement({
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
  const base = useJob((s) => s.shown.base.kind);
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
        <li className="quiet">{driver.id === 'opening' ? ALONE[base] : `Moved by hand: ${driver.name}.`}</li>
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
export function CatchList({ travel }: { travel: Travel }) {
  const { say, inUnit } = useLengths();
  const { sweep, catches, driver, at } = travel;
  const { panels } = sweep.linkage;
  const name = (i: number) => `${panels[i].part.name}, ${panels[i].name}`;
  return (
    <ul className="plain-list">
      {catches.map((caught) => (
        <li key={`${caught.a}/${caught.b}/${caught.fromDeg}`}>
          <UnstyledButton
            className="row-button figure"
            aria-current={at >= caught.fromDeg && at <= caught.toDeg ? 'true' : undefined}
            onClick={() => moveTo(travel, caught.worstDeg)}
          >
            <span className="wrong">
              {inUnit(placeText(driver, caught.fromDeg, 1))} to {inUnit(placeText(driver, caught.toDeg, 1))}
            </span>{' '}
            {name(caught.a)} runs into {name(caught.b)}, {say(caught.depthMm)} deep at{' '}
            {inUnit(placeText(driver, caught.worstDeg))}
          </UnstyledButton>
        </li>
      ))}
    </ul>
  );
}
