import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { newPour, type Mix, type PourDetail, type Problem } from '@keen-mortar/contract';
import { unitLabel, type UnitId } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { Api, problemOf } from '../../api/api';
import { today } from '../../parts/when';
import { project, session } from '../../state/session';

/** A new pour: one placement of one mix on one day. */
@Component({
  selector: 'km-pour-form',
  imports: [FormsModule, RouterLink, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header><h1>New pour</h1></header>
      @if (problem(); as p) {
        <p class="problem" role="alert">{{ p.detail }}</p>
      }
      <form class="form" (ngSubmit)="keep()">
        <label class="fld"
          ><span>What is placed</span><input name="name" maxlength="200" [class.bad]="faults()['name']" [(ngModel)]="name" /><small>{{
            faults()['name']
          }}</small></label
        >
        <label class="fld"
          ><span>Where</span><input name="element" maxlength="200" [class.bad]="faults()['element']" [(ngModel)]="element" /><small>{{
            faults()['element']
          }}</small></label
        >
        <div class="row">
          <label class="fld">
            <span>Mix</span>
            <select name="mix" [class.bad]="faults()['mixId']" [(ngModel)]="mixId">
              <option value="">choose</option>
              @for (m of mixes(); track m.id) {
                <option [value]="m.id">{{ m.code }} {{ m.name }}</option>
              }
            </select>
            <small>{{ faults()['mixId'] }}</small>
          </label>
          <label class="fld"
            ><span>Day</span><input name="on" type="date" [class.bad]="faults()['on']" [(ngModel)]="on" /><small>{{
              faults()['on']
            }}</small></label
          >
          <label class="fld"
            ><span>Volume planned, {{ label(unit()) }}</span
            ><input name="planned" inputmode="decimal" [class.bad]="faults()['planned.text']" [(ngModel)]="planned" /><small>{{
              faults()['planned.text']
            }}</small></label
          >
        </div>
        <div class="row">
          <button pButton type="submit" [disabled]="busy()">Make this pour</button>
          <a pButton severity="secondary" routerLink="/pours">Back</a>
        </div>
      </form>
    </div>
  `,
})
export class PourForm {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly project = this.store.selectSignal(project);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  protected readonly mixes = signal<readonly Mix[]>([]);
  protected readonly name = signal('');
  protected readonly element = signal('');
  protected readonly mixId = signal('');
  protected readonly on = signal(today());
  protected readonly planned = signal('');
  protected readonly busy = signal(false);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly faults = signal<Readonly<Record<string, string>>>({});
  protected readonly unit = computed((): UnitId => (this.project()?.system === 'us' ? 'yd3' : 'm3'));
  protected readonly label = unitLabel;
  private readonly id = crypto.randomUUID();

  constructor() {
    effect(() => {
      const p = this.project();
      if (!p) return;
      untracked(() => {
        this.on.set(today(p.timezone));
        this.api
          .mixes(p.id)
          .subscribe({ next: (page) => this.mixes.set(page.items), error: (error: unknown) => this.problem.set(problemOf(error)) });
      });
    });
  }

  protected keep(): void {
    const [p, by] = [this.project(), this.person()];
    if (!p || by === null) return;
    const parsed = newPour.safeParse({
      id: this.id,
      by,
      projectId: p.id,
      mixId: this.mixId(),
      name: this.name(),
      element: this.element(),
      on: this.on(),
      planned: { text: this.planned().trim(), unit: this.unit() },
    });
    const words: Readonly<Record<string, string>> = {
      name: 'Say what is placed.',
      element: 'Say where.',
      mixId: 'Choose the mix.',
      on: 'Choose the day.',
      'planned.text': 'Key a volume like 36 or 7.5.',
    };
    this.faults.set(
      parsed.success
        ? {}
        : Object.fromEntries(parsed.error.issues.map((issue) => [issue.path.join('.'), words[issue.path.join('.')] ?? issue.message])),
    );
    if (!parsed.success) return;
    this.busy.set(true);
    this.api.write<PourDetail>('/pours', parsed.data).subscribe({
      next: (pour) => void this.router.navigate(['/pours', pour.id]),
      error: (error: unknown) => {
        this.busy.set(false);
        this.problem.set(problemOf(error));
      },
    });
  }
}
