import { ChangeDetectionStrategy, Component, Directive, inject, input } from '@angular/core';

/** A field of a form: its name above it, and below, in room that is kept for it, what is wrong. */
@Component({
  selector: 'km-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label [attr.for]="inputId()"
      >{{ label() }} <span class="soft">{{ hint() }}</span></label
    >
    <ng-content />
    <small [id]="inputId() + '-why'">{{ fault() }}</small>
  `,
  styles: `
    :host {
      display: grid;
      align-content: end;
      gap: 3px;
      min-width: 0;
    }
    label {
      font-size: 14.5px;
    }
    small {
      min-height: 19px;
      font-size: 14px;
      line-height: 1.3;
      color: var(--out);
    }
  `,
})
export class Field {
  readonly label = input.required<string>();
  readonly inputId = input.required<string>();
  readonly hint = input('');
  readonly fault = input('');
}

/** The input of a field: named by it, and told wrong with it. */
@Directive({
  selector: '[kmIn]',
  host: {
    autocomplete: 'off',
    '[id]': 'field.inputId()',
    '[attr.name]': 'field.inputId()',
    '[class.ng-wrong]': "field.fault() !== ''",
    '[attr.aria-invalid]': "field.fault() !== '' ? true : null",
    '[attr.aria-describedby]': "field.inputId() + '-why'",
  },
})
export class FieldInput {
  protected readonly field = inject(Field);
}
