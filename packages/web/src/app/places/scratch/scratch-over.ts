import { Icon } from '../../ui/icon';
import { ButtonDirective } from 'primeng/button';
import { afterNextRender, ChangeDetectionStrategy, Component, computed, inject, Injector, viewChild, type OnDestroy } from '@angular/core';
import { Router } from '@angular/router';
import { methodById } from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { hand, HandActions } from '../../state/hand';
import { fragmentOf } from './link';
import { Scratch } from './scratch';
import { ComputationStore } from '../../test/computation.store';

/** Scratch over the place in use: the clocks above it stay in sight, and it what is not put into the sheet is gone when it closes. */
@Component({
  selector: 'km-scratch-over',
  imports: [Icon, Scratch, ButtonDirective],
  providers: [ComputationStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="bar">
      <b>Scratch</b> <span class="soft small">what is not put into the sheet is gone when it closes</span>
      <a pButton [text]="true" class="link end" [href]="page()" data-testid="as-page" target="_blank" rel="noopener"
        ><km-icon name="external-link" /> open as a page</a
      >
      <button type="button" pButton severity="secondary" data-testid="close-scratch" (click)="close()">
        <km-icon name="times" /> Close <kbd class="soft small">Esc</kbd>
      </button>
    </div>
    <km-scratch [over]="true" (picked)="open($event)" />
  `,
  host: { role: 'dialog', 'aria-label': 'Scratch', '(keydown.escape)': 'close()' },
  styles: `
    :host {
      display: block;
      overflow: auto;
      background: var(--page);
      border-left: 3px solid var(--deep);
    }
    .bar {
      position: sticky;
      top: 0;
      z-index: 3;
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 14px;
      padding: 4px 12px 4px 22px;
      background: var(--page);
      border-bottom: 1px solid var(--hair);
    }
    .end {
      margin-left: auto;
    }
    @media print {
      :host {
        overflow: visible;
        border: 0;
      }
      .bar {
        display: none;
      }
    }
  `,
})
export class ScratchOver implements OnDestroy {
  private readonly places = inject(Store);
  private readonly store = inject(ComputationStore);
  private readonly body = viewChild.required(Scratch);
  private readonly router = inject(Router);
  private readonly injector = inject(Injector);
  /** Where the focus was, and goes back to. */
  private readonly before = document.activeElement;

  constructor() {
    const shown = this.places.selectSignal(hand.selectHand)();
    const m = shown && methodById(shown.method);
    if (m) this.store.open(m, shown);
    this.focus();
  }

  /** The same computation as a page, its readings with it. */
  protected readonly page = computed(() => {
    const [m, linked] = [this.store.method(), this.store.rested()];
    const fragment = m && linked ? fragmentOf(m, linked) : null;
    return `/scratch${m ? `/${m.id}` : ''}${fragment === null ? '' : `#${fragment}`}`;
  });

  protected open(id: string): void {
    const m = methodById(id);
    const shown = this.places.selectSignal(hand.selectHand)();
    if (!m) {
      // What is not a computation has a page of its own.
      this.close();
      void this.router.navigate(['/scratch', id]);
      return;
    }
    if (shown?.method === id) this.store.open(m, shown);
    else this.store.open(m);
    this.focus();
  }

  protected close(): void {
    this.places.dispatch(HandActions.scratchClosed());
  }

  private focus(): void {
    afterNextRender(() => this.body().focus(), { injector: this.injector });
  }

  ngOnDestroy(): void {
    if (this.before instanceof HTMLElement) this.before.focus();
  }
}
