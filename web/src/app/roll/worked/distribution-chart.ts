import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { bin, max } from 'd3-array';
import { scaleLinear } from 'd3-scale';

const WIDTH = 300;
const HEIGHT = 96;
const BASE = 78;

/** How the numbers of a column spread: bars of equal width, with their counts. */
@Component({
  selector: 'sc-distribution-chart',
  template: `
    <svg class="w-full" [attr.viewBox]="'0 0 ' + width + ' ' + height" role="img" [attr.aria-label]="said()">
      @for (bar of picture().bars; track bar.from) {
        <rect
          [attr.x]="bar.x"
          [attr.y]="bar.y"
          [attr.width]="bar.width"
          [attr.height]="bar.height"
          class="fill-verdigris"
        >
          <title>{{ bar.from }} to {{ bar.to }}: {{ bar.count }}</title>
        </rect>
        @if (bar.count > 0) {
          <text
            [attr.x]="bar.x + bar.width / 2"
            [attr.y]="bar.y - 3"
            text-anchor="middle"
            class="fill-slate text-[10px]"
          >
            {{ bar.count }}
          </text>
        }
      }
      <line x1="0" [attr.x2]="width" [attr.y1]="base + 0.5" [attr.y2]="base + 0.5" class="stroke-edge" />
      @for (tick of picture().ticks; track tick.value) {
        <text
          [attr.x]="tick.x"
          [attr.y]="base + 14"
          [attr.text-anchor]="tick.anchor"
          class="fill-slate text-[10px]"
        >
          {{ tick.value }}
        </text>
      }
    </svg>
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DistributionChart {
  readonly numbers = input.required<readonly number[]>();
  /** True where the numbers are percent, so that the picture goes from 0 to 100. */
  readonly percent = input(false);
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly base = BASE;

  protected readonly picture = computed(() => {
    const numbers = this.numbers();
    const low = Math.min(...numbers);
    const high = Math.max(...numbers);
    const percent = this.percent() && low >= 0 && high <= 100;
    const x = scaleLinear()
      .domain(percent ? [0, 100] : [low, high > low ? high : low + 1])
      .range([0, WIDTH]);
    if (!percent) x.nice(10);
    const bins = bin()
      .domain(x.domain() as [number, number])
      .thresholds(x.ticks(10).filter((tick) => tick > x.domain()[0]! && tick < x.domain()[1]!))([...numbers])
      .filter(({ x0, x1 }) => x1! > x0!);
    const y = scaleLinear()
      .domain([0, max(bins, (one) => one.length) ?? 1])
      .range([BASE, 14]);
    return {
      bars: bins.map((one) => ({
        from: one.x0!,
        to: one.x1!,
        count: one.length,
        x: x(one.x0!) + 1,
        width: Math.max(1, x(one.x1!) - x(one.x0!) - 2),
        y: y(one.length),
        height: BASE - y(one.length),
      })),
      ticks: x.ticks(5).map((value, n, all) => ({
        value,
        x: x(value),
        anchor: x(value) < 6 ? 'start' : n === all.length - 1 && x(value) > WIDTH - 8 ? 'end' : 'middle',
      })),
    };
  });

  protected readonly said = computed(
    () =>
      `Distribution: ${this.picture()
        .bars.filter(({ count }) => count > 0)
        .map(({ from, to, count }) => `${from} to ${to}: ${count}`)
        .join(', ')}`,
  );
}
