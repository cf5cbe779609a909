/** Charts drawn as SVG in the colours and letters of the page, as wide as their box. */
import { AriaComponent, GridComponent, TooltipComponent } from 'echarts/components';
import { init, use as withModules, type EChartsCoreOption } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef, type RefObject } from 'react';

withModules([AriaComponent, GridComponent, TooltipComponent, SVGRenderer]);

/**
 * Draws a chart in a box, anew where it is another one.
 *
 * @param optionOf the chart, given the colour of its letters; kept the same while the chart is
 * @param told what it shows, for those who do not see it
 */
export function useChart(
  optionOf: (ink: string) => EChartsCoreOption,
  told: string,
): RefObject<HTMLDivElement | null> {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const { color, fontFamily } = getComputedStyle(box.current);
    const chart = init(box.current, null, { renderer: 'svg' });
    chart.setOption({
      animation: false,
      aria: { enabled: true, label: { description: told } },
      textStyle: { fontFamily, color },
      ...optionOf(color),
    });
    const resize = () => chart.resize();
    window.addEventListener('resize', resize);
    return () => {
      window.removeEventListener('resize', resize);
      chart.dispose();
    };
  }, [optionOf, told]);
  return box;
}
