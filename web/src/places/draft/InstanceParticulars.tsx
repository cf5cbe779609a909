import type { Design, Instance, ParamValue } from '@hollow-finch/core/design/design';
import { turnedGutter, type Gutter, type Quarters } from '@hollow-finch/core/design/frames';
import { ownerOf } from '@hollow-finch/core/checks/finding';
import type { Part } from '@hollow-finch/core/dieline/part';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { Family, ParamSpec } from '@hollow-finch/core/mechanisms/family';
import { newInstance, nowhere, possibleHost, saidOf, standsOn } from '@hollow-finch/core/mechanisms/instance';
import { stockIn, storeWith } from '@hollow-finch/core/stock/store';
import { canBePlain, madePlain } from '@hollow-finch/core/mechanisms/plain';
import { parameterLimits } from '@hollow-finch/core/mechanisms/limits';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { Button, SegmentedControl, Select, Switch, UnstyledButton } from '@mantine/core';
import { Suspense, useState } from 'react';
import { AngleField } from '../../shared/fields/AngleField.tsx';
import { LengthField } from '../../shared/fields/LengthField.tsx';
import { CountField } from '../../shared/fields/CountField.tsx';
import { TextField } from '../../shared/fields/TextField.tsx';
import { IconTrash } from '../../shared/icons.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { choicesOf, choosing, useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import { LockSwitch } from './LockSwitch.tsx';
import { standingOn } from './draftEdits.ts';
import { boardLayout } from './layout.ts';

const LayPiece = later(() => import('./LayPiece.tsx'));
const MountSection = later(() => import('./MountSection.tsx'));

/** The parts that an instance adds; what is cut into its host belongs to that one. */
const ownParts = (design: Design, { id }: Instance): readonly Part[] => {
  const { parts, instanceOf } = expand(design);
  return parts.filter((part) => instanceOf[part.id] === id);
};

/** The fold that an instance stands on; the usual one while its own is missing, and undefined when there is none. */
const gutterOf = (design: Design, instance: Instance): Gutter | undefined => {
  const { gutterOf: known, gutters } = expand(design);
  const family = familyById(instance.family);
  return known[instance.id] ?? (family && possibleHost(family, gutters));
};

/** Folds that an instance may stand on: all but those that stand on it. */
function standsFor(design: Design, instance: Instance, gutters: readonly Gutter[]): Gutter[] {
  const madeBy = (gutter: Gutter) => ownerOfFold(design, gutter.partId, gutter.lineId);
  const below = (id: string | undefined): boolean =>
    id !== undefined && (id === instance.id || below(ownerOfHost(design, id)));
  const family = familyById(instance.family);
  return gutters.filter((gutter) => family && standsOn(family, gutter) && !below(madeBy(gutter)));
}

/** The instance that made a fold or panel: its part's, or the one that cut it into the card. */
const ownerOfFold = (design: Design, partId: string, lineId: string): string | undefined =>
  ownerOf(expand(design).instanceOf, partId, lineId.replace(/^panel:/, ''));

const ownerOfHost = (design: Design, id: string): string | undefined => {
  const host = design.instances[id]?.host;
  return host && ownerOfFold(design, host.partId, host.gutterId);
};

