import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Equipment, Page } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { CALIBRATION, SHELVES } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { Paginator } from 'primeng/paginator';
import { Api, problemOf } from '../../api/api';
import { Clock } from '../../device/clock';
import { project } from '../../state/session';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { lastingOf } from './lasting';

const AT_ONCE = 100;
const MINUTE = 60_000;
const ENDS = { past: 0, never: 1, soon: 2, good: 3 } as const;

/** The lab’s instruments on their shelves, in the order of the work; under each how long its calibration lasts yet, what ends first at the left. */
@Component({
  selector: 'km-kit-list',
  imports: [RouterLink, ButtonDirective, Paginator, Notice, Pictogram],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="kit" [size]="38" />
        <h1>Kit</h1>
        @if (page(); as p) {
          <span class="soft"
            >{{ p.total }} on the shelves
            @if (past() > 0) {
              · <b class="out">{{ past() }} past {{ past() === 1 ? 'its' : 'their' }} date</b>
            }
            @if (soon() > 0) {
              · <b class="now">{{ soon() }} {{ soon() === 1 ? 'ends' : 'end' }} soon</b>
            }
          </span>
        }
        <span class="end row">
          <a pButton severity="secondary" routerLink="/mixes/import" [queryParams]="{ what: 'kit' }">From CSV</a>
          <a pButton severity="secondary" routerLink="/kit/new">Add one</a>
        </span>
      </header>
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      @for (shelf of shelves(); track shelf.label) {
        <section>
          <h2>{{ shelf.label }}</h2>
          <ul>
            @for (one of shelf.all; track one.equipment.id) {
              <li>
                <a [routerLink]="['/kit', one.equipment.id]" [class]="one.lasting.state" [attr.data-state]="one.lasting.state">
                  <span class="stands"><km-pic [name]="one.picture" [size]="56" /></span>
                  <span class="plank" aria-hidden="true"></span>
                  <b>{{ one.equipment.name }}</b>
                  <svg width="100%" height="10" aria-hidden="true">
                    <line x1="0" x2="100%" y1="5" y2="5" stroke="var(--rule)" stroke-dasharray="2 3" />
                    @if (one.lasting.left > 0) {
                      <line x1="0" [attr.x2]="one.lasting.left * 100 + '%'" y1="5" y2="5" stroke-width="5" stroke="currentColor" />
                    }
                  </svg>
                  <span class="small says">{{ one.lasting.says }}</span>
                </a>
              </li>
            }
          </ul>
        </section>
      } @empty {
        @if (page()) {
          <section class="none">
            <p><b>Nothing is on the shelves yet.</b></p>
            <p class="soft">
              Tests can be made without it, and carry that nobody knows the equipment. What is here is chosen beside a test: its size and
              its calibration then stand in the result, and one that is past its date is said before it is used.
            </p>
            <p><a pButton routerLink="/kit/new">Add the first one</a></p>
          </section>
        } @else if (!problem()) {
          <p class="soft" role="status">Opening the kit …</p>
        }
      }
      @if ((page()?.total ?? 0) > size) {
        <p-paginator [rows]="size" [totalRecords]="page()!.total" [first]="from()" (onPageChange)="from.set($event.first ?? 0)" />
      }
    </div>
  `,
  styles: `
    section {
      padding-bottom: 10px;
    }
    h2 {
      font-size: 16px;
      font-weight: 720;
      padding: 8px 0 4px;
    }
    ul {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(168px, 1fr));
      gap: 10px 0;
      background: var(--well);
      border-block: 1px solid var(--rule);
      padding: 10px 0 8px;
    }
    li a {
      display: grid;
      gap: 2px;
      height: 100%;
      align-content: start;
      text-decoration: none;
      color: inherit;
      overflow-wrap: anywhere;
    }
    li a > :not(.plank) {
      margin-inline: 16px;
    }
    li a:hover {
      background: var(--deep-wash);
    }
    .stands {
      display: flex;
      align-items: end;
      height: 58px;
      margin-bottom: -9px;
    }
    li svg {
      width: calc(100% - 32px);
    }
    .plank {
      height: 8px;
      background: var(--ledge);
      border-block: 1px solid var(--rule);
      margin-bottom: 4px;
    }
    svg {
      color: var(--deep);
    }
    .soon svg,
    .soon .says,
    b.now {
      color: var(--now);
    }
    .past .says,
    .never .says,
    b.out {
      color: var(--out);
      font-weight: 700;
    }
    .soon .says {
      font-weight: 700;
    }
    .none {
      display: grid;
      gap: 10px;
      padding: 20px;
      background: var(--well);
      max-width: 70ch;
    }
  `,
})
export class KitList {
  private readonly api = inject(Api);
  private readonly project = inject(Store).selectSignal(project);
  private readonly now = inject(Clock).ticking(MINUTE);
  protected readonly page = signal<Page<Equipment> | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly from = signal(0);
  protected readonly size = AT_ONCE;

  private readonly all = computed(() => {
    const [now, zone] = [this.now(), this.project()?.timezone ?? 'local'];
    return (this.page()?.items ?? []).map((equipment) => ({ equipment, lasting: lastingOf(equipment, now, zone) }));
  });
  protected readonly past = computed(() => this.all().filter((o) => o.lasting.state === 'past' || o.lasting.state === 'never').length);
  protected readonly soon = computed(() => this.all().filter((o) => o.lasting.state === 'soon').length);
  protected readonly shelves = computed(() =>
    Object.entries(SHELVES)
      .map(([id, label]) => ({
        label,
        all: this.all()
          .filter((o) => CALIBRATION[o.equipment.kind].shelf === id)
          .map((o) => ({ ...o, picture: CALIBRATION[o.equipment.kind].picture }))
          // What ends first stands at the left.
          .sort(
            (a, b) =>
              ENDS[a.lasting.state] - ENDS[b.lasting.state] || (a.equipment.until ?? '9999').localeCompare(b.equipment.until ?? '9999'),
          ),
      }))
      .filter((shelf) => shelf.all.length > 0),
  );

  constructor() {
    effect((gone) => {
      const [p, from] = [this.project(), this.from()];
      if (!p) return;
      const asked = this.api.equipment(p.id, from, AT_ONCE).subscribe({
        next: (page) => this.page.set(page),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
  }
}
