import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { localMoment } from '../../parts/when';

/** A moment: keyed in the device's zone, kept with its offset. */
@Component({
  selector: 'km-instant',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #box
      type="datetime-local"
      step="1"
      class="fig"
      [id]="inputId()"
      [attr.aria-label]="label() || null"
      [value]="local()"
      (change)="chosen.emit(iso(box.value))"
    />
    <button type="button" (click)="chosen.emit(iso())">now</button>
  `,
  styles: `
    :host {
      display: flex;
      align-items: stretch;
      width: 100%;
      min-height: 44px;
    }
    input {
      flex: 1;
      min-width: 0;
      border: 0;
      background: none;
      padding: 0 8px;
      font-size: 15px;
    }
    input:focus {
      outline: 3px solid var(--now);
      outline-offset: -3px;
    }
    button {
      border: 0;
      border-left: 1px solid var(--hair);
      background: none;
      min-width: 44px;
      cursor: pointer;
      text-decoration: underline;
      color: var(--deep);
    }
  `,
})
export class Instant {
  readonly value = input('');
  readonly label = input('');
  readonly inputId = input('');
  readonly chosen = output<string>();

  protected readonly local = computed(() => localMoment(this.value()));

  protected iso(local?: string): string {
    if (local === '') return '';
    const at = local === undefined ? new Date() : new Date(local);
    return Number.isNaN(at.getTime()) ? '' : at.toISOString();
  }
}
