import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { MixSeries } from '@keen-mortar/contract';
import type { Foretold, SeriesView } from '@keen-mortar/core';
import { DateTime } from 'luxon';
import { axis, ChartBox, type Drawing } from '../../../ui/chart';
import { counted } from './series.view';

const DAY = 86_400_000;

/** Tests, running means, limits and what is to be expected over the running sum, on one axis of time, with the moment at which it moved. */
@Component({
  selector: 'km-series-chart',
  imports: [ChartBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <km-chart [drawing]="course()" [says]="says()" [height]="270" />
    <p class="key small soft">
      @if (series().accepted.specified; as fc) {
        <span class="fc">f’c {{ fc.text }}</span>
      }
      @if (view().floor; as floor) {
        <span class="floor">least single test {{ floor }}</span>
      }
      @if (view().required; as required) {
        <span class="needs-mean">mean that the mix needs {{ required }}</span>
      }
      <span class="run">mean of three</span>
      @if (coming().length > 0) {
        <span class="told">expected from 7 days</span>
      }
    </p>
    <p class="small soft">
      Running sum of differences from <span class="fig">{{ view().target }}</span>: level is no change, the bend is where it moved
    </p>
    <km-chart [drawing]="sum()" says="Running sum of the differences of the tests from their mean" [height]="126" />
  `,
  styles: `
    :host {
      display: grid;
      gap: 2px;
      min-width: 0;
    }
    p {
      padding: 2px 6px 0;
    }
    .key {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 18px;
    }
    .key span::before {
      content: '';
      display: inline-block;
      width: 22px;
      margin-right: 6px;
      vertical-align: middle;
      border-top: 3px solid var(--within);
    }
    .key .floor::before {
      border-color: var(--out);
    }
    .key .needs-mean::before {
      border-top: 2px dashed var(--deep);
    }
    .key .run::before {
      border-top-width: 4px;
      border-color: var(--deep);
    }
    .key .told::before {
      width: 9px;
      height: 9px;
      border: 2px solid var(--deep);
      border-radius: 50%;
    }
  `,
})
export class SeriesChart {
  readonly series = input.required<MixSeries>();
  readonly view = input.required<SeriesView>();
  readonly foretold = input.required<readonly (Foretold | null)[]>();

  private readonly tests = computed(() => counted(this.series()).map((t) => ({ x: Date.parse(t.castAt), y: Number(t.strength.text) })));
  private readonly others = computed(() =>
    this.series()
      .tests.filter((t) => t.notFor !== null)
      .map((t) => ({ x: Date.parse(t.castAt), y: Number(t.strength.text) })),
  );
  protected readonly coming = computed(() =>
    this.series().waiting.flatMap((w, i) => {
      const told = this.foretold()[i];
      return told ? [{ x: Date.parse(w.castAt), y: Number(told.text), low: Number(told.low), high: Number(told.high) }] : [];
    }),
  );
  protected readonly says = computed(
    () =>
      `${this.tests().length} strength tests by casting day, mean ${this.view().mean ?? '–'}, f’c ${this.series().accepted.specified?.text ?? '–'}`,
  );
  private readonly ends = computed(() => {
    const all = [...this.tests(), ...this.coming()].map((p) => p.x);
    const [from, to] = [Math.min(...all), Math.max(...all)];
    return { min: from - 2 * DAY, max: to + 2 * DAY };
  });
  private readonly zone = computed(() => this.series().project.timezone);
  private readonly x = computed(() => ({
    type: 'linear' as const,
    ...this.ends(),
    ticks: {
      maxTicksLimit: 8,
      maxRotation: 0,
      callback: (value: number | string) => DateTime.fromMillis(Number(value), { zone: this.zone() }).toFormat('d LLL'),
    },
  }));
  /** Between the last test before it moved and the first after. */
  private readonly moment = computed(() => {
    const [shift, tests] = [this.view().shift, this.tests()];
    return shift && tests[shift.at] && tests[shift.at - 1] ? (tests[shift.at]!.x + tests[shift.at - 1]!.x) / 2 : null;
  });

  protected readonly course = computed((): Drawing => {
    const [tests, others, coming, view, { min, max }, at] = [
      this.tests(),
      this.others(),
      this.coming(),
      this.view(),
      this.ends(),
      this.moment(),
    ];
    const line = (text: string | null) => (text === null ? [] : [min, max].map((x) => ({ x, y: Number(text) })));
    const runs = view.runs.map((y, i) => ({ x: tests[i + tests.length - view.runs.length]?.x ?? 0, y }));
    const fc = this.series().accepted.specified;
    const [f, floor] = [fc === null ? null : Number(fc.text), view.floor === null ? null : Number(view.floor)];
    const marks = [...tests, ...others]
      .map((p) => p.y)
      .concat(
        coming.flatMap((c) => [c.low, c.high]),
        f ?? [],
        floor ?? [],
      );
    const [low, high] = [Math.min(...marks), Math.max(...marks)];
    const means = view.shift ? [Number(view.shift.before), Number(view.shift.after)] : [];
    return (inks) => ({
      type: 'scatter',
      data: {
        datasets: [
          { data: line(fc?.text ?? null), showLine: true, borderColor: inks.within, borderWidth: 2.5, pointRadius: 0 },
          { data: line(view.floor), showLine: true, borderColor: inks.out, borderWidth: 2.5, pointRadius: 0 },
          { data: line(view.required), showLine: true, borderColor: inks.deep, borderDash: [6, 4], borderWidth: 1.5, pointRadius: 0 },
          ...(at === null
            ? []
            : [
                { data: [low, high].map((y) => ({ x: at, y })), showLine: true, borderColor: inks.now, borderWidth: 2, pointRadius: 0 },
                {
                  data: [min, at].map((x) => ({ x, y: means[0]! })),
                  showLine: true,
                  borderColor: inks.soft,
                  borderDash: [2, 3],
                  borderWidth: 1.5,
                  pointRadius: 0,
                },
                {
                  data: [at, max].map((x) => ({ x, y: means[1]! })),
                  showLine: true,
                  borderColor: inks.now,
                  borderDash: [2, 3],
                  borderWidth: 1.5,
                  pointRadius: 0,
                },
              ]),
          ...coming.map((c) => ({
            data: [
              { x: c.x, y: c.low },
              { x: c.x, y: c.high },
            ],
            showLine: true,
            borderColor: inks.deep,
            borderWidth: 1.5,
            pointRadius: 0,
          })),
          { data: coming, pointRadius: 5, pointStyle: 'circle', backgroundColor: inks.well, borderColor: inks.deep, borderWidth: 2 },
          { data: runs, showLine: true, borderColor: inks.deep, borderWidth: 3, pointRadius: 0 },
          {
            data: tests,
            pointRadius: tests.map((p) => (floor !== null && p.y < floor ? 7 : 5)),
            pointStyle: tests.map((p) => (floor !== null && p.y < floor ? 'triangle' : 'circle')),
            backgroundColor: tests.map((p) => (floor !== null && p.y < floor ? inks.out : inks.within)),
          },
          { data: others, pointRadius: 4, pointStyle: 'crossRot', borderColor: inks.soft, borderWidth: 2 },
        ],
      },
      options: {
        scales: { x: this.x(), y: axis(view.unit, { min: Math.floor(low - 1), max: Math.ceil(high + 1), ticks: { maxTicksLimit: 8 } }) },
        plugins: { tooltip: { callbacks: { label: ({ parsed }) => `${parsed.y ?? ''} ${view.unit}` } } },
      },
    });
  });

  protected readonly sum = computed((): Drawing => {
    const [tests, view, at] = [this.tests(), this.view(), this.moment()];
    const points = view.cusum.map((y, i) => ({ x: tests[i]?.x ?? 0, y }));
    const [low, high] = [Math.min(0, ...view.cusum), Math.max(0, ...view.cusum)];
    const before = at === null ? points : points.filter((p) => p.x < at);
    const after = at === null ? [] : points.slice(Math.max(0, before.length - 1));
    return (inks) => ({
      type: 'scatter',
      data: {
        datasets: [
          { data: before, showLine: true, borderColor: inks.soft, borderWidth: 2, pointRadius: 0 },
          { data: after, showLine: true, borderColor: inks.now, borderWidth: 3, pointRadius: 0 },
          ...(at === null
            ? []
            : [{ data: [low, high].map((y) => ({ x: at, y })), showLine: true, borderColor: inks.now, borderWidth: 2, pointRadius: 0 }]),
        ],
      },
      options: { scales: { x: this.x(), y: axis(view.unit, { ticks: { maxTicksLimit: 5 } }) } },
    });
  });
}
