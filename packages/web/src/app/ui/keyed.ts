import { Directive, ElementRef, inject, input } from '@angular/core';

/**
 * An input of figures that answer with each key: it wears the kit's look, and listens beside the framework.
 * A listener of a template draws every view up to the page again; this one tells only what was keyed.
 */
@Directive({ selector: 'input[kmKeyed]', host: { class: 'p-inputtext p-component', autocomplete: 'off' } })
export class Keyed {
  readonly kmKeyed = input.required<(text: string) => void>();

  constructor() {
    const { nativeElement } = inject<ElementRef<HTMLInputElement>>(ElementRef);
    nativeElement.addEventListener('input', () => this.kmKeyed()(nativeElement.value));
  }
}
