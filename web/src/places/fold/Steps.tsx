import { expand } from '@hollow-finch/core/mechanisms/expand';
import { UnstyledButton } from '@mantine/core';
import { useJob } from '../../shared/store/jobStore.ts';
import { moveTo, type Travel } from '../../shared/strip/useTravel.ts';

/** The steps in which what stands by itself is folded up; choosing one goes to its end. */
export function Steps({ travel }: { travel: Travel }) {
  const shown = useJob((s) => s.shown);
  if (shown.base.kind !== 'structure' || travel.driver.id !== 'opening') return null;
  const { stages } = expand(shown);
  return Object.entries(stages).map(([id, steps]) => {
    const place = (k: number) => 180 * (1 - k / steps.length);
    return (
      <div key={id} className="fold-steps">
        <h3>Folding up {shown.instances[id].name}</h3>
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
      </div>
    );
  });
}
