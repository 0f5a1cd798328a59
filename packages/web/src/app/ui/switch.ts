import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { SelectButton } from 'primeng/selectbutton';
import type { Option } from './choice';

/** One of two or three that stand side by side. */
@Component({
  selector: 'km-switch',
  imports: [SelectButton, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-selectbutton
      optionLabel="label"
      optionValue="id"
      [allowEmpty]="false"
      [attr.aria-label]="label()"
      role="group"
      [options]="list()"
      [ngModel]="value()"
      (ngModelChange)="chosen.emit($event)"
    />
  `,
})
export class Switch {
  readonly label = input.required<string>();
  readonly options = input.required<readonly Option[]>();
  readonly value = input.required<string>();
  readonly chosen = output<string>();
  protected readonly list = computed(() => [...this.options()]);
}
