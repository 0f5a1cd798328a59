import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, output, signal, viewChild } from '@angular/core';
import { find, type Found } from './find';

/** Type to find a method by any of its names; arrows and Enter choose. */
@Component({
  selector: 'km-finder',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="unseen" for="finder">Find a computation</label>
    <input
      #box
      id="finder"
      type="text"
      role="combobox"
      autocomplete="off"
      aria-controls="finder-list"
      aria-autocomplete="list"
      [attr.aria-expanded]="open()"
      [attr.aria-activedescendant]="open() && found().length > 0 ? 'found-' + at() : null"
      placeholder="Find: slump, SG, minus 200, break, C 39 …"
      [value]="query()"
      maxlength="60"
      (input)="typed(box.value)"
      (click)="open.set(true)"
      (blur)="open.set(false)"
      (keydown)="key($event)"
    />
    @if (open()) {
      <ul id="finder-list" role="listbox" aria-label="Computations" (mousedown)="$event.preventDefault()">
        @for (f of found(); track f.id; let i = $index) {
          <li
            role="option"
            [id]="'found-' + i"
            [attr.aria-selected]="i === at()"
            [class.on]="i === at()"
            tabindex="-1"
            (pointerup)="choose(f)"
          >
            <b>{{ f.title }}</b> <span class="soft small">{{ f.follows }}</span>
          </li>
        } @empty {
          <li class="soft none">No computation has that name. Try another word for it, or its test method.</li>
        }
      </ul>
    }
  `,
  styles: `
    :host {
      display: block;
      position: relative;
      flex: 1;
      min-width: 220px;
      max-width: 560px;
    }
    input {
      width: 100%;
      min-height: 46px;
      border: 1px solid var(--rule);
      background: var(--well);
      padding: 0 12px;
      border-radius: 0;
    }
    ul {
      position: absolute;
      z-index: 4;
      left: 0;
      right: 0;
      max-height: min(420px, 60vh);
      overflow: auto;
      background: var(--well);
      border: 1px solid var(--rule);
      border-top: 0;
    }
    li {
      min-height: 44px;
      padding: 6px 12px;
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 10px;
      cursor: pointer;
    }
    li.on {
      background: var(--deep);
      color: var(--on-deep);
    }
    li.on .soft {
      color: inherit;
    }
    .none {
      cursor: default;
    }
  `,
})
export class Finder {
  readonly chosen = output<string>();
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  protected readonly query = signal('');
  protected readonly open = signal(false);
  protected readonly at = signal(0);
  protected readonly found = computed(() => find(this.query()));

  focus(): void {
    this.box().nativeElement.focus();
  }

  protected typed(text: string): void {
    this.query.set(text);
    this.at.set(0);
    this.open.set(true);
  }

  protected choose(f: Found): void {
    this.query.set('');
    this.open.set(false);
    this.chosen.emit(f.id);
  }

  protected key(event: KeyboardEvent): void {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined) {
      event.preventDefault();
      this.open.set(true);
      this.at.update((at) => Math.min(Math.max(at + step, 0), this.found().length - 1));
      setTimeout(() => document.getElementById(`found-${this.at()}`)?.scrollIntoView({ block: 'nearest' }));
    } else if (event.key === 'Enter') {
      const f = this.found()[this.at()];
      if (f && this.open()) this.choose(f);
    } else if (event.key === 'Escape' && this.open()) {
      event.stopPropagation();
      this.open.set(false);
    }
  }
}
