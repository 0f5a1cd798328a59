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
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import {
  newDecision,
  type DecisionEffect,
  type DecisionsPage,
  type DecisionTried,
  type DecisionView,
  type FindingView,
  type NewDecision,
} from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { DECISION_IDS, DECISIONS, evidenceParts, type DecisionId } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Paginator } from 'primeng/paginator';
import { RadioButton } from 'primeng/radiobutton';
import { TableModule } from 'primeng/table';
import { Textarea } from 'primeng/textarea';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Pressed } from '../../device/pressed';
import { Write } from '../../device/write';
import { EffectChart } from './effect-chart';
import { shapeOf } from '../../parts/findings';
import { momentText } from '../../parts/when';
import { WriteTold } from '../../parts/write-told';
import { nameOf, project, session } from '../../state/session';
import { Choice } from '../../ui/choice';
import { Field, FieldInput } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { VerdictShape } from '../../ui/verdict-shape';
import { focusFault, ZodForm } from '../../ui/zod-form';

type Waiting = DecisionsPage['waiting'][number];
type Decided = DecisionsPage['decided'][number];

const keyOf = (f: Pick<FindingView, 'finding' | 'subjectId' | 'part'>): string => `${f.subjectId} ${f.finding} ${f.part}`;

/** Somebody outside: named with their firm. */
const OUTSIDE = 'outside';

const WORDS: Readonly<Record<string, string>> = {
  decided: 'Choose what was decided.',
  whoId: 'Say who decided.',
  who: 'Say who decided.',
  'who.name': 'Say who decided.',
  'who.firm': 'Say for which firm.',
  why: 'Say why, in three letters or more.',
  paper: 'At most 200 letters.',
  at: 'Say when it was decided.',
};

