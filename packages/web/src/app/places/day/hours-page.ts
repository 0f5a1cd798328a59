import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { newHours, type DayView, type NewHours } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Pressed } from '../../device/pressed';
import { Write } from '../../device/write';
import { today } from '../../parts/when';
import { WriteTold } from '../../parts/write-told';
import { project, session } from '../../state/session';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { Switch } from '../../ui/switch';

const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

interface Line {
  readonly day: string;
  readonly open: boolean;
  readonly from: string;
  readonly until: string;
}

/** When somebody is in the laboratory: windows are fitted into it. From a day on, or for some days only. */
@Component({
  selector: 'km-hours-page',
  imports: [FormsModule, RouterLink, ButtonDirective, InputText, Field, FieldInput, Moment, Notice, Pictogram, Switch, WriteTold],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="place" (ngSubmit)="keep()">
      <header>
        <km-pic name="clock" [size]="38" />
        <h1>Opening hours</h1>
        <span class="soft">breaks, readings and fetching are fitted into them</span>
      </header>
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      <div class="row">
        <km-field label="From" inputId="hours-from">
          <km-moment inputId="hours-from" label="From" of="day" [value]="first()" (chosen)="first.set($event)" />
        </km-field>
        <km-field label="Until" inputId="hours-to" hint="for good, if it is left empty" [fault]="faults()['to'] ?? ''">
          <km-moment inputId="hours-to" label="Until" of="day" [value]="last()" (chosen)="last.set($event)" />
        </km-field>
      </div>
      <ul>
        @for (l of lines(); track l.day; let i = $index) {
          <li>
            <b>{{ l.day }}</b>
            <km-switch
              [label]="l.day"
              [options]="openOrNot"
              [value]="l.open ? 'open' : 'closed'"
              (chosen)="set(i, { open: $event === 'open' })"
            />
            @if (l.open) {
              <input
                pInputText
                class="fig"
                inputmode="numeric"
                [attr.aria-label]="l.day + ', opens'"
                [class.ng-wrong]="faults()['week.' + i]"
                [name]="'open-' + i"
                [ngModel]="l.from"
                (ngModelChange)="set(i, { from: $event })"
              />
              <input
                pInputText
                class="fig"
                inputmode="numeric"
                [attr.aria-label]="l.day + ', closes'"
                [class.ng-wrong]="faults()['week.' + i]"
                [name]="'close-' + i"
                [ngModel]="l.until"
                (ngModelChange)="set(i, { until: $event })"
              />
              @if (faults()['week.' + i]; as why) {
                <small class="needs">{{ why }}</small>
              }
            }
          </li>
        }
      </ul>
      <km-field label="Why" inputId="hours-why" hint="like a holiday, or a late break"
        ><input kmIn pInputText name="why" [ngModel]="why()" (ngModelChange)="why.set($event)"
      /></km-field>
      <km-write-told [write]="write" />
      <p class="row">
        <button pButton type="submit" data-testid="keep-hours" [disabled]="write.busy()">Keep the hours</button>
        <a class="link" routerLink="/day">Back to the day</a>
      </p>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 12px;
      max-width: 620px;
      align-content: start;
    }
    li {
      display: grid;
      grid-template-columns: 110px auto 96px 96px;
      align-items: center;
      gap: 10px;
      min-height: 52px;
      border-bottom: 1px solid var(--hair);
    }
    @media (max-width: 520px) {
      li {
        grid-template-columns: minmax(0, 1fr) auto;
        gap: 6px;
      }
    }
  `,
})
export class HoursPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  private readonly store = inject(Store);
  /** Days that a link asks to open, yyyy-mm-dd. */
  readonly from = input<string>();
  readonly to = input<string>();
  private readonly project = this.store.selectSignal(project);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly write = new Write<DayView>();
  protected readonly openOrNot = [
    { id: 'open', label: 'open' },
    { id: 'closed', label: 'closed' },
  ];
  protected readonly first = signal<string | null>(null);
  protected readonly last = signal<string | null>(null);
  protected readonly why = signal('');
  protected readonly lines = signal<readonly Line[]>([]);
  private readonly tried = signal(false);

  private readonly week = computed((): NewHours['week'] => this.lines().map((l) => (l.open ? [l.from.trim(), l.until.trim()] : null)));
  private readonly body = computed(() => {
    const why = this.why().trim();
    return {
      projectId: this.project()?.id ?? '',
      from: this.first() ?? '',
      ...(this.last() ? { to: this.last()! } : {}),
      week: this.week(),
      ...(why === '' ? {} : { why }),
    };
  });
  protected readonly faults = computed((): Readonly<Record<string, string>> => {
    if (!this.tried()) return {};
    const parsed = newHours.safeParse({ ...this.body(), id: newId(), by: newId() });
    if (parsed.success) return {};
    return Object.fromEntries(parsed.error.issues.map((i) => [i.path.slice(0, 2).join('.'), i.message]));
  });

  constructor() {
    effect(() => {
      const p = this.project();
      if (p) untracked(() => this.ask(p.id, p.timezone));
    });
  }

  private ask(projectId: string, zone: string): void {
    const now = today(zone, new Date(this.clock.now()));
    this.first.set(this.from() ?? now);
    this.last.set(this.to() ?? null);
    this.api.hours(projectId).subscribe({
      next: ({ week }) => {
        const all = this.from() !== undefined;
        this.lines.set(
          week.map((hours, i) => ({
            day: DAYS[i]!,
            open: hours !== null || (all && this.falls(i)),
            from: hours?.[0] ?? '07:00',
            until: hours?.[1] ?? '17:30',
          })),
        );
      },
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  /** Whether a day of the week lies in what a link asks to open. */
  private falls(weekday: number): boolean {
    const [from, to] = [Date.parse(`${this.from()}T00:00:00Z`), Date.parse(`${this.to() ?? this.from()}T00:00:00Z`)];
    for (let at = from; at <= to && at < from + 7 * 86_400_000; at += 86_400_000)
      if ((new Date(at).getUTCDay() + 6) % 7 === weekday) return true;
    return false;
  }

  protected set(i: number, to: Partial<Line>): void {
    this.lines.update((all) => all.map((l, n) => (n === i ? { ...l, ...to } : l)));
  }

  private readonly pressed = new Pressed(() => newId());

  protected keep(): void {
    this.tried.set(true);
    const by = this.person();
    if (by === null || Object.keys(this.faults()).length > 0) return;
    const id = this.pressed.with(this.body());
    const { projectId } = this.body();
    this.write.send(
      { id, itemId: projectId, opens: this.router.url, kind: 'hours', path: '/hours', body: { id, by, ...this.body() } },
      () => void this.router.navigateByUrl('/day'),
    );
  }
}
