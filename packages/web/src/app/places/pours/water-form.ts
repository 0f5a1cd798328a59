import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { doubtsOfLoad, loadOnLine, type Load, type PourDetail } from '@keen-mortar/contract';
import {
  decimal,
  methodById,
  stepsFor,
  unitLabel,
  USUAL_ON_SITE,
  usualVariant,
  type AnyInputs,
  type Issue,
  variantOf,
  type Parameters,
  type System,
  type UnitId,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { InputText } from 'primeng/inputtext';
import { Router } from '@angular/router';
import { newId } from '../../device/ids';
import { Pressed } from '../../device/pressed';
import { Write } from '../../device/write';
import { asksWhy, Doubts } from '../../parts/doubts';
import { WriteTold } from '../../parts/write-told';
import { Clock } from '../../device/clock';
import { Choice } from '../../ui/choice';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { session } from '../../state/session';
import { LEAST_REASON } from '../../test/reason';

const WATER = methodById('water-on-site')!;

/** Water added after batching: forgetting it is the usual slip in a yield. */
@Component({
  selector: 'km-water-form',
  imports: [Doubts, WriteTold, FormsModule, ButtonDirective, InputText, Choice, Field, FieldInput, Moment],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="row" (ngSubmit)="add()">
      <km-field label="Water added on site" inputId="mass" [fault]="text() !== '' ? (fault() ?? '') : ''"
        ><input kmIn pInputText class="fig" name="mass" inputmode="decimal" [(ngModel)]="text"
      /></km-field>
      <km-field label="Unit" inputId="unit">
        <km-choice label="Unit" inputId="unit" [options]="units" [value]="unit()" (chosen)="chosen.set($any($event))" />
      </km-field>
      <km-field label="Added at" hint="now, if it is left empty" inputId="added">
        <km-moment label="Added at" inputId="added" [zone]="zone()" [value]="at()" (chosen)="at.set($event)" />
      </km-field>
      <button pButton type="submit" [disabled]="fault() !== null || text() === '' || unexplained() || write.busy()">
        Add it to the ticket
      </button>
      <km-doubts
        class="wide"
        kind="load"
        inputId="whyWater"
        [doubts]="doubts()"
        [refused]="write.problem()"
        [usual]="usual"
        [value]="why()"
        (given)="why.set($event)"
        (offered)="take($event)"
        (done)="add()"
      />
      <km-write-told class="wide" [write]="write" />
      <p class="soft small">
        1 L of water is 1 kg.
        @for (s of steps; track s.text) {
          {{ s.text }}
        }
      </p>
    </form>
  `,
  styles: `
    .row {
      align-items: center;
      padding: 6px 0;
    }
    p,
    .wide {
      flex-basis: 100%;
    }
  `,
})
export class WaterForm {
  readonly load = input.required<Load>();
  readonly pour = input.required<PourDetail>();
  readonly system = input.required<System>();
  readonly zone = input('local');
  readonly done = output();
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly clock = inject(Clock);
  protected readonly text = signal('');
  protected readonly why = signal('');
  protected readonly usual = USUAL_ON_SITE;
  protected readonly chosen = signal<UnitId | null>(null);
  /** When it was added, where that was not now: keyed late it was in what was tested all the same. */
  protected readonly at = signal<string | null>(null);
  protected readonly write = new Write<Load>();
  protected readonly units = (['L', 'gal', 'kg', 'lb'] as const).map((id) => ({ id, label: unitLabel(id) }));
  protected readonly unit = computed(() => this.chosen() ?? (this.system() === 'us' ? 'gal' : 'L'));
  /** What to do and to watch, as the method has it. */
  protected readonly steps = stepsFor(WATER, variantOf<Parameters>(WATER, usualVariant('us-astm', WATER)));
  private readonly pressed = new Pressed(() => ({ id: newId(), at: this.at() ?? this.clock.iso(), known: this.pour().readAt }));

  protected readonly fault = computed((): string | null => {
    const value = decimal(this.text());
    if (!value) return 'Key how much, like 45 or 45.5.';
    return value.compare(0) > 0 ? null : 'Water added is above zero.';
  });

  /** What the judge asks of this addition, beside what is in the load already. */
  protected readonly doubts = computed((): readonly Issue[] => {
    if (this.fault() !== null) return [];
    const load = loadOnLine(this.load());
    const rows = (load.facts as unknown as { water: readonly object[] }).water;
    // Before its moment is said it is now, by the minute: a question does not come and go while somebody reads it.
    const at = this.at() ?? new Date(Math.floor(this.clock.now() / 60_000) * 60_000).toISOString();
    const water = [...rows, { mass: { text: this.text().trim(), unit: this.unit() }, at }];
    return doubtsOfLoad(this.pour(), { ...load, facts: { ...load.facts, water } as AnyInputs }).filter((d) =>
      d.path.startsWith(`water.${rows.length}.`),
    );
  });
  private readonly asked = computed(() => this.doubts().length > 0 || asksWhy(this.write.problem()));
  protected readonly unexplained = computed(() => this.asked() && this.why().trim().length < LEAST_REASON);

  protected take({ offer }: Issue): void {
    if (!offer) return;
    this.text.set(offer.text);
    this.chosen.set(offer.unit);
  }

  protected add(): void {
    const by = this.person();
    if (by === null || this.fault() !== null || this.unexplained()) return;
    const reason = this.asked() ? this.why().trim() : undefined;
    // The same addition is sent the same: its moment is that of the first press.
    const { id, at, known } = this.pressed.with([this.text().trim(), this.unit(), this.at(), reason]);
    const [itemId, body] = [
      this.load().id,
      { id, by, mass: { text: this.text().trim(), unit: this.unit() }, at, known, ...(reason ? { reason } : {}) },
    ];
    this.write.send({ id, itemId, opens: this.router.url, kind: 'water', path: `/loads/${itemId}/water`, body }, () => this.done.emit());
  }
}
