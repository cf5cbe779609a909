import { stockOf, type Part } from '@hollow-finch/core/dieline/part';
import { Button, Loader, UnstyledButton } from '@mantine/core';
import { useEffect } from 'react';
import { faultWords } from '../../shared/helper.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useLengths } from '../../shared/units.ts';
import { hideWidths, showWidths, useWidths } from './widthStore.ts';

/** How wide the material of a part is: a picture on the board, and its thinnest places. */
export default function WidthSection({ part }: { part: Part }) {
  const { say } = useLengths();
  const { partId, found, place } = useWidths();
  const shown = partId === part.id;
  const least = stockOf(part).minWebMm;
  const work = (of: Part) =>
    showWidths(of).catch((fault: unknown) => {
      hideWidths();
      sayFault(faultWords(fault));
    });
  // The picture follows the part while it is shown, and goes when something else is chosen.
  useEffect(() => {
    if (useWidths.getState().partId === part.id) void work(part);
  }, [part]);
  useEffect(() => hideWidths, [part.id]);
  return (
    <section aria-label="Widths">
      <h3>Width of the material</h3>
      <Button variant="default" aria-pressed={shown} onClick={() => (shown ? hideWidths() : void work(part))}>
        {shown ? 'Hide the widths' : 'Show the widths'}
      </Button>
      {shown && !found && (
        <p role="status">
          <Loader size="xs" /> Measuring it…
        </p>
      )}
      {shown && found && (
        <>
          <p className="quiet">
            Dark is thin, light is wide. {stockOf(part).name} wants {say(least)} at least.
          </p>
          {found.thinnest.length === 0 ? (
            <p className="quiet">No place of it is thin: nothing comes nearer than 30 mm.</p>
          ) : (
            <ol className="plain-list">
              {found.thinnest.map(({ widthMm, from }, i) => (
                <li key={`${from[0]} ${from[1]}`}>
                  <UnstyledButton
                    className={`row-button figure ${widthMm < least ? 'wrong' : ''}`}
                    aria-pressed={place === i}
                    onClick={() => useWidths.setState({ place: place === i ? null : i })}
                  >
                    {i + 1}. {say(widthMm)}{' '}
                    <span className="quiet">
                      at {say(from[0])}, {say(from[1])}
                    </span>
                  </UnstyledButton>
                </li>
              ))}
            </ol>
          )}
        </>
      )}
    </section>
  );
}
