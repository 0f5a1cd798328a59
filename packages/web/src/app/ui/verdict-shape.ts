import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Side, VerdictState } from '@keen-mortar/core';

/** The one word of each verdict, used the same everywhere. */
export const VERDICT_WORDS: Readonly<Record<VerdictState, string>> = {
  within: 'within',
  edge: 'at the edge',
  out: 'out',
  open: 'open',
  unjudged: 'no limit',
  void: 'void',
};

/** A verdict's shape: never a colour alone. The wedge points to the side on which a result is out. */
@Component({
  selector: 'km-verdict-shape',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.width]="size()" [attr.height]="size()" viewBox="0 0 24 24" role="img" [attr.aria-label]="label()">
      @switch (state()) {
        @case ('within') {
          <circle cx="12" cy="12" r="9.5" fill="var(--within)" />
        }
        @case ('edge') {
          <path d="M12 2.5 A9.5 9.5 0 0 0 12 21.5 Z" fill="var(--edge)" />
          <path d="M12 2.5 A9.5 9.5 0 0 1 12 21.5" fill="none" stroke="var(--edge)" stroke-width="2.4" />
        }
        @case ('out') {
          <path [attr.d]="side() === 'lower' ? 'M2 4 H22 L12 22 Z' : 'M2 20 H22 L12 2 Z'" fill="var(--out)" />
        }
        @case ('void') {
          <circle cx="12" cy="12" r="9" fill="none" stroke="var(--void)" stroke-width="2.6" />
          <path d="M3 21 L21 3" stroke="var(--void)" stroke-width="2.6" />
        }
        @case ('open') {
          <circle cx="12" cy="12" r="9" fill="none" stroke="var(--soft)" stroke-width="2" stroke-dasharray="3.4 3.2" />
        }
        @default {
          <path d="M5 12 H19" stroke="var(--soft)" stroke-width="3" />
        }
      }
      @if (marked()) {
        <path d="M13 1 V13 M13 1 H23 L20 4.5 L23 8 H13" fill="var(--well)" stroke="var(--ink)" stroke-width="1.6" />
      }
    </svg>
  `,
  styles: `
    :host {
      display: inline-flex;
      flex: none;
    }
  `,
})
export class VerdictShape {
  readonly state = input.required<VerdictState>();
  readonly side = input<Side | undefined>();
  readonly marked = input(false);
  readonly size = input(24);
  protected readonly label = computed(() => `${VERDICT_WORDS[this.state()]}${this.marked() ? ', marked' : ''}`);
}
