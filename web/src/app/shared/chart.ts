import { afterNextRender, Component, DestroyRef, effect, ElementRef, inject, input, untracked, viewChild } from '@angular/core';
import type { EChartsCoreOption, EChartsType } from 'echarts/core';

export type ChartOption = EChartsCoreOption;

/** Colours of a chart: those of the house, read from the look in force. */
const colours = ['--verdigris', '--copper', '--ochre', '--madder', '--muted', '--edge'];

/** A chart, drawn as SVG so that it can be saved as it is. The drawing code is fetched when the first one is shown. */
@Component({
  selector: 'sieve-chart',
  template: `<div #place class="place" role="img" [attr.aria-label]="label()"></div>`,
  styles: `
    :host {
      display: block;
      height: 180px;
    }
    .place {
      width: 100%;
      height: 100%;
    }
  `,
})
export class Chart {
  readonly option = input.required<ChartOption>();
  readonly label = input.required<string>();
  private readonly place = viewChild.required<ElementRef<HTMLElement>>('place');
  private chart: EChartsType | undefined;

  constructor() {
    const destroyed = inject(DestroyRef);
    let gone = false;
    destroyed.onDestroy(() => {
      gone = true;
      this.chart?.dispose();
    });
    afterNextRender(async () => {
      const { drawing } = await import('./chart-drawing');
      if (gone) return;
      const place = this.place().nativeElement;
      this.chart = drawing(place);
      this.draw(this.option());
      const resized = new ResizeObserver(() => this.chart?.resize());
      resized.observe(place);
      // Light or dark may be chosen while it is shown.
      const looked = new MutationObserver(() => this.draw(this.option()));
      looked.observe(document.documentElement, { attributeFilter: ['class'] });
      destroyed.onDestroy(() => (resized.disconnect(), looked.disconnect()));
    });
    effect(() => {
      const option = this.option();
      untracked(() => this.draw(option));
    });
  }

  private draw(option: ChartOption) {
    if (!this.chart) return;
    const look = getComputedStyle(this.place().nativeElement);
    const of = (name: string) => look.getPropertyValue(name).trim();
    const text = { color: of('--muted'), fontFamily: look.fontFamily };
    const axis = { axisLabel: text, axisLine: { lineStyle: { color: of('--edge') } }, splitLine: { lineStyle: { color: of('--line-soft') } } };
    const themed = (own: unknown) => (own ? { ...axis, ...(own as object), axisLabel: { ...text, ...(own as { axisLabel?: object }).axisLabel } } : undefined);
    const { xAxis, yAxis, legend, visualMap, ...rest } = option as Record<string, unknown>;
    const all = { color: colours.map(of), animation: false, textStyle: text, tooltip: { backgroundColor: of('--panel'), borderColor: of('--line'), textStyle: { color: of('--ink') }, ...(rest['tooltip'] as object) } };
    this.chart.setOption({ ...rest, ...all, xAxis: themed(xAxis), yAxis: themed(yAxis), ...(legend ? { legend: { textStyle: text, ...legend } } : {}), ...(visualMap ? { visualMap: { textStyle: text, ...visualMap } } : {}) }, true);
  }

  /** The chart as an SVG document. */
  svg = (): string => this.chart?.renderToSVGString() ?? '';
}
