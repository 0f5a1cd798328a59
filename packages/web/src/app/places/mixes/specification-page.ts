import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dayIn, type Specification } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { COMPARISONS, limitWords, propertyOf, SCHOOLS } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { TableModule } from 'primeng/table';
import { Api, problemOf } from '../../api/api';
import { longDay } from '../../parts/when';
import { nameOf, project } from '../../state/session';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';

/** A specification with its limits, each with where it is written and what to do when it fails. */
@Component({
  selector: 'km-specification-page',
  imports: [RouterLink, ButtonDirective, TableModule, Notice, Pictogram],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="spec" [size]="38" />
        <h1>{{ specification()?.name ?? 'Specification' }}</h1>
        @if (specification(); as s) {
          <a pButton severity="secondary" class="end" [routerLink]="['/mixes/specifications', s.id, 'replace']">Replace it</a>
        }
      </header>
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      @if (specification(); as s) {
        <p>
          A result is compared {{ compared() }}.{{ s.sampled ? ' ' + s.sampled : '' }}
          @if (school(); as title) {
            Strength is accepted by {{ title }}.
          }
          <span class="soft">Written down by {{ nameOf()(s.by) }} on {{ day(s.madeAt) }}.</span>
        </p>
        @if (s.replaces; as r) {
          <p>
            It stands in place of <a [routerLink]="['/mixes/specifications', r.id]">the one before</a>:
            <b>{{ r.why }}</b>
          </p>
        }
        <p-table [value]="rows()">
          <ng-template #header>
            <tr>
              <th scope="col">What is limited</th>
              <th scope="col">Limit</th>
              <th scope="col">Where it is written</th>
              <th scope="col">When it fails</th>
            </tr>
          </ng-template>
          <ng-template #body let-l>
            <tr>
              <td>
                <b>{{ l.label }}</b>
              </td>
              <td class="fig">{{ l.says }}</td>
              <td>{{ l.source }}</td>
              <td>{{ l.onFail ?? '' }}</td>
            </tr>
          </ng-template>
        </p-table>
      } @else if (!problem()) {
        <p class="soft" role="status">Opening …</p>
      }
    </div>
  `,
  styles: `
    p {
      padding-bottom: 10px;
      max-width: 90ch;
    }
    td {
      overflow-wrap: anywhere;
      vertical-align: top;
    }
  `,
})
export class SpecificationPage {
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly project = this.state.selectSignal(project);
  protected readonly nameOf = this.state.selectSignal(nameOf);
  readonly specificationId = input.required<string>();
  protected readonly specification = signal<Specification | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly compared = computed(() => COMPARISONS[this.specification()?.comparison ?? 'reported']);
  protected readonly school = computed(() => {
    const id = this.specification()?.school;
    return id === undefined ? null : SCHOOLS[id].title;
  });
  protected readonly rows = computed(() =>
    (this.specification()?.limits ?? []).map((l) => ({ ...l, label: propertyOf(l.property)?.label ?? l.property, says: limitWords(l) })),
  );

  constructor() {
    effect((gone) => {
      const asked = this.api.specification(this.specificationId()).subscribe({
        next: (s) => this.specification.set(s),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
  }

  protected day(iso: string): string {
    return longDay(dayIn(this.project()?.timezone ?? 'local', iso));
  }
}
