import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Mix, Report, ReportScope, SourceNow } from '@keen-mortar/contract';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { forkJoin } from 'rxjs';
import { Api } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { project, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Switch } from '../../ui/switch';

/** Makes a report: of an item that is named, of a day, or of a mix or source in a month. */
@Component({
  selector: 'km-report-form',
  imports: [FormsModule, ButtonDirective, InputText, Choice, Field, FieldInput, Moment, Switch, WriteTold],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="make()">
      @if (!fixed()) {
        <km-switch label="Of what" [options]="kinds" [value]="of()" (chosen)="of.set($any($event))" />
        @if (of() === 'day') {
          <km-field label="Day" inputId="report-day">
            <km-moment label="Day" inputId="report-day" of="day" [value]="day()" (chosen)="day.set($event)" />
          </km-field>
        } @else {
          <km-field label="Mix or source" inputId="report-of">
            <km-choice
              label="Mix or source"
              inputId="report-of"
              [options]="subjects()"
              [value]="subject()"
              (chosen)="subject.set($event)"
            />
          </km-field>
          <km-field label="Month" inputId="report-month">
            <km-choice label="Month" inputId="report-month" [options]="months()" [value]="month()" (chosen)="month.set($event)" />
          </km-field>
        }
      }
      <km-field label="To" hint="optional, as it stands on the paper" inputId="report-client"
        ><input kmIn pInputText maxlength="200" [ngModel]="client()" (ngModelChange)="client.set($event)"
      /></km-field>
      @if (again()) {
        <km-field label="Why it is made again" inputId="report-why" [fault]="whyFault()"
          ><input kmIn pInputText maxlength="400" [ngModel]="why()" (ngModelChange)="why.set($event)"
        /></km-field>
      }
      <div class="row">
        <button pButton type="submit" [disabled]="write.busy() || scope() === null">
          {{ write.busy() ? 'Making …' : 'Make the report' }}
        </button>
      </div>
    </form>
    <km-write-told [write]="write" />
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 16px;
    }
    km-field {
      flex: 1 1 190px;
      max-width: 360px;
    }
  `,
})
export class ReportForm {
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly clock = inject(Clock);
  private readonly project = this.state.selectSignal(project);
  private readonly person = this.state.selectSignal(session.selectPersonId);
  /** What it is of, where that is known. */
  readonly fixed = input<ReportScope | null>(null);
  /** Whether one of it was issued already. */
  readonly before = input(false);
  readonly made = output<Report>();

  protected readonly kinds = [
    { id: 'day', label: 'A day' },
    { id: 'month', label: 'A mix or source in a month' },
  ];
  protected readonly of = signal<'day' | 'month'>('day');
  protected readonly day = signal<string | null>(null);
  protected readonly subject = signal<string | null>(null);
  protected readonly month = signal<string | null>(null);
  protected readonly client = signal('');
  protected readonly why = signal('');
  private readonly refusedWhy = signal(false);
  private readonly all = signal<{ mixes: readonly Mix[]; sources: readonly SourceNow[] }>({ mixes: [], sources: [] });
  protected readonly write = new Write<Report>();
  private id = newId();

  protected readonly subjects = computed(() => [
    ...this.all().mixes.map((m) => ({ id: m.id, label: `${m.code} ${m.name}` })),
    ...this.all().sources.map((s) => ({ id: s.id, label: s.code })),
  ]);
  private readonly today = computed(() => DateTime.fromMillis(this.clock.now(), { zone: this.project()?.timezone ?? 'local' }));
  protected readonly months = computed(() =>
    Array.from({ length: 24 }, (_x, i) => this.today().startOf('month').minus({ months: i })).map((m) => ({
      id: m.toFormat('yyyy-MM'),
      label: m.setLocale('en-GB').toFormat('LLLL yyyy'),
    })),
  );
  protected readonly again = computed(() => this.before() || this.refusedWhy());
  protected readonly whyFault = computed(() =>
    this.refusedWhy() && this.why().trim().length < 3 ? 'One of it was issued already: say why.' : '',
  );
  protected readonly scope = computed((): ReportScope | null => {
    const [fixed, day, subjectId, month] = [this.fixed(), this.day(), this.subject(), this.month()];
    if (fixed) return fixed;
    if (this.of() === 'day') return day === null ? null : { of: 'day', day };
    return subjectId === null || month === null ? null : { of: 'month', subjectId, month };
  });

  constructor() {
    effect((gone) => {
      const p = this.project();
      if (!p || this.fixed()) return;
      this.day.set(this.today().toISODate());
      this.month.set(this.today().toFormat('yyyy-MM'));
      const asked = forkJoin([this.api.mixes(p.id), this.api.sources(p.id)]).subscribe(([mixes, sources]) =>
        this.all.set({ mixes: mixes.items, sources: sources.items }),
      );
      gone(() => asked.unsubscribe());
    });
  }

  protected make(): void {
    const [by, p, scope] = [this.person(), this.project(), this.scope()];
    if (by === null || !p || scope === null) return;
    const words = (name: string, text: string) => (text.trim() === '' ? {} : { [name]: text.trim() });
    const body = { id: this.id, by, projectId: p.id, scope, ...words('client', this.client()), ...words('why', this.why()) };
    this.write.send(
      { id: this.id, itemId: p.id, opens: '/ledger/reports', kind: 'report', path: '/reports', body },
      (report) => {
        this.write.busy.set(false);
        this.id = newId();
        this.refusedWhy.set(false);
        this.why.set('');
        this.made.emit(report);
      },
      {
        refused: (problem) => {
          // What was refused was never made: the next try is another write.
          this.id = newId();
          if (problem.errors?.some((e) => e.path === 'why')) this.refusedWhy.set(true);
        },
      },
    );
  }
}
