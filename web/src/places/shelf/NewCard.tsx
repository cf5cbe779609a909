import { applyCommand } from '@hollow-finch/core/design/commands';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { CARDS } from '@hollow-finch/core/stock/reference';
import { Button, Group, Modal, SegmentedControl, Select, Stack, TextInput } from '@mantine/core';
import { useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { baseOf, BEGIN_WORDS, BEGINNINGS, STANDING, type Begin, type Standing } from '../../shared/begin.ts';
import { choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';

/** Asks how the card opens and how large it is, or which envelope it must fit; makes it and opens it. */
export default function NewCard({ family: asked, onClose }: { family: string | null; onClose: () => void }) {
  const { say } = useLengths();
  const { store: studio } = useStudioStore();
  const [name, setName] = useState('');
  const [begin, setBegin] = useState<Begin>('side');
  const [size, setSize] = useState({ closedWidthMm: 148, closedHeightMm: 105 });
  const [envelopeId, setEnvelope] = useState<string | null>(null);
  const [standing, setStanding] = useState<Standing | null>(null);
  const family = asked || (standing ? STANDING[standing].family : asked);
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);

  /** The card that an envelope is made for; else the largest: inner size less 3 mm clearance and 1.5 mm for bulk. */
  const take = (id: string | null) => {
    setEnvelope(id);
    const envelope = id === null ? undefined : studio.envelopes[id];
    if (!envelope) return;
    if (envelope.cardMm) {
      const [closedWidthMm, closedHeightMm] = envelope.cardMm;
      setSize({ closedWidthMm, closedHeightMm });
      return;
    }
    const room = (mm: number) => Math.floor((mm - 4.5) * 2) / 2;
    setSize({ closedWidthMm: room(envelope.widthMm), closedHeightMm: room(envelope.heightMm) });
  };
  const usualName = (family && familyById(family)?.title) || 'Untitled card';
  const make = async () => {
    setBusy(true);
    setFailure(null);
    try {
      const isCard = begin !== 'sheet' && begin !== 'structure';
      let design: Design = {
        ...newDesign(name.trim() || usualName, {
          ...size,
          ...(isCard ? { opening: begin } : {}),
          envelopeId: begin === 'structure' ? null : envelopeId,
        }),
        base: baseOf(begin),
      };
      // An envelope of the studio's own goes with the design.
      design = applyCommand(
        design,
        choosing(design, studio, 'envelopes', design.brief.envelopeId, { do: 'all', commands: [] }),
      ).design;
      if (family) {
        const made = familyById(family)!;
        const host = usualHost(made, expand(design).gutters);
        design = { ...design, instances: { m1: newInstance(made, host, 'm1') } };
      }
      // The measures of its mechanism stand open.
      window.location.href = `/job/${await api.create(design)}/draft${family ? '#m1' : ''}`;
    } catch (fault) {
      setFailure(saidOf(fault));
      setBusy(false);
    }
  };
  return (
    <Modal opened={asked !== null} onClose={onClose} title="New card">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        <Stack gap="sm">
          <TextInput
            label="Name"
            placeholder={usualName}
            value={name}
            maxLength={120}
            data-autofocus
            onChange={(event) => setName(event.currentTarget.value)}
          />
          <div>
            <span className="field-label" id="opens">
              What it is
            </span>
            <SegmentedControl
              fullWidth
              aria-labelledby="opens"
              value={begin}
              onChange={(value) => {
                setBegin(value as Begin);
                setStanding(null);
              }}
              data={[...BEGINNINGS]}
            />
            <p className="quiet">{BEGIN_WORDS[begin]}</p>
          </div>
          {!asked && (
            <Select
              label="Or something that stands"
              placeholder="None"
              clearable
              allowDeselect
              value={standing}
              data={Object.entries(STANDING).map(([value, { label }]) => ({ value, label }))}
              onChange={(value) => {
                setStanding(value as Standing | null);
                if (value) setBegin(STANDING[value as Standing].begin);
              }}
            />
          )}
          {begin !== 'structure' && (
            <Select
              label="Envelope"
              description="Choosing one sets the size of the card that it is made for."
              value={envelopeId}
              onChange={take}
              allowDeselect
              clearable
              searchable
              placeholder="None"
              data={Object.values(studio.envelopes).map((e) => ({
                value: e.id,
                label: `${e.name}  (${say(e.widthMm)} × ${say(e.heightMm)})`,
              }))}
            />
          )}
          {begin !== 'structure' && (
            <Select
              label="Usual size"
              placeholder="Any"
              searchable
              clearable
              value={
                CARDS.find(
                  (card) => card.widthMm === size.closedWidthMm && card.heightMm === size.closedHeightMm,
                )?.id ?? null
              }
              data={(['ISO', 'North American'] as const).map((series) => ({
                group: series,
                items: CARDS.filter((card) => card.series === series).map((card) => ({
                  value: card.id,
                  label: `${card.name}  (${say(card.widthMm)} × ${say(card.heightMm)})`,
                })),
              }))}
              onChange={(id) => {
                const card = CARDS.find((each) => each.id === id);
                if (card) setSize({ closedWidthMm: card.widthMm, closedHeightMm: card.heightMm });
              }}
            />
          )}
          {begin !== 'structure' && (
            <Group grow align="start">
              <LengthField
                label={begin === 'sheet' ? 'Width' : 'Closed width'}
                valueMm={size.closedWidthMm}
                minMm={20}
                maxMm={1000}
                onCommit={(closedWidthMm) => setSize({ ...size, closedWidthMm })}
              />
              <LengthField
                label={begin === 'sheet' ? 'Height' : 'Closed height'}
                valueMm={size.closedHeightMm}
                minMm={20}
                maxMm={1000}
                onCommit={(closedHeightMm) => setSize({ ...size, closedHeightMm })}
              />
            </Group>
          )}
          {failure && (
            <p role="alert" className="wrong" style={{ margin: 0 }}>
              {failure}
            </p>
          )}
          <Group justify="end">
            <Button variant="default" onClick={onClose}>
              Cancel
            </Button>
            <Button type="submit" loading={busy}>
              {begin === 'sheet' ? 'Make the sheet' : begin === 'structure' ? 'Make it' : 'Make the card'}
            </Button>
          </Group>
        </Stack>
      </form>
    </Modal>
  );
}
