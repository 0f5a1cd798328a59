import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { SampleEventKind } from '@keen-mortar/contract';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { zonedTime } from '../../../parts/when';
import { sheet, SheetActions } from './sheet.state';

const SAID: Readonly<Record<SampleEventKind, string>> = {
  portion: 'Portion taken',
  finished: 'Combined and turned',
  molding: 'Molding started',
  discharged: 'Truck is empty',
};
const EARLIER_MIN = 5;

/** What was just told with one tap: for some seconds it can be taken back, or told as earlier. */
@Component({
  selector: 'km-held-events',
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (h of held(); track h.id) {
      <div class="one" role="status">
        <span
          ><b>{{ h.says }}</b> <span class="fig">{{ h.at }}</span></span
        >
        <button pButton severity="secondary" type="button" (click)="undo(h.id)">Undo</button>
        <button pButton severity="secondary" type="button" (click)="earlier(h.id)">{{ earlierBy }} min earlier</button>
        <span class="burn" [style.--left]="h.share"></span>
      </div>
    }
  `,
  styles: `
    :host {
      display: contents;
    }
    .one {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 10px;
      padding: 4px 4px 4px 14px;
      background: var(--deep-wash);
      border-left: 5px solid var(--deep);
      position: relative;
    }
    .burn {
      position: absolute;
      left: 0;
      bottom: 0;
      height: 3px;
      width: calc(var(--left) * 100%);
      background: var(--deep);
    }
  `,
})
export class HeldEvents {
  private readonly store = inject(Store);
  readonly timeZone = input.required<string>();
  /** The device's clock, ticking. */
  readonly now = input.required<number>();
  private readonly commands = this.store.selectSignal(sheet.selectCommands);
  protected readonly earlierBy = EARLIER_MIN;
  protected readonly held = computed(() =>
    this.commands()
      .filter((c) => c.kind === 'event' && (c.heldUntil ?? 0) > this.now())
      .map((c) => ({
        id: c.id,
        says: SAID[c.body['kind'] as SampleEventKind],
        at: zonedTime(c.body['at'] as string, this.timeZone()),
        share: Math.min(1, ((c.heldUntil ?? 0) - this.now()) / HOLD_MS),
      })),
  );

  protected undo(id: string): void {
    this.store.dispatch(SheetActions.takenBack({ id }));
  }

  protected earlier(id: string): void {
    const command = this.commands().find((c) => c.id === id);
    if (!command) return;
    const at = new Date(Date.parse(command.body['at'] as string) - EARLIER_MIN * 60_000).toISOString();
    this.store.dispatch(SheetActions.toldOtherwise({ id, at }));
  }
}

/** So long a tap can be taken back. */
export const HOLD_MS = 7000;
