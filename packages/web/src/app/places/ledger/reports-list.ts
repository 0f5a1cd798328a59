import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { reportCode, type Page, type Report, type ReportScope } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { Store } from '@ngrx/store';
import { Paginator } from 'primeng/paginator';
import { TableModule } from 'primeng/table';
import { Api, problemOf } from '../../api/api';
import { longDay, today, zonedTime } from '../../parts/when';
import { nameOf, project } from '../../state/session';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { ReportForm } from './report-form';

const AT_ONCE = 25;

/** The reports that were issued, the newest first; and a new one. */
@Component({
  selector: 'km-reports-list',
  imports: [RouterLink, Paginator, TableModule, Notice, Pictogram, ReportForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="sheet" [size]="38" />
        <h1>Reports</h1>
        <span class="soft">issued once, and never changed: one that is made again takes the place of the one before</span>
        <a class="end" routerLink="/ledger">Ledger</a>
      </header>
      <section class="new">
        <h2>{{ fixed() ? 'A report of what you came from' : 'A new one' }}</h2>
        <km-report-form [fixed]="fixed()" (made)="open($event)" />
      </section>
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      @if (page(); as p) {
        @if (p.items.length > 0) {
          <p-table [value]="rows()">
            <ng-template #header>
              <tr>
                <th scope="col">Report</th>
                <th scope="col">Of</th>
                <th scope="col">Issued</th>
                <th scope="col">To</th>
                <th scope="col" class="num">Tests</th>
                <th scope="col">Stands</th>
              </tr>
            </ng-template>
            <ng-template #body let-r>
              <tr>
                <td>
                  <a class="name" [class.gone]="r.replacedBy !== null" [routerLink]="['/reports', r.id]"
                    ><b>{{ r.code }}</b></a
                  >
                </td>
                <td>{{ r.title }}</td>
                <td>
                  {{ r.when }} <span class="soft small">{{ r.who }}</span>
                </td>
                <td>{{ r.client ?? '' }}</td>
                <td class="num fig">{{ r.tests }}</td>
                <td>{{ r.stands }}</td>
              </tr>
            </ng-template>
          </p-table>
        } @else {
          <p class="soft">None was issued yet.</p>
        }
        @if (p.total > size) {
          <p-paginator [rows]="size" [totalRecords]="p.total" [first]="from()" (onPageChange)="from.set($event.first ?? 0)" />
        }
      } @else if (!problem()) {
        <p class="soft" role="status">Opening the reports …</p>
      }
    </div>
  `,
  styles: `
    .new {
      display: grid;
      gap: 6px;
      padding: 12px 18px 14px;
      background: var(--now-wash);
      border-left: 6px solid var(--now);
      margin-bottom: 16px;
    }
    h2 {
      font-size: 16px;
      font-weight: 720;
    }
    .num {
      text-align: right;
    }
    .name {
      display: inline-flex;
      align-items: center;
      min-height: 44px;
    }
    .gone {
      text-decoration: line-through;
    }
    td {
      overflow-wrap: anywhere;
    }
  `,
})
export class ReportsList {
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly router = inject(Router);
  private readonly project = this.state.selectSignal(project);
  private readonly nameOf = this.state.selectSignal(nameOf);
  /** An item that a report is wanted of. */
  readonly item = input<string>();
  protected readonly fixed = computed((): ReportScope | null => {
    const itemId = this.item();
    return itemId === undefined ? null : { of: 'item', itemId };
  });
  protected readonly page = signal<Page<Report> | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly from = signal(0);
  protected readonly size = AT_ONCE;
  protected readonly rows = computed(() => {
    const zone = this.project()?.timezone;
    return (this.page()?.items ?? []).map((r) => ({
      ...r,
      code: reportCode(r.number),
      when: `${longDay(today(zone, new Date(r.at)))}, ${zonedTime(r.at, zone)}`,
      who: this.nameOf()(r.by),
      stands: [
        ...(r.replaces === null ? [] : [`in place of ${reportCode(r.replaces)}`]),
        ...(r.replacedBy === null ? [] : [`replaced by ${reportCode(r.replacedBy)}`]),
      ].join(', '),
    }));
  });

  constructor() {
    effect((gone) => {
      const [p, from] = [this.project(), this.from()];
      if (!p) return;
      const asked = this.api.reports(p.id, from, AT_ONCE).subscribe({
        next: (page) => this.page.set(page),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
  }

  protected open(report: Report): void {
    void this.router.navigate(['/reports', report.id]);
  }
}
