import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { LONGEST_TEXT } from '@keen-mortar/contract';
import { ButtonDirective } from 'primeng/button';
import { Textarea } from 'primeng/textarea';

/** What somebody said of an item. */
export interface Note {
  readonly id: string;
  readonly text: string;
  readonly told: string;
}

/** Notes of an item, the oldest first; a new one is added below. */
@Component({
  selector: 'km-notes',
  imports: [FormsModule, ButtonDirective, Textarea],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Notes</h2>
    @for (n of notes(); track n.id) {
      <p class="note">
        {{ n.text }}<span class="soft small">{{ n.told }}</span>
      </p>
    }
    @if (!readOnly()) {
      <textarea
        pTextarea
        rows="2"
        [autoResize]="true"
        [maxlength]="longest"
        aria-label="A note"
        placeholder="A note: what was seen, what was agreed"
        data-testid="note"
        [(ngModel)]="text"
        (keydown.control.enter)="add()"
      ></textarea>
      <button pButton severity="secondary" type="button" data-testid="add-note" [disabled]="text().trim() === ''" (click)="add()">
        Add the note
      </button>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
      justify-items: start;
    }
    h2 {
      font-size: 15px;
      font-weight: 720;
    }
    .note {
      display: grid;
      overflow-wrap: anywhere;
    }
    textarea {
      width: 100%;
    }
    button {
      min-height: 44px;
    }
  `,
})
export class Notes {
  readonly notes = input.required<readonly Note[]>();
  readonly readOnly = input(false);
  readonly added = output<string>();
  protected readonly longest = LONGEST_TEXT;
  protected readonly text = signal('');

  protected add(): void {
    const text = this.text().trim();
    if (text === '') return;
    this.added.emit(text);
    this.text.set('');
  }
}
