import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { ButtonDirective } from 'primeng/button';

/** What a key does to the field in hand. */
export type Key = string;

const KEYS: readonly { key: Key; label: string; name?: string }[] = [
  { key: '7', label: '7' },
  { key: '8', label: '8' },
  { key: '9', label: '9' },
  { key: '/', label: '/', name: 'slash, for fractions' },
  { key: 'erase', label: 'erase' },
  { key: '4', label: '4' },
  { key: '5', label: '5' },
  { key: '6', label: '6' },
  { key: ':', label: ':', name: 'colon, for minutes and seconds' },
  { key: 'unit', label: 'unit', name: 'next unit' },
  { key: '1', label: '1' },
  { key: '2', label: '2' },
  { key: '3', label: '3' },
  { key: ' ', label: 'space', name: 'space, for fractions' },
  { key: 'next', label: 'next', name: 'next reading' },
  { key: '0', label: '0' },
  { key: '.', label: '.', name: 'point' },
];

/** The text after a key: plain characters are appended, `erase` takes the last one. */
export const afterKey = (text: string, key: Key): string => (key === 'erase' ? text.slice(0, -1) : key.length === 1 ? text + key : text);

/** Own keypad: gloved fingers, and no system keyboard over the answer. It never takes the focus. */
@Component({
  selector: 'km-keypad',
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (k of keys; track k.key) {
      <button
        pButton
        severity="secondary"
        type="button"
        tabindex="-1"
        [class]="'k ' + nameOf(k.key)"
        [class.word]="k.label.length > 1"
        [attr.aria-label]="k.name ?? k.label"
        (pointerdown)="$event.preventDefault()"
        (click)="pressed.emit(k.key)"
      >
        {{ k.label }}
        @if (k.key === 'next') {
          <small aria-hidden="true">{{ next() }}</small>
        }
      </button>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(3, 1fr) 1fr 1.25fr;
      grid-auto-rows: minmax(52px, auto);
      gap: 5px;
    }
    .k {
      min-width: 44px;
      min-height: 52px;
      font: 700 22px var(--fig);
      padding: 0;
    }
    .k.word {
      font: 700 15px var(--text);
    }
    .zero {
      grid-column: span 2;
    }
    .space {
      grid-row: span 2;
    }
    .next {
      grid-row: span 2;
      flex-direction: column;
      gap: 2px;
      background: var(--deep);
      border-color: var(--deep);
      color: var(--on-deep);
    }
    .k.next.word {
      font-size: 18px;
    }
    .next small {
      font: 400 13px/1.15 var(--text);
      max-width: 100%;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    /* All of the work is to stay in sight over it. */
    @media (max-height: 860px) and (max-width: 760px) {
      :host {
        grid-auto-rows: minmax(45px, auto);
        gap: 4px;
      }
      .k {
        min-height: 45px;
      }
    }
  `,
})
export class Keypad {
  /** What "next" goes to. */
  readonly next = input('');
  readonly pressed = output<Key>();
  protected readonly keys = KEYS;

  protected nameOf(key: Key): string {
    return { next: 'next', '0': 'zero', ' ': 'space' }[key] ?? '';
  }
}
