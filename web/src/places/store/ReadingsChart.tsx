import { LineChart } from 'echarts/charts';
import { use as withModules } from 'echarts/core';
import { useCallback } from 'react';
import { useChart } from '../../shared/useChart.ts';

withModules([LineChart]);

/** What was read of one thing over time, as a line. */
export default function ReadingsChart({
  title,
  readings,
  unit,
}: {
  title: string;
  readings: readonly { readonly date: string; readonly value: number }[];
  unit: string;
}) {
  const option = useCallback(
    (ink: string) => ({
      grid: { left: 56, right: 16, top: 24, bottom: 32 },
      tooltip: { trigger: 'axis' },
      xAxis: { type: 'category', data: readings.map(({ date }) => date), axisLabel: { color: ink } },
      yAxis: {
        type: 'value',
        name: unit,
        scale: true,
        axisLabel: { color: ink },
        nameTextStyle: { color: ink },
      },
      series: [
        {
          type: 'line',
          data: readings.map(({ value }) => value),
          symbolSize: 8,
          lineStyle: { color: '#2f6b57' },
          itemStyle: { color: '#2f6b57' },
        },
      ],
    }),
    [readings, unit],
  );
  const box = useChart(
    option,
    `${title}: ${readings.map(({ date, value }) => `${date} ${value} ${unit}`).join(', ')}`,
  );
  return <div ref={box} className="readings-chart" role="img" aria-label={title} />;
}
