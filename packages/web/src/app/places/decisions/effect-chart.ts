import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { SeriesCourse } from '@keen-mortar/contract';
import { DateTime } from 'luxon';
import { axis, ChartBox, type Drawing } from '../../ui/chart';

const DAY = 86_400_000;

/** The newest tests of a series with its means of three: as they are, and as they would be with the decision. */
@Component({
  selector: 'km-effect-chart',
  imports: [ChartBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <km-chart [drawing]="drawing()" [says]="says()" [height]="190" />
    <p class="key small soft">
      <span class="was">mean of three now</span>
      <span class="then">then</span>
      @if (course().specified; as fc) {
        <span class="fc">f’c {{ fc }}</span>
      }
      @if (course().floor; as floor) {
        <span class="floor">least single test {{ floor }}</span>
      }
    </p>
  `,
  styles: `
    .key {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 14px;
    }
    .key span::before {
      content: '';
      display: inline-block;
      width: 20px;
      margin-right: 6px;
      vertical-align: middle;
      border-top: 3px solid var(--within);
    }
    .key .was::before {
      border-top: 2px dashed var(--soft);
    }
    .key .then::before {
      border-color: var(--deep);
    }
    .key .floor::before {
      border-color: var(--out);
    }
  `,
})
export class EffectChart {
  readonly course = input.required<SeriesCourse>();
  readonly zone = input.required<string>();

  protected readonly says = computed(() => {
    const { tests, now, then, unit } = this.course();
    const last = (means: SeriesCourse['now']): string => means.at(-1)?.mean.toFixed(1) ?? '–';
    return `The newest ${tests.length} strength tests; the last mean of three is ${last(now)} now and ${last(then)} ${unit} then`;
  });

  protected readonly drawing = computed((): Drawing => {
    const { tests, now, then, specified, floor, unit } = this.course();
    const x = (castAt: string): number => Date.parse(castAt);
    const all = tests.map((t) => x(t.castAt));
    const [min, max] = [Math.min(...all) - 2 * DAY, Math.max(...all) + 2 * DAY];
    const line = (y: number | null) => (y === null ? [] : [min, max].map((at) => ({ x: at, y })));
    const means = (list: SeriesCourse['now']) => list.map((m) => ({ x: x(m.castAt), y: m.mean }));
    const figures = [...tests.map((t) => t.strength), ...(specified === null ? [] : [specified]), ...(floor === null ? [] : [floor])];
    return (inks) => ({
      type: 'scatter',
      data: {
        datasets: [
          // What stands first is drawn over the others.
          {
            data: tests.map((t) => ({ x: x(t.castAt), y: t.strength })),
            pointRadius: tests.map((t) => (t.decided ? 7 : 4)),
            pointStyle: tests.map((t) => (t.counts ? 'circle' : 'crossRot')),
            backgroundColor: tests.map((t) => (t.decided ? inks.now : inks.within)),
            borderColor: tests.map((t) => (t.decided ? inks.now : inks.within)),
            borderWidth: tests.map((t) => (t.counts ? 0 : 2.5)),
          },
          { data: means(now), showLine: true, borderColor: inks.soft, borderDash: [5, 4], borderWidth: 2, pointRadius: 0 },
          { data: means(then), showLine: true, borderColor: inks.deep, borderWidth: 3, pointRadius: 0 },
          { data: line(specified), showLine: true, borderColor: inks.within, borderWidth: 2, pointRadius: 0 },
          { data: line(floor), showLine: true, borderColor: inks.out, borderWidth: 2, pointRadius: 0 },
        ],
      },
      options: {
        scales: {
          x: {
            type: 'linear' as const,
            min,
            max,
            ticks: {
              maxTicksLimit: 4,
              maxRotation: 0,
              callback: (value: number | string) => DateTime.fromMillis(Number(value), { zone: this.zone() }).toFormat('d LLL'),
            },
          },
          y: axis(unit, {
            min: Math.floor(Math.min(...figures) - 1),
            max: Math.ceil(Math.max(...figures) + 1),
            ticks: { maxTicksLimit: 5, includeBounds: false },
          }),
        },
        plugins: { tooltip: { callbacks: { label: ({ parsed }) => `${parsed.y ?? ''} ${unit}` } } },
      },
    });
  });
}
