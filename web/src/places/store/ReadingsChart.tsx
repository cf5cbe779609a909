import { LineChart } from 'echarts/charts';
import { AriaComponent, GridComponent, TooltipComponent } from 'echarts/components';
import { init, use as withModules } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

withModules([LineChart, AriaComponent, GridComponent, TooltipComponent, SVGRenderer]);

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
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const style = getComputedStyle(box.current);
    const ink = style.color;
    const chart = init(box.current, null, { renderer: 'svg' });
    chart.setOption({
      animation: false,
      aria: {
        enabled: true,
        label: {
          description: `${title}: ${readings.map(({ date, value }) => `${date} ${value} ${unit}`).join(', ')}`,
        },
      },
      textStyle: { fontFamily: style.fontFamily, color: ink },
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
    });
    const resize = () => chart.resize();
    window.addEventListener('resize', resize);
    return () => {
      window.removeEventListener('resize', resize);
      chart.dispose();
    };
  }, [title, readings, unit]);
  return <div ref={box} className="readings-chart" role="img" aria-label={title} />;
}
