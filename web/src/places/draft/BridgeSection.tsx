import { bridgeStrength } from '@hollow-finch/core/checks/bridgeStrength';
import { stockOf } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, UnstyledButton } from '@mantine/core';
import { useEffect, useMemo, useState } from 'react';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { bridgeMoved, bridgeRemoved, type BridgeEdit } from './bridgeEdits.ts';
import { useBridges } from './bridgeStore.ts';

/** Parts with more pieces of lines than this are looked through when they are asked for only. */
const MANY_SEGMENTS = 1_200;

/** Does an edit, or says why not. */
function make(made: BridgeEdit | { readonly refused: string }): void {
  if ('refused' in made) return void sayFault(made.refused);
  useJob.getState().edit(made.label, made.command);
}

/** The bridges of a part: how wide each is, what hangs on them, and how they are made, moved and taken away. */
export default function BridgeSection({ partId }: { partId: string }) {
  const design = useJob((s) => s.calm);
  const { say, area } = useLengths();
  const shown = useBridges((s) => s.partId === partId);
  const chosen = useBridges((s) => s.chosen);
  const part = expand(design).parts.find(({ id }) => id === partId);
  const large = (part?.lines.reduce((sum, { path }) => sum + path.segments.length, 0) ?? 0) > MANY_SEGMENTS;
  const [asked, setAsked] = useState(false);
  const found = useMemo(
    () => (part && (!large || asked) ? bridgeStrength(part) : undefined),
    [part, large, asked],
  );
  useEffect(() => {
    useBridges.setState({ partId, chosen: null });
    return () => useBridges.setState({ partId: null, chosen: null });
  }, [partId]);
  if (!part) return null;
  const least = stockOf(part).minWebMm;
  const bridge = found && chosen !== null ? found.bridges[chosen] : undefined;
  const now = () => useJob.getState().design;
  return (
    <section aria-label="Bridges" className="shaping">
      <h3>Bridges</h3>
      {!found && (
        <Button variant="default" onClick={() => setAsked(true)}>
          Look for bridges
        </Button>
      )}
      {found && found.bridges.length === 0 && (
        <p className="quiet">None yet: draw one across a cut with the tool “Bridge”.</p>
      )}
      {found && found.bridges.length > 0 && (
        <ol className="plain-list">
          {found.bridges.map(({ widthMm: wide, lengthMm, kind, at }, i) => (
            <li key={`${at[0]} ${at[1]}`}>
              <UnstyledButton
                className={`row-button figure ${wide < least - 1e-6 ? 'wrong' : ''}`}
                aria-pressed={shown && chosen === i}
                onClick={() => useBridges.setState({ partId, chosen: chosen === i ? null : i })}
              >
                {i + 1}. {say(wide)} wide{' '}
                <span className="quiet">{kind === 'gap' ? 'left in a cut' : `${say(lengthMm)} long`}</span>
              </UnstyledButton>
            </li>
          ))}
        </ol>
      )}
      {bridge && (
        <div className="fields">
          <LengthField
            label={`Width of bridge ${chosen! + 1}`}
            valueMm={bridge.widthMm}
            minMm={0.2}
            maxMm={8}
            onCommit={(mm) => make(bridgeMoved(now(), partId, bridge, bridge.at, mm))}
          />
          <LengthField
            label="Its middle at x"
            valueMm={bridge.at[0]}
            onCommit={(x) => make(bridgeMoved(now(), partId, bridge, [x, bridge.at[1]], bridge.widthMm))}
          />
          <LengthField
            label="Its middle at y"
            hint="The bridge comes to lie where the cut is nearest to this place."
            valueMm={bridge.at[1]}
            onCommit={(y) => make(bridgeMoved(now(), partId, bridge, [bridge.at[0], y], bridge.widthMm))}
          />
          <Button
            variant="default"
            onClick={() => {
              make(bridgeRemoved(now(), partId, bridge));
              useBridges.setState({ chosen: null });
            }}
          >
            Take it away
          </Button>
        </div>
      )}
      {found?.pieces.map(({ areaMm2, at, bridges, carriesMm, weakestMm }) => (
        <p key={`${at[0]} ${at[1]}`} className={weakestMm < least - 1e-6 ? 'wrong' : 'quiet'}>
          A piece of {area(areaMm2)} hangs on{' '}
          {bridges.length === 1
            ? `bridge ${bridges[0] + 1}`
            : `bridges ${bridges
                .slice(0, -1)
                .map((i) => i + 1)
                .join(', ')} and ${bridges[bridges.length - 1] + 1}`}
          : {say(carriesMm)} of paper must tear before it falls
          {bridges.length > 1 && `, and its strongest way holds by ${say(weakestMm)}`}.
        </p>
      ))}
    </section>
  );
}
