import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import {
  askedOf,
  dayIn,
  givenByMix,
  isStale,
  revisionAt,
  type Ingredient,
  type MixSheet,
  type Revision,
  type Trend,
} from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { CORRECTION_AGAIN, dayWords, gravityDays, MATERIAL_ROLES, staleCorrection, testsFor, unitLabel } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { TableModule } from 'primeng/table';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { Findings } from '../../parts/findings';
import { longDay, zonedTime } from '../../parts/when';
import { nameOf, project } from '../../state/session';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { Block } from './block';
import { Met } from './met';
import { Trends } from './trends';
import { GROUNDS, madeOf } from './recipe';

const MINUTE = 60_000;

/** A mix: what its cubic metre is made of, what it must meet, and how it came to be so. */
@Component({
  selector: 'km-mix-page',
  imports: [RouterLink, ButtonDirective, TableModule, Block, Findings, Met, Notice, Pictogram, Trends],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mix-page.html',
  styleUrl: './mix-page.css',
})
export class MixPage {
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly now = inject(Clock).ticking(MINUTE);
  private readonly project = this.state.selectSignal(project);
  protected readonly nameOf = this.state.selectSignal(nameOf);
  readonly mixId = input.required<string>();
  protected readonly sheet = signal<MixSheet | null>(null);
  protected readonly trends = signal<readonly Trend[]>([]);
  protected readonly problem = signal<Problem | null>(null);
  /** Which revision is looked at; null: the one in force. */
  protected readonly chosen = signal<string | null>(null);
  protected readonly unit = unitLabel;

  protected readonly inForce = computed(() => revisionAt(this.sheet()?.mix.revisions ?? [], this.now()) ?? null);
  /** The newest first. */
  protected readonly revisions = computed(() => {
    const now = this.now();
    return [...(this.sheet()?.mix.revisions ?? [])]
      .sort((a, b) => b.effectiveFrom.localeCompare(a.effectiveFrom) || b.number - a.number)
      .map((r) => ({
        revision: r,
        from: this.moment(r.effectiveFrom),
        made: this.moment(r.madeAt),
        state: r.id === this.inForce()?.id ? 'in force' : Date.parse(r.effectiveFrom) > now ? 'planned' : 'before',
      }));
  });
  protected readonly planned = computed(
    () =>
      this.revisions()
        .filter((r) => r.state === 'planned')
        .at(-1) ?? null,
  );
  protected readonly revision = computed(
    () => this.sheet()?.mix.revisions.find((r) => r.id === this.chosen()) ?? this.inForce() ?? this.revisions()[0]?.revision ?? null,
  );
  protected readonly made = computed(() => {
    const r = this.revision();
    return r ? madeOf(r) : null;
  });
  protected readonly whole = computed(() => (this.revision()?.ingredients[0]?.mass.unit === 'lb' ? '1 yd³' : '1 m³'));
  protected readonly met = computed(
    () => this.revision()?.specificationIds.flatMap((id) => this.sheet()?.specifications.find((s) => s.id === id) ?? []) ?? [],
  );
  /** What is tested on a sample of it. */
  protected readonly tests = computed(() => {
    const r = this.revision();
    return r ? testsFor('sample', askedOf({ sources: givenByMix(r), specifications: this.met() })) : [];
  });
  protected readonly rows = computed(() => this.revision()?.ingredients.map((i, n) => this.row(i, n)) ?? []);
  protected readonly stale = computed(() => this.rows().filter((r) => r.now !== null));
  protected readonly about = computed(() => {
    const r = this.revision();
    if (!r) return '';
    const found = r.correctionOn === undefined ? '' : `, found on ${dayWords(r.correctionOn)}`;
    const correction = r.correction === undefined ? '' : `, aggregate correction factor ${r.correction} %${found}`;
    const porous = r.aggregate === 'porous' ? ', porous: its air is measured by volume' : '';
    return `Aggregates saturated surface dry, up to ${r.nominal.text} ${unitLabel(r.nominal.unit)} nominal${correction}${porous}.`;
  });
  /** A correction factor from before its gravities. */
  protected readonly staleFactor = computed(() => {
    const [r, p] = [this.revision(), this.project()];
    const says = r && p ? staleCorrection(r, p.timezone) : null;
    return says === null ? null : `${says} ${CORRECTION_AGAIN}`;
  });
  protected readonly age = computed(() => {
    const r = this.revision();
    return r ? gravityDays(r.ingredients, this.now()) : null;
  });

  constructor() {
    effect((gone) => {
      const asked = this.api.mixSheet(this.mixId()).subscribe({
        next: (sheet) => this.sheet.set(sheet),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      // What was found is asked for by itself: the sheet that came first would end it.
      const found = this.api.mixTrends(this.mixId()).subscribe(({ trends }) => this.trends.set(trends));
      gone(() => {
        asked.unsubscribe();
        found.unsubscribe();
      });
    });
  }

  private row(i: Ingredient, n: number) {
    const source = this.sheet()?.sources.find((s) => s.id === i.sourceId);
    const found = source?.gravity ?? null;
    // Of another test, and another figure: the revision stands on what was known when it was made.
    const moved = found !== null && isStale(i, found, this.sheet()?.looks ?? []);
    return {
      ...i,
      ground: GROUNDS[i.role],
      // What is called after its kind needs no second word for it.
      kind: MATERIAL_ROLES[i.role].toLowerCase() === i.name.trim().toLowerCase() ? '' : MATERIAL_ROLES[i.role],
      source: source ?? null,
      taken: i.sgTest ? { ...i.sgTest, on: this.day(i.sgTest.at) } : null,
      now: moved ? { text: found.text, ...found.test, on: this.day(found.test.at) } : null,
      volume: this.made()?.volumes[n] ?? '',
    };
  }

  protected zone(): string {
    return this.project()?.timezone ?? 'local';
  }
  private day = (iso: string): string => longDay(dayIn(this.zone(), iso));
  private moment = (iso: string): string => `${this.day(iso)}, ${zonedTime(iso, this.project()?.timezone)}`;
  protected look(r: Revision): void {
    this.chosen.set(r.id === this.inForce()?.id ? null : r.id);
  }
}
