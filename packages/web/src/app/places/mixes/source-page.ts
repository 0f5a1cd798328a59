import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dayIn, type SourceSheet, type Specification } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { propertyOf, unitLabel, type Keyed } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { newId } from '../../device/ids';
import { Write } from '../../device/write';
import { longDay } from '../../parts/when';
import { WriteTold } from '../../parts/write-told';
import { project, session } from '../../state/session';
import { Choices } from '../../ui/choices';
import { Field } from '../../ui/field';
import { Moment } from '../../ui/moment';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { Counts } from './counts';
import { Met } from './met';
import { StandsOn } from './stands-on';
import { Trends } from './trends';

/** Where an aggregate comes from: what it was found to be as of a day, how that went, and which mixes stand on it. */
@Component({
  selector: 'km-source-page',
  imports: [RouterLink, ButtonDirective, Choices, Counts, Field, Met, StandsOn, Moment, Notice, Pictogram, Trends, WriteTold],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './source-page.html',
  styleUrl: './source-page.css',
})
export class SourcePage {
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly clock = inject(Clock);
  private readonly now = this.clock.ticking(60_000);
  private readonly project = this.state.selectSignal(project);
  private readonly person = this.state.selectSignal(session.selectPersonId);
  readonly sourceId = input.required<string>();
  protected readonly sheet = signal<SourceSheet | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  /** As of then; null: now. */
  protected readonly at = signal<string | null>(null);
  protected readonly shown = computed(() => this.at() ?? new Date(this.now()).toISOString());
  private readonly again = signal(0);

  protected readonly specs = signal<readonly Specification[]>([]);
  protected readonly setting = signal(false);
  protected readonly wanted = signal<readonly string[]>([]);
  protected readonly from = signal<string | null>(null);
  protected readonly write = new Write<unknown>();
  protected readonly specOptions = computed(() => this.specs().map((s) => ({ id: s.id, label: s.name })));

  protected readonly zone = computed(() => this.project()?.timezone ?? 'local');
  protected readonly facts = computed(() => {
    const f = this.sheet()?.item.facts ?? {};
    const nominal = f['nominal'] as Keyed | undefined;
    return [
      f['kind'] === 'fine' ? 'Fine aggregate' : 'Coarse aggregate',
      nominal ? `up to ${nominal.text} ${unitLabel(nominal.unit)}` : '',
      (f['pit'] as string | undefined) ?? '',
    ]
      .filter((part) => part !== '')
      .join(', ');
  });
  protected readonly out = computed(() =>
    (this.sheet()?.trends ?? []).flatMap(({ property, points }) => {
      const newest = points.at(-1);
      return newest?.state === 'out'
        ? [{ label: propertyOf(property)?.label ?? property, says: `${newest.reported} ${unitLabel(newest.unit)}`.trim() }]
        : [];
    }),
  );

  constructor() {
    effect((gone) => {
      this.again();
      const asked = this.api.source(this.sourceId(), this.at() ?? undefined).subscribe({
        next: (sheet) => this.sheet.set(sheet),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
    effect((gone) => {
      const p = this.project();
      if (!p) return;
      const asked = this.api.specifications(p.id).subscribe((page) => this.specs.set(page.items));
      gone(() => asked.unsubscribe());
    });
  }

  protected look(): void {
    this.again.update((n) => n + 1);
  }

  protected day(iso: string): string {
    return longDay(dayIn(this.zone(), iso));
  }

  protected begin(): void {
    this.wanted.set(this.sheet()?.specifications.map((s) => s.id) ?? []);
    this.from.set(this.clock.iso());
    this.setting.set(true);
  }

  protected keep(): void {
    const [by, from, itemId, id] = [this.person(), this.from(), this.sourceId(), newId()];
    if (by === null || from === null) return;
    this.write.send(
      {
        id,
        itemId,
        opens: `/sources/${itemId}`,
        kind: 'meeting',
        path: `/items/${itemId}/specifications`,
        body: { id, by, from, specificationIds: this.wanted() },
      },
      () => {
        this.write.busy.set(false);
        this.setting.set(false);
        this.look();
      },
    );
  }
}
