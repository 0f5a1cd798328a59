import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Picture } from '@keen-mortar/core';

/** Drawings that stand for no method. */
type Other =
  | 'camera'
  | 'day'
  | 'room'
  | 'ledger'
  | 'kit'
  | 'trainee'
  | 'bridge'
  | 'sheet'
  | 'pencil'
  | 'tray'
  | 'trowel'
  | 'more'
  | 'person'
  | 'again'
  | 'warn'
  | 'go'
  | 'off'
  | 'spec'
  | 'label'
  | 'sunrise'
  | 'lock'
  | 'sign'
  | 'table'
  | 'flag';

/** A thing of the job, drawn: said by the words beside it. */
@Component({
  selector: 'km-pic',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<svg [attr.width]="size()" [attr.height]="size()" aria-hidden="true"><use [attr.href]="'#p-' + name()" /></svg>`,
  styles: `
    :host {
      display: inline-flex;
      flex: none;
      --t: var(--tone);
    }
    svg {
      fill: none;
      stroke: currentColor;
      stroke-width: var(--pw);
      stroke-linejoin: round;
      stroke-linecap: round;
      overflow: visible;
    }
  `,
})
export class Pictogram {
  readonly name = input.required<Picture | Other>();
  readonly size = input(28);
}
