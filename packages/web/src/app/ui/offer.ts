import { ChangeDetectionStrategy, Component, output } from '@angular/core';

/** What was probably meant, one press away. It comes and goes with the keys, so it is as light as can be: the kit's look without its machinery. */
@Component({
  selector: 'km-offer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<button type="button" class="p-button p-button-outlined p-button-warn offer" (click)="taken.emit()"><ng-content /></button>`,
})
export class Offer {
  readonly taken = output();
}
