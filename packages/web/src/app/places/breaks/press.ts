import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import type { Instrument, InstrumentAnswer, InstrumentReading, TracePoint } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { convert, exact, unitLabel, type Evaluation, type ResultValue } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { retry } from 'rxjs';
import { Api, problemOf } from '../../api/api';
import type { Taken } from '../../test/plate';
import { axis, ChartBox, type Drawing } from '../../ui/chart';

/** What broke in the machine: the largest load, and how it was loaded. */
export interface Broke {
  readonly load: Taken;
  readonly trace: readonly TracePoint[];
}

/** A record keeps no more points of a trace: what is denser is thinned. */
const MOST_POINTS = 120;

/** The compression machine on its dark plate: set to its rate, followed while it loads, and taken when the specimen has broken. */
@Component({
  selector: 'km-press',
  imports: [ChartBox, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section [attr.aria-label]="instrument().name" data-testid="press" [attr.data-state]="shown().state">
      <div class="chart">
        <km-chart [drawing]="drawing()" [says]="saysChart()" [height]="136" />
      </div>
      <div class="shows">
        <span class="name">{{ instrument().name }}</span>
        <span class="figures">
          <b class="fig" aria-live="off" data-testid="press-load">{{ value() }}</b>
          @if (strength(); as s) {
            <span class="strength"
              ><b class="fig">{{ s.text }}</b> {{ s.unit }}</span
            >
          }
        </span>
        <span class="says" role="status">{{ says() }}</span>
        @if (toSet(); as rate) {
          <span class="name"
            >set it to <span class="fig">{{ rate }}</span></span
          >
        }
        @if (rate(); as r) {
          <span class="name"
            >latter half <span class="fig">{{ r }}</span></span
          >
        }
        <div class="does" role="group" [attr.aria-label]="'What is done at ' + instrument().name">
          @if (can('START')) {
            <button pButton type="button" [text]="true" class="word" data-testid="press-start" [disabled]="held() !== ''" (click)="start()">
              Start
            </button>
          }
          @if (can('STOP') && loading()) {
            <button pButton type="button" [text]="true" class="word" (click)="tell('STOP')">Stop</button>
          }
          @if (can('ZERO') && !loading()) {
            <button pButton type="button" [text]="true" class="word" (click)="zero()">Zero</button>
          }
          @if (broken() && !taken()) {
            <button pButton type="button" [text]="true" class="word" data-testid="press-take" (click)="take()">Take {{ value() }}</button>
          }
        </div>
      </div>
      @if (problem(); as p) {
        <p role="status">{{ p.detail }}</p>
      }
    </section>
  `,
  styles: `
    section {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 272px;
      gap: 8px 16px;
      background: var(--plate);
      color: var(--plate-ink);
      padding: 10px 14px;
    }
    .chart {
      --well: var(--plate);
      --hair: var(--plate-l);
    }
    .shows {
      display: grid;
      align-content: start;
      gap: 3px;
      min-width: 0;
    }
    .name,
    .says,
    p {
      color: var(--plate-soft);
      font-size: 14px;
    }
    .figures {
      display: flex;
      flex-wrap: wrap;
      align-items: baseline;
      gap: 0 14px;
    }
    .strength b {
      font-size: 22px;
    }
    b {
      font-size: 30px;
      line-height: 1.1;
      letter-spacing: -0.04em;
      white-space: nowrap;
    }
    [data-state='stable'] .says {
      color: var(--plate-within);
    }
    [data-state='moving'] .says,
    [data-state='fault'] .says,
    [data-state='away'] .says,
    p {
      color: var(--plate-now);
    }
    .does {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      margin-top: 4px;
    }
    .word {
      color: var(--plate-ink);
      min-height: 44px;
      border: 1px solid var(--plate-l);
    }
    .does .word.word:hover {
      background: var(--plate-l);
      color: var(--plate-ink);
    }
    .word:disabled {
      color: var(--plate-soft);
      opacity: 1;
    }
    p {
      grid-column: 1 / -1;
    }
    @media (max-width: 640px) {
      section {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class Press {
  private readonly api = inject(Api);
  readonly instrument = input.required<Instrument>();
  /** What came of the specimen so far. */
  readonly come = input<Evaluation | null>(null);
  /** Why it may not be loaded yet; empty where it may. */
  readonly held = input('');
  readonly broke = output<Broke>();

  private readonly came = signal<InstrumentReading | null>(null);
  protected readonly shown = computed(() => this.came() ?? this.instrument().reading);
  protected readonly problem = signal<Problem | null>(null);
  private readonly points = signal<readonly { x: number; y: number }[]>([]);
  /** It was seen loading since this specimen is in hand: what it holds afterwards is of this one. */
  private readonly was = signal(false);
  protected readonly taken = signal(false);
  private readonly id = computed(() => this.instrument().id);

  protected readonly loading = computed(() => this.shown().state === 'moving');
  protected readonly broken = computed(() => this.was() && this.shown().state === 'stable' && Number(this.shown().text) > 0);
  protected readonly value = computed(() => {
    const { text, unit } = this.shown();
    return text === null ? '–' : `${text} ${unit === null ? '' : unitLabel(unit)}`.trim();
  });
  protected readonly says = computed(() => {
    const { state, says } = this.shown();
    if (state === 'away')
      return this.was()
        ? 'Unplugged in the middle. It holds its load: plug it in, or key what its dial shows.'
        : 'Unplugged, or it does not answer: key what its dial shows.';
    return says ?? { stable: 'ready', moving: 'loading', fault: 'cannot read' }[state];
  });
  protected readonly saysChart = computed(() => `Load on the specimen against time, now ${this.value()}`);
  protected readonly toSet = computed(() => this.figure('machine'));
  protected readonly rate = computed(() => this.figure('rate'));

  protected readonly strength = computed(() => {
    const r = this.given('strength') ?? this.given('modulus');
    return r ? { text: r.reported ?? '', unit: unitLabel(r.unit) } : null;
  });

  private given(id: string): ResultValue | undefined {
    return this.come()?.results.find((one) => one.id === id && one.state === 'given');
  }

  private readonly rateToSet = computed(() => {
    const r = this.given('machine');
    return r ? asMachine(r.unrounded, r) : null;
  });

  private figure(id: string): string {
    const r = this.given(id);
    return r ? `${r.reported ?? r.unrounded ?? ''} ${unitLabel(r.unit)}` : '';
  }

  protected readonly drawing = computed((): Drawing => {
    const points = this.points();
    const [least, most] = (this.given('machineRange')?.series ?? []).map(({ unrounded }) =>
      asMachine(unrounded, this.given('machineRange')!),
    );
    const set = this.rateToSet();
    const peak = Math.max(0, ...points.map(({ y }) => y));
    const half = points.find(({ y }) => y >= peak / 2);
    const last = points.at(-1);
    // From where the latter half begins, as slow and as fast as it may go on.
    const band = (rate: number | undefined) =>
      half && last && rate !== undefined && set !== null && points.length > 3
        ? [half, { x: last.x, y: half.y + rate * (last.x - half.x) }]
        : [];
    return ({ plate }) => ({
      type: 'scatter',
      data: {
        datasets: [
          ...[least, most].map((rate) => ({
            data: band(rate),
            showLine: true,
            borderColor: plate.within,
            borderDash: [4, 4],
            borderWidth: 1.5,
            pointRadius: 0,
          })),
          { data: [...points], showLine: true, borderColor: plate.ink, borderWidth: 2.5, pointRadius: 0 },
        ],
      },
      options: {
        scales: {
          x: axis('s', {
            title: { display: true, text: 's', color: plate.soft },
            beginAtZero: true,
            suggestedMax: 120,
            ticks: { color: plate.soft },
            grid: { color: plate.line },
          }),
          y: axis('kN', {
            title: { display: true, text: 'kN', color: plate.soft },
            beginAtZero: true,
            suggestedMax: 300,
            ticks: { color: plate.soft },
            grid: { color: plate.line },
          }),
        },
      },
    });
  });

  protected can = (word: string): boolean => this.shown().state !== 'away' && this.instrument().can.includes(word);

  constructor() {
    effect((gone) => {
      const source = new EventSource(`/api/v1/instruments/${this.id()}/live?ngsw-bypass=true`);
      source.onmessage = ({ data }: MessageEvent<string>) => this.hear(JSON.parse(data) as InstrumentReading);
      source.onerror = () => this.hear({ text: null, unit: null, state: 'away', says: null, at: '' });
      gone(() => source.close());
    });
    effect(() => {
      if (this.broken() && !this.taken()) untracked(() => this.take());
    });
  }

  private hear(reading: InstrumentReading): void {
    this.came.set(reading);
    if (reading.state !== 'moving' || reading.text === null) return;
    this.was.set(true);
    // While it loads its words are its seconds.
    const seconds = Number.parseFloat(reading.says ?? '');
    if (Number.isNaN(seconds)) return;
    const point = { x: seconds, y: Number(reading.text) };
    this.points.update((all) => (seconds < (all.at(-1)?.x ?? 0) ? [point] : [...all, point]));
  }

  /** Another specimen is in hand: what the machine holds is not of it. */
  next(): void {
    this.was.set(false);
    this.taken.set(false);
    this.points.set([]);
    this.problem.set(null);
    if (this.can('ZERO') && this.shown().state === 'stable') this.tell('ZERO');
  }

  protected start(): void {
    this.points.set([]);
    this.taken.set(false);
    const rate = this.rateToSet();
    const run = (): void => this.tell('START');
    if (rate === null || !this.can('RATE')) return run();
    this.api
      .write(`/instruments/${this.id()}/commands`, { does: 'RATE', with: rate.toFixed(3) })
      .subscribe({ next: run, error: (e: unknown) => this.problem.set(problemOf(e)) });
  }

  protected zero(): void {
    this.was.set(false);
    this.points.set([]);
    this.tell('ZERO');
  }

  protected take(): void {
    const { text, unit } = this.shown();
    if (text === null || unit === null) return;
    this.taken.set(true);
    const load = { text, unit, device: this.id() };
    // It holds its trace: where it did not answer it is asked again.
    const asked = this.api
      .write<InstrumentAnswer>(`/instruments/${this.id()}/commands`, { does: 'TRACE' })
      .pipe(retry({ count: 3, delay: 700 }));
    asked.subscribe({
      next: ({ points = [] }) => {
        this.points.set(points.map((p) => ({ x: Number(p.time), y: Number(p.load) })));
        this.broke.emit({ load, trace: thinned(points) });
      },
      // Without its trace the load stands all the same.
      error: () => this.broke.emit({ load, trace: [] }),
    });
  }

  protected tell(does: string): void {
    this.problem.set(null);
    this.api.write(`/instruments/${this.id()}/commands`, { does }).subscribe({ error: (e: unknown) => this.problem.set(problemOf(e)) });
  }
}

/** A rate as the machine is told it, kN/s, whatever the project counts in. */
const asMachine = (unrounded: string | null, { unit }: ResultValue): number =>
  Number(convert(exact(unrounded ?? '0'), unit, 'kN/s').valueOf());

/** Every so many points, the largest and the last among them. */
function thinned(points: readonly TracePoint[]): TracePoint[] {
  const every = Math.ceil(points.length / MOST_POINTS);
  const peak = points.reduce((at, p, i) => (Number(p.load) > Number(points[at]?.load ?? -1) ? i : at), 0);
  return points.filter((_p, i) => i % every === 0 || i === peak || i === points.length - 1);
}
