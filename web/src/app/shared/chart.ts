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
      destroyed.onDestroy(() => resized.disconnect());
    });
    effect(() => {
      const option = this.option();
      untracked(() => this.draw(option));
    });
  }

  private draw(option: ChartOption) {
    if (!this.chart) return;
    const look = getComputedStyle(this.place().nativeElement);
    const color = colours.flatMap((name) => look.getPropertyValue(name).trim() || []);
    this.chart.setOption({ color, animation: false, textStyle: { fontFamily: look.fontFamily, color: look.color }, ...option }, true);
  }

  /** The chart as an SVG document. */
  svg = (): string => this.chart?.renderToSVGString() ?? '';
}
