import type { Craft } from '@hollow-finch/core/drafting/craft';
import { legsOf } from '@hollow-finch/core/geometry/curve';
import type { Path } from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { stockOf } from '@hollow-finch/core/dieline/part';
import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useLengths } from '../../shared/units.ts';
import { craftEdit, CRAFT_NAMES } from './craftEdits.ts';

/** Tabs, slots and notches on a side of a closed outline. */
export default function CraftTools({ partId, lineId, path }: { partId: string; lineId: string; path: Path }) {
  const design = useJob((s) => s.calm);
  const { say } = useLengths();
  const sides = legsOf(path).flatMap(({ from, segment }, k) =>
    segment.kind === 'line' ? [{ k, long: distance(from, segment.to) }] : [],
  );
  const [kind, setKind] = useState<Craft['kind']>('tab');
  const [chosen, setSide] = useState<string | null>(null);
  const [depthMm, setDepth] = useState(10);
  const [taperMm, setTaper] = useState(3);
  const [shoulderMm, setShoulder] = useState(4);
  const [headMm, setHead] = useState(1.5);
  const [widthMm, setWidth] = useState<number | null>(null);
  const [place, setPlace] = useState<number | null>(null);
  const [fold, setFold] = useState<'valley' | 'mountain'>('valley');
  const [partnerId, setPartner] = useState<string | null>(null);
  const parts = expand(design).parts;
  const self = parts.find(({ id }) => id === partId);
  const side = sides.find(({ k }) => String(k) === chosen) ?? sides[0];
  if (!self || !side) return null;
  const thickness = stockOf(self).thicknessMm;
  const width = widthMm ?? (kind === 'slot' ? thickness + 0.25 : 16);
  const atMm = place ?? side.long / 2;
  const craft = (): Craft => {
    switch (kind) {
      case 'tab':
        return { kind, depthMm, taperMm };
      case 'lock':
        return { kind, depthMm, shoulderMm, headMm };
      case 'slot':
        return { kind, atMm, widthMm: width, depthMm };
      case 'notch':
        return { kind, atMm, widthMm: width };
    }
  };
  const make = () => {
    const { design: now, edit } = useJob.getState();
    const made = craftEdit(now, partId, lineId, side.k, { craft: craft(), fold, partnerId });
    if ('refused' in made) return sayFault(made.refused);
    edit(made.label, made.command);
  };
  return (
    <section aria-label="On a side" className="shaping">
      <h3>On a side of it</h3>
      <div className="fields">
        <Select
          label="Make a"
          allowDeselect={false}
          value={kind}
          data={Object.entries(CRAFT_NAMES).map(([value, label]) => ({ value, label }))}
          onChange={(value) => {
            if (!value) return;
            setKind(value as Craft['kind']);
            setWidth(null);
          }}
        />
        <Select
          label="On side"
          allowDeselect={false}
          value={String(side.k)}
          data={sides
            .slice(0, 300)
            .map(({ k, long }) => ({ value: String(k), label: `Side ${k + 1}, ${say(long)}` }))}
          onChange={(value) => {
            setSide(value);
            setPlace(null);
          }}
        />
        {kind !== 'notch' && (
          <LengthField
            label={kind === 'slot' ? 'Slot depth' : 'Tab depth'}
            valueMm={depthMm}
            minMm={1}
            maxMm={300}
            onCommit={setDepth}
          />
        )}
        {kind === 'tab' && (
          <LengthField label="Tab taper" valueMm={taperMm} minMm={0} maxMm={100} onCommit={setTaper} />
        )}
        {kind === 'lock' && (
          <>
            <LengthField
              label="Shoulders"
              valueMm={shoulderMm}
              minMm={0.5}
              maxMm={100}
              onCommit={setShoulder}
            />
            <LengthField
              label="Head stands out"
              hint="Beyond its neck on each side: it holds behind the slot."
              valueMm={headMm}
              minMm={0}
              maxMm={50}
              onCommit={setHead}
            />
            <Select
              className="wide"
              label="Its slot is cut in"
              clearable
              placeholder="No part yet"
              value={partnerId}
              data={parts
                .filter(({ id }) => id !== partId)
                .map(({ id, name }) => ({ value: id, label: name }))}
              onChange={setPartner}
            />
          </>
        )}
        {(kind === 'slot' || kind === 'notch') && (
          <>
            <LengthField
              label={kind === 'slot' ? 'Slot width' : 'Notch width'}
              hint={
                kind === 'slot' ? 'The thickness of the piece that crosses, and a little room.' : undefined
              }
              valueMm={width}
              minMm={0.1}
              maxMm={200}
              onCommit={setWidth}
            />
            <LengthField
              label="So far along the side"
              valueMm={atMm}
              minMm={0}
              maxMm={side.long}
              onCommit={setPlace}
            />
          </>
        )}
        {(kind === 'tab' || kind === 'lock') && (
          <Select
            label="Folds as a"
            allowDeselect={false}
            value={fold}
            data={[
              { value: 'valley', label: 'Valley' },
              { value: 'mountain', label: 'Mountain' },
            ]}
            onChange={(value) => value && setFold(value as 'valley' | 'mountain')}
          />
        )}
        <Button className="wide" variant="default" onClick={make}>
          Make the {CRAFT_NAMES[kind].toLowerCase()}
        </Button>
      </div>
    </section>
  );
}
