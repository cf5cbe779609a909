import { expand } from '@hollow-finch/core/mechanisms/expand';
import { UnstyledButton } from '@mantine/core';
import { useJob } from '../../shared/store/jobStore.ts';
import { moveTo, type Travel } from '../../shared/strip/useTravel.ts';
import { useLengths } from '../../shared/units.ts';

/** The steps in which what stands by itself is folded up; choosing one goes to its end. */
export function Steps({ travel }: { travel: Travel }) {
  const shown = useJob((s) => s.shown);
  if (shown.base.kind !== 'structure' || travel.driver.id !== 'opening') return null;
  const { stages, strains, drawnStages } = expand(shown);
  const drafted = Array.from({ length: drawnStages }, (_, k) => `Step ${k + 1} of what is drafted`);
  const all: [string, readonly string[]][] = [
    ...Object.entries(stages),
    ...(drawnStages > 1 ? [['', drafted] as [string, readonly string[]]] : []),
  ];
  return all.map(([id, steps]) => {
    const place = (k: number) => 180 * (1 - k / steps.length);
    return (
      <div key={id} className="fold-steps">
        <h3>Folding up {id === '' ? 'what is drafted' : shown.instances[id].name}</h3>
        <ol className="plain-list">
          <li>
            <UnstyledButton
              className="row-button"
              aria-current={travel.at > 179.5 ? 'step' : undefined}
              onClick={() => moveTo(travel, 180)}
            >
              Flat, as it is cut
            </UnstyledButton>
          </li>
          {steps.map((words, k) => (
            <li key={words}>
              <UnstyledButton
                className="row-button"
                aria-current={
                  travel.at >= place(k + 1) - 0.5 && travel.at < place(k) - 0.5 && travel.at <= 179.5
                    ? 'step'
                    : undefined
                }
                onClick={() => moveTo(travel, place(k + 1))}
              >
                {k + 1}. {words}
              </UnstyledButton>
            </li>
          ))}
        </ol>
        {strains[id] && <Strain valuesMm={strains[id]} place={travel.at} />}
      </div>
    );
  });
}

/** By how much paper must give over the folding up, and where it is now. */
function Strain({ valuesMm, place }: { valuesMm: readonly number[]; place: number }) {
  const { say } = useLengths();
  const most = Math.max(...valuesMm);
  const last = valuesMm.length - 1;
  const here = valuesMm[Math.round((1 - place / 180) * last)];
  if (most < 0.01) return null;
  const points = valuesMm.map((v, i) => `${(240 * i) / last},${40 - (36 * Math.max(0, v)) / most}`).join(' ');
  return (
    <>
      <svg
        className="fold-strain"
        viewBox="0 0 240 44"
        role="img"
        aria-label="By how much the paper must give"
      >
        <polyline points={points} />
        <line x1={240 * (1 - place / 180)} x2={240 * (1 - place / 180)} y1={0} y2={44} />
      </svg>
      <p className={here > 0.01 ? 'warn' : 'quiet'}>
        {here > 0.01
          ? `Here the paper must give by ${say(here)}: some of its lengths are short, others long by so much.`
          : 'Here the paper lies without strain.'}{' '}
        At most {say(most)} on the way.
      </p>
    </>
  );
}
