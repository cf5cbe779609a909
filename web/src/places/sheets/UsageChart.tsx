import { BarChart } from 'echarts/charts';
import { AriaComponent, GridComponent, TooltipComponent } from 'echarts/components';
import { init, use as withModules } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

withModules([BarChart, AriaComponent, GridComponent, TooltipComponent, SVGRenderer]);

/** How much of each sheet becomes parts, per cent, as bars. */
export default function UsageChart({ sheets }: { sheets: readonly { name: string; percent: number }[] }) {
  const box = useRef<HTMLDivElement>(null);
  const told = sheets.map(({ name, percent }) => `${name} ${percent.toFixed(1)} %`).join(', ');
  useEffect(() => {
    if (!box.current) return;
    const style = getComputedStyle(box.current);
    const chart = init(box.current, null, { renderer: 'svg' });
    const bar = (name: string, data: number[], color: string) => ({
      name,
      type: 'bar' as const,
      stack: 'use',
      data,
      itemStyle: { color },
      barMaxWidth: 26,
    });
    chart.setOption({
      animation: false,
      aria: { enabled: true, label: { description: `Use of each sheet: ${told}` } },
      textStyle: { fontFamily: style.fontFamily, color: style.color },
      grid: { left: 34, right: 8, top: 12, bottom: 24 },
      tooltip: { trigger: 'axis', valueFormatter: (value: unknown) => `${Number(value).toFixed(1)} %` },
      xAxis: { type: 'category', data: sheets.map(({ name }) => name), axisLabel: { color: style.color } },
      yAxis: { type: 'value', max: 100, axisLabel: { color: style.color, formatter: '{value} %' } },
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
    });
    const resize = () => chart.resize();
    window.addEventListener('resize', resize);
    return () => {
      window.removeEventListener('resize', resize);
      chart.dispose();
    };
  }, [sheets, told]);
  return <div ref={box} className="usage-chart" role="img" aria-label={`Use of each sheet: ${told}`} />;
}
