import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dayIn, type SourceSheet } from '@keen-mortar/contract';
import { propertyOf, unitLabel, USUAL_ACCEPTANCES } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Pressed } from '../../device/pressed';
import { Write } from '../../device/write';
import { longDay } from '../../parts/when';
import { WriteTold } from '../../parts/write-told';
import { initialed, nameOf, session } from '../../state/session';
import { Reason } from '../../test/reason';
import { Field } from '../../ui/field';
import { Moment } from '../../ui/moment';

type Value = SourceSheet['gravity'];

/** What counts of a source for its mixes and trial batches, what was found since, and the way to take that over. */
@Component({
  selector: 'km-counts',
  imports: [RouterLink, ButtonDirective, Field, Moment, Reason, WriteTold],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section [class.news]="newer()" data-testid="counts">
      <div>
        <h2>{{ newer() ? 'Found since, and not taken over' : 'Counts for its mixes' }}</h2>
        <dl>
          @for (f of figures(); track f.label) {
            <div>
              <dt>{{ f.label }}</dt>
              <dd class="fig">
                {{ f.counts }}
                @if (f.newer) {
                  <span class="soft" aria-hidden="true">→</span><span class="unseen"> now found as </span><b class="needs">{{ f.newer }}</b>
                }
              </dd>
            </div>
          }
        </dl>
        <p class="soft small">
          @if (test(); as t) {
            Counts: <a [routerLink]="['/record', t.itemId]">{{ t.code }}</a>, {{ day(t.at) }}, {{ accepted() }}.
          }
          @if (newer(); as t) {
            Found: <a [routerLink]="['/record', t.itemId]">{{ t.code }}</a>, {{ day(t.at) }}.
          }
        </p>
      </div>
      @if (taking()) {
        <form class="take" (submit)="$event.preventDefault(); keep()">
          <km-write-told [write]="write" />
          <km-field label="Counts from" inputId="counts-from">
            <km-moment label="Counts from" inputId="counts-from" [zone]="zone()" [value]="from()" (chosen)="from.set($event)" />
          </km-field>
          <km-reason label="Why" inputId="counts-why" [usual]="reasons" [value]="why()" (given)="why.set($event)" (done)="keep()" />
          <p class="soft small">
            Nothing that was worked out before changes. Mixes that stand on the other figure are stale until somebody looks.
          </p>
          <div class="row">
            <button pButton type="submit" data-testid="take-over" [disabled]="write.busy() || from() === null">Take over</button>
            <button pButton severity="secondary" type="button" (click)="taking.set(false)">Back</button>
          </div>
        </form>
      } @else if (takes()) {
        <button pButton type="button" data-testid="takes" [severity]="newer() ? null : 'secondary'" (click)="begin()">
          {{ newer() ? 'Take over ' + offered() : 'Take these over: later ones wait' }}
        </button>
      }
    </section>
  `,
  styleUrl: './counts.css',
})
export class Counts {
  readonly sheet = input.required<SourceSheet>();
  readonly zone = input.required<string>();
  /** As of a day that is past nothing is taken over. */
  readonly asOf = input(false);
  readonly changed = output<SourceSheet>();
  private readonly store = inject(Store);
  private readonly clock = inject(Clock);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly nameOf = this.store.selectSignal(nameOf);
  protected readonly write = new Write<SourceSheet>();
  private readonly pressed = new Pressed(() => newId());
  protected readonly reasons = USUAL_ACCEPTANCES;
  protected readonly taking = signal(false);
  protected readonly from = signal<string | null>(null);
  protected readonly why = signal('');

  protected readonly test = computed(() => (this.sheet().gravity ?? this.sheet().absorption)?.test ?? null);
  protected readonly newer = computed(() => (this.sheet().newer?.gravity ?? this.sheet().newer?.absorption)?.test ?? null);
  protected readonly takes = computed(() => !this.asOf() && (this.newer() !== null || (this.test() !== null && !this.sheet().accepted)));
  protected readonly figures = computed(() => {
    const { gravity, absorption, newer } = this.sheet();
    const line = (property: string, now: Value, then: Value | undefined) => {
      const says = (v: Value | undefined): string => (v ? `${v.text} ${unitLabel(v.unit)}`.trim() : '–');
      return now || then
        ? [{ label: propertyOf(property)?.label ?? property, counts: says(now), newer: then && says(then) !== says(now) ? says(then) : '' }]
        : [];
    };
    return [...line('sg-ssd', gravity, newer?.gravity), ...line('absorption', absorption, newer?.absorption)];
  });
  protected readonly offered = computed(() => {
    const { newer } = this.sheet();
    return [newer?.gravity, newer?.absorption].flatMap((v) => (v ? [`${v.text} ${unitLabel(v.unit)}`.trim()] : [])).join(' and ');
  });
  protected readonly accepted = computed(() => {
    const a = this.sheet().accepted;
    if (!a) return 'the newest, as long as nobody takes one over';
    return `taken over from ${this.day(a.from)} on by ${initialed(this.nameOf()(a.by))}${a.why ? `: ${a.why}` : ''}`;
  });

  protected day(iso: string): string {
    return longDay(dayIn(this.zone(), iso));
  }

  protected begin(): void {
    this.from.set(this.clock.iso());
    this.why.set('');
    this.taking.set(true);
  }

  protected keep(): void {
    const [by, from, test] = [this.person(), this.from(), this.newer() ?? this.test()];
    if (by === null || from === null || test === null || this.write.busy()) return;
    const itemId = this.sheet().item.id;
    const why = this.why().trim();
    const id = this.pressed.with([test.id, from, why]);
    this.write.send(
      {
        id,
        itemId,
        opens: `/sources/${itemId}`,
        kind: 'acceptance',
        path: `/sources/${itemId}/acceptances`,
        body: { id, by, testId: test.id, from, ...(why === '' ? {} : { why }) },
      },
      (sheet) => {
        this.write.busy.set(false);
        this.taking.set(false);
        this.changed.emit(sheet);
      },
    );
  }
}
