import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { reportCode, type Report } from '@keen-mortar/contract';
import type { Problem } from '@keen-mortar/contract/problem';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { Api, problemOf } from '../../api/api';
import { longDay, today, zonedTime } from '../../parts/when';
import { nameOf, project } from '../../state/session';
import { Notice } from '../../ui/notice';
import { Pictogram } from '../../ui/pictogram';
import { ReportForm } from './report-form';

/** A report as it was issued: its paper, what it is of on record, and whether it still stands. The code on the paper leads here. */
@Component({
  selector: 'km-report-page',
  imports: [RouterLink, ButtonDirective, Notice, Pictogram, ReportForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <km-pic name="sheet" [size]="38" />
        <h1>{{ code() }}</h1>
        @if (report(); as r) {
          <span>{{ r.title }}</span>
          <a class="end" routerLink="/ledger/reports">All reports</a>
        }
      </header>
      @if (problem(); as p) {
        <km-notice>{{ p.detail }}</km-notice>
      }
      @if (report(); as r) {
        @if (r.replacedBy !== null) {
          <km-notice
            ><b>It is not to be used any more: {{ replacedBy() }} took its place.</b></km-notice
          >
        }
        <dl class="figures">
          <div>
            <dt>Issued</dt>
            <dd>{{ when() }} by {{ who() }}</dd>
          </div>
          @if (r.client) {
            <div>
              <dt>To</dt>
              <dd>{{ r.client }}</dd>
            </div>
          }
          <div>
            <dt>Tests</dt>
            <dd class="fig">{{ r.tests }}</dd>
          </div>
          @if (r.replaces !== null) {
            <div>
              <dt>In place of</dt>
              <dd>{{ replaces() }}{{ r.why ? ': ' + r.why : '' }}</dd>
            </div>
          }
        </dl>
        <div class="row">
          <a pButton [href]="'/api/v1/reports/' + r.id + '/paper'" target="_blank" rel="noopener">Open the paper</a>
          <a pButton severity="secondary" routerLink="/ledger" [queryParams]="inLedger()">Its tests in the ledger</a>
        </div>
        @if (r.replacedBy === null) {
          <section>
            <h2>Make it again</h2>
            <p class="soft">With what stands on record now. It takes the place of this one, which stays as it was.</p>
            <km-report-form [fixed]="r.scope" [before]="true" (made)="open($event)" />
          </section>
        }
      } @else if (!problem()) {
        <p class="soft" role="status">Opening …</p>
      }
    </div>
  `,
  styles: `
    dl {
      max-width: 620px;
      padding-bottom: 14px;
    }
    section {
      display: grid;
      gap: 6px;
      padding-top: 20px;
      max-width: 760px;
    }
    h2 {
      font-size: 16px;
      font-weight: 720;
    }
  `,
})
export class ReportPage {
  private readonly api = inject(Api);
  private readonly state = inject(Store);
  private readonly router = inject(Router);
  private readonly project = this.state.selectSignal(project);
  private readonly nameOf = this.state.selectSignal(nameOf);
  readonly reportId = input.required<string>();
  protected readonly report = signal<Report | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly code = computed(() => {
    const r = this.report();
    return r ? reportCode(r.number) : 'Report';
  });
  protected readonly who = computed(() => this.nameOf()(this.report()?.by ?? ''));
  protected readonly when = computed(() => {
    const [r, zone] = [this.report(), this.project()?.timezone];
    return r ? `${longDay(today(zone, new Date(r.at)))}, ${zonedTime(r.at, zone)}` : '';
  });
  protected readonly replaces = computed(() => reportCode(this.report()?.replaces ?? 0));
  protected readonly replacedBy = computed(() => reportCode(this.report()?.replacedBy ?? 0));
  protected readonly inLedger = computed(() => {
    const scope = this.report()?.scope;
    return scope?.of === 'item' ? { in: scope.itemId } : scope?.of === 'month' ? { of: scope.subjectId } : {};
  });

  constructor() {
    effect((gone) => {
      const asked = this.api.report(this.reportId()).subscribe({
        next: (r) => this.report.set(r),
        error: (e: unknown) => this.problem.set(problemOf(e)),
      });
      gone(() => asked.unsubscribe());
    });
  }

  protected open(report: Report): void {
    void this.router.navigate(['/reports', report.id]);
  }
}
