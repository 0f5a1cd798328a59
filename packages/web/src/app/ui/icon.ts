import { ChangeDetectionStrategy, Component, input } from '@angular/core';

export type IconName =
  | 'times'
  | 'search'
  | 'undo'
  | 'refresh'
  | 'copy'
  | 'pencil'
  | 'plus'
  | 'stopwatch'
  | 'eraser'
  | 'external-link'
  | 'download'
  | 'arrow-right'
  | 'arrow-left'
  | 'arrow-up'
  | 'arrow-down';

/** A sign for what a button does, beside its word; alone only where the button has a label of its own. */
@Component({
  selector: 'km-icon',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  host: { 'aria-hidden': 'true', '[attr.data-icon]': 'name()' },
  styleUrl: './icon.css',
})
export class Icon {
  readonly name = input.required<IconName>();
}
