import { Notice } from '../../ui/notice';
import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { unitLabel } from '@keen-mortar/core/units';
import { Store } from '@ngrx/store';
import { Paginator } from 'primeng/paginator';
import { longDay, today } from '../../parts/when';
import { Choice } from '../../ui/choice';
import { Pictogram } from '../../ui/pictogram';
import { VerdictShape } from '../../ui/verdict-shape';
import { project, session, SessionActions } from '../../state/session';
import { PourFaint } from './pour-faint';
import { pours, PoursActions } from './pours.state';

const PAGE = 20;

/** The pours of the project, today's first. */
@Component({
  selector: 'km-pours-list',
  imports: [Notice, RouterLink, Paginator, Choice, Pictogram, PourFaint, VerdictShape, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="truck" [size]="38" />
        <h1>Pours</h1>
        @if (project(); as p) {
          @if (projects().length > 1) {
            @defer (on immediate) {
              <km-choice label="Project" [options]="choices()" [value]="p.id" (chosen)="chooseProject($event)" />
            }
          } @else {
            <span class="soft">{{ p.name }}, {{ p.site }}</span>
          }
          <span class="end row">
            <a pButton severity="secondary" routerLink="/mixes/import" [queryParams]="{ what: 'loads' }">Tickets from CSV</a>
            <a pButton severity="secondary" routerLink="/pours/new">New pour</a>
          </span>
        }
      </header>
      @if (problem(); as p) {
        <km-notice> {{ p.detail }} <button pButton [text]="true" class="link" type="button" (click)="ask()">Try again</button> </km-notice>
      }
      @if (list(); as page) {
        <ul>
          @for (p of page.items; track p.id) {
            <li [class.today]="p.on === day()">
              <a [routerLink]="['/pours', p.id]">
                <span class="when">{{ p.on === day() ? 'Today' : longDay(p.on) }}</span>
                <span class="what"
                  ><b>{{ p.name }}</b
                  ><span class="soft">{{ p.element }} · {{ p.mixName }}</span></span
                >
                <span class="num fig">{{ p.planned.text }} {{ unit(p.planned.unit) }}</span>
                <span class="num">{{ p.loads }} {{ p.loads === 1 ? 'load' : 'loads' }}, {{ p.samples }} sampled</span>
                <span class="out mark">
                  @if (p.out > 0) {
                    <km-verdict-shape state="out" [size]="20" /> {{ p.out }} {{ p.out === 1 ? 'load' : 'loads' }} out
                  }
                </span>
              </a>
            </li>
          } @empty {
            <li class="empty">
              <div class="todo">
                <h2>The first pour</h2>
                <p>
                  First a <a routerLink="/mixes">mix, and what it must meet</a>: without limits a test gives its figure, but no verdict.
                  Then the <a routerLink="/kit">kit you test with</a>; it may come later. Then the pour: one placement of one mix, with the
                  tickets of its loads and the samples taken from them.
                </p>
                <p class="row">
                  <a pButton routerLink="/mixes">A mix</a>
                  <a pButton severity="secondary" routerLink="/pours/new">A pour</a>
                </p>
                <p class="soft">
                  <b>A truck at the gate already?</b>&ngsp;<a routerLink="/scratch">Scratch</a> does every test now, without a record.
                </p>
              </div>
              @defer (on immediate) {
                <km-pour-faint />
              }
            </li>
          }
        </ul>
        @if (page.total > size) {
          @defer {
            <p-paginator [rows]="size" [totalRecords]="page.total" [first]="offset()" (onPageChange)="offset.set($event.first ?? 0)" />
          }
        }
      } @else if (!problem()) {
        <p class="soft" role="status">Opening the pours …</p>
      }
    </div>
  `,
  styles: `
    ul {
      border-top: 1px solid var(--rule);
      background: var(--well);
    }
    li {
      border-bottom: 1px solid var(--hair);
    }
    li > a {
      display: grid;
      grid-template-columns: 150px minmax(0, 1fr) 90px 190px 130px;
      gap: 4px 16px;
      align-items: center;
      min-height: 68px;
      padding: 8px 16px;
      text-decoration: none;
    }
    li > a:hover {
      background: var(--sheet);
    }
    /* What is on today is what somebody comes here for. */
    .today > a {
      background: var(--now-wash);
      box-shadow: inset 6px 0 0 var(--now);
      min-height: 92px;
    }
    .today .what b {
      font-size: 24px;
      font-weight: 760;
      letter-spacing: -0.01em;
    }
    .today .when {
      font-weight: 700;
      color: var(--now);
    }
    .what {
      display: grid;
      overflow-wrap: anywhere;
    }
    .what b {
      font-size: 18px;
    }
    .mark {
      display: flex;
      gap: 7px;
      align-items: center;
      font-weight: 700;
    }
    .empty {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1.5fr);
      gap: 24px;
    }
    .todo {
      border-left: 6px solid var(--now);
      background: var(--now-wash);
      padding: 22px 20px;
      display: grid;
      gap: 12px;
      align-content: start;
      justify-items: start;
    }
    .todo h2 {
      font-size: 24px;
    }
    .empty a:not(.p-button) {
      display: inline;
      padding: 0;
      text-decoration: underline;
    }
    km-pour-faint {
      padding: 16px 16px 8px 0;
    }
    @media (max-width: 860px) {
      .empty {
        grid-template-columns: minmax(0, 1fr);
      }
      km-pour-faint {
        padding: 0 12px 12px;
      }
      li > a {
        grid-template-columns: minmax(0, 1fr) auto;
      }
      .what {
        grid-column: 1 / -1;
        grid-row: 1;
      }
    }
  `,
})
export class PoursList {
  private readonly store = inject(Store);
  protected readonly project = this.store.selectSignal(project);
  protected readonly projects = this.store.selectSignal(session.selectProjects);
  protected readonly choices = computed(() => this.projects().map(({ id, name }) => ({ id, label: name })));
  protected readonly list = this.store.selectSignal(pours.selectList);
  protected readonly problem = this.store.selectSignal(pours.selectProblem);
  protected readonly offset = signal(0);
  protected readonly size = PAGE;
  protected readonly day = computed(() => today(this.project()?.timezone));
  protected readonly longDay = longDay;
  protected readonly unit = unitLabel;

  constructor() {
    effect(() => this.ask());
  }

  protected ask(): void {
    const p = this.project();
    if (p) this.store.dispatch(PoursActions.listAsked({ projectId: p.id, offset: this.offset(), limit: PAGE }));
  }

  protected chooseProject(projectId: string): void {
    this.offset.set(0);
    this.store.dispatch(SessionActions.projectChosen({ projectId }));
  }
}
