import { NgTemplateOutlet } from '@angular/common';
import { LEAST_REASON } from '../../test/reason';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { dayIn, ownCopyAt, type OwnCopy } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import {
  answerText,
  byOwnCopy,
  evaluate,
  figuresIn,
  guidance,
  methodById,
  ownFaults,
  ownWords,
  pictureOf,
  say,
  type Evaluation,
  type OwnFigure,
  type OwnFigures,
  type Parameters,
  type ResultField,
  type Variant,
} from '@keen-mortar/core';
import { exampleOf } from '@keen-mortar/core/examples';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { TableModule } from 'primeng/table';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { longDay, momentText } from '../../parts/when';
import { WriteTold } from '../../parts/write-told';
import { nameOf, project, session } from '../../state/session';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { focusFault } from '../../ui/zod-form';

/** One table of figures: its columns, and its rows with a figure or nothing in each. */
interface FigureTable {
  readonly title: string;
  readonly head: readonly string[];
  readonly rows: (readonly (OwnFigure | null)[])[];
}

/** A lab’s own figures of a variant, beside those in print, with what they change of the worked example. */
@Component({
  selector: 'km-own-copy-page',
  imports: [
    NgTemplateOutlet,
    ReactiveFormsModule,
    RouterLink,
    ButtonDirective,
    InputText,
    TableModule,
    Field,
    FieldInput,
    Moment,
    Notice,
    Pictogram,
    WriteTold,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './own-copy-page.html',
  styleUrl: './own-copy-page.css',
})
export class OwnCopyPage {
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly method = input.required<string>();
  readonly variantId = input.required<string>();
  private readonly project = this.state.selectSignal(project);
  private readonly person = this.state.selectSignal(session.selectPersonId);
  protected readonly nameOf = this.state.selectSignal(nameOf);
  protected readonly zone = computed(() => this.project()?.timezone ?? 'local');

  protected readonly m = computed(() => methodById(this.method()) ?? null);
  protected readonly variant = computed(() => {
    const m = this.m();
    const variants = (m?.on ? m.variants : {}) as Readonly<Record<string, Variant<Parameters>>>;
    return Object.hasOwn(variants, this.variantId()) ? variants[this.variantId()]! : null;
  });
  protected readonly picture = computed(() => pictureOf(this.method()));
  private readonly allFigures = computed(() => figuresIn(this.variant()?.params ?? {}));
  /** Figures of the other system are in nobody’s way here: a project works in one. */
  private readonly figures = computed(() => {
    const other = this.project()?.system === 'us' ? 'si' : 'us';
    return this.allFigures().filter((f) => !f.path.split('|').includes(other));
  });
  protected readonly plain = computed(() => this.figures().filter((f) => f.cell === null));
  protected readonly tables = computed((): FigureTable[] => {
    const cells = this.figures().filter((f) => f.cell !== null);
    return [...new Set(cells.map((f) => f.cell!.table))].map((title) => {
      const own = cells.filter((f) => f.cell!.table === title);
      const head = [...new Set(own.map((f) => f.cell!.column))];
      const numbers = [...new Set(own.map((f) => f.cell!.row))];
      const rows = numbers.map((row) => head.map((column) => own.find((f) => f.cell!.row === row && f.cell!.column === column) ?? null));
      return { title, head, rows };
    });
  });

  /** What stands in each field: the figure in print, or the lab’s own. */
  private readonly controls = new Map<string, FormControl<string>>();
  private readonly keyed = signal<OwnFigures>({});
  protected control(f: OwnFigure): FormControl<string> {
    const found = this.controls.get(f.path);
    if (found) return found;
    const made = new FormControl(f.text, { nonNullable: true });
    made.valueChanges.pipe(takeUntilDestroyed(this.gone)).subscribe((text) => this.keyed.update((all) => ({ ...all, [f.path]: text })));
    this.controls.set(f.path, made);
    return made;
  }
  private readonly gone = inject(DestroyRef);
  /** What is in force now, or as printed. */
  private readonly inForce = signal<OwnFigures>({});
  /** Only what differs from the print. */
  protected readonly own = computed((): OwnFigures => {
    const keyed = this.keyed();
    const shown = new Set(this.figures());
    return Object.fromEntries(
      this.allFigures().flatMap((f) => {
        // What is not shown stays as it is in force.
        const text = (shown.has(f) ? keyed : this.inForce())[f.path]?.trim();
        return text === undefined || text === f.text ? [] : [[f.path, text]];
      }),
    );
  });
  protected isOwn = (f: OwnFigure): boolean => this.own()[f.path] !== undefined;
  protected readonly nothing = computed(() => Object.keys(this.own()).length === 0);
  protected readonly same = computed(() => {
    const [own, before] = [this.own(), this.inForce()];
    return Object.keys({ ...own, ...before }).every((path) => own[path] === before[path]);
  });
  protected readonly faults = computed((): Readonly<Record<string, string>> =>
    Object.fromEntries(
      Object.entries(ownFaults(this.variant()?.params ?? {}, this.own())).map(([path, { code, params }]) => [path, say(code, params)]),
    ),
  );

  private readonly printed = computed(() => this.exampleBy(null));
  private readonly mine = computed(() => (Object.keys(this.faults()).length > 0 ? this.printed() : this.exampleBy(this.own())));
  protected readonly compared = computed(() => {
    const [m, printed, mine] = [this.m(), this.printed(), this.mine()];
    const fields = (m?.results ?? {}) as Readonly<Record<string, ResultField>>;
    const text = (e: Evaluation | null, id: string): string => {
      const r = e?.results.find((one) => one.id === id);
      return r ? answerText(fields[id]!, r, momentText) : '';
    };
    return Object.entries(fields)
      .map(([id, { label }]) => ({ id, label, printed: text(printed, id), own: text(mine, id) }))
      .filter((r) => r.printed !== '' || r.own !== '');
  });
  /** What is said of the example by these figures, and not by the print. */
  protected readonly said = computed(() => {
    const m = this.m();
    const told = (e: Evaluation | null): string[] => (m && e ? guidance(m, e).flatMap((t) => (t.code === 'own-copy' ? [] : [t.says])) : []);
    const before = told(this.printed());
    return told(this.mine()).filter((s) => !before.includes(s));
  });

  private exampleBy(own: OwnFigures | null): Evaluation | null {
    const [m, p] = [this.m(), this.project()];
    if (!m || !p || !this.variant()) return null;
    const variant = this.variantId();
    return evaluate(m, exampleOf(m), { variant, system: p.system, ...byOwnCopy(m, variant, own), offers: false });
  }

  protected readonly problem = signal<Problem | null>(null);
  private readonly all = signal<readonly OwnCopy[]>([]);
  protected readonly before = computed(() =>
    this.all().map((c) => {
      const planned = Date.parse(c.from) > this.clock.now();
      const what = ownWords(this.variant()?.params ?? {}, c.figures);
      return { ...c, says: what || 'as printed', when: `${planned ? 'from' : 'since'} ${longDay(dayIn(this.zone(), c.from))}` };
    }),
  );

  protected readonly from = signal<string | null>(null);
  protected readonly why = new FormControl('', { nonNullable: true });
  private readonly whyKeyed = toSignal(this.why.valueChanges, { initialValue: '' });
  private readonly tried = signal(false);
  protected readonly whyFault = computed(() =>
    this.tried() && this.whyKeyed().trim().length < LEAST_REASON ? 'Say in a few words whose rule it is.' : '',
  );
  protected readonly write = new Write<OwnCopy>();
  protected readonly refused = computed((): Readonly<Record<string, string>> =>
    Object.fromEntries((this.write.problem()?.errors ?? []).map((e) => [e.path, e.message])),
  );
  private id = newId();

  constructor() {
    effect((gone) => {
      const [p, method, variant] = [this.project(), this.method(), this.variantId()];
      if (!p) return;
      const asked = untracked(() => this.ask(p.id, method, variant));
      gone(() => asked.unsubscribe());
    });
  }

  private ask(projectId: string, method: string, variant: string) {
    return this.api.ownCopies(projectId, { method, variant }).subscribe({
      next: (all) => {
        this.all.set(all);
        const now = ownCopyAt(all, { method, variant }, this.clock.iso())?.figures ?? {};
        this.inForce.set(now);
        this.fill(now);
      },
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  private fill(own: OwnFigures): void {
    for (const f of this.figures()) this.control(f).setValue(own[f.path] ?? f.text);
  }

  protected keep(): void {
    this.tried.set(true);
    const [p, by, from] = [this.project(), this.person(), this.from()];
    if (!p || by === null) return;
    if (Object.keys(this.faults()).length > 0 || this.whyFault() !== '') return focusFault(this.host.nativeElement);
    const body = {
      id: this.id,
      by,
      projectId: p.id,
      method: this.method(),
      variant: this.variantId(),
      why: this.why.value.trim(),
      figures: this.own(),
      ...(from === null ? {} : { from }),
    };
    this.write.send({ id: this.id, itemId: this.id, opens: this.router.url, kind: 'own-copy', path: '/own-copies', body }, () => {
      // The next one is another.
      this.id = newId();
      this.write.busy.set(false);
      this.tried.set(false);
      this.why.setValue('');
      this.from.set(null);
      this.ask(p.id, this.method(), this.variantId());
    });
  }
}
