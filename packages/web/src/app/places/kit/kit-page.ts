import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { dayIn, type Equipment, type KitSheet } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import {
  CALIBRATION,
  KIT_VALUES,
  kitField,
  methodById,
  stepsFor,
  unitLabel,
  USUAL_EXPLANATIONS,
  usualInputs,
  usualVariant,
  type Keyed,
  type Shape,
  type Source,
  type VerdictState,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { DateTime } from 'luxon';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { Paginator } from 'primeng/paginator';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { longDay, zonedTime } from '../../parts/when';
import { WriteTold } from '../../parts/write-told';
import { nameOf, project, session } from '../../state/session';
import { Answers } from '../../test/answers';
import { ComputationForm } from '../../test/computation-form';
import { ComputationStore } from '../../test/computation.store';
import { Form } from '../../test/form/form';
import { LEAST_REASON, Reason } from '../../test/reason';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { VerdictShape } from '../../ui/verdict-shape';
import { lastingOf } from './lasting';

const AT_ONCE = 25;

/** An instrument: its calibrations with what was read, and what was tested with it since the one in force. */
@Component({
  selector: 'km-kit-page',
  imports: [
    RouterLink,
    ButtonDirective,
    Paginator,
    FormsModule,
    Answers,
    Form,
    Field,
    FieldInput,
    InputText,
    Moment,
    Notice,
    Pictogram,
    Reason,
    VerdictShape,
    WriteTold,
  ],
  providers: [ComputationStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './kit-page.html',
  styleUrl: './kit-page.css',
})
export class KitPage {
  protected readonly store = inject(ComputationStore);
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly clock = inject(Clock);
  readonly equipmentId = input.required<string>();
  protected readonly project = this.state.selectSignal(project);
  private readonly person = this.state.selectSignal(session.selectPersonId);
  protected readonly nameOf = this.state.selectSignal(nameOf);
  protected readonly sheet = signal<KitSheet | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly from = signal(0);
  protected readonly size = AT_ONCE;
  protected readonly longDay = longDay;
  protected readonly unit = unitLabel;

  protected readonly kind = computed(() => this.sheet()?.equipment.kind ?? 'measure');
  protected readonly about = computed(() => CALIBRATION[this.kind()]);
  protected readonly picture = computed(() => this.about().picture);
  protected readonly lasting = computed(() => {
    const s = this.sheet();
    return s ? lastingOf(s.equipment, this.clock.now(), this.project()?.timezone ?? 'local') : null;
  });
  protected readonly own = computed(() => {
    const sources = (this.sheet()?.equipment.sources ?? {}) as Readonly<Record<string, Keyed>>;
    return KIT_VALUES[this.kind()].own.map((source) => ({ label: kitField(source).label, value: sources[source] }));
  });

  /** What is worked out at a calibration, and by which method; null where only its day is noted. */
  protected readonly by = computed(() => {
    const [item, by] = (Object.entries(KIT_VALUES[this.kind()].by ?? {}) as [Source, { method: string }][])[0] ?? [];
    const m = by && methodById(by.method);
    return item && m ? { item, m } : null;
  });
  protected readonly steps = computed(() => {
    const [m, e] = [this.by()?.m, this.store.evaluation()];
    return m && e ? stepsFor(m, e.params) : [];
  });
  protected readonly form = new ComputationForm(this.store);
  protected readonly on = signal<string | null>(null);
  /** The last day that the lab lets it hold; none: as long as the method does. */
  protected readonly due = signal<string | null>(null);
  protected readonly reason = signal('');
  protected readonly explanations = USUAL_EXPLANATIONS;
  private readonly unlikely = computed(
    () => this.by() !== null && (this.store.evaluation()?.issues ?? []).some((i) => i.severity !== 'impossible'),
  );
  protected readonly wantsReason = computed(() => this.unlikely());
  protected readonly write = new Write<Equipment>();
  private id = newId();
  protected readonly ready = computed(() => {
    const e = this.store.evaluation();
    return (
      this.on() !== null &&
      (this.by() === null || (e !== null && e.missing.length === 0 && e.issues.every((i) => i.severity !== 'impossible'))) &&
      (!this.wantsReason() || this.reason().trim().length >= LEAST_REASON)
    );
  });

  constructor() {
    effect((gone) => {
      this.again();
      const [id, from, finding] = [this.equipmentId(), this.from(), this.finding()];
      const asked = untracked(() => this.ask(id, from, finding));
      gone(() => asked.unsubscribe());
    });
    effect(() => {
      const [by, p] = [this.by(), this.project()];
      if (!p) return;
      untracked(() => {
        this.on.set(dayIn(p.timezone, this.clock.iso()));
        if (by) this.begin();
      });
    });
  }

  /** Which tests with it are shown: since its calibration, or those that a finding puts in question. */
  protected readonly finding = signal<string | null>(null);
  private readonly again = signal(0);
  protected look(finding: string | null): void {
    this.from.set(0);
    this.finding.set(finding);
    this.again.update((n) => n + 1);
  }

  private ask(id: string, from: number, finding: string | null) {
    return this.api.kitSheet(id, from, AT_ONCE, finding).subscribe({
      next: (sheet) => this.sheet.set(sheet),
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  private begin(): void {
    const [by, p] = [this.by(), this.project()];
    if (!by || !p) return;
    const variant = usualVariant(p.practice, by.m);
    this.store.open(by.m, { variant, system: p.system, inputs: usualInputs(by.m, variant, p.system) });
  }

  protected shown(source: string): string {
    return kitField(source as Source).label;
  }
  /** What was read, in words. */
  protected readings(inputs: Readonly<Record<string, unknown>>): { label: string; says: string }[] {
    const fields = (this.by()?.m.fields ?? {}) as Shape;
    return Object.entries(inputs).flatMap(([id, value]) => {
      const { text, unit } = (value ?? {}) as Partial<Keyed>;
      return fields[id] && text !== undefined && unit !== undefined
        ? [{ label: fields[id].label, says: `${text} ${unitLabel(unit)}` }]
        : [];
    });
  }

  protected title = (method: string): string => methodById(method)?.title ?? method;
  protected asState = (state: string): VerdictState => state as VerdictState;
  protected when(iso: string): string {
    const zone = this.project()?.timezone ?? 'local';
    return `${longDay(dayIn(zone, iso))}, ${zonedTime(iso, zone)}`;
  }

  protected keep(): void {
    const [by, on, worked, equipmentId] = [this.person(), this.on(), this.by(), this.equipmentId()];
    if (by === null || on === null || !this.ready()) return;
    const body = {
      id: this.id,
      by,
      on,
      ...(this.due() === null ? {} : { due: this.due() }),
      ...(this.reason().trim() === '' ? {} : { reason: this.reason().trim() }),
      ...(worked
        ? { worked: [{ item: worked.item, variant: this.store.variant(), system: this.store.system(), inputs: this.store.inputs() }] }
        : {}),
    };
    this.write.send(
      {
        id: this.id,
        itemId: equipmentId,
        opens: `/kit/${equipmentId}`,
        kind: 'calibration',
        path: `/equipment/${equipmentId}/calibrations`,
        body,
      },
      () => {
        // The next one is another.
        this.id = newId();
        this.write.busy.set(false);
        this.due.set(null);
        this.reason.set('');
        this.begin();
        this.look(null);
      },
    );
  }

  /* It was found wrong. */
  protected readonly wrongOpen = signal(false);
  protected readonly since = signal<string | null>(null);
  protected readonly why = signal('');
  protected readonly wrongWrite = new Write<Equipment>();
  protected readonly wrongFault = computed(() =>
    this.wrongTried() && this.why().trim().length < LEAST_REASON ? 'Say what is wrong with it.' : '',
  );
  private readonly wrongTried = signal(false);
  private wrongId = newId();

  /** From when it was right last: its calibration, or the first moment at all. */
  protected openWrong(): void {
    const [on, zone] = [this.sheet()?.equipment.calibratedOn ?? null, this.project()?.timezone ?? 'local'];
    this.since.set(on === null ? '2000-01-01T00:00:00.000Z' : DateTime.fromISO(on, { zone }).toUTC().toISO());
    this.wrongTried.set(false);
    this.wrongOpen.set(true);
  }

  protected keepWrong(): void {
    this.wrongTried.set(true);
    const [by, since, equipmentId] = [this.person(), this.since(), this.equipmentId()];
    if (by === null || since === null || this.wrongFault() !== '') return;
    const id = this.wrongId;
    this.wrongWrite.send(
      {
        id,
        itemId: equipmentId,
        opens: `/kit/${equipmentId}`,
        kind: 'kit-finding',
        path: `/equipment/${equipmentId}/findings`,
        body: { id, by, since, why: this.why().trim() },
      },
      () => {
        this.wrongId = newId();
        this.wrongWrite.busy.set(false);
        this.why.set('');
        this.wrongOpen.set(false);
        this.look(id);
      },
    );
  }
}
