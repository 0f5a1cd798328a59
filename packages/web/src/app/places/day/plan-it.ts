import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { Router } from '@angular/router';
import type { DayView } from '@keen-mortar/contract';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { ButtonDirective } from 'primeng/button';
import { newId } from '../../device/ids';
import { Pressed } from '../../device/pressed';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { initialed, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Moment } from '../../ui/moment';
import type { DayRow } from './day.view';

/** When one thing is to be done, and by whom: beside its window and what of that lies in opening hours. */
@Component({
  selector: 'km-plan-it',
  imports: [ButtonDirective, Choice, Moment, WriteTold],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section data-testid="plan-it">
      <h3>{{ row().thing.label }}: {{ row().thing.what }}</h3>
      <p class="small soft">{{ row().thing.window }}: from {{ when(row().opens) }} to {{ when(row().ends) }}; {{ row().then }}.</p>
      <div class="fld">
        <label for="plan-at">To be done at</label>
        <km-moment inputId="plan-at" label="To be done at" [zone]="zone()" [stepMinutes]="15" [value]="at()" (chosen)="keyed.set($event)" />
      </div>
      <div class="fld">
        <span>By</span>
        <km-choice label="By" data-testid="plan-who" [options]="people()" [value]="who()" (chosen)="given.set($event)" />
      </div>
      @if (outside(); as o) {
        <p class="needs small" role="status">{{ o }}</p>
      }
      <km-write-told [write]="write" />
      <p class="acts">
        <button pButton type="button" data-testid="plan-keep" [disabled]="at() === null || write.busy()" (click)="keep(at())">
          Plan it
        </button>
        @if (row().thing.fit?.best; as best) {
          <button pButton severity="secondary" type="button" (click)="keyed.set(iso(best))">Best: {{ when(best) }}</button>
        }
        @if (row().thing.plannedAt !== null) {
          <button pButton severity="secondary" type="button" (click)="keep(null)">As it comes</button>
        }
        <button pButton [text]="true" type="button" class="link" (click)="left.emit()">leave it</button>
      </p>
    </section>
  `,
  styles: `
    section,
    .fld {
      display: grid;
      gap: 6px;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
  `,
})
export class PlanIt {
  readonly row = input.required<DayRow>();
  /** Where its bead was moved to. */
  readonly moved = input<number | null>(null);
  readonly zone = input.required<string>();
  readonly kept = output<DayView>();
  readonly left = output();
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly everybody = this.store.selectSignal(session.selectPeople);
  protected readonly people = computed(() => this.everybody().map(({ id, name }) => ({ id, label: initialed(name) })));
  protected readonly write = new Write<DayView>();
  protected readonly keyed = signal<string | null>(null);
  protected readonly given = signal<string | null>(null);
  protected readonly who = computed(() => this.given() ?? this.row().thing.who);
  protected readonly at = computed(() => {
    const at = this.moved() ?? this.row().bead;
    return this.keyed() ?? (at === null ? null : this.iso(at));
  });
  protected readonly iso = (ms: number): string => new Date(ms).toISOString();

  /** What is said of a time that is not in the window, or at which nobody is there. */
  protected readonly outside = computed((): string | null => {
    const [text, { opens, ends, thing, then }] = [this.at(), this.row()];
    if (text === null) return null;
    const at = Date.parse(text);
    if (at < opens) return 'That is before it may be done.';
    if (thing.endsAt !== null && at > ends) return `That is after its end: ${then}.`;
    const open = thing.fit?.pieces.some((p) => p.from <= at && at <= p.to) ?? true;
    return open ? null : 'The laboratory is closed then.';
  });

  protected when(ms: number): string {
    return DateTime.fromMillis(ms, { zone: this.zone() }).toFormat('ccc d LLL, HH:mm');
  }

  private readonly pressed = new Pressed(() => newId());

  protected keep(at: string | null): void {
    const by = this.person();
    if (by === null) return;
    const { itemIds, due, openId } = this.row().thing;
    const id = this.pressed.with([itemIds, due, at, this.who()]);
    this.write.send(
      {
        id,
        itemId: openId,
        opens: this.router.url,
        kind: 'planned',
        path: '/planned',
        body: { id, by, itemIds, due, at, who: at === null ? null : this.who() },
      },
      (view) => {
        this.write.busy.set(false);
        this.keyed.set(null);
        this.kept.emit(view);
      },
    );
  }
}
