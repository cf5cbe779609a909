import type { Schedule } from '@hollow-finch/core/assembly/schedule';
import { minutesWords } from '@hollow-finch/core/assembly/minutes';
import type { CustomSeriesRenderItemAPI, CustomSeriesRenderItemParams } from 'echarts';
import { CustomChart } from 'echarts/charts';
import { use as withModules } from 'echarts/core';
import { useCallback } from 'react';
import { useChart } from '../../shared/useChart.ts';
import { MOST_SHOWN } from './mostShown.ts';

withModules([CustomChart]);

/** Who does which step of which kit when, as bars; drying as thin bars behind the work. */
export default function ScheduleChart({
  plan,
  people,
  words,
}: {
  plan: Schedule;
  people: number;
  words: ReadonlyMap<string, string>;
}) {
  const option = useCallback(
    (ink: string) => {
      const shown = plan.tasks.slice(0, MOST_SHOWN);
      const names = Array.from({ length: people }, (_, i) => `Person ${i + 1}`);
      const bar =
        (share: number, fill: string) =>
        (_params: CustomSeriesRenderItemParams, at: CustomSeriesRenderItemAPI) => {
          const [x, y] = at.coord([at.value(1), at.value(0)]);
          const [right] = at.coord([at.value(2), at.value(0)]);
          const high = (at.size!([0, 1]) as number[])[1] * share;
          return {
            type: 'rect' as const,
            shape: { x, y: y - high / 2, width: Math.max(1, right - x - 0.5), height: high },
            style: { fill },
          };
        };
      return {
        grid: { left: 70, right: 16, top: 10, bottom: 40 },
        tooltip: {
          formatter: (given: unknown) => {
            const task = shown[(given as { dataIndex: number }).dataIndex];
            return `Kit ${task.kit + 1}, ${minutesWords(task.startMin)} to ${minutesWords(task.endMin)}<br>${(words.get(task.stepId) ?? '').slice(0, 80)}`;
          },
        },
        xAxis: {
          type: 'value',
          name: 'minutes',
          nameLocation: 'middle',
          nameGap: 26,
          max: Math.ceil(Math.max(...shown.map(({ dryMin }) => dryMin))),
          axisLabel: { color: ink },
        },
        yAxis: { type: 'category', inverse: true, data: names, axisLabel: { color: ink } },
        series: [
          {
            type: 'custom',
            renderItem: bar(0.9, 'rgb(140 130 110 / 25%)'),
            encode: { x: [1, 2], y: 0 },
            data: shown.map(({ person, endMin, dryMin }) => [person, endMin, dryMin]),
          },
          {
            type: 'custom',
            renderItem: (params: CustomSeriesRenderItemParams, at: CustomSeriesRenderItemAPI) =>
              bar(0.6, shown[params.dataIndex].kit % 2 === 0 ? '#2f6b57' : '#86a99a')(params, at),
            encode: { x: [1, 2], y: 0 },
            data: shown.map(({ person, startMin, endMin }) => [person, startMin, endMin]),
          },
        ],
      };
    },
    [plan, people, words],
  );
  const told = `Schedule of ${plan.tasks.length} steps by ${people === 1 ? 'one person' : `${people} people`}, ${minutesWords(plan.totalMin)}`;
  const box = useChart(option, told);
  return (
    <div
      ref={box}
      className="schedule-chart"
      style={{ height: 90 + 46 * people }}
      role="img"
      aria-label={told}
    />
  );
}
