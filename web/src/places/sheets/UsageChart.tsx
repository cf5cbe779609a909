import { BarChart } from 'echarts/charts';
import { use as withModules } from 'echarts/core';
import { useCallback } from 'react';
import { useChart } from '../../shared/useChart.ts';

withModules([BarChart]);

/** How much of each sheet becomes parts, per cent, as bars. */
export default function UsageChart({ sheets }: { sheets: readonly { name: string; percent: number }[] }) {
  const option = useCallback(
    (ink: string) => {
      const bar = (name: string, data: number[], color: string) => ({
        name,
        type: 'bar' as const,
        stack: 'use',
        data,
        itemStyle: { color },
        barMaxWidth: 26,
      });
      return {
        grid: { left: 34, right: 8, top: 12, bottom: 24 },
        tooltip: { trigger: 'axis', valueFormatter: (value: unknown) => `${Number(value).toFixed(1)} %` },
        xAxis: { type: 'category', data: sheets.map(({ name }) => name), axisLabel: { color: ink } },
        yAxis: { type: 'value', max: 100, axisLabel: { color: ink, formatter: '{value} %' } },
        series: [
          bar(
            'becomes parts',
            sheets.map(({ percent }) => percent),
            '#2f6b57',
          ),
          bar(
            'left over',
            sheets.map(({ percent }) => 100 - percent),
            '#d9d2c3',
          ),
        ],
      };
    },
    [sheets],
  );
  const told = `Use of each sheet: ${sheets.map(({ name, percent }) => `${name} ${percent.toFixed(1)} %`).join(', ')}`;
  const box = useChart(option, told);
  return <div ref={box} className="usage-chart" role="img" aria-label={told} />;
}
