import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Write } from '../device/write';
import { Notice } from '../ui/notice';

/** What comes of a write, where somebody waits for it. */
@Component({
  selector: 'km-write-told',
  imports: [Notice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (write().problem(); as p) {
      <km-notice kind="error">{{ p.detail }}</km-notice>
    } @else if (write().waits()) {
      <km-notice
        ><span data-testid="waits"
          >The server does not answer. This is kept on this device, and is sent by itself once it does: you can go on.
          @if (write().code(); as code) {
            <b data-testid="code">Its code is {{ code }}: that is what you write on it.</b>
          }
        </span></km-notice
      >
    }
  `,
})
export class WriteTold {
  readonly write = input.required<Pick<Write<unknown>, 'problem' | 'waits' | 'code'>>();
}
