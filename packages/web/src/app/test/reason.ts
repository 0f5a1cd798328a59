import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { AutoComplete } from 'primeng/autocomplete';

/** Shorter is no reason. */
export const LEAST_REASON = 3;

/** Why something was keyed otherwise, or is kept although it is unlikely: the usual reasons to choose, or one's own words. */
@Component({
  selector: 'km-reason',
  imports: [AutoComplete, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label [for]="inputId()">{{ label() }}</label>
    <p-autocomplete
      appendTo="body"
      [inputId]="inputId()"
      [dropdown]="true"
      dropdownAriaLabel="Usual reasons"
      [fluid]="true"
      [maxlength]="400"
      [suggestions]="found()"
      [minQueryLength]="0"
      [autoHighlight]="false"
      (completeMethod)="find($event.query)"
      [ngModel]="value()"
      (ngModelChange)="given.emit($event ?? '')"
      (keyup.enter)="done.emit()"
    />
  `,
  styles: `
    :host {
      display: grid;
      gap: 3px;
      max-width: 560px;
    }
    label {
      font-size: 14.5px;
    }
  `,
})
export class Reason {
  readonly label = input.required<string>();
  readonly inputId = input.required<string>();
  readonly usual = input.required<readonly string[]>();
  readonly value = input.required<string>();
  readonly given = output<string>();
  readonly done = output();
  protected readonly found = signal<string[]>([]);

  protected find(text: string): void {
    const words = text.trim().toLowerCase();
    this.found.set(this.usual().filter((reason) => reason.toLowerCase().includes(words)));
  }
}
