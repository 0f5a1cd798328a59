import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { BenchView } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { rowIdAt, withinSentence, type JobBack, type RunStep } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { WriteTold } from '../../parts/write-told';
import { initialed, nameOf, project, session } from '../../state/session';
import { Field } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { ribbonOf } from '../../parts/ribbon';
import { RibbonScale } from '../../parts/ribbon-scale';
import { clashOf, clockWords, inOrder, laneOf, titleOf, type Lane } from './bench.view';
import { NewRun } from './new-run';

const TICK = 1000;
/** Others are at the bench too: it is asked for again so often, ms. */
const AGAIN = 30_000;
const MINUTE = 60_000;

const PICTURES: Readonly<Record<string, 'flask' | 'basket' | 'oven' | 'wash' | 'rodbulk' | 'soak' | 'ssd' | 'sieve' | 'scale' | 'meter'>> =
  {
    oven: 'oven',
    oven2: 'oven',
    dry: 'scale',
    weigh: 'scale',
    weighed: 'scale',
    soak: 'soak',
    cone: 'ssd',
    flask: 'flask',
    ssd: 'basket',
    washed: 'wash',
    sieved: 'sieve',
    filled: 'rodbulk',
    bowlful: 'scale',
    inundated: 'soak',
    metered: 'meter',
  };

/** Several runs side by side over days: what each waits for and until when; the one in hand above. */
@Component({
  selector: 'km-bench-page',
  imports: [RouterLink, ButtonDirective, Field, Moment, NewRun, Notice, Pictogram, WriteTold, RibbonScale],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bench-page.html',
  styleUrls: ['../../parts/ribbon.css', './bench-page.css'],
})
export class BenchPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly clock = inject(Clock);
  private readonly store = inject(Store);
  protected readonly project = this.store.selectSignal(project);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly nameOf = this.store.selectSignal(nameOf);
  protected readonly view = signal<BenchView | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly write = new Write<unknown>();
  private readonly now = this.clock.ticking(TICK);
  protected readonly minute = computed(() => Math.floor(this.now() / MINUTE) * MINUTE);
  protected readonly chosen = signal<string | null>(null);
  protected readonly starting = signal(false);
  /** When a step was done, where that is not now. */
  protected readonly doneAt = signal<string | null>(null);

  protected readonly lanes = computed((): Lane[] => {
    const [v, now] = [this.view(), this.minute()];
    return v ? inOrder(v.runs.flatMap((run) => laneOf(run, v, now) ?? [])) : [];
  });
  protected readonly inHand = computed(() => this.lanes().find((l) => l.run.itemId === this.chosen()) ?? this.lanes()[0] ?? null);
  protected readonly ribbon = computed(() => {
    const v = this.view();
    return v ? ribbonOf(this.minute(), v.timezone, v.openings) : null;
  });
  protected readonly clash = computed(() => clashOf(this.lanes(), this.minute()));
  protected readonly titleOf = titleOf;
  /** Within a sentence, and at its beginning. */
  protected readonly lower = withinSentence;
  protected said = (text: string): string => `${text.slice(0, 1).toUpperCase()}${text.slice(1)}`;

  constructor() {
    effect((gone) => {
      const p = this.project();
      if (!p) return;
      const ask = (): void => untracked(() => this.ask(p.id));
      ask();
      const timer = setInterval(ask, AGAIN);
      gone(() => clearInterval(timer));
    });
  }

  private ask(projectId: string, then?: () => void): void {
    this.api.bench(projectId).subscribe({
      next: (view) => {
        this.view.set(view);
        then?.();
        this.problem.set(null);
      },
      error: (e: unknown) => this.problem.set(problemOf(e)),
    });
  }

  protected when = (ms: number): string => clockWords(ms, this.minute(), this.view()?.timezone ?? 'local');
  protected who = (id: string): string => initialed(this.nameOf()(id));
  protected picture = (lane: Lane) => PICTURES[lane.next?.id ?? ''] ?? 'flask';
  protected take(lane: Lane): void {
    this.chosen.set(lane.run.itemId);
    this.doneAt.set(null);
  }

  /** The test that a step is kept by, begun already or not. */
  protected testsOf = (lane: Lane, method: string | null) => lane.run.tests.findLast((t) => t.method === method) ?? null;
  protected testOf = (lane: Lane, step: RunStep) => this.testsOf(lane, step.test);
  protected early = (step: RunStep): boolean => step.opensAt !== null && step.opensAt > this.minute();

  protected done(lane: Lane, step: Pick<RunStep | JobBack, 'id'>): void {
    const [p, by] = [this.project(), this.person()];
    if (!p || by === null) return;
    const [id, now] = [newId(), this.clock.now()];
    const at = this.doneAt() ?? new Date(now).toISOString();
    const row = `steps.${rowIdAt(now, id)}`;
    const reading = (field: string, text: string) => ({ id: newId(), field: `${row}.${field}`, text, unit: null, at });
    const itemId = lane.run.itemId;
    this.chosen.set(itemId);
    const body = { id, by, readings: [reading('step', step.id), reading('at', at)] };
    this.write.send({ id, itemId, opens: this.router.url, kind: 'entries', path: `/items/${itemId}/entries`, body }, () => {
      this.write.busy.set(false);
      this.doneAt.set(null);
      this.ask(p.id);
    });
  }

  protected started(itemId: string): void {
    const p = this.project();
    if (!p) return;
    // In hand once it is there: until then the form stands as it was sent.
    this.ask(p.id, () => {
      this.starting.set(false);
      this.chosen.set(itemId);
    });
  }
}
