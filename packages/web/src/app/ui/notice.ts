import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { Message } from 'primeng/message';

/** What stands in the way, or has to be known before going on. */
@Component({
  selector: 'km-notice',
  imports: [Message],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<p-message [severity]="kind()"><ng-content /></p-message>`,
  styles: `
    :host {
      display: block;
    }
  `,
})
export class Notice {
  readonly kind = input<'warn' | 'error' | 'info'>('warn');
}