function ParamField({ instance, spec, gutter }: { instance: Instance; spec: ParamSpec; gutter: Gutter }) {
  const { inUnit } = useLengths();
  const shown = useJob((s) => s.calm);
  const { store: studio } = useStudioStore();
  const { edit, preview } = useJob.getState();
  const family = familyById(instance.family)!;
  const value = instance.params[spec.key];
  const withValue = (next: ParamValue) => ({
    do: 'put' as const,
    in: 'instances' as const,
    id: instance.id,
    value: { ...instance, params: { ...instance.params, [spec.key]: next } },
  });
  const commit = (next: ParamValue) => edit(`${instance.name}: ${spec.label.toLowerCase()}`, withValue(next));
  // Limits are searched for: only those of the field in hand.
  const [inHand, setInHand] = useState(false);
  const hand = { onFocus: () => setInHand(true), onBlur: () => setInHand(false) };
  const limits =
    instance.beyondLimits || !inHand
      ? undefined
      : parameterLimits(
          family,
          instance.params,
          spec,
          gutter,
          shown.settings.reachMarginMm,
          storeWith(shown.store).fits,
        );
  const held = limits?.reachable ? limits : undefined;
  switch (spec.kind) {
    case 'length':
      return (
        <div {...hand}>
          <LengthField
            label={spec.label}
            hint={spec.hint}
            valueMm={Number(value)}
            minMm={held?.min ?? spec.minMm}
            maxMm={held?.max ?? spec.maxMm}
            minReason={inUnit(held?.minReason ?? '')}
            maxReason={inUnit(held?.maxReason ?? '')}
            onPreview={(mm) => preview(mm === null ? null : withValue(mm))}
            onCommit={commit}
          />
        </div>
      );
    case 'angle':
      return (
        <div {...hand}>
          <AngleField
            label={spec.label}
            hint={spec.hint}
            valueDeg={Number(value)}
            minDeg={held?.min ?? spec.minDeg}
            maxDeg={held?.max ?? spec.maxDeg}
            minReason={inUnit(held?.minReason ?? '')}
            maxReason={inUnit(held?.maxReason ?? '')}
            onCommit={commit}
          />
        </div>
      );
    case 'stock':
      return (
        <Select
          className="wide"
          label={spec.label}
          title={spec.hint}
          value={String(value ?? '')}
          allowDeselect={false}
          data={[
            { value: '', label: 'As the mechanism' },
            ...choicesOf('stocks', studio, shown).map((stock) => ({ value: stock.id, label: stock.name })),
          ]}
          onChange={(next) =>
            next !== null &&
            edit(
              `${instance.name}: ${spec.label.toLowerCase()}`,
              choosing(shown, studio, 'stocks', next, withValue(next)),
            )
          }
        />
      );
    case 'choice':
      return (
        <div className="wide" title={spec.hint}>
          <span className="field-label" id={`${instance.id}-${spec.key}`}>
            {spec.label}
          </span>
          <SegmentedControl
            fullWidth
            aria-labelledby={`${instance.id}-${spec.key}`}
            value={String(value)}
            onChange={commit}
            data={[...spec.choices]}
          />
        </div>
      );
    case 'count':
      return (
        <CountField
          label={spec.label}
          hint={spec.hint}
          value={Number(value)}
          min={spec.min}
          max={spec.max}
          onCommit={commit}
        />
      );
    case 'text':
      return (
        <TextField
          label={spec.label}
          hint={spec.hint}
          maxLength={spec.maxLength}
          value={String(value)}
          mayBeEmpty
          onCommit={commit}
        />
      );
    case 'flag':
      return (
        <Switch
          className="wide"
          label={spec.label}
          title={spec.hint}
          checked={value === true}
          onChange={(event) => commit(event.currentTarget.checked)}
        />
      );
  }
}

const TURNS = [
  { value: '0', label: 'Upright' },
  { value: '90', label: 'A quarter to the left' },
  { value: '180', label: 'Upside down' },
  { value: '270', label: 'A quarter to the right' },
];

/** How a mechanism stands on another place: its usual measures there, turned as usual. */
function standing(family: Family, host: Gutter, now: Instance): Instance {
  const { params, turnDeg } = newInstance(family, host, 'm');
  const { mount: _mount, turnDeg: _turn, ...rest } = now;
  const at = { partId: host.partId, gutterId: host.lineId };
  // What stands by itself keeps its measures wherever it is glued.
  return family.on === 'table'
    ? { ...rest, host: at }
    : { ...rest, host: at, params, ...(turnDeg === undefined ? {} : { turnDeg }) };
}

