import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { Outbox } from '../device/outbox';
import { Notice } from '../ui/notice';
import { SetAside } from './set-aside';

/** What waits to be sent and what was set aside, above the shelf: on every place, whichever sheet it came from. */
@Component({
  selector: 'km-waiting',
  imports: [ButtonDirective, Notice, SetAside],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (outbox.trouble(); as trouble) {
      <km-notice data-testid="not-stored">{{ trouble }}</km-notice>
    }
    @if (outbox.away() && waits() > 0) {
      <p class="line" role="status" data-testid="waits">
        {{ waits() === 1 ? 'One thing waits' : waits() + ' things wait' }} for the server. It is safe on this device and goes by itself.
      </p>
    }
    @if (aside().length > 0) {
      <p class="line aside" role="status">
        <b>{{ aside().length === 1 ? 'One thing was refused' : aside().length + ' things were refused' }}</b> and set aside.
        <button pButton type="button" severity="secondary" data-testid="look-aside" (click)="looked.set(true); looking.set(true)">
          Look at it
        </button>
      </p>
    }
    @if (looked()) {
      @defer (on immediate) {
        <km-set-aside [(open)]="looking" />
      }
    }
  `,
  styles: `
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 10px;
      padding: 4px 16px;
      background: var(--deep-wash);
      border-top: 1px solid var(--rule);
    }
    .aside {
      background: var(--out-wash);
    }
    .aside button {
      margin-left: auto;
    }
  `,
})
export class Waiting {
  protected readonly outbox = inject(Outbox);
  /** Made when it is asked for first. */
  protected readonly looked = signal(false);
  protected readonly looking = signal(false);
  protected readonly waits = computed(() => this.outbox.commands().length);
  protected readonly aside = this.outbox.aside;
}