/** What the figures alone do not settle: what waits for somebody's word, the word that is put on record, and what was decided. */
@Component({
  selector: 'km-decisions-page',
  imports: [
    ButtonDirective,
    Choice,
    EffectChart,
    Field,
    FieldInput,
    InputText,
    Moment,
    Notice,
    Paginator,
    Pictogram,
    RadioButton,
    ReactiveFormsModule,
    RouterLink,
    TableModule,
    Textarea,
    VerdictShape,
    WriteTold,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './decisions-page.html',
  styleUrl: './decisions-page.css',
})
export class DecisionsPlace {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  private readonly destroyRef = inject(DestroyRef);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** The finding that a link leads to. */
  readonly on = input<string>();
  readonly finding = input<string>();
  readonly part = input<string>();

  protected readonly project = this.store.selectSignal(project);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly people = this.store.selectSignal(session.selectPeople);
  protected readonly nameOf = this.store.selectSignal(nameOf);
  protected readonly page = signal<DecisionsPage | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  /** A finding that a link leads to, and that does not wait. */
  private readonly other = signal<Waiting | null>(null);
  protected readonly chosenKey = signal<string | null>(null);
  protected readonly write = new Write<DecisionView>();
  protected readonly taking = signal<Decided | null>(null);
  protected readonly takeWhy = signal('');
  protected readonly takeTried = signal(false);
  protected readonly takeWrite = new Write<DecisionView>();

  protected readonly form = new FormGroup({
    decided: new FormControl<DecisionId | null>(null),
    whoId: new FormControl<string | null>(OUTSIDE),
    name: new FormControl('', { nonNullable: true }),
    firm: new FormControl('', { nonNullable: true }),
    why: new FormControl('', { nonNullable: true }),
    paper: new FormControl('', { nonNullable: true }),
    at: new FormControl<string | null>(null),
  });
  /** Of what cannot be decided: it is shown, and never chosen. */
  protected readonly cannot = new FormControl<DecisionId | null>({ value: null, disabled: true });
  private readonly keyed = toSignal(this.form.valueChanges, { initialValue: this.form.value });
  protected readonly isOutside = computed(() => this.keyed().whoId === OUTSIDE);
  protected readonly at = computed(() => this.keyed().at ?? null);
  protected readonly whoId = computed(() => this.keyed().whoId ?? null);
  protected readonly zod = new ZodForm<NewDecision>(
    this.form,
    newDecision,
    () => ({ id: newId(), by: newId(), ...this.body() }),
    (path, message) => WORDS[path] ?? message,
  );
  private readonly pressed = new Pressed(() => newId());
  private readonly pressedBack = new Pressed(() => newId());

  protected readonly waiting = computed((): readonly Waiting[] => {
    const [page, other] = [this.page(), this.other()];
    const all = page?.waiting ?? [];
    return other && !all.some((f) => keyOf(f) === keyOf(other)) ? [other, ...all] : all;
  });
  protected readonly inHand = computed(() => this.waiting().find((f) => keyOf(f) === this.chosenKey()) ?? this.waiting()[0] ?? null);
  protected readonly evidence = computed(() => evidenceParts(this.inHand()?.evidence ?? []));
  /** In the order in which they are told everywhere; what cannot be decided here stands among them with why. */
  protected readonly choices = computed(() => {
    const f = this.inHand();
    const not = new Map((f?.cannot ?? []).map(({ decided, why }) => [decided, why]));
    return DECISION_IDS.filter((id) => f?.choices.includes(id) === true || not.has(id)).map((id) => ({
      id,
      label: DECISIONS[id].label,
      does: not.get(id) ?? DECISIONS[id].does,
      not: not.has(id),
    }));
  });
  protected readonly whoOptions = computed(() => [
    { id: OUTSIDE, label: 'somebody of another firm' },
    ...this.people().map((p) => ({ id: p.id, label: p.name })),
  ]);
  protected readonly size = 25;
  protected readonly from = signal(0);
  private readonly tried = computed((): DecisionTried | null => {
    const [f, decided, by] = [this.inHand(), this.keyed().decided ?? null, this.person()];
    return f && decided && by ? { subject: f.subjectId, finding: f.finding, part: f.part, decided, by } : null;
  });
  /** What the choice in hand would do. */
  protected readonly effect = {
    value: signal<DecisionEffect | null>(null),
    problem: signal<Problem | null>(null),
  };
  protected readonly figures = computed(() => [...(this.effect.value()?.series?.figures ?? [])]);
  protected readonly keyOf = keyOf;
  protected readonly shapeOf = shapeOf;
  protected readonly when = (iso: string): string => momentText(iso);

  constructor() {
    this.form.controls.at.setValue(this.clock.iso());
    effect(() => {
      const p = this.project();
      if (p) untracked(() => this.ask(p.id));
    });
    effect((gone) => {
      const tried = this.tried();
      this.effect.value.set(null);
      this.effect.problem.set(null);
      if (!tried) return;
      const asked = this.api.decisionEffect(tried).subscribe({
        next: (e) => this.effect.value.set(e),
        error: (e: unknown) => this.effect.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
    effect(() => {
      const [on, finding] = [this.on(), this.finding()];
      if (on !== undefined && finding !== undefined) untracked(() => this.lead(on, finding, this.part() ?? ''));
    });
  }

  protected ask(projectId: string): void {
    this.problem.set(null);
    this.api.decisions(projectId, this.from(), this.size).subscribe({
      next: (page) => this.page.set(page),
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  protected again(): void {
    const p = this.project();
    if (p) this.ask(p.id);
  }

  protected turn(from: number): void {
    this.from.set(from);
    this.again();
  }

  /** The finding of the link is in hand, whether it waits or was decided on before. */
  private lead(on: string, finding: string, part: string): void {
    this.chosenKey.set(keyOf({ subjectId: on, finding, part }));
    this.api
      .findings(on)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: ({ items }) => {
          const found = items.find((f) => f.finding === finding && f.part === part);
          if (found) this.other.set({ ...found, where: '' });
        },
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
  }

  protected choose(f: Waiting): void {
    this.chosenKey.set(keyOf(f));
    this.form.controls.decided.setValue(null);
  }

  private body() {
    const f = this.inHand();
    const { decided, whoId, name, firm, why, paper, at } = this.form.getRawValue();
    return {
      finding: f?.finding ?? '',
      subjectId: f?.subjectId ?? '',
      part: f?.part ?? '',
      decided,
      ...(whoId === OUTSIDE ? { who: { name, firm } } : { whoId }),
      why,
      ...(paper.trim() === '' ? {} : { paper }),
      at,
    };
  }

  protected decide(): void {
    const by = this.person();
    const taken = this.zod.take();
    if (by === null || !taken) return focusFault(this.host.nativeElement);
    const body = this.body();
    const id = this.pressed.with(body);
    this.write.send(
      { id, itemId: body.subjectId, opens: this.router.url, kind: 'decision', path: '/decisions', body: { id, by, ...body } },
      () => {
        this.other.set(null);
        this.form.patchValue({ decided: null, why: '', paper: '' });
        this.again();
      },
      { refused: (p) => this.zod.refused(p.errors ?? []) },
    );
  }

  protected takeBack(): void {
    const [by, d] = [this.person(), this.taking()];
    this.takeTried.set(true);
    const why = this.takeWhy().trim();
    if (by === null || !d || why.length < 3) return;
    const path = `/decisions/${d.id}/withdrawal`;
    const id = this.pressedBack.with({ path, why });
    this.takeWrite.send(
      { id, itemId: d.subjectId, opens: this.router.url, kind: 'decision-withdrawal', path, body: { id, by, why } },
      () => {
        this.taking.set(null);
        this.again();
      },
    );
  }
}
