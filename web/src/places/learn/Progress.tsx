import { GROUPS, type Group } from '@hollow-finch/core/practice/terms';
import { LineChart } from 'echarts/charts';
import { LegendComponent } from 'echarts/components';
import { use as withModules } from 'echarts/core';
import { DataTable, type DataTableSortStatus } from 'mantine-datatable';
import { useCallback, useMemo, useState } from 'react';
import type { Round } from '../../shared/records.ts';
import { bySort } from '../../shared/sorting.ts';
import { useChart } from '../../shared/useChart.ts';
import { scoresOf, type ScoreRow } from './scores.ts';
import 'mantine-datatable/styles.css';

withModules([LineChart, LegendComponent]);

const OTHERS: Readonly<Record<string, string>> = {
  comet: 'Comet Draft',
  closed: 'Where it lies',
  sheets: 'How many sheets',
};
const nameOf = (group: string): string => GROUPS[group as Group]?.title ?? OTHERS[group] ?? group;
const SYMBOLS = ['circle', 'rect', 'triangle', 'diamond', 'pin', 'arrow', 'roundRect', 'emptyCircle'];

/** How practice goes: the score of each group over time, and in figures. */
export default function Progress({ rounds }: { rounds: readonly Round[] }) {
  const [sort, setSort] = useState<DataTableSortStatus<ScoreRow>>({
    columnAccessor: 'name',
    direction: 'asc',
  });
  const scores = useMemo(() => scoresOf(rounds, nameOf), [rounds]);
  const option = useCallback(
    (ink: string) => ({
      grid: { left: 44, right: 16, top: 40, bottom: 30 },
      legend: { textStyle: { color: ink } },
      tooltip: { trigger: 'item' },
      xAxis: { type: 'value', minInterval: 1, name: 'round', axisLabel: { color: ink } },
      yAxis: { type: 'value', max: 100, axisLabel: { color: ink, formatter: '{value} %' } },
      series: scores.map(({ name, course }, i) => ({
        name,
        type: 'line',
        symbol: SYMBOLS[i % SYMBOLS.length],
        symbolSize: 8,
        data: course.map((share, k) => [k + 1, Math.round(100 * share)]),
      })),
    }),
    [scores],
  );
  const told = `Score by group: ${scores.map(({ name, percent }) => `${name} ${percent} %`).join(', ') || 'no rounds yet'}`;
  const box = useChart(option, told);
  return (
    <section aria-label="How it goes">
      {rounds.length === 0 && <p className="quiet">No rounds yet: find a fault first.</p>}
      <div ref={box} className="score-chart" role="img" aria-label={told} hidden={rounds.length === 0} />
      <DataTable
        records={[...scores].sort(bySort(sort))}
        idAccessor="name"
        minHeight={90}
        noRecordsText="Nothing practised yet."
        sortStatus={sort}
        onSortStatusChange={setSort}
        columns={[
          { accessor: 'name', title: 'Group', sortable: true },
          { accessor: 'rounds', title: 'Rounds', sortable: true, textAlign: 'right' },
          { accessor: 'percent', title: 'Right, %', sortable: true, textAlign: 'right' },
          { accessor: 'lately', title: 'Last five, %', sortable: true, textAlign: 'right' },
          { accessor: 'wrong', title: 'Wrongly accused', sortable: true, textAlign: 'right' },
        ]}
      />
    </section>
  );
}
