import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { newLoad, type Load, type Problem } from '@keen-mortar/contract';
import { brief, convert, exact, decimal, unitLabel, type UnitId } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { Api, problemOf } from '../../api/api';
import { session } from '../../state/session';
import { pours, PoursActions } from './pours.state';

interface MaterialLine {
  readonly name: string;
  readonly role: string;
  readonly perVolume: { text: string; unit: UnitId };
  readonly actual: string;
  readonly moisture: string;
  readonly absorption: string;
}

/** Only aggregates bring water with them. */
const isDamp = (m: MaterialLine): boolean => m.role === 'fine' || m.role === 'coarse';

const pad = (n: number): string => String(n).padStart(2, '0');
const localTime = (at: Date): string => `${pad(at.getHours())}:${pad(at.getMinutes())}`;

/** A load's ticket: what yield and the truck's clock need. Materials come from the mix; the masses are the scaled ones. */
@Component({
  selector: 'km-load-form',
  imports: [FormsModule, RouterLink, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header>
        <h1>New load</h1>
        @if (pour(); as p) {
          <a [routerLink]="['/pours', p.id]">{{ p.name }}</a><span class="soft">{{ p.mixName }}</span>
        }
      </header>
      @if (problem(); as p) {
        <div class="problem" role="alert">
          <p>{{ p.detail }}</p>
        </div>
      }
      <form class="form" (ngSubmit)="keep()">
        <div class="row">
          <label class="fld"
            ><span>Load number</span><input name="number" inputmode="numeric" [class.bad]="at('number')" [(ngModel)]="number" /><small>{{
              at('number')
            }}</small></label
          >
          <label class="fld"
            ><span>Ticket</span><input name="ticket" maxlength="40" [class.bad]="at('ticket')" [(ngModel)]="ticket" /><small>{{
              at('ticket')
            }}</small></label
          >
          <label class="fld"
            ><span>Truck</span><input name="truck" maxlength="40" [class.bad]="at('truck')" [(ngModel)]="truck" /><small>{{
              at('truck')
            }}</small></label
          >
          <label class="fld"
            ><span>Batched at</span><input name="batched" type="time" [class.bad]="at('batchedAt')" [(ngModel)]="batched" /><small>{{
              at('batchedAt')
            }}</small></label
          >
          <label class="fld">
            <span>Volume ordered, {{ label(volumeUnit()) }}</span
            ><input name="volume" inputmode="decimal" [class.bad]="at('design.text')" [(ngModel)]="volume" /><small>{{
              at('design.text')
            }}</small>
          </label>
        </div>
        <table>
          <caption class="unseen">
            Batch weights
          </caption>
          <thead>
            <tr>
              <th scope="col">Material</th>
              <th scope="col">Design for this volume</th>
              <th scope="col">Weighed, {{ label(massUnit()) }}</th>
              <th scope="col">Total moisture, %</th>
              <th scope="col">Absorption, %</th>
            </tr>
          </thead>
          <tbody>
            @for (m of materials(); track m.name; let i = $index) {
              <tr>
                <td>{{ m.name }}</td>
                <td class="fig">{{ target(m) }} {{ label(massUnit()) }}</td>
                <td>
                  <div class="fld">
                    <input
                      class="fig"
                      [name]="'mass' + i"
                      inputmode="decimal"
                      [attr.aria-label]="'Weighed ' + m.name"
                      [class.bad]="at('materials.' + i + '.actual')"
                      [ngModel]="m.actual"
                      (ngModelChange)="change(i, { actual: $event })"
                    />
                    <small>{{ at('materials.' + i + '.actual') }}</small>
                  </div>
                </td>
                @for (k of dampness; track k) {
                  <td>
                    @if (damp(m)) {
                      <div class="fld">
                        <input
                          class="fig short"
                          [name]="k + i"
                          inputmode="decimal"
                          [attr.aria-label]="(k === 'moisture' ? 'Total moisture of ' : 'Absorption of ') + m.name"
                          [class.bad]="at('materials.' + i + '.' + k)"
                          [ngModel]="m[k]"
                          (ngModelChange)="change(i, k === 'moisture' ? { moisture: $event } : { absorption: $event })"
                        />
                        <small>{{ at('materials.' + i + '.' + k) }}</small>
                      </div>
                    }
                  </td>
                }
              </tr>
            }
          </tbody>
        </table>
        <p class="soft small">
          Key the scaled weights, not the targets: yield from targets looks right and says nothing. Moistures as batched, on dry mass: they
          decide how much water may be added on site. That water is keyed at the load afterwards.
        </p>
        <div class="row">
          <button pButton type="submit" [disabled]="busy()">{{ busy() ? 'Keeping …' : 'Keep this ticket' }}</button>
          <a pButton severity="secondary" [routerLink]="['/pours', pourId()]">Back</a>
        </div>
      </form>
    </div>
  `,
  styles: `
    table {
      border-collapse: collapse;
      max-width: 720px;
    }
    th {
      text-align: left;
      font-weight: 400;
      font-size: 14.5px;
      color: var(--soft);
      padding: 4px 16px 4px 0;
    }
    td {
      border-top: 1px solid var(--hair);
      padding: 4px 16px 4px 0;
    }
    td input {
      max-width: 150px;
    }
    td input.short {
      max-width: 90px;
    }
    .row .fld {
      flex: 0 1 165px;
      min-width: 0;
    }
    .row .fld input {
      width: 100%;
      min-width: 0;
    }
  `,
})
export class LoadForm {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  readonly pourId = input.required<string>();
  private readonly loaded = this.store.selectSignal(pours.selectPour);
  private readonly person = this.store.selectSignal(session.selectPersonId);
  protected readonly pour = computed(() => (this.loaded()?.id === this.pourId() ? this.loaded() : null));

  protected readonly number = signal('');
  protected readonly ticket = signal('');
  protected readonly truck = signal('');
  protected readonly batched = signal('');
  protected readonly volume = signal('');
  protected readonly materials = signal<readonly MaterialLine[]>([]);
  protected readonly busy = signal(false);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly faults = signal<Readonly<Record<string, string>>>({});
  protected readonly dampness = ['moisture', 'absorption'] as const;
  protected readonly label = unitLabel;
  protected readonly system = computed(() => this.pour()?.project.system ?? 'si');
  protected readonly massUnit = computed((): UnitId => (this.system() === 'us' ? 'lb' : 'kg'));
  protected readonly volumeUnit = computed((): UnitId => (this.system() === 'us' ? 'yd3' : 'm3'));
  private readonly id = crypto.randomUUID();
  private filled = false;

  constructor() {
    effect(() => {
      const pourId = this.pourId();
      untracked(() => this.store.dispatch(PoursActions.pourOpened({ pourId })));
    });
    effect(() => {
      const p = this.pour();
      if (!p || this.filled) return;
      this.filled = true;
      const revision = p.mix.revisions.at(-1);
      untracked(() => {
        this.number.set(String(Math.max(0, ...p.loadList.map((l) => l.number)) + 1));
        this.batched.set(localTime(new Date()));
        this.volume.set(p.loadList.at(-1)?.design.text ?? '');
        this.materials.set(
          (revision?.ingredients ?? []).map((i) => ({
            name: i.name,
            role: i.role,
            perVolume: i.mass,
            actual: '',
            moisture: '',
            absorption: '',
          })),
        );
      });
    });
  }

  /** Design mass for the volume ordered: what the scale should have shown. */
  protected target(m: MaterialLine): string {
    const volume = decimal(this.volume());
    return volume ? brief(convert(exact(m.perVolume.text), m.perVolume.unit, this.massUnit()).mul(volume), 4) : '…';
  }

  protected readonly damp = isDamp;

  protected change(i: number, change: Partial<Pick<MaterialLine, 'actual' | 'moisture' | 'absorption'>>): void {
    this.materials.update((all) => all.map((m, k) => (k === i ? { ...m, ...change } : m)));
  }

  protected at(path: string): string {
    return this.faults()[path] ?? '';
  }

  /** A batch time later than now was yesterday's evening. */
  private batchedAt(): string {
    const [hour, minute] = this.batched().split(':').map(Number);
    const at = new Date();
    at.setHours(hour ?? 0, minute ?? 0, 0, 0);
    if (at.getTime() > Date.now() + 60_000) at.setDate(at.getDate() - 1);
    return at.toISOString();
  }

  protected keep(): void {
    const by = this.person();
    if (by === null) return;
    const body = {
      id: this.id,
      by,
      number: /^\d+$/.test(this.number().trim()) ? Number(this.number()) : NaN,
      ticket: this.ticket(),
      truck: this.truck(),
      batchedAt: this.batchedAt(),
      design: { text: this.volume().trim(), unit: this.volumeUnit() },
      materials: this.materials().map((m) => ({
        name: m.name,
        role: m.role,
        actual: m.actual.trim(),
        unit: this.massUnit(),
        ...(m.moisture.trim() === '' ? {} : { moisture: m.moisture.trim() }),
        ...(m.absorption.trim() === '' ? {} : { absorption: m.absorption.trim() }),
        ...(/^\d/.test(this.target(m)) ? { target: this.target(m) } : {}),
      })),
    };
    const parsed = newLoad.safeParse(body);
    this.faults.set(
      parsed.success
        ? {}
        : Object.fromEntries(parsed.error.issues.map((issue) => [issue.path.join('.'), this.words(issue.path.join('.'), issue.message)])),
    );
    if (!parsed.success) return;
    this.busy.set(true);
    this.api.write<Load>(`/pours/${this.pourId()}/loads`, parsed.data).subscribe({
      next: () => void this.router.navigate(['/pours', this.pourId()]),
      error: (error: unknown) => {
        this.busy.set(false);
        const p = problemOf(error);
        this.problem.set(p);
        this.faults.set(Object.fromEntries((p.errors ?? []).map((e) => [e.path, e.message])));
      },
    });
  }

  private words(path: string, message: string): string {
    if (path === 'number') return 'A whole number, 1 or more.';
    if (path === 'ticket' || path === 'truck') return 'Key what the ticket says.';
    if (path === 'batchedAt') return 'Key the batch time.';
    return /\.(actual|moisture|absorption)$/.test(path) || path === 'design.text'
      ? `Key ${message.startsWith('a decimal') ? message : `a number ${message}`}.`
      : message;
  }
}