/** Everything about one mechanism: its measures with their limits, its stock, and what the card allows. */
export function InstanceParticulars({ instance }: { instance: Instance }) {
  const { inUnit } = useLengths();
  const shown = useJob((s) => s.calm);
  const { store: studio } = useStudioStore();
  const openingDeg = useJob((s) => s.openingDeg);
  const { edit, select } = useJob.getState();
  const family = familyById(instance.family);
  const put = (label: string, value: Instance | null) =>
    edit(label, { do: 'put', in: 'instances', id: instance.id, value });
  if (!family)
    return (
      <section>
        <h2>{instance.name}</h2>
        <p>This version has no mechanism called “{instance.family}”. It is kept as it is.</p>
      </section>
    );
  const takeOff = (
    <Button
      mt="md"
      variant="default"
      leftSection={<IconTrash size={15} />}
      onClick={() => {
        put(`Remove ${instance.name}`, null);
        select(null);
      }}
    >
      {shown.base.kind === 'card' && family.on !== 'table' ? 'Take it off the card' : 'Take it away'}
    </Button>
  );
  const gutter = gutterOf(shown, instance);
  if (!gutter)
    return (
      <section>
        <h2>{instance.name}</h2>
        <p className="wrong">{nowhere(family)}</p>
        {takeOff}
      </section>
    );
  const { gutters } = expand(shown);
  const parts = ownParts(shown, instance);
  const margin = shown.settings.reachMarginMm;
  const { fits } = storeWith(shown.store);
  const broken = family.constraints(instance.params, gutter, margin, fits).filter((c) => c.overMm > 1e-6);
  const reasons = [...new Set(broken.map((c) => c.reason))];
  return (
    <>
      <section>
        <h2>{instance.name}</h2>
        <div className="fields">
          {(gutter.kind !== 'table' || shown.base.kind !== 'structure') && (
            <Select
              className="wide"
              label="Stands on"
              value={`${gutter.partId}|${gutter.lineId}`}
              data={standsFor(shown, instance, gutters).map((g) => ({
                value: `${g.partId}|${g.lineId}`,
                label: g.name,
              }))}
              onChange={(value) => {
                const next = gutters.find((g) => `${g.partId}|${g.lineId}` === value);
                // Its measures follow the new fold: what fitted the old one rarely fits this one.
                if (next)
                  edit(
                    'Stand on another place',
                    standingOn(shown, next, {
                      do: 'put',
                      in: 'instances',
                      id: instance.id,
                      value: standing(family, next, instance),
                    }),
                  );
              }}
            />
          )}
          {gutter.kind === 'panel' && (
            <Select
              className="wide"
              label="Turned"
              title="To the left; upright is as the reader sees the open card."
              value={String(instance.turnDeg ?? 0)}
              allowDeselect={false}
              data={TURNS}
              onChange={(value) => {
                const turnDeg = Number(value) as Quarters;
                const { host } = instance;
                const place = gutters.find((g) => g.partId === host.partId && g.lineId === host.gutterId);
                if (!place || value === null) return;
                const turned = turnedGutter(place, turnDeg);
                const suits =
                  family.on === 'table' ||
                  family
                    .constraints(instance.params, turned, margin, fits)
                    .every(({ overMm }) => overMm <= 1e-6);
                put('Turn it', {
                  ...instance,
                  turnDeg,
                  // Measures that do not fit the turned panel follow it.
                  params: suits ? instance.params : { ...family.defaults(turned) },
                });
              }}
            />
          )}
          {family.specs
            .filter((spec) => !spec.shown || spec.shown(instance.params, gutter))
            .map((spec) => (
              <ParamField
                key={`${instance.id}-${spec.key}`}
                instance={instance}
                spec={spec}
                gutter={gutter}
              />
            ))}
        </div>
        {reasons.length > 0 && (
          <ul className="reasons wrong" aria-label="What does not fit">
            {reasons.map((reason) => (
              <li key={reason}>{inUnit(reason)}</li>
            ))}
          </ul>
        )}
      </section>
      <Suspense fallback={null}>
        {family.on === 'table' && gutter.kind === 'panel' && (
          <MountSection instance={instance} gutter={gutter} parts={parts} />
        )}
        <LayPiece key={instance.id} partIds={parts.map(({ id }) => id)} />
      </Suspense>
      {gutter.kind === 'table' && canBePlain(shown, instance) && (
        <section>
          <Button
            variant="default"
            onClick={() => {
              const { design } = useJob.getState();
              const layout = boardLayout(expand(design), design.board);
              const { command, partId } = madePlain(design, instance, (id) => {
                const laid = layout.find(({ part }) => part.id === id);
                return laid && { x: laid.offset[0], y: laid.offset[1] };
              });
              edit(`Make ${instance.name} plain`, command);
              select({ kind: 'part', id: partId });
            }}
          >
            Make it plain
          </Button>
          <p className="quiet">
            Ordinary parts from then on: every line can be changed, its measures no more.
          </p>
        </section>
      )}
      {parts.length > 0 && (
        <section>
          <h3>Its parts</h3>
          <ul className="plain-list">
            {parts.map(({ id, name }) => (
              <li key={id}>
                <UnstyledButton className="row-button" onClick={() => select({ kind: 'part', id })}>
                  {name} <span className="quiet">draw on it, cut words out of it</span>
                </UnstyledButton>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section>
        <h3>{family.on === 'table' ? 'What follows' : 'What the card allows'}</h3>
        {saidOf(
          () => [
            ...(family.atOpening?.(instance.params, openingDeg) ?? []),
            ...family.advice(
              instance.params,
              gutter,
              margin,
              fits,
              stockIn(storeWith(shown.store), instance.stockId),
            ),
          ],
          [],
        ).map((sentence) => (
          <p key={sentence} className="quiet">
            {inUnit(sentence)}
          </p>
        ))}
        <Switch
          label={family.on === 'table' ? 'Let it go beyond its limits' : 'Let it go beyond the card'}
          description="Handles and fields are no longer held to the limits."
          checked={instance.beyondLimits}
          onChange={(event) =>
            put(event.currentTarget.checked ? 'Allow beyond the card' : 'Hold to the card', {
              ...instance,
              beyondLimits: event.currentTarget.checked,
            })
          }
        />
      </section>
      <section>
        <div className="fields">
          <TextField
            label="Name"
            value={instance.name}
            maxLength={120}
            onCommit={(name) => put('Rename mechanism', { ...instance, name })}
          />
          <Select
            className="wide"
            label="Stock"
            value={instance.stockId}
            data={choicesOf('stocks', studio, shown).map((stock) => ({ value: stock.id, label: stock.name }))}
            onChange={(stockId) =>
              stockId &&
              edit(
                'Change stock',
                choosing(shown, studio, 'stocks', stockId, {
                  do: 'put',
                  in: 'instances',
                  id: instance.id,
                  value: { ...instance, stockId },
                }),
              )
            }
          />
        </div>
        {takeOff}
        <LockSwitch selection={{ kind: 'instance', id: instance.id }} />
      </section>
    </>
  );
}
