import { Icon } from './icon';
import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** Takes a row out of a table: one for each row, so as light as can be. */
@Component({
  selector: 'km-remove',
  imports: [Icon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<button type="button" [attr.aria-label]="label()" (click)="pressed.emit()"><km-icon name="times" /></button>`,
  styles: `
    button {
      border: 0;
      background: none;
      min-width: 44px;
      min-height: 44px;
      padding: 0;
      color: var(--soft);
      font-size: 18px;
      cursor: pointer;
    }
  `,
})
export class Remove {
  readonly label = input.required<string>();
  readonly pressed = output();
}
