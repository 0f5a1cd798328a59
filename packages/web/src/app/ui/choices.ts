import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import multiselect from '@primeuix/themes/aura/multiselect';
import { MultiSelect } from 'primeng/multiselect';
import type { Option } from './choice';

/** Some of a few: a list that opens, each with its box. */
@Component({
  selector: 'km-choices',
  imports: [MultiSelect, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-multiselect
      appendTo="body"
      [dt]="dress"
      optionLabel="label"
      optionValue="id"
      [inputId]="inputId()"
      [ariaLabel]="label()"
      [options]="list()"
      [placeholder]="placeholder()"
      [selectionLimit]="most()"
      [showToggleAll]="false"
      [filter]="list().length > 8"
      [fluid]="true"
      [ngModel]="chosenOnes()"
      (ngModelChange)="chosen.emit($event ?? [])"
    />
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
  `,
})
export class Choices {
  /** Comes with the first list that needs it, not with the first screen. */
  protected readonly dress = multiselect;
  readonly label = input.required<string>();
  readonly options = input.required<readonly Option[]>();
  readonly value = input<readonly string[]>([]);
  readonly placeholder = input('choose');
  readonly most = input(100);
  readonly inputId = input<string>();
  readonly chosen = output<string[]>();
  protected readonly list = computed(() => [...this.options()]);
  protected readonly chosenOnes = computed(() => [...this.value()]);
}
