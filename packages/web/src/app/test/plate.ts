import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Instrument, InstrumentReading } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { unitLabel, type UnitId } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemOf } from '../api/api';

/** What was taken from an instrument, as it showed it. */
export interface Taken {
  readonly text: string;
  readonly unit: UnitId;
  readonly device: string;
}

const DOES: Readonly<Record<string, string>> = {
  PUT: 'Put on it',
  CLEAR: 'Clear it',
  ZERO: 'Zero',
  PUMP: 'Pump',
  TAP: 'Tap',
  OPEN: 'Open the valve',
  RELEASE: 'Release',
};

/** The dark plate of a live instrument: what it shows as it moves, whether it stands, and one press that takes it. */
@Component({
  selector: 'km-plate',
  imports: [FormsModule, ButtonDirective, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section [attr.aria-label]="instrument().name" data-testid="plate" [attr.data-state]="shown().state">
      <div class="shows">
        <span class="name">{{ instrument().name }}</span>
        <b class="fig" aria-live="off">{{ value() }}</b>
        <span class="says">{{ says() }}</span>
      </div>
      <button pButton type="button" data-testid="take" [disabled]="!stands()" (click)="take()">
        {{ stands() ? 'Take ' + value() : 'Take' }}
      </button>
      @if (words().length > 0 && shown().state !== 'away') {
        <div class="does" role="group" [attr.aria-label]="'What is done at ' + instrument().name">
          @if (words().includes('PUT')) {
            <input
              pInputText
              class="fig"
              inputmode="decimal"
              aria-label="How much is put on it"
              [ngModel]="much()"
              (ngModelChange)="much.set($event)"
            />
          }
          @for (w of words(); track w) {
            <button pButton type="button" [text]="true" class="word" (click)="tell(w)">{{ does[w] }}</button>
          }
        </div>
      }
      @if (problem(); as p) {
        <p role="status">{{ p.detail }}</p>
      }
    </section>
  `,
  styles: `
    section {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 6px 16px;
      align-items: center;
      background: var(--plate);
      color: var(--plate-ink);
      padding: 10px 16px;
    }
    .shows {
      display: grid;
    }
    .name,
    .says,
    p {
      color: var(--plate-soft);
      font-size: 14px;
    }
    b {
      font-size: 38px;
      line-height: 1.1;
      letter-spacing: -0.04em;
    }
    [data-state='stable'] .says {
      color: var(--plate-within);
    }
    [data-state='moving'] .says,
    [data-state='fault'] .says,
    [data-state='away'] .says {
      color: var(--plate-now);
    }
    .does {
      grid-column: 1 / -1;
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      border-top: 1px solid var(--plate-l);
      padding-top: 6px;
    }
    .does input {
      width: 108px;
      height: 44px;
    }
    button:disabled {
      color: var(--plate-soft);
      border-color: var(--plate-l);
      opacity: 1;
    }
    .does .word.word:hover {
      background: var(--plate-l);
      color: var(--plate-ink);
    }
    .word {
      color: var(--plate-ink);
      min-height: 44px;
      border: 1px solid var(--plate-l);
    }
    p {
      grid-column: 1 / -1;
    }
  `,
})
export class Plate {
  private readonly api = inject(Api);
  readonly instrument = input.required<Instrument>();
  readonly taken = output<Taken>();
  private readonly came = signal<InstrumentReading | null>(null);
  protected readonly shown = computed(() => this.came() ?? this.instrument().reading);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly much = signal('');
  protected readonly does = DOES;
  /** Words that a person would do by hand on a real one: a stand-in has buttons for them. */
  protected readonly words = computed(() => this.instrument().can.filter((w) => DOES[w] !== undefined));
  protected readonly value = computed(() => {
    const { text, unit } = this.shown();
    return text === null ? '–' : `${text} ${unit === null ? '' : unitLabel(unit)}`.trim();
  });
  protected readonly stands = computed(() => this.shown().state === 'stable' && this.shown().text !== null && this.shown().unit !== null);
  protected readonly says = computed(() => {
    const { state, says } = this.shown();
    if (state === 'away') return 'Unplugged, or it does not answer: key what it shows by hand.';
    return says ?? { stable: 'stands', moving: 'has not settled yet', fault: 'cannot read' }[state];
  });
  private readonly id = computed(() => this.instrument().id);

  constructor() {
    effect((gone) => {
      const source = new EventSource(`/api/v1/instruments/${this.id()}/live?ngsw-bypass=true`);
      source.onmessage = ({ data }: MessageEvent<string>) => this.came.set(JSON.parse(data) as InstrumentReading);
      // The browser takes a lost line up again; until then nobody knows what it shows.
      source.onerror = () => this.came.set({ text: null, unit: null, state: 'away', says: null, at: '' });
      gone(() => source.close());
    });
  }

  protected take(): void {
    const { text, unit } = this.shown();
    if (this.stands()) this.taken.emit({ text: text!, unit: unit!, device: this.id() });
  }

  protected tell(does: string): void {
    this.problem.set(null);
    const body = { does, ...(does === 'PUT' ? { with: this.much().trim() } : {}) };
    this.api.write(`/instruments/${this.id()}/commands`, body).subscribe({ error: (e: unknown) => this.problem.set(problemOf(e)) });
  }
}
