/** The studio's store on the page: fetched once, and again when it was changed; until it is there, what ships. */
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design } from '@hollow-finch/core/design/design';
import {
  USUAL_STORE,
  type KeptStore,
  type Store,
  type StoreItems,
  type StoreKind,
} from '@hollow-finch/core/stock/store';
import { useEffect } from 'react';
import { create } from 'zustand';
import { api } from '../api.ts';

const useStudio = create<{ readonly store: Store | null; readonly failure: boolean }>(() => ({
  store: null,
  failure: false,
}));

let asking: Promise<void> | null = null;

/** Fetches the store; what cannot be fetched is what ships. */
export function fetchStore(): Promise<void> {
  asking ??= api
    .store()
    .then(
      (store) => useStudio.setState({ store, failure: false }),
      () => useStudio.setState({ failure: true }),
    )
    .finally(() => (asking = null));
  return asking;
}

/** The studio's store, and whether it is known. */
export function useStudioStore(): { readonly store: Store; readonly known: boolean } {
  const store = useStudio((s) => s.store);
  useEffect(() => {
    if (!useStudio.getState().store && !useStudio.getState().failure) void fetchStore();
  }, []);
  return { store: store ?? USUAL_STORE, known: store !== null };
}

/**
 * What can be chosen of a kind for a design: the studio's things, and those that the design has of its own.
 *
 * @returns in the order of the store, what is only the design's last
 */
export function choicesOf<K extends StoreKind>(
  kind: K,
  studio: Store,
  design: Pick<Design, 'store'>,
): StoreItems[K][] {
  const kept = (design.store as KeptStore)[kind] as Readonly<Record<string, StoreItems[K]>> | undefined;
  const items = studio[kind] as Readonly<Record<string, StoreItems[K]>>;
  return Object.values({ ...kept, ...items } as Record<string, StoreItems[K]>);
}

/** A design's own copy of the store with a thing in it as the studio has it: left out where it is as it ships. */
function keeping(store: Design['store'], kind: StoreKind, item: StoreItems[StoreKind]): Design['store'] {
  const usual = USUAL_STORE[kind][item.id] as unknown;
  const { [item.id]: _before, ...others } = (store[kind] ?? {}) as Record<string, unknown>;
  const asShipped = JSON.stringify(usual) === JSON.stringify(item);
  return { ...store, [kind]: asShipped ? others : { ...others, [item.id]: item } } as Design['store'];
}

/** A command that chooses a thing of the store, and keeps the thing with the design where that is needed. */
export function choosing(
  design: Design,
  studio: Store,
  kind: StoreKind,
  id: string | null,
  command: Command,
): Command {
  const item = id === null ? undefined : (studio[kind][id] as StoreItems[StoreKind] | undefined);
  if (!item) return command;
  const store = keeping(design.store, kind, item);
  return JSON.stringify(store) === JSON.stringify(design.store)
    ? command
    : { do: 'all', commands: [{ do: 'store', value: store }, command] };
}

/** Takes over a thing as the studio has it now. */
export const takingOver = (design: Design, kind: StoreKind, item: StoreItems[StoreKind]): Command => ({
  do: 'store',
  value: keeping(design.store, kind, item),
});

/** Everything of the store that a design uses, by kind. */
export function usesOf(design: Design): Partial<Record<StoreKind, string[]>> {
  const stocks = new Set([
    ...(design.base.kind === 'structure' ? [] : [design.settings.cardStockId]),
    ...Object.values(design.parts).map(({ stockId }) => stockId),
    ...Object.values(design.instances).map(({ stockId }) => stockId),
  ]);
  return {
    stocks: [...stocks],
    fits: Object.keys(design.instances).length > 0 ? ['loose', 'close'] : [],
    envelopes: design.brief.envelopeId === null ? [] : [design.brief.envelopeId],
    machines: [design.settings.machineId],
    profiles: [design.settings.profileId],
    hardware: [
      ...new Set([
        ...design.brief.extras.map(({ hardwareId }) => hardwareId),
        ...Object.values(design.joints).flatMap((joint) =>
          joint.kind === 'pivot' && joint.hardwareId !== undefined
            ? [joint.hardwareId]
            : joint.kind === 'glue' && joint.pad
              ? [joint.pad.hardwareId]
              : [],
        ),
      ]),
    ],
    adhesives: [
      ...new Set(
        Object.values(design.parts).flatMap(({ glueZones }) =>
          Object.values(glueZones).flatMap(({ adhesiveId }) => adhesiveId ?? []),
        ),
      ),
    ],
  };
}
