import { ChangeDetectionStrategy, Component, DestroyRef, effect, inject, input, signal } from '@angular/core';
import { ButtonDirective } from 'primeng/button';
import { afterKey, Keypad, type Key } from '../../ui/keypad';

const BOXES = 'input[type=text]';
/** A device whose finger is too thick for a system's keyboard over the answer. */
const coarse = (): boolean => matchMedia('(pointer: coarse)').matches;

/** The own keypad for every box of a form, cells of its tables too: it keys into whichever has the focus. */
@Component({
  selector: 'km-form-keypad',
  imports: [Keypad, ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (on() && within()) {
      <km-keypad next="reading" (pressed)="pressed($event)" />
    }
    <button pButton [text]="true" type="button" class="link" [attr.aria-pressed]="on()" (click)="on.set(!on())">keypad</button>
  `,
  styles: `
    :host {
      display: grid;
      justify-items: start;
      gap: 4px;
    }
    /* Over the heads of tables, which stay in place too. */
    :host(:has(km-keypad)) {
      position: sticky;
      bottom: 0;
      z-index: 4;
      background: var(--well);
    }
    km-keypad {
      width: 100%;
      max-width: 720px;
      padding-top: 6px;
    }
  `,
})
export class FormKeypad {
  /** Where the boxes are. */
  readonly of = input.required<HTMLElement>();
  protected readonly on = signal(coarse());
  /** Whether a box has the focus. */
  protected readonly within = signal(false);
  private last: HTMLInputElement | null = null;

  constructor() {
    const gone = inject(DestroyRef);
    effect(() => {
      const [host, on] = [this.of(), this.on()];
      for (const box of host.querySelectorAll<HTMLInputElement>(BOXES)) quiet(box, on);
    });
    queueMicrotask(() => {
      const host = this.of();
      // Before it has the focus: then no other keyboard comes up at all.
      const touched = (event: Event): void => {
        const box = (event.target as HTMLElement).closest<HTMLInputElement>(BOXES);
        if (!box) return;
        this.last = box;
        this.within.set(true);
        quiet(box, this.on());
      };
      const left = ({ relatedTarget }: FocusEvent): void => this.within.set(host.contains(relatedTarget as Node | null));
      host.addEventListener('pointerdown', touched, true);
      host.addEventListener('focusin', touched);
      host.addEventListener('focusout', left);
      gone.onDestroy(() => {
        host.removeEventListener('pointerdown', touched, true);
        host.removeEventListener('focusin', touched);
        host.removeEventListener('focusout', left);
      });
    });
  }

  protected pressed(key: Key): void {
    const boxes = [...this.of().querySelectorAll<HTMLInputElement>(BOXES)].filter((box) => !box.disabled && !box.readOnly);
    const box = this.last !== null && boxes.includes(this.last) ? this.last : boxes[0];
    if (!box) return;
    if (key === 'next') {
      const next = boxes[boxes.indexOf(box) + 1];
      next?.focus();
      next?.select();
      return;
    }
    box.focus();
    if (key === 'unit') return;
    // What is selected goes, as with any keyboard.
    const [from, to] = [box.selectionStart ?? box.value.length, box.selectionEnd ?? box.value.length];
    const before = box.value.slice(0, from);
    box.value = (from === to || key !== 'erase' ? afterKey(before, key) : before) + box.value.slice(to);
    const at = (from === to || key !== 'erase' ? afterKey(before, key) : before).length;
    box.setSelectionRange(at, at);
    box.dispatchEvent(new Event('input', { bubbles: true }));
  }
}

/** Whether the system’s own keyboard stays away from a box. */
function quiet(box: HTMLInputElement, on: boolean): void {
  if (on && box.inputMode !== 'none') {
    box.dataset['keyboard'] = box.inputMode;
    box.inputMode = 'none';
  } else if (!on && box.dataset['keyboard'] !== undefined) box.inputMode = box.dataset['keyboard'];
}
