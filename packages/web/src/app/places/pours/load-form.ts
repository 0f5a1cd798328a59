import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { asksWhy, Doubts } from '../../parts/doubts';
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
import { doubtsOfLoad, newLoad, revisionAt, type Ingredient, type Load } from '@keen-mortar/contract';
import {
  brief,
  convert,
  evaluate,
  factsForm,
  ticketLines,
  ticketRemarks,
  unitLabel,
  USUAL_ON_SITE,
  type Issue,
  type LineItem,
  type UnitId,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { TableModule } from 'primeng/table';
import { zonedTime } from '../../parts/when';
import { session } from '../../state/session';
import { allMeant } from '../../test/meant';
import { LEAST_REASON } from '../../test/reason';
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
    WriteTold,
    ReactiveFormsModule,
    RouterLink,
    ButtonDirective,
    Doubts,
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
    why: text(),
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

  /** What the ticket says so far, as it will be known of the load. */
  private readonly item = computed((): LineItem => {
    const { ticket = '', volume = '', materials = [] } = this.keyed();
    const keyed = (text: string | undefined, unit: UnitId) => ((text ?? '').trim() === '' ? null : { text: text!.trim(), unit });
    const facts = {
      ticket: ticket.trim(),
      truck: this.keyed().truck ?? '',
      batchedAt: this.batchedAt() ?? undefined,
      design: keyed(volume, this.volumeUnit()),
      materials: this.rows().map((m, i) => ({
        name: m.name,
        role: m.role,
        actual: keyed(materials[i]?.actual, this.massUnit()),
        moisture: keyed(materials[i]?.moisture, '%'),
        absorption: keyed(materials[i]?.absorption, '%'),
      })),
    };
    const at = this.batchedAt() ?? new Date(this.time.now()).toISOString();
    return { id: this.id, kind: 'load', parentId: this.pourId(), code: '', at, voided: false, facts: facts };
  });

  /** Each material beside what was to be weighed of it for the volume ordered, kg. */
  private readonly lines = computed(() => {
    const { design, materials } = this.item().facts as unknown as {
      design: { text: string; unit: UnitId } | null;
      materials: Parameters<typeof ticketLines>[2];
    };
    return ticketLines(this.rows(), design, materials);
  });

  protected target(i: number): string {
    const design = this.lines()[i]?.design;
    return design ? brief(convert(design, 'kg', this.massUnit()), 4) : '…';
  }

  private readonly remarks = computed(() => (this.doubts().some((d) => d.path === 'design') ? [] : ticketRemarks(this.lines())));
  protected remarkAt(i: number): string {
    return this.remarks().find((r) => r.at === i)?.says ?? '';
  }
  protected farAt(i: number): boolean {
    return this.remarks().some((r) => r.at === i && r.kind !== 'off');
  }

  /** What cannot be, by the form of a load; what is no number yet is told at its field when it is kept. */
  protected readonly impossible = computed(() =>
    evaluate(factsForm('load'), this.item().facts, { variant: 'facts', system: this.system() }).issues.filter(
      (i) => i.code === 'impossible-value',
    ),
  );
  /** What the judge asks about before it is kept; what cannot be comes first. */
  protected readonly doubts = computed((): readonly Issue[] => {
    const [pour, impossible] = [this.pour(), this.impossible()];
    if (impossible.length > 0) return impossible;
    return pour ? doubtsOfLoad(pour, this.item()) : [];
  });
  private readonly asked = computed(() => this.doubts().length > 0 || asksWhy(this.write.problem()));
  protected readonly usual = USUAL_ON_SITE;
  protected take({ path, offer }: Issue): void {
    for (const meant of offer ? allMeant(path, offer) : []) {
      const [field, row, column] = meant.path.split('.');
      const control = field === 'design' ? this.form.controls.volume : this.form.controls.materials.at(Number(row)).get(column!);
      control?.setValue(meant.text);
    }
    this.form.markAsDirty();
  }

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
      ...(this.asked() && this.form.controls.why.value.trim() !== '' ? { reason: this.form.controls.why.value.trim() } : {}),
      known: this.pour()?.readAt,
      batchedAt: this.batchedAt() ?? '',
      design: { text: volume.trim(), unit: this.volumeUnit() },
      materials: this.rows().map((m, i) => {
        const { actual = '', moisture = '', absorption = '' } = materials[i] ?? {};
        const target = this.target(i);
        return {
          name: m.name,
          role: m.role,
          actual: actual.trim(),
          unit: this.massUnit(),
          ...(moisture.trim() === '' ? {} : { moisture: moisture.trim() }),
          ...(absorption.trim() === '' ? {} : { absorption: absorption.trim() }),
          ...(target === '…' ? {} : { target }),
        };
      }),
    };
  }

  protected keep(): void {
    if (this.person() === null) return;
    const body = this.check.take();
    if (body === null || this.ahead() || this.impossible().length > 0) return focusFault(this.host.nativeElement);
    const why = this.form.controls.why.value.trim();
    if (this.asked() && why.length < LEAST_REASON) {
      this.host.nativeElement.querySelector<HTMLElement>('#why')?.focus();
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
