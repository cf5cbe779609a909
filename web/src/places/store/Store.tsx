import type { StoreKind } from '@hollow-finch/core/stock/store';
import { ITEM_SCHEMAS } from '@hollow-finch/core/stock/storeSchema';
import { CARDS, PAPERS } from '@hollow-finch/core/stock/reference';
import {
  ActionIcon,
  Alert,
  Button,
  FileButton,
  Tabs,
  TextInput,
  Tooltip,
  UnstyledButton,
  VisuallyHidden,
} from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { DataTable, type DataTableColumn, type DataTableSortStatus } from 'mantine-datatable';
import { Suspense, useEffect, useMemo, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { download } from '../../shared/download.ts';
import { IconDownload, IconPlus, IconSearch, IconTrash } from '../../shared/icons.ts';
import { bySort } from '../../shared/sorting.ts';
import { fetchStore, useStudioStore } from '../../shared/store/studioStore.ts';
import { PageHead } from '../../shared/PageHead.tsx';
import { toldAway } from '../../shared/toldAway.tsx';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import { csvOf, itemsFromCsv } from './csv.ts';
import { ItemDialog } from './ItemDialog.tsx';
import { isSeenLength, KINDS, kindOf, type FieldSpec, type Item } from './kinds.ts';
import 'mantine-datatable/styles.css';
import './store.css';

/** Fetched when readings are looked at: its chart is large. */
const CouponsPanel = later(() => import('./CouponsPanel.tsx'));

const MOST_BYTES = 2_000_000;

/** What a cell shows of a field. */
function Cell({ field, item }: { field: FieldSpec; item: Item }) {
  const { say, sayFine } = useLengths();
  const { store } = useStudioStore();
  const { [field.key]: value, coupon } = item as unknown as Record<string, unknown>;
  if (value === undefined)
    return <span className="quiet">{field.kind === 'number' ? 'not said' : 'none'}</span>;
  switch (field.kind) {
    case 'length':
      // Thickness is told to the hundredth of a millimetre, in either unit.
      return (
        <span className="figure">
          {field.key === 'thicknessMm' ? `${Number(value).toFixed(2)} mm` : say(Number(value))}
        </span>
      );
    case 'seen':
      return (
        <span className="figure">
          {isSeenLength(coupon) ? sayFine(Number(value)) : `no. ${String(value)}`}
        </span>
      );
    case 'pair':
      return <span className="figure">{(value as number[]).map(say).join(' × ')}</span>;
    case 'stock':
    case 'machine':
      return (
        <>{store[field.kind === 'stock' ? 'stocks' : 'machines'][String(value)]?.name ?? String(value)}</>
      );
    case 'yes':
      return value ? 'yes' : 'no';
    case 'colour':
      return (
        <span className="store-colour">
          <span className="store-swatch" style={{ background: String(value) }} aria-hidden="true" />
          {String(value)}
        </span>
      );
    default:
      return <span className={field.kind === 'number' ? 'figure' : undefined}>{String(value)}</span>;
  }
}

/** Things from a JSON file: the whole store, or one kind of it as a list or by id. */
function itemsFromJson(kind: StoreKind, text: string): { kind: StoreKind; item: Item }[] {
  let document: unknown;
  try {
    document = JSON.parse(text);
  } catch {
    throw new Error(
      'This is not JSON: the text ends or breaks off in the middle. Choose a file that was saved here.',
    );
  }
  const listed = (of: StoreKind, things: unknown) =>
    Object.values((things ?? {}) as Record<string, unknown>).map((thing, i) => {
      const checked = ITEM_SCHEMAS[of].safeParse(thing);
      if (checked.success) return { kind: of, item: checked.data as Item };
      const [issue] = checked.error.issues;
      throw new Error(
        `${kindOf(of).title}, entry ${i + 1}, “${issue.path.join(' > ')}”: ${issue.message}. Put that right in the file and try again.`,
      );
    });
  if (typeof document === 'object' && document !== null && KINDS.some((each) => each.kind in document))
    return KINDS.flatMap((each) => listed(each.kind, (document as Record<string, unknown>)[each.kind]));
  return listed(kind, document);
}

/** The store: stocks, envelopes, machines, hardware and adhesives, to view, add, change, bring in and save as files. */
export function StorePlace() {
  const { store, known } = useStudioStore();
  const { say } = useLengths();
  const [kind, setKind] = useState<StoreKind>('stocks');
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState<DataTableSortStatus<Item>>({ columnAccessor: 'name', direction: 'asc' });
  const [changing, setChanging] = useState<{ item: Item | null } | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const spec = kindOf(kind);
  useEffect(() => void fetchStore(), []);
  const items = useMemo(() => Object.values(store[kind]) as Item[], [store, kind]);
  const rows = useMemo(() => {
    const words = search.toLowerCase();
    return items
      .filter((item) => JSON.stringify(Object.values(item)).toLowerCase().includes(words))
      .sort(bySort(sort));
  }, [items, search, sort]);
  const put = async (list: readonly { kind: StoreKind; item: Item }[]) => {
    await api.putInStore(list);
    await fetchStore();
  };
  const remove = async (item: Item) => {
    try {
      await api.takeOutOfStore(kind, item.id);
      await fetchStore();
      toldAway(`${item.name} was taken out of the store.`, () => put([{ kind, item }]));
    } catch (fault) {
      setFailure(saidOf(fault));
    }
  };
  const bringIn = async (file: File) => {
    setFailure(null);
    try {
      if (file.size > MOST_BYTES)
        throw new Error(`${file.name} is larger than 2 MB: it is no file of a store.`);
      const text = await file.text();
      let list: { kind: StoreKind; item: Item }[];
      if (/\.csv$/i.test(file.name)) {
        const read = itemsFromCsv(kind, text, store[kind]);
        if (!read.ok) throw new Error(`${file.name}: ${read.message}`);
        list = read.items.map((item) => ({ kind, item }));
      } else list = itemsFromJson(kind, text);
      if (list.length === 0) throw new Error(`There is nothing in ${file.name}.`);
      await put(list);
      notifications.show({ message: `Brought in: ${list.length} from ${file.name}.`, color: 'juniper' });
    } catch (fault) {
      setFailure(saidOf(fault));
    }
  };
  const columns: DataTableColumn<Item>[] = [
    ...spec.fields
      .filter(({ column }) => column)
      .map((field): DataTableColumn<Item> => ({
        accessor: field.key,
        title: field.label,
        sortable: true,
        render: (item) =>
          field.key === 'name' ? (
            <UnstyledButton
              className="row-button"
              aria-label={`Change ${item.name}`}
              onClick={() => setChanging({ item })}
            >
              {item.name}
            </UnstyledButton>
          ) : (
            <Cell field={field} item={item} />
          ),
      })),
    ...(spec.fixed
      ? []
      : [
          {
            accessor: 'out',
            title: <VisuallyHidden>Take out</VisuallyHidden>,
            width: 46,
            render: (item: Item) => (
              <Tooltip label={`Take ${item.name} out of the store`}>
                <ActionIcon
                  variant="default"
                  aria-label={`Take ${item.name} out of the store`}
                  onClick={() => void remove(item)}
                >
                  <IconTrash size={15} />
                </ActionIcon>
              </Tooltip>
            ),
          },
        ]),
  ];
  return (
    <main className="shelf">
      <PageHead title="Store" />
      <div className="shelf-body">
        <Tabs value={kind} onChange={(next) => next && setKind(next as StoreKind)} keepMounted={false}>
          <Tabs.List>
            {KINDS.map((each) => (
              <Tabs.Tab key={each.kind} value={each.kind}>
                {each.title} <span className="quiet figure">{Object.keys(store[each.kind]).length}</span>
              </Tabs.Tab>
            ))}
          </Tabs.List>
          <Tabs.Panel value={kind} pt="md">
            <div className="shelf-begin">
              {!spec.fixed && (
                <Button leftSection={<IconPlus size={16} />} onClick={() => setChanging({ item: null })}>
                  New {spec.one}
                </Button>
              )}
              <FileButton
                accept=".csv,.json,text/csv,application/json"
                onChange={(file) => file && void bringIn(file)}
              >
                {(props) => (
                  <Button variant="default" {...props}>
                    Bring in CSV or JSON
                  </Button>
                )}
              </FileButton>
              <Button
                variant="default"
                leftSection={<IconDownload size={15} />}
                onClick={() => download(`${kind}.csv`, csvOf(kind, items), 'text/csv')}
              >
                Save as CSV
              </Button>
              <Button
                variant="default"
                leftSection={<IconDownload size={15} />}
                onClick={() => download('store.json', JSON.stringify(store, null, 2), 'application/json')}
              >
                Save the whole store
              </Button>
              <span className="grow" />
              <TextInput
                aria-label="Search the store"
                placeholder="Search"
                leftSection={<IconSearch size={15} />}
                value={search}
                onChange={(event) => setSearch(event.currentTarget.value)}
              />
            </div>
            {kind === 'readings' && (
              <Suspense fallback={null}>
                <CouponsPanel store={store} onRead={(item) => put([{ kind: 'readings', item }])} />
              </Suspense>
            )}
            {!known && (
              <Alert color="persimmon" title="The studio’s own store is not known">
                What ships with the application is shown.{' '}
                <Button size="compact-xs" variant="default" onClick={() => void fetchStore()}>
                  Try again
                </Button>
              </Alert>
            )}
            {failure && (
              <Alert
                color="persimmon"
                role="alert"
                title={failure}
                withCloseButton
                onClose={() => setFailure(null)}
              />
            )}
            <DataTable
              className="store-table"
              records={rows}
              idAccessor="id"
              minHeight={160}
              noRecordsText={
                search
                  ? 'Nothing matches.'
                  : `No ${spec.title.toLowerCase()} yet: add one, or bring in a file.`
              }
              sortStatus={sort}
              onSortStatusChange={setSort}
              columns={columns}
            />
          </Tabs.Panel>
        </Tabs>
        <section className="store-reference">
          <h2>Usual sizes</h2>
          <div className="store-series">
            {(['ISO', 'North American'] as const).map((series) => (
              <section key={series}>
                <h3>{series}</h3>
                <ul className="plain-list">
                  {[...PAPERS, ...CARDS]
                    .filter((size) => size.series === series)
                    .map((size) => (
                      <li key={size.id}>
                        {size.id.startsWith('card-') ? 'Card' : 'Sheet'} {size.name}{' '}
                        <span className="quiet figure">
                          {say(size.widthMm)} × {say(size.heightMm)}
                        </span>
                      </li>
                    ))}
                </ul>
              </section>
            ))}
          </div>
        </section>
      </div>
      {changing && (
        <ItemDialog
          spec={spec}
          item={changing.item}
          taken={store[kind]}
          onSave={(item) => put([{ kind, item }])}
          onClose={() => setChanging(null)}
        />
      )}
    </main>
  );
}
