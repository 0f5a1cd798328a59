import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import type { BenchView, Item, Sheet } from '@keen-mortar/contract';
import { ITEM_KINDS, rowIdAt, RUNS } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { project, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { clockWords, planBack } from './bench.view';

/** So many of the newest field samples are offered. */
const NEWEST = 50;

/** A portion of a field sample is taken to the bench: what it goes through, and when its first step was done. */
@Component({
  selector: 'km-new-run',
  imports: [FormsModule, ButtonDirective, InputText, Choice, Field, FieldInput, Moment, WriteTold],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="start()" aria-label="Start a run">
      <km-field label="Goes through" inputId="run-what">
        <km-choice label="Goes through" inputId="run-what" [options]="runs" [value]="run()" (chosen)="goesThrough($event)" />
      </km-field>
      <km-field [label]="of()" inputId="run-of" [hint]="samples().length === 0 ? 'there is none yet' : ''">
        <km-choice [label]="of()" inputId="run-of" [options]="samples()" [value]="sample()" (chosen)="sample.set($event)" />
      </km-field>
      @if (!job().on) {
        <km-field label="Mass, g" inputId="run-mass" hint="if known" [fault]="massFault()"
          ><input kmIn pInputText class="fig" inputmode="decimal" name="mass" [ngModel]="mass()" (ngModelChange)="mass.set($event)"
        /></km-field>
      }
      @if (wish() === null) {
        <km-field [label]="first() + ', at'" inputId="run-at" hint="now, if it is left empty">
          <km-moment inputId="run-at" [label]="first() + ', at'" [zone]="zone()" [value]="at()" (chosen)="at.set($event)" />
        </km-field>
      }
      <km-field label="Ready by" inputId="run-wish" hint="where it has a time">
        <km-moment inputId="run-wish" label="Ready by" [zone]="zone()" [value]="wish()" (chosen)="wish.set($event)" />
      </km-field>
      @if (back(); as b) {
        <div class="plan" data-testid="planned-back">
          @if (b.cannot) {
            <p class="out">It cannot be ready then: {{ b.cannot }}.</p>
          } @else {
            <ol>
              @for (s of b.planned; track s.id) {
                <li>
                  <b class="fig">{{ when(s.at) }}</b> {{ s.label }}
                </li>
              }
            </ol>
          }
        </div>
      }
      <p>
        <km-write-told [write]="write" />
        @if (back(); as b) {
          <button
            pButton
            type="submit"
            data-testid="run-planned"
            [disabled]="sample() === '' || massFault() !== '' || b.cannot !== '' || write.busy()"
          >
            Put it on the day
          </button>
        } @else {
          <button pButton type="submit" data-testid="run-starts" [disabled]="sample() === '' || massFault() !== '' || write.busy()">
            Start it
          </button>
        }
      </p>
    </form>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
      gap: 8px 16px;
      align-items: end;
      padding: 12px 20px;
      background: var(--sheet);
      border-block: 1px solid var(--rule);
    }
    .plan {
      grid-column: 1 / -1;
    }
    .plan ol {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 22px;
    }
    form > p {
      align-self: end;
      padding-bottom: 24px;
    }
  `,
})
export class NewRun {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  private readonly store = inject(Store);
  /** What is at the bench, with its opening hours. */
  readonly view = input.required<BenchView>();
  /** ms */
  readonly now = input.required<number>();
  readonly started = output<string>();
  private readonly project = this.store.selectSignal(project);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly items = signal<readonly Item[]>([]);
  protected readonly zone = computed(() => this.project()?.timezone ?? 'local');
  protected readonly samples = computed(() =>
    this.items()
      // What goes through it is there once: a trial batch that has a run already begins no other.
      .filter((i) => !i.voided && !(this.job().on && i.facts['run'] !== undefined))
      .map((i) => ({ id: i.id, label: i.parentCode ? `${i.code}, ${i.parentCode}` : i.code })),
  );
  protected readonly runs = RUNS.map(({ id, label }) => ({ id, label }));
  protected readonly sample = signal('');
  protected readonly run = signal(RUNS[0]!.id);
  protected readonly job = computed(() => RUNS.find((r) => r.id === this.run())!);
  /** What goes through it, or is cut for it. */
  private readonly kind = computed((): 'trial-batch' | 'field-sample' => this.job().on ?? 'field-sample');
  protected readonly of = computed(() => ITEM_KINDS[this.kind()].label);
  protected readonly mass = signal('');
  protected readonly at = signal<string | null>(null);
  /** When its last step has to be done, where it has to be ready at some time. */
  protected readonly wish = signal<string | null>(null);
  protected readonly back = computed(() => {
    const wish = this.wish();
    return wish === null ? null : planBack(this.job(), Date.parse(wish), this.view().openings, this.now());
  });
  protected when = (ms: number): string => clockWords(ms, this.now(), this.zone());
  protected readonly first = computed(() => this.job().events[0]!.label);
  protected readonly massFault = computed(() =>
    this.mass().trim() === '' || /^\d{1,6}(\.\d{1,3})?$/.test(this.mass().trim()) ? '' : 'A mass in grams, as 1204.6.',
  );
  protected readonly write = new Write<Sheet>();
  private readonly id = newId();

  constructor() {
    effect((gone) => {
      const p = this.project();
      const kind = this.kind();
      if (!p) return;
      // What was asked before another run was chosen is of another kind.
      const asked = this.api.items(p.id, kind, 0, NEWEST).subscribe({ next: ({ items }) => this.items.set(items), error: () => undefined });
      gone(() => asked.unsubscribe());
    });
  }

  /** Another kind of thing goes through some: what was chosen is none of them. */
  protected goesThrough(run: string): void {
    const before = this.kind();
    this.run.set(run);
    if (this.kind() === before) return;
    this.sample.set('');
    this.items.set([]);
  }

  protected start(): void {
    const [p, by] = [this.project(), this.person()];
    if (!p || by === null || this.sample() === '' || this.massFault() !== '') return;
    const job = this.job();
    const mass = this.mass().trim();
    const back = this.back();
    if (back && back.cannot !== '') return;
    const at = this.at() ?? this.clock.iso();
    if (!back) this.at.set(at);
    const begins = back && new Date(back.planned[0]!.at).toISOString();
    const [step, itemId, opens, { id }] = [job.events[0]!.id, this.sample(), this.router.url, this];
    if (job.on) {
      // What there is goes through it: its run stands among its facts.
      const row = `steps.${rowIdAt(this.clock.now(), id)}`;
      const facts = begins ? { begins } : { [`${row}.step`]: step, [`${row}.at`]: at };
      const readings = Object.entries({ run: job.id, ...facts }).map(([field, text]) => ({
        id: newId(),
        field,
        text,
        unit: null,
        at: this.clock.iso(),
      }));
      const path = `/items/${itemId}/entries`;
      this.write.send({ id, itemId, opens, kind: 'entries', path, body: { id, by, readings } }, () => this.started.emit(itemId));
      return;
    }
    const facts = {
      run: job.id,
      ...(begins ? { begins } : { steps: [{ step, at }] }),
      ...(mass === '' ? {} : { mass: { text: mass, unit: 'g' } }),
    };
    const body = { id, by, kind: 'portion', projectId: p.id, parentId: itemId, facts };
    this.write.send({ id, itemId, opens, kind: 'item', path: '/items', body }, () => this.started.emit(id));
  }
}
