import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { methodById, type ItemKind } from '@keen-mortar/core';
import { ButtonDirective } from 'primeng/button';
import { Carried } from '../../state/carried';
import type { Hand } from '../../state/hand';
import { Notice } from '../../ui/notice';
import { lower } from './kinds';

/** What comes out of Scratch and looks for its item: said wherever one may be found or made. */
@Component({
  selector: 'km-carried-bar',
  imports: [ButtonDirective, Notice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (carried(); as c) {
      <km-notice kind="info">
        <div class="bar" data-testid="carried">
          <span
            ><b>{{ c.title }}</b> is in hand. {{ fits() ? '' : 'Find or make what it was made on: ' + c.kinds + '.' }}</span
          >
          @if (fits()) {
            <button pButton type="button" data-testid="put-here" (click)="put()">Put it here</button>
          }
          <button pButton severity="secondary" type="button" (click)="store.drop()">Leave it</button>
        </div>
      </km-notice>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    km-notice {
      margin: 8px 0;
    }
    .bar {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 14px;
    }
    button {
      min-height: 44px;
    }
  `,
})
export class CarriedBar {
  protected readonly store = inject(Carried);
  /** Of the item that is open; none in a list. */
  readonly kind = input<ItemKind>();
  readonly here = output<Hand>();

  protected readonly carried = computed(() => {
    const hand = this.store.hand();
    const m = hand && methodById(hand.method);
    const on = m?.on ?? [];
    return m && hand ? { hand, on, title: m.title, kinds: on.map((kind) => `a ${lower(kind)}`).join(' or ') } : null;
  });
  protected readonly fits = computed(() => {
    const kind = this.kind();
    return kind !== undefined && this.carried()?.on.includes(kind) === true;
  });

  protected put(): void {
    const hand = this.store.hand();
    if (!hand) return;
    this.here.emit(hand);
    this.store.drop();
  }
}
