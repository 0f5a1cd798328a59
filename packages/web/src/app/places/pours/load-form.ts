import { newId } from '../../device/ids';
import { Notice } from '../../ui/notice';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { Clock } from '../../device/clock';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
  type OnDestroy,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { Problem } from '@keen-mortar/contract/problem';
import { designMass, newLoad, revisionAt, type Ingredient, type Load } from '@keen-mortar/contract';
import { brief, decimal, ticketRemarks, unitLabel, type Exact, type UnitId } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { ButtonDirective } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { TableModule } from 'primeng/table';
import { zonedTime } from '../../parts/when';
import { session } from '../../state/session';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Pictogram } from '../../ui/pictogram';
import { focusFault, ZodForm } from '../../ui/zod-form';
import { forgetTicket, rememberedTicket, rememberTicket } from './half-keyed';
import { pours, PoursActions } from './pours.state';

const text = (): FormControl<string> => new FormControl('', { nonNullable: true });
const materialGroup = () => new FormGroup({ actual: text(), moisture: text(), absorption: text() });

/** Only aggregates bring water with them. */
const isDamp = (m: Ingredient): boolean => m.role === 'fine' || m.role === 'coarse';

/** A load's ticket: what yield and the truck's clock need. Materials come from the mix; the masses are the scaled ones. */
@Component({
  selector: 'km-load-form',
  imports: [
    Notice,
    WriteTold,
    ReactiveFormsModule,
    RouterLink,
    ButtonDirective,
    Checkbox,
    InputText,
    TableModule,
    Field,
    FieldInput,
    Moment,
    Pictogram,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './load-form.html',
  styleUrl: './load-form.css',
})
export class LoadForm implements OnDestroy {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly pourId = input.required<string>();
  private readonly loaded = this.store.selectSignal(pours.selectPour);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly time = inject(Clock);
  protected readonly pour = computed(() => (this.loaded()?.id === this.pourId() ? this.loaded() : null));

  protected readonly form = new FormGroup({
    number: text(),
    ticket: text(),
    truck: text(),
    plant: text(),
    volume: text(),
    materials: new FormArray<ReturnType<typeof materialGroup>>([]),
    sure: new FormControl(false, { nonNullable: true }),
  });
  private readonly keyed = toSignal(this.form.valueChanges, { initialValue: this.form.getRawValue() });
  protected readonly check = new ZodForm(
    this.form,
    newLoad,
    () => this.body(),
    (path, message) => this.words(path, message),
  );
  /** What the ticket says; nothing until somebody has read it. */
  protected readonly batchedAt = signal<string | null>(null);
  protected readonly write = new Write<Load>();
  protected readonly dampness = ['moisture', 'absorption'] as const;
  protected readonly label = unitLabel;
  protected readonly zone = computed(() => this.pour()?.project.timezone ?? 'local');
  private readonly system = computed(() => this.pour()?.project.system ?? 'si');
  protected readonly massUnit = computed((): UnitId => (this.system() === 'us' ? 'lb' : 'kg'));
  protected readonly volumeUnit = computed((): UnitId => (this.system() === 'us' ? 'yd3' : 'm3'));
  /** The one that was in force when it was batched, which the record takes too. */
  protected readonly revision = computed(() => {
    const at = Date.parse(this.batchedAt() ?? '');
    return revisionAt(this.pour()?.mix.revisions ?? [], Number.isNaN(at) ? this.time.now() : at);
  });
  protected readonly rows = computed(() => [...(this.revision()?.ingredients ?? [])]);
  private readonly id = newId();
  private filled = false;

  constructor() {
    effect(() => {
      const pourId = this.pourId();
      untracked(() => this.store.dispatch(PoursActions.pourOpened({ pourId })));
    });
    effect(() => {
      const [p, rows] = [this.pour(), this.rows()];
      if (!p) return;
      untracked(() => {
        const { materials } = this.form.controls;
        while (materials.length < rows.length) materials.push(materialGroup());
        while (materials.length > rows.length) materials.removeAt(-1);
        if (this.filled) return;
        this.filled = true;
        const half = rememberedTicket(p.id);
        this.form.patchValue({
          number: String(Math.max(0, ...p.loadList.map((l) => l.number)) + 1),
          volume: p.loadList.at(-1)?.design.text ?? '',
          ...half?.form,
        });
        this.batchedAt.set(half?.batchedAt ?? null);
      });
    });
    // Half a ticket outlives a reload and a flat battery.
    effect(() => {
      this.keyed();
      this.batchedAt();
      this.remember();
    });
  }

  /** Not what is kept already: the pour is read again then, and the form is the same one still. */
  private remember(): void {
    const pour = this.pour();
    if (pour && this.form.dirty) rememberTicket(pour.id, { form: this.form.getRawValue(), batchedAt: this.batchedAt() });
  }

  /** What the design wants of each material for the volume ordered, in the unit of the ticket; null without a volume. */
  private readonly designs = computed((): (Exact | null)[] => {
    const volume = (this.keyed().volume ?? '').trim();
    const known = decimal(volume);
    return this.rows().map((i) =>
      known && known.compare(0) > 0 ? designMass(i.mass, { text: volume, unit: this.volumeUnit() }, this.massUnit()) : null,
    );
  });

  protected target(i: number): string {
    const design = this.designs()[i];
    return design ? brief(design, 4) : '…';
  }

  private readonly remarks = computed(() =>
    ticketRemarks(
      this.rows().map((m, i) => ({
        name: m.name,
        design: this.designs()[i] ?? null,
        actual: decimal(this.keyed().materials?.[i]?.actual ?? ''),
      })),
    ),
  );
  protected remarkAt(i: number): string {
    return this.remarks().find((r) => r.at === i)?.says ?? '';
  }
  protected farAt(i: number): boolean {
    return this.remarks().some((r) => r.at === i && r.kind !== 'off');
  }
  /** What has to be looked at twice before it is kept. */
  protected readonly asks = computed(() => {
    const ticket = (this.keyed().ticket ?? '').trim();
    const same = ticket === '' ? undefined : this.pour()?.loadList.find((l) => l.ticket === ticket);
    return [
      ...(same ? [`Ticket ${ticket} is on load ${same.number} already.`] : []),
      ...new Set(
        this.remarks()
          .filter((r) => r.kind !== 'off')
          .map((r) => r.says),
      ),
    ];
  });

  protected readonly ahead = computed(() => {
    const at = this.batchedAt();
    return at !== null && Date.parse(at) > this.time.now() + 60_000;
  });
  protected readonly batchedFault = computed(() => (this.ahead() ? 'This is ahead of now.' : ''));
  protected yesterday(): void {
    this.batchedAt.update((at) => (at === null ? null : DateTime.fromISO(at, { zone: this.zone() }).minus({ days: 1 }).toUTC().toISO()));
  }
  protected clock = (iso: string): string => zonedTime(iso, this.pour()?.project.timezone);
  protected readonly damp = isDamp;

  private body(): unknown {
    const { number, ticket, truck, plant, volume, materials } = this.form.getRawValue();
    return {
      id: this.id,
      by: this.person(),
      number: /^\d+$/.test(number.trim()) ? Number(number) : NaN,
      ticket,
      truck,
      ...(plant.trim() === '' ? {} : { plant: plant.trim() }),
      batchedAt: this.batchedAt() ?? '',
      design: { text: volume.trim(), unit: this.volumeUnit() },
      materials: this.rows().map((m, i) => {
        const { actual = '', moisture = '', absorption = '' } = materials[i] ?? {};
        const design = this.designs()[i];
        return {
          name: m.name,
          role: m.role,
          actual: actual.trim(),
          unit: this.massUnit(),
          ...(moisture.trim() === '' ? {} : { moisture: moisture.trim() }),
          ...(absorption.trim() === '' ? {} : { absorption: absorption.trim() }),
          ...(design ? { target: brief(design, 4) } : {}),
        };
      }),
    };
  }

  protected keep(): void {
    if (this.person() === null) return;
    const body = this.check.take();
    if (body === null || this.ahead()) return focusFault(this.host.nativeElement);
    if (this.asks().length > 0 && !this.form.controls.sure.value) {
      this.host.nativeElement.querySelector<HTMLElement>('#sure')?.focus();
      return;
    }
    const [id, pourId] = [this.id, this.pourId()];
    this.write.send(
      { id, itemId: pourId, opens: this.router.url, kind: 'load', path: `/pours/${pourId}/loads`, body },
      () => void this.router.navigate(['/pours', pourId]),
      // Kept here or on record: the next ticket begins empty.
      { kept: () => this.forget(), refused: (why) => this.refused(why) },
    );
  }

  private forget(): void {
    this.form.markAsPristine();
    forgetTicket(this.pourId());
  }

  private refused(why: Problem): void {
    this.check.refused(why.errors ?? []);
    this.form.markAsDirty();
    this.remember();
  }

  private words(path: string, message: string): string {
    if (path === 'number') return 'A whole number, 1 or more.';
    if (path === 'ticket' || path === 'truck') return 'Key what the ticket says.';
    if (path === 'batchedAt') return 'Key the batch time.';
    return /\.(actual|moisture|absorption)$/.test(path) || path === 'design.text'
      ? `Key ${message.startsWith('a decimal') ? message : `a number ${message}`}.`
      : message;
  }

  ngOnDestroy(): void {
    this.store.dispatch(PoursActions.pourClosed());
  }
}
