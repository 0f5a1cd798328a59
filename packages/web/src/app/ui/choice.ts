import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Select } from 'primeng/select';

export interface Option<Id extends string = string> {
  readonly id: Id;
  readonly label: string;
}

/** One of a few: a list that opens. `quiet` where it stands beside what matters more. */
@Component({
  selector: 'km-choice',
  imports: [Select, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-select
      appendTo="body"
      optionLabel="label"
      optionValue="id"
      [styleClass]="look()"
      [inputId]="inputId()"
      [ariaLabel]="label()"
      [options]="list()"
      [placeholder]="placeholder()"
      [disabled]="disabled()"
      [fluid]="!quiet()"
      [showClear]="clears()"
      [ngModel]="value()"
      (ngModelChange)="chosen.emit($event ?? '')"
    />
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    p-select {
      max-width: 100%;
    }
  `,
})
export class Choice {
  readonly label = input.required<string>();
  readonly options = input.required<readonly Option[]>();
  readonly value = input<string | null | undefined>(null);
  readonly placeholder = input('choose');
  readonly disabled = input(false);
  readonly quiet = input(false);
  /** Whether nothing can be chosen again. */
  readonly clears = input(false);
  readonly wrong = input(false);
  readonly inputId = input<string>();
  /** Empty when it was cleared. */
  readonly chosen = output<string>();
  protected readonly list = computed(() => [...this.options()]);
  protected readonly look = computed(() => [this.quiet() ? 'quiet' : '', this.wrong() ? 'ng-wrong' : ''].filter(Boolean).join(' '));
}
