import { ChangeDetectionStrategy, Component, output } from '@angular/core';

/** What a key does to the field in hand. */
export type Key = string;

const ROWS: readonly (readonly { key: Key; label: string; name?: string }[])[] = [
  [
    { key: '7', label: '7' },
    { key: '8', label: '8' },
    { key: '9', label: '9' },
    { key: 'unit', label: 'unit', name: 'next unit' },
  ],
  [
    { key: '4', label: '4' },
    { key: '5', label: '5' },
    { key: '6', label: '6' },
    { key: '/', label: '/', name: 'slash, for fractions' },
  ],
  [
    { key: '1', label: '1' },
    { key: '2', label: '2' },
    { key: '3', label: '3' },
    { key: ' ', label: 'space', name: 'space, for fractions' },
  ],
  [
    { key: '0', label: '0' },
    { key: '.', label: '.', name: 'point' },
    { key: 'erase', label: 'erase' },
    { key: 'next', label: 'next', name: 'next reading' },
  ],
];

/** The text after a key: plain characters are appended, `erase` takes the last one. */
export const afterKey = (text: string, key: Key): string => (key === 'erase' ? text.slice(0, -1) : key.length === 1 ? text + key : text);

/** Own keypad: gloved fingers, and no system keyboard over the answer. It never takes the focus. */
@Component({
  selector: 'km-keypad',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (row of rows; track $index) {
      @for (k of row; track k.key) {
        <button
          type="button"
          tabindex="-1"
          [class.word]="k.label.length > 1"
          [class.next]="k.key === 'next'"
          [attr.aria-label]="k.name ?? k.label"
          (pointerdown)="$event.preventDefault()"
          (click)="pressed.emit(k.key)"
        >
          {{ k.label }}
        </button>
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(4, 1fr);
      gap: 4px;
    }
    button {
      min-height: 52px;
      min-width: 48px;
      border: 1px solid var(--rule);
      background: var(--sheet);
      font: 21px var(--fig);
      cursor: pointer;
      padding: 0;
      touch-action: manipulation;
    }
    .word {
      font: 15px var(--text);
    }
    .next {
      background: var(--deep);
      border-color: var(--deep);
      color: var(--on-deep);
    }
  `,
})
export class Keypad {
  readonly pressed = output<Key>();
  protected readonly rows = ROWS;
}
