import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RadioButton } from 'primeng/radiobutton';
import type { Option } from '../ui/choice';
import { FractureShape } from './fracture-shape';
import { lookOf } from './looks';
import { SlumpShape } from './slump-shape';

/** One of a few looks, each with its drawing where there is one: large enough for gloves. */
@Component({
  selector: 'km-shapes',
  imports: [RadioButton, FormsModule, SlumpShape, FractureShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fieldset [disabled]="disabled()" [attr.data-look]="look()" (keydown)="byDigit($event)">
      <legend [class.unseen]="!labelled()">{{ label() }}</legend>
      @for (o of options(); track o.id) {
        <label class="sh" [for]="name() + '-' + o.id" [class.on]="value() === o.id">
          <p-radiobutton
            [name]="name()"
            [inputId]="name() + '-' + o.id"
            [value]="o.id"
            [disabled]="disabled()"
            [ngModel]="value()"
            (ngModelChange)="chosen.emit(o.id)"
            [ngModelOptions]="{ standalone: true }"
          />
          @switch (look()) {
            @case ('slump') {
              <km-slump-shape [shape]="o.id" />
            }
            @case ('fracture') {
              <kbd aria-hidden="true">{{ o.id }}</kbd>
              <km-fracture-shape [type]="o.id" />
            }
          }
          <span>{{ o.label }}</span>
        </label>
      }
    </fieldset>
  `,
  styles: `
    fieldset {
      border: 0;
      margin: 0;
      padding: 0;
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(84px, 1fr));
      gap: 8px;
    }
    legend {
      padding: 0 0 3px;
      font-size: 14.5px;
    }
    .sh {
      border: 1px solid var(--rule);
      background: var(--well);
      padding: 6px 4px;
      min-height: 48px;
      text-align: center;
      font-size: 14.5px;
      cursor: pointer;
      position: relative;
      display: grid;
      align-content: end;
    }
    /* The whole card is the target; its border says what is chosen. */
    p-radiobutton {
      position: absolute;
      inset: 0;
      width: auto;
      height: auto;
      opacity: 0;
    }
    .sh.on {
      border-color: var(--deep);
      box-shadow: inset 0 0 0 2px var(--deep);
      background: var(--deep-wash);
      font-weight: 700;
    }
    [data-look='fracture'] kbd {
      position: absolute;
      top: 5px;
      left: 5px;
    }
    .sh:focus-within {
      outline: 3px solid var(--deep);
      outline-offset: 2px;
    }
  `,
})
export class Shapes {
  readonly label = input.required<string>();
  readonly name = input.required<string>();
  readonly options = input.required<readonly Option[]>();
  readonly value = input.required<string>();
  readonly disabled = input(false);
  /** Its name stands above it, where looks alone do not say what is asked. */
  readonly labelled = input(false);
  readonly chosen = output<string>();
  protected readonly look = computed(() => lookOf(this.options().map((o) => o.id)));

  /** The digit of a look is its key. */
  protected byDigit(event: KeyboardEvent): void {
    const option = this.look() === 'fracture' ? this.options().find((o) => o.id === event.key) : undefined;
    if (!option || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    this.chosen.emit(option.id);
  }
}
