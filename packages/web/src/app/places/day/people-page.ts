import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { newCertificate, type Certificate } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Pressed } from '../../device/pressed';
import { Write } from '../../device/write';
import { longDay, today } from '../../parts/when';
import { WriteTold } from '../../parts/write-told';
import { project, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';

/** A certificate that ends sooner is told of on the day, ms. */
const SOON = 30 * 86_400_000;

/** Who is here, what each may do, and until when. */
@Component({
  selector: 'km-people-page',
  imports: [FormsModule, RouterLink, ButtonDirective, InputText, Choice, Field, FieldInput, Moment, Notice, Pictogram, WriteTold],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="person" [size]="38" />
        <h1>People and certificates</h1>
        <span class="soft">what runs out within 30 days stands on the day</span>
      </header>
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      <div class="two">
        <ul data-testid="certified">
          @for (p of lines(); track p.id) {
            <li>
              <p>
                <b>{{ p.name }}</b> · <span class="soft">{{ p.role }}</span>
              </p>
              <ul>
                @for (c of p.certificates; track c.id) {
                  <li [class.soft]="!c.inForce">
                    <span>{{ c.what }}{{ c.number ? ', ' + c.number : '' }}</span>
                    <span class="fig small" [class.out]="c.state === 'past'" [class.edge]="c.state === 'soon'">{{ c.says }}</span>
                  </li>
                } @empty {
                  <li class="soft small">No certificate on record.</li>
                }
              </ul>
            </li>
          }
        </ul>
        <form (ngSubmit)="keep()" aria-label="A new certificate">
          <h2>A new certificate</h2>
          <km-field label="Of whom" inputId="certificate-who" [fault]="faults()['personId'] ?? ''">
            <km-choice label="Of whom" inputId="certificate-who" [options]="persons()" [value]="whose()" (chosen)="whose.set($event)" />
          </km-field>
          <km-field
            label="What for"
            inputId="certificate-what"
            hint="one of the same name takes the place of the one before"
            [fault]="faults()['what'] ?? ''"
            ><input kmIn pInputText name="what" autocomplete="off" [ngModel]="what()" (ngModelChange)="what.set($event)"
          /></km-field>
          <km-field label="Number" inputId="certificate-number" hint="where it has one" [fault]="faults()['number'] ?? ''"
            ><input kmIn pInputText name="number" autocomplete="off" [ngModel]="number()" (ngModelChange)="number.set($event)"
          /></km-field>
          <km-field label="From" inputId="certificate-from" [fault]="faults()['from'] ?? ''">
            <km-moment inputId="certificate-from" label="From" of="day" [value]="from()" (chosen)="from.set($event)" />
          </km-field>
          <km-field label="Until" inputId="certificate-until" hint="its last day" [fault]="faults()['until'] ?? ''">
            <km-moment inputId="certificate-until" label="Until" of="day" [value]="until()" (chosen)="until.set($event)" />
          </km-field>
          <km-write-told [write]="write" />
          <p class="row">
            <button pButton type="submit" data-testid="keep-certificate" [disabled]="write.busy()">Keep the certificate</button>
            <a class="link" routerLink="/day">Back to the day</a>
          </p>
        </form>
      </div>
    </div>
  `,
  styles: `
    .two {
      display: grid;
      gap: 16px 40px;
      align-items: start;
      margin-top: 12px;
    }
    .two > ul > li {
      padding: 10px 0;
      border-bottom: 1px solid var(--hair);
    }
    li li {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      gap: 2px 12px;
      padding: 4px 0 0 12px;
      overflow-wrap: anywhere;
    }
    form {
      display: grid;
      gap: 12px;
    }
    h2 {
      font-size: 17px;
    }
    @media (min-width: 860px) {
      .two {
        grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
      }
    }
  `,
})
export class PeoplePage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  private readonly store = inject(Store);
  private readonly people = this.store.selectSignal(session.selectPeople);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly project = this.store.selectSignal(project);
  private readonly all = signal<readonly Certificate[]>([]);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly write = new Write<{ items: Certificate[] }>();
  protected readonly persons = computed(() => this.people().map((p) => ({ id: p.id, label: p.name })));

  protected readonly whose = signal(this.person() ?? '');
  protected readonly what = signal('');
  protected readonly number = signal('');
  protected readonly from = signal<string | null>(today(this.project()?.timezone, new Date(this.clock.now())));
  protected readonly until = signal<string | null>(null);
  private readonly tried = signal(false);

  protected readonly lines = computed(() => {
    const now = this.clock.now();
    const state = (c: Certificate): 'past' | 'soon' | 'held' => {
      const left = Date.parse(`${c.until}T24:00:00Z`) - now;
      if (!c.inForce) return 'held';
      return left < 0 ? 'past' : left < SOON ? 'soon' : 'held';
    };
    return this.people().map((p) => ({
      ...p,
      certificates: this.all()
        .filter((c) => c.personId === p.id)
        .map((c) => ({ ...c, state: state(c), says: `${state(c) === 'past' ? 'ran out' : 'until'} ${longDay(c.until)}` })),
    }));
  });

  private readonly body = computed(() => ({
    personId: this.whose(),
    what: this.what().trim(),
    ...(this.number().trim() === '' ? {} : { number: this.number().trim() }),
    from: this.from() ?? '',
    until: this.until() ?? '',
  }));
  protected readonly faults = computed((): Readonly<Record<string, string>> => {
    if (!this.tried()) return {};
    const parsed = newCertificate.safeParse({ ...this.body(), id: newId(), by: newId() });
    if (parsed.success) return {};
    const says = (path: string, message: string): string => WANTED[path]?.(this.body()) ?? message;
    return Object.fromEntries(parsed.error.issues.map((i) => [i.path.join('.'), says(i.path.join('.'), i.message)]));
  });

  constructor() {
    this.api.certificates().subscribe({
      next: ({ items }) => this.all.set(items),
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  private readonly pressed = new Pressed(() => newId());

  protected keep(): void {
    this.tried.set(true);
    const by = this.person();
    if (by === null || Object.keys(this.faults()).length > 0) return;
    const id = this.pressed.with(this.body());
    const command = { id, itemId: this.whose(), opens: this.router.url, kind: 'certificate', path: '/certificates' } as const;
    this.write.send({ ...command, body: { id, by, ...this.body() } }, ({ items }) => {
      this.all.set(items);
      this.write.busy.set(false);
      this.tried.set(false);
      for (const field of [this.what, this.number]) field.set('');
      this.until.set(null);
    });
  }
}

const WANTED: Readonly<Record<string, (body: { until: string }) => string | null>> = {
  what: () => 'What it is for: field testing of concrete.',
  from: () => 'The day from which it holds.',
  until: ({ until }) => (until === '' ? 'The last day on which it holds.' : null),
};
