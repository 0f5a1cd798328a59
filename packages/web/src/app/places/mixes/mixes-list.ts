import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dayIn, revisionAt, type Item, type MixesPage, type Page, type Specification } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { TableModule } from 'primeng/table';
import { forkJoin } from 'rxjs';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { shapeOf } from '../../parts/findings';
import { longDay } from '../../parts/when';
import { project } from '../../state/session';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { VerdictShape } from '../../ui/verdict-shape';
import { madeOf } from './recipe';

const AT_ONCE = 200;
const MINUTE = 60_000;

/** What is poured, what it must meet, and where its aggregates come from. */
@Component({
  selector: 'km-mixes-list',
  imports: [RouterLink, ButtonDirective, TableModule, Notice, Pictogram, VerdictShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mixes-list.html',
  styleUrl: './mixes-list.css',
})
export class MixesList {
  private readonly api = inject(Api);
  private readonly project = inject(Store).selectSignal(project);
  private readonly now = inject(Clock).ticking(MINUTE);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly found = signal<readonly [MixesPage, Page<Specification>, Page<Item>] | null>(null);
  protected readonly size = 25;

  protected readonly mixes = computed(() =>
    (this.found()?.[0].items ?? []).map((mix) => {
      const now = this.now();
      const zone = this.project()?.timezone ?? 'local';
      const inForce = revisionAt(mix.revisions, now) ?? null;
      const planned = mix.revisions
        .filter((r) => Date.parse(r.effectiveFrom) > now)
        .sort((a, b) => a.effectiveFrom.localeCompare(b.effectiveFrom))[0];
      return {
        mix,
        inForce,
        made: inForce ? madeOf(inForce) : null,
        since: inForce ? longDay(dayIn(zone, inForce.effectiveFrom)) : null,
        planned: planned ? `rev. ${planned.number} from ${longDay(dayIn(zone, planned.effectiveFrom))}` : null,
        found: this.found()?.[0].findings.filter((f) => f.subjectId === mix.id && f.grade !== 'fine') ?? [],
        meets: (inForce ?? planned)?.specificationIds.map((id) => this.nameOf(id)).join(', ') ?? '',
      };
    }),
  );
  protected readonly specifications = computed(() => this.found()?.[1].items ?? []);
  protected readonly sources = computed(() => this.found()?.[2].items ?? []);
  protected readonly more = computed(() => (this.found() ?? []).some((page) => page.total > page.items.length));

  constructor() {
    effect((gone) => {
      const p = this.project();
      if (!p) return;
      const asked = forkJoin([
        this.api.mixes(p.id, 0, AT_ONCE),
        this.api.specifications(p.id, 0, AT_ONCE),
        this.api.items(p.id, 'source', 0, AT_ONCE),
      ]).subscribe({ next: (all) => this.found.set(all), error: (e: unknown) => this.problem.set(problemOf(e)) });
      gone(() => asked.unsubscribe());
    });
  }

  private nameOf(id: string): string {
    return this.specifications().find((s) => s.id === id)?.name ?? 'one that was replaced';
  }

  protected readonly shapeOf = shapeOf;
  protected kindOf = (source: Item): string => (source.facts['kind'] === 'fine' ? 'fine aggregate' : 'coarse aggregate');
}
