import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { dayIn, ownCopyAt, type OwnCopy } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { METHODS, ownWords, PRACTICES, usualVariant, type Parameters, type Variant } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { TableModule } from 'primeng/table';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { longDay } from '../../parts/when';
import { project } from '../../state/session';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';

type Variants = Readonly<Record<string, Variant<Parameters>>>;

/** How a project tests: of every method on record its variants, which one is usual here, and where the lab has figures of its own. */
@Component({
  selector: 'km-practice-page',
  imports: [RouterLink, TableModule, Notice, Pictogram],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="spec" [size]="38" />
        <h1>How this lab tests</h1>
        <span class="soft">{{ practice() }}</span>
      </header>
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      <p>
        Every variant of a method is done as it is printed, unless the lab has figures of its own. They hold from a moment on, and stand on
        every result that was found by them; what was tested before stays as it was.
      </p>
      <p-table [value]="rows()" dataKey="id" [rowTrackBy]="byId">
        <ng-template #header>
          <tr>
            <th scope="col">Method</th>
            <th scope="col">Usual here</th>
            <th scope="col">Other variants</th>
            <th scope="col" class="own">Own figures</th>
          </tr>
        </ng-template>
        <ng-template #body let-r>
          <tr [attr.data-method]="r.id">
            <td>
              <b>{{ r.title }}</b>
            </td>
            <td>
              <a [routerLink]="[r.id, r.usual.id]">{{ r.usual.label }}</a>
            </td>
            <td>
              @for (v of r.others; track v.id) {
                <a class="one" [routerLink]="[r.id, v.id]">{{ v.label }}</a>
              } @empty {
                <span class="soft">–</span>
              }
            </td>
            <td>
              @for (o of r.own; track o.id) {
                <span class="one"
                  ><b>{{ o.says }}</b> <span class="soft small">{{ o.when }}</span></span
                >
              } @empty {
                <span class="soft">as printed</span>
              }
            </td>
          </tr>
        </ng-template>
      </p-table>
    </div>
  `,
  styles: `
    p {
      max-width: 90ch;
      padding-bottom: 10px;
    }
    .own {
      width: 30%;
    }
    td,
    th {
      vertical-align: top;
      overflow-wrap: anywhere;
    }
    .one {
      display: block;
    }
    @media (max-width: 700px) {
      tr :nth-child(3) {
        display: none;
      }
    }
  `,
})
export class PracticePage {
  private readonly api = inject(Api);
  private readonly clock = inject(Clock);
  private readonly project = inject(Store).selectSignal(project);
  protected readonly problem = signal<Problem | null>(null);
  private readonly copies = signal<readonly OwnCopy[]>([]);
  protected readonly practice = computed(() => {
    const p = this.project();
    return p ? PRACTICES[p.practice].label : '';
  });

  protected readonly rows = computed(() => {
    const [p, copies] = [this.project(), this.copies()];
    if (!p) return [];
    return METHODS.filter((m) => m.on).map((m) => {
      const variants = m.variants as Variants;
      const usual = usualVariant(p.practice, m);
      return {
        id: m.id,
        title: m.title,
        usual: { id: usual, label: variants[usual]!.label },
        others: Object.entries(variants).flatMap(([id, { label }]) => (id === usual ? [] : [{ id, label }])),
        own: copies.filter((c) => c.method === m.id).flatMap((c) => this.shown(c, variants, copies)),
      };
    });
  });

  private shown(c: OwnCopy, variants: Variants, copies: readonly OwnCopy[]): { id: string; says: string; when: string }[] {
    const variant = variants[c.variant];
    if (!variant) return [];
    const now = ownCopyAt(copies, c, this.clock.iso());
    const what = ownWords(variant.params, c.figures);
    const planned = Date.parse(c.from) > this.clock.now();
    // Back to the print, and in force: there is nothing to say.
    if ((!planned && now?.id !== c.id) || (!planned && what === '')) return [];
    const day = longDay(dayIn(this.project()!.timezone, c.from));
    return [{ id: c.id, says: what || 'as printed again', when: `${variant.label}, ${planned ? 'from' : 'since'} ${day}` }];
  }

  protected readonly byId = (_at: number, row: { id: string }): string => row.id;

  constructor() {
    effect((gone) => {
      const p = this.project();
      if (!p) return;
      const asked = this.api.ownCopies(p.id).subscribe({
        next: (copies) => this.copies.set(copies),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
  }
}
