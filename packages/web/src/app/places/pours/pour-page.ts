import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, type OnDestroy } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import type { Load, Mark, Problem, Sample, SampleSummary } from '@keen-mortar/contract';
import { boundsOf, unitLabel } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { Api, problemOf } from '../../api/api';
import { VerdictShape } from '../../ui/verdict-shape';
import { longDay, today, zonedTime } from '../../parts/when';
import { nameOf, session } from '../../state/session';
import { pours, PoursActions } from './pours.state';
import { WaterForm } from './water-form';

interface Line {
  readonly load: Load;
  readonly samples: readonly SampleSummary[];
}

/** A pour: its loads in order, what was found in each, and where the next sample starts. */
@Component({
  selector: 'km-pour-page',
  imports: [RouterLink, VerdictShape, WaterForm, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './pour-page.html',
  styleUrl: './pour-page.css',
})
export class PourPage implements OnDestroy {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  readonly pourId = input.required<string>();

  protected readonly pour = computed(() => {
    const p = this.store.selectSignal(pours.selectPour)();
    return p?.id === this.pourId() ? p : null;
  });
  protected readonly problem = this.store.selectSignal(pours.selectProblem);
  protected readonly nameOf = this.store.selectSignal(nameOf);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  private readonly offset = this.store.selectSignal(session.selectOffset);
  protected readonly startProblem = signal<Problem | null>(null);
  protected readonly starting = signal<string | null>(null);
  protected readonly wateringId = signal<string | null>(null);

  protected readonly lines = computed((): Line[] => {
    const p = this.pour();
    return p ? p.loadList.map((load) => ({ load, samples: p.sampleList.filter((s) => s.loadId === load.id) })) : [];
  });
  protected readonly day = computed(() => {
    const p = this.pour();
    return p ? (p.on === today(p.project.timezone) ? 'Today' : longDay(p.on)) : '';
  });
  protected readonly limits = computed(() =>
    (this.pour()?.specifications ?? []).map((s) => ({
      name: s.name,
      limits: s.limits.map((l) => {
        const { lower, upper } = boundsOf(l);
        const range =
          lower !== undefined && upper !== undefined
            ? `${lower} to ${upper}`
            : lower !== undefined
              ? `at least ${lower}`
              : `at most ${upper ?? ''}`;
        return { property: l.property.replaceAll('-', ' '), range: `${range} ${unitLabel(l.unit)}`.trim() };
      }),
    })),
  );

  constructor() {
    effect(() => {
      const pourId = this.pourId();
      untracked(() => this.store.dispatch(PoursActions.pourOpened({ pourId })));
    });
  }

  protected time(iso: string): string {
    return zonedTime(iso, this.pour()?.project.timezone);
  }

  protected unit = unitLabel;

  /** Marks that a person looks for first: what no specification limits stays on the sheet. */
  protected judged(marks: readonly Mark[]): readonly Mark[] {
    return marks.filter((m) => m.state !== 'unjudged');
  }

  protected asState(state: string): 'within' {
    return state as 'within';
  }

  /** First portion now: the sample's id is made here, so that a lost answer cannot make two. */
  protected start(load: Load): void {
    const by = this.person();
    if (by === null || this.starting() !== null) return;
    const id = crypto.randomUUID();
    this.starting.set(load.id);
    this.startProblem.set(null);
    const firstPortionAt = new Date(Date.now() + this.offset()).toISOString();
    this.api.write<Sample>('/samples', { id, by, loadId: load.id, firstPortionAt }).subscribe({
      next: (sample) => void this.router.navigate(['/samples', sample.id]),
      error: (error: unknown) => {
        this.starting.set(null);
        this.startProblem.set(problemOf(error));
      },
    });
  }

  protected again(): void {
    this.store.dispatch(PoursActions.pourAsked());
  }

  ngOnDestroy(): void {
    this.store.dispatch(PoursActions.pourClosed());
  }
}
