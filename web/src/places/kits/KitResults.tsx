import { minutesWords } from '@hollow-finch/core/assembly/minutes';
import type { SheetPaper } from '@hollow-finch/core/assembly/sheetPdf';
import type { Design, SheetPlan } from '@hollow-finch/core/design/design';
import { kitCost, sheetRows, type KitContents, type SheetRow } from '@hollow-finch/core/planning/kits';
import type { Store } from '@hollow-finch/core/stock/store';
import { Button, Loader, Select } from '@mantine/core';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import Papa from 'papaparse';
import { useEffect, useMemo, useRef, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import { download } from '../../shared/download.ts';
import { fileNameOf } from '../../shared/fileName.ts';
import { faultWords } from '../../shared/helper.ts';
import { IconDownload } from '../../shared/icons.ts';
import type { Kit } from '../../shared/records.ts';
import { bySort } from '../../shared/sorting.ts';
import { needWords } from '../../shared/needWords.ts';
import { useLengths } from '../../shared/units.ts';
import { PackingBar } from '../../shared/PackingBar.tsx';
import type { KitFacts } from '../../workers/kits.worker.ts';
import { kitsWorker, packKit, stopKit } from './kitWork.ts';
import 'mantine-datatable/styles.css';

type Row = SheetRow & { readonly id: string };

interface Packed {
  readonly of: Design;
  readonly plan: SheetPlan;
  readonly refused: readonly string[];
  readonly cutS: number;
}

/** What a kit is: from its worker; the last that was known while another is on its way, which can be waited for. */
function useFacts(contents: KitContents, people: number, studio: Store) {
  const [facts, setFacts] = useState<{ readonly of: KitContents; readonly is: KitFacts } | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const asked = useRef<Promise<KitFacts> | null>(null);
  useEffect(() => {
    let left = false;
    asked.current = kitsWorker.api.facts(contents, people, studio);
    asked.current.then(
      (is) => {
        if (left) return;
        setFacts({ of: contents, is });
        setFailure(null);
      },
      (fault: unknown) => !left && setFailure(faultWords(fault)),
    );
    return () => {
      left = true;
    };
  }, [contents, people, studio]);
  return { facts: facts?.is ?? null, stale: facts?.of !== contents, failure, latest: () => asked.current! };
}

/** Sheets, work, cost, what is lacking, post and instructions of a kit. */
export function KitResults({
  kit,
  designs,
  studio,
}: {
  kit: Kit;
  designs: Readonly<Record<string, Design>>;
  studio: Store;
}) {
  const lengths = useLengths();
  const { say, unit } = lengths;
  const { name, copies, items, loose } = kit;
  const contents = useMemo(
    (): KitContents => ({
      name,
      copies,
      items: items.map(({ jobId, pieces }) => ({ design: designs[jobId], pieces })),
      loose,
    }),
    [name, copies, items, loose, designs],
  );
  const { facts, stale, failure, latest } = useFacts(contents, kit.people, studio);
  const [packed, setPacked] = useState<Packed | null>(null);
  const [progress, setProgress] = useState<number | 'waiting' | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [paper, setPaper] = useState<SheetPaper>('leaflet');
  const [busy, setBusy] = useState(false);
  const [sizes, setSizes] = useState<{ readonly of: KitContents; readonly are: readonly string[][] } | null>(
    null,
  );
  const [sort, setSort] = useState<DataTableSortStatus<Row>>({
    columnAccessor: 'stock',
    direction: 'asc',
  });
  if (failure)
    return (
      <p role="alert" className="wrong">
        {failure}
      </p>
    );
  if (!facts) return <Loader size="sm" />;
  const current = packed?.of === facts.design ? packed : null;
  const rows = current ? sheetRows(current.plan, facts.design, studio) : [];
  const cost = current
    ? kitCost(rows, {
        copies,
        cutS: current.cutS,
        handsMin: facts.minutes * copies,
        machinePerHour: kit.machinePerHour,
        handsPerHour: kit.handsPerHour,
      })
    : null;
  const pack = async () => {
    setProgress('waiting');
    setSaid(null);
    try {
      const { design } = await latest();
      setProgress(0);
      const found = await packKit(design, studio, setProgress);
      if (found) setPacked({ of: design, ...found, cutS: await kitsWorker.api.cutS(design, found.plan) });
    } catch (fault) {
      setSaid(faultWords(fault));
    }
    setProgress(null);
  };
  const working = async (work: () => Promise<void>) => {
    setBusy(true);
    setSaid(null);
    try {
      await work();
    } catch (fault) {
      setSaid(saidOf(fault));
    }
    setBusy(false);
  };
  const needs = facts.sums.needs.map((need) => ({
    ...need,
    amount: needWords(need, lengths),
  }));
  const shopping = [
    ['What', 'Needed', 'In store', 'To buy'],
    ...rows.map((row) => [
      `${row.stock}, sheets`,
      String(row.sheets - row.fromOthers),
      row.onHand === null ? 'not counted' : String(row.onHand),
      row.toBuy === null ? 'look' : String(row.toBuy),
    ]),
    ...needs.map(({ name: what, amount }) => [what, amount, 'not counted', 'look']),
  ];
  const suits = facts.classes.find(({ refused }) => refused.length === 0);
  return (
    <div className="kit-results" aria-busy={stale}>
      {said && (
        <p role="alert" className="wrong">
          {said}
        </p>
      )}
      <section aria-label="Sheets">
        <h2>Sheets for {copies}</h2>
        {typeof progress === 'number' ? (
          <PackingBar progress={progress} onStop={stopKit} />
        ) : (
          <Button onClick={() => void pack()} loading={progress === 'waiting'}>
            {current ? 'Pack again' : 'Pack the kit'}
          </Button>
        )}
        {packed && !current && progress === null && (
          <p className="warn">The kit was changed since it was packed: pack it again.</p>
        )}
        {current?.refused.map((words) => (
          <p key={words} className="wrong">
            {words}
          </p>
        ))}
        {rows.length > 0 && (
          <DataTable
            records={rows.map((row): Row => ({ ...row, id: row.stockId })).sort(bySort(sort))}
            idAccessor="id"
            minHeight={80}
            sortStatus={sort}
            onSortStatusChange={setSort}
            columns={[
              {
                accessor: 'stock',
                title: 'Stock',
                sortable: true,
                render: ({ stock, colour }) => (
                  <>
                    <span className="swatch" style={{ background: colour }} aria-hidden="true" /> {stock}
                  </>
                ),
              },
              { accessor: 'sheets', title: 'Sheets', sortable: true, textAlign: 'right' },
              {
                accessor: 'fromOthers',
                title: 'Of offcuts and other sizes',
                sortable: true,
                textAlign: 'right',
              },
              {
                accessor: 'price',
                title: 'Cost',
                sortable: true,
                textAlign: 'right',
                render: ({ price }) => (price === null ? 'not known' : price.toFixed(2)),
              },
              {
                accessor: 'onHand',
                title: 'In store',
                sortable: true,
                textAlign: 'right',
                render: ({ onHand }) => onHand ?? 'not counted',
              },
              {
                accessor: 'toBuy',
                title: 'To buy',
                sortable: true,
                textAlign: 'right',
                render: ({ toBuy }) =>
                  toBuy === null ? '' : <span className={toBuy > 0 ? 'wrong' : ''}>{toBuy}</span>,
              },
            ]}
          />
        )}
      </section>
      <section aria-label="Cost and time">
        <h2>Cost and time</h2>
        <dl className="kit-figures figure">
          <dt>Hands, one kit</dt>
          <dd>{minutesWords(facts.minutes)}</dd>
          <dt>The run, {kit.people === 1 ? 'one person' : `${kit.people} people`}</dt>
          <dd>{'refused' in facts.run ? facts.run.refused : minutesWords(facts.run.totalMin)}</dd>
          <dt>Cutting</dt>
          <dd>{current ? minutesWords(current.cutS / 60) : 'pack it first'}</dd>
          <dt>Cost of one kit</dt>
          <dd data-kit="cost">{cost ? cost.perKit.toFixed(2) : 'pack it first'}</dd>
          <dt>Cost of the run</dt>
          <dd>
            {cost
              ? `${cost.run.toFixed(2)} (paper ${cost.paper.toFixed(2)}, machine ${cost.machine.toFixed(2)}, hands ${cost.hands.toFixed(2)})`
              : 'pack it first'}
          </dd>
        </dl>
        {cost && cost.unknown.length > 0 && (
          <p className="warn">
            The price of {cost.unknown.join(', ')} is not known: the cost is without it. Say it in the store.
          </p>
        )}
      </section>
      <section aria-label="Shopping list">
        <h2>What else is needed</h2>
        {needs.length === 0 ? (
          <p className="quiet">Nothing but paper.</p>
        ) : (
          <ul>
            {needs.map(({ name: what, amount, childSafe }) => (
              <li key={what}>
                {amount} · {what}
                {!childSafe && <span className="warn"> not for children under three</span>}
              </li>
            ))}
          </ul>
        )}
        <Button
          variant="default"
          leftSection={<IconDownload size={15} />}
          onClick={() =>
            download(
              `${fileNameOf(name)}-shopping-list.csv`,
              Papa.unparse(shopping, { escapeFormulae: true, newline: '\r\n' }),
              'text/csv',
            )
          }
        >
          Save the shopping list
        </Button>
      </section>
      <section aria-label="Sizes and post">
        <h2>Sizes and post</h2>
        <ul>
          {facts.items.map(({ name: what, size, envelope, pieces }, i) => (
            <li key={what}>
              {pieces} × {what}
              {size ? `: a card of ${size}` : ': stands by itself'}
              {envelope && (
                <span className={envelope.spareMm < 0 ? 'wrong' : ''}>
                  , envelope {envelope.name},{' '}
                  {envelope.spareMm < 0
                    ? `${say(-envelope.spareMm)} too small`
                    : `${say(envelope.spareMm)} to spare`}
                </span>
              )}
              {size && sizes?.of === contents && (
                <span className="quiet">
                  {' '}
                  Suits {sizes.are[i].length > 0 ? sizes.are[i].join('; ') : 'none of the usual cards'}.
                </span>
              )}
            </li>
          ))}
        </ul>
        <Button
          size="compact-sm"
          variant="default"
          disabled={busy}
          onClick={() =>
            void working(async () => setSizes({ of: contents, are: await kitsWorker.api.sizes(contents) }))
          }
        >
          Which card sizes does it suit?
        </Button>
        <p className="figure">
          One kit weighs {facts.sums.weightG.toFixed(1)} g and is {say(facts.gauge.longMm)} ×{' '}
          {say(facts.gauge.shortMm)} × {say(facts.gauge.thickMm)}, all on each other.{' '}
          {suits ? `It goes as: ${suits.post.name}.` : 'No class of post in the store takes it.'}
        </p>
        <p className="quiet">The classes are made-up examples: ask your own postal service.</p>
      </section>
      <section aria-label="Make it">
        <h2>Make it</h2>
        <div className="kit-make">
          <Select
            label="Paper of the instructions"
            allowDeselect={false}
            value={paper}
            data={[
              { value: 'leaflet', label: 'Leaflet, 105 × 148 mm' },
              { value: 'a4', label: 'A4' },
              { value: 'letter', label: 'Letter' },
            ]}
            onChange={(value) => value && setPaper(value as SheetPaper)}
          />
          <Button
            variant="default"
            disabled={busy || kit.items.length === 0}
            onClick={() =>
              void working(async () =>
                download(
                  `${fileNameOf(name)}-instructions.pdf`,
                  await kitsWorker.api.instructions(contents, paper, unit),
                  'application/pdf',
                ),
              )
            }
          >
            Save the instructions
          </Button>
          <Button
            disabled={busy}
            onClick={() =>
              void working(async () => {
                const { design } = await latest();
                const plan = packed?.of === design ? packed.plan : null;
                const id = await api.create({ ...design, sheetPlan: plan });
                window.location.assign(`/job/${id}/sheets`);
              })
            }
          >
            Make a job of it, to cut
          </Button>
        </div>
      </section>
    </div>
  );
}
