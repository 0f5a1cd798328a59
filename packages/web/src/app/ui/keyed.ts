import { DestroyRef, Directive, effect, ElementRef, inject, input } from '@angular/core';

/** Keys that end what is keyed rather than add to it: what was keyed is told before they do anything. */
const isWord = (key: string): boolean => key.length > 1 && key !== 'Backspace' && key !== 'Delete';

/**
 * An input of figures that answer with each key: it wears the kit's look, and listens beside the framework.
 * A listener of a template draws every view up to the page again; this one tells only what was keyed.
 */
@Directive({ selector: 'input[kmKeyed]', host: { class: 'p-inputtext p-component', autocomplete: 'off' } })
export class Keyed {
  /** What is done with the text. */
  readonly kmKeyed = input.required<(text: string) => void>();
  /** What stands there but for keys that are not told yet. */
  readonly text = input.required<string>();
  /** The figure is seen first, and told once it is painted: for places where the answer costs more than a picture. */
  readonly seenFirst = input(false);

  private readonly box = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;
  private waits = false;

  constructor() {
    this.box.addEventListener('input', () => {
      if (!this.seenFirst()) this.kmKeyed()(this.box.value);
      else if (!this.waits) {
        this.waits = true;
        requestAnimationFrame(() => setTimeout(() => this.tell()));
      }
    });
    this.box.addEventListener('blur', () => this.tell());
    this.box.addEventListener('keydown', ({ key }) => isWord(key) && this.tell());
    // Whoever leaves by a press or a key has left the box first; what goes by itself is told nothing: another test may stand there.
    inject(DestroyRef).onDestroy(() => (this.waits = false));
    effect(() => {
      const text = this.text();
      if (!this.waits && this.box.value !== text) this.box.value = text;
    });
  }

  private tell(): void {
    if (!this.waits) return;
    this.waits = false;
    this.kmKeyed()(this.box.value);
  }
}
