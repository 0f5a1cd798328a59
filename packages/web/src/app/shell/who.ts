import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { session, SessionActions } from '../state/session';

/** Who is at this device: asked once, changed at the shelf. */
@Component({
  selector: 'km-who',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="place">
      <header><h1>Who is at this device?</h1></header>
      <p class="soft">Every reading carries the person who took it.</p>
      <ul>
        @for (p of people(); track p.id) {
          <li>
            <button class="btn" (click)="choose(p.id)">
              <b>{{ p.name }}</b> <span class="soft">{{ p.role }}</span>
            </button>
          </li>
        } @empty {
          <li class="soft">Nobody is in this database yet.</li>
        }
      </ul>
    </div>
  `,
  styles: `
    ul {
      display: grid;
      gap: 8px;
      max-width: 420px;
      margin-top: 14px;
    }
    .btn {
      width: 100%;
      min-height: 60px;
      justify-content: space-between;
      font-size: 17px;
    }
  `,
})
export class Who {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  protected readonly people = this.store.selectSignal(session.selectPeople);

  protected choose(personId: string): void {
    this.store.dispatch(SessionActions.personChosen({ personId }));
    void this.router.navigateByUrl('/pours');
  }
}
