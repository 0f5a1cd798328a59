import { Notice } from '../../ui/notice';
import { ButtonDirective } from 'primeng/button';
import { FileUpload } from 'primeng/fileupload';
import { ProgressBar } from 'primeng/progressbar';
import { ChangeDetectionStrategy, Component, computed, inject, signal, effect, untracked, type OnDestroy } from '@angular/core';
import { evaluate, methodById, statisticsOf, unitLabel, type QtyField, type UnitId } from '@keen-mortar/core';
import { axis, ChartBox, classAxis, type Drawing } from '../../ui/chart';
import { keyedAt } from '../form/inputs';
import { inBackground, type Running } from '../long/background';
import type { SeriesAnswer } from '../long/tasks';
import { pictureOf, saidOf, type Picture, type Said } from '../long/picture';
import { ComputationStore } from '../computation.store';
import { drawnIn, fieldOf } from '../drawn';

const SIMULATED = 100_000;
const MOST_DRAWN = 2000;

/** A strength series: which test breaks which rule, where the mean moved, and how it lies against f’c. Long ones are computed away from the page. */
@Component({
  selector: 'km-series',
  imports: [Notice, ChartBox, ButtonDirective, FileUpload, ProgressBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="pick">
      <p-fileupload
        #file
        mode="basic"
        chooseLabel="Open a long series (CSV)"
        accept=".csv,.txt,.tsv,text/*"
        data-testid="series-file"
        [customUpload]="true"
        [auto]="true"
        [chooseButtonProps]="{ severity: 'secondary' }"
        (uploadHandler)="opened($event.files[0]); file.clear()"
      />
      <button type="button" pButton [text]="true" class="link" data-testid="simulate" (click)="run(null)">
        Show it on an invented series of {{ simulated.toLocaleString('en') }} tests
      </button>
    </div>
    @if (running(); as r) {
      <div role="status" class="running">
        <p data-testid="doing">{{ r.doing }} … {{ (r.share * 100).toFixed(0) }} %</p>
        <p-progressbar class="bar" [value]="r.share * 100" [showValue]="false" aria-label="Progress" />
        <button type="button" pButton severity="secondary" data-testid="cancel" (click)="cancel()">Cancel</button>
      </div>
    }
    @if (fault(); as f) {
      <km-notice>{{ f }}</km-notice>
    }
    @if (long(); as l) {
      <p data-testid="long">
        <b>{{ l.picture.count.toLocaleString('en') }} tests</b>, computed away from the page.
        <button type="button" pButton [text]="true" class="link" (click)="close()">Back to the table</button>
      </p>
      @for (f of l.faults; track f) {
        <p class="fault">{{ f }}</p>
      }
      <dl class="figures" data-testid="long-said">
        @for (s of l.said; track s.id + s.label) {
          <div [attr.data-long]="s.id">
            <dt>{{ s.label }}</dt>
            <dd class="fig">{{ s.text }}</dd>
          </div>
        }
      </dl>
    }
    @if (picture(); as p) {
      @if (p.tests.length > 0) {
        <h3>Tests, means of three, f’c and floor</h3>
        <km-chart [drawing]="course()" [says]="says()" [height]="250" />
        <h3>Cumulative sum against the mean <span class="soft">where the line bends, the mean moved</span></h3>
        <km-chart [drawing]="cusum()" says="Cumulative sum of the tests against their mean" [height]="170" />
        <h3>How the tests lie against f’c</h3>
        <km-chart [drawing]="histogram()" says="Histogram of the tests" [height]="190" />
        @if (!long() && statistics().length > 0) {
          <dl class="figures">
            @for (s of statistics(); track s.id) {
              <div [attr.data-statistic]="s.id">
                <dt>{{ s.label }}</dt>
                <dd class="fig">{{ s.text }}</dd>
              </div>
            }
          </dl>
        }
      }
    }
  `,
  styleUrl: './panel.css',
  styles: `
    .running {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 14px;
    }
    .bar {
      flex: 1;
      min-width: 120px;
    }
  `,
})
export class Series implements OnDestroy {
  private readonly store = inject(ComputationStore);
  protected readonly simulated = SIMULATED;
  protected readonly running = signal<{ share: number; doing: string } | null>(null);
  protected readonly fault = signal<string | null>(null);
  protected readonly long = signal<SeriesAnswer | null>(null);
  private work: Running<SeriesAnswer> | null = null;

  private readonly unit = computed((): UnitId => (this.store.system() === 'us' ? 'psi' : 'MPa'));
  private readonly acceptance = computed(() => (this.store.methodId() === 'aci-acceptance' ? this.store.working() : null));
  /** Of a series for acceptance its own statistics beside it; the statistics method gives its own. */
  private readonly scattered = computed(() => {
    if (this.store.methodId() !== 'aci-acceptance') return this.store.working();
    return evaluate(methodById('strength-statistics')!, statisticsOf(this.store.still()), {
      variant: 'aci214',
      system: this.store.system(),
    });
  });
  protected readonly statistics = computed((): Said[] => {
    const e = this.acceptance() ? this.scattered() : null;
    return e ? saidOf(methodById('strength-statistics')!.results, e) : [];
  });

  protected readonly picture = computed((): Picture => {
    const specified = drawnIn(keyedAt(this.store.still(), 'specified'), fieldOf<QtyField>(this.store.method(), 'specified'), this.unit());
    return (
      this.long()?.picture ?? pictureOf(this.acceptance(), this.scattered(), Number.isFinite(specified) ? specified : null, MOST_DRAWN)
    );
  });

  protected readonly says = computed(() => {
    const p = this.picture();
    const broken = p.broken.length === 0 ? 'none breaks a rule' : `breaking a rule: ${p.broken.slice(0, 20).join(', ')}`;
    return `${p.count} tests, ${broken}`;
  });

  protected readonly course = computed((): Drawing => {
    const p = this.picture();
    const broken = new Set(p.broken);
    const many = p.count > 200;
    const ends = [1, Math.max(p.count, 2)];
    const level = (y: number | null) => (y === null ? [] : ends.map((x) => ({ x, y })));
    return (inks) => ({
      type: 'scatter',
      data: {
        datasets: [
          { data: [...p.runs], showLine: true, borderColor: inks.deep, borderWidth: many ? 1 : 2.5, pointRadius: 0 },
          {
            data: [...p.tests],
            showLine: many,
            borderColor: inks.soft,
            borderWidth: 0.5,
            pointRadius: many ? 0 : p.tests.map(({ x }) => (broken.has(x) ? 6 : 3)),
            pointStyle: p.tests.map(({ x }) => (broken.has(x) ? 'triangle' : 'circle')),
            backgroundColor: p.tests.map(({ x }) => (broken.has(x) ? inks.out : inks.ink)),
          },
          { data: level(p.specified), showLine: true, borderColor: inks.out, borderDash: [6, 4], borderWidth: 1.5, pointRadius: 0 },
          { data: level(p.floor), showLine: true, borderColor: inks.out, borderDash: [2, 3], borderWidth: 1.5, pointRadius: 0 },
        ],
      },
      options: { scales: { x: axis('Test', { min: 1, ticks: { precision: 0 } }), y: axis(`Strength, ${unitLabel(this.unit())}`) } },
    });
  });

  protected readonly cusum = computed((): Drawing => {
    const p = this.picture();
    return (inks) => ({
      type: 'scatter',
      data: { datasets: [{ data: [...p.cusum], showLine: true, borderColor: inks.ink, borderWidth: 1.5, pointRadius: 0 }] },
      options: { scales: { x: axis('Test', { min: 1, ticks: { precision: 0 } }), y: axis(`Sum, ${unitLabel(this.unit())}`) } },
    });
  });

  protected readonly histogram = computed((): Drawing => {
    const p = this.picture();
    return (inks) => ({
      type: 'bar',
      data: {
        labels: p.bars.map((b) => `${b.from}–${b.to}`),
        datasets: [
          {
            data: p.bars.map((b) => b.count),
            categoryPercentage: 1,
            barPercentage: 0.94,
            backgroundColor: p.bars.map((b) => (p.specified !== null && b.to <= p.specified ? inks.out : inks.deep)),
          },
        ],
      },
      options: {
        scales: { x: classAxis(`Strength, ${unitLabel(this.unit())}; below f’c in plum`), y: axis('Tests', { ticks: { precision: 0 } }) },
      },
    });
  });

  constructor() {
    effect(() => {
      const text = this.store.long();
      untracked(() => {
        if (text !== null) this.run(text);
      });
    });
  }

  protected opened(file: File | undefined): void {
    if (file) void file.text().then((text) => this.run(text));
  }

  /** `text` null: a simulated production. */
  protected run(text: string | null): void {
    this.work?.cancel();
    this.fault.set(null);
    this.running.set({ share: 0, doing: 'Beginning' });
    const system = this.store.system();
    const specified = keyedAt(this.store.inputs(), 'specified');
    this.work = inBackground(
      {
        kind: 'series',
        text,
        simulate: SIMULATED,
        companions: this.store.methodId() === 'strength-statistics',
        specified,
        system,
        unit: this.unit(),
      },
      (share, doing) => this.running.set({ share, doing }),
    );
    this.work.answer.then(
      (answer) => {
        this.running.set(null);
        this.long.set(answer);
      },
      (error: unknown) => {
        this.running.set(null);
        this.fault.set(`The series could not be computed: ${error instanceof Error ? error.message : String(error)}`);
      },
    );
  }

  protected cancel(): void {
    this.work?.cancel();
    this.running.set(null);
  }

  protected close(): void {
    this.long.set(null);
    this.store.closeLong();
  }

  ngOnDestroy(): void {
    this.work?.cancel();
  }
}
