import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** Own drawings of a stone under the towel: with its film of water, damp and dark, its edges lightening, pale. */
@Component({
  selector: 'km-stone-look',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 120 78" aria-hidden="true">
      @if (look() === 'film') {
        <path d="M10 34 L34 6 L84 4 L112 34 L98 66 L42 72 L12 56Z" fill="var(--water)" stroke="var(--ink)" />
        <path d="M40 76q4 -8 0 -12q-4 4 0 12M78 77q4 -8 0 -12q-4 4 0 12" fill="var(--water)" stroke="var(--ink)" />
      }
      <path
        d="M18 36 L38 12 L82 10 L104 36 L92 60 L44 66 L20 54Z"
        [attr.fill]="dry() ? 'var(--con-l)' : 'var(--con)'"
        stroke="var(--ink)"
      />
      @if (look() === 'edges') {
        <path d="M38 40 L50 26 L76 26 L86 40 L76 52 L48 54Z" fill="var(--con)" />
        <path d="M60 2V9M112 22l-7 4M110 60l-8 -4" stroke="var(--now)" stroke-width="2.5" />
      }
      <path d="M38 12 L58 32 L82 10 M58 32 L54 64 M58 32 L104 36 M18 36 L58 32" fill="none" stroke="var(--ink)" opacity="0.5" />
      @switch (look()) {
        @case ('film') {
          <path d="M36 16 L50 12 M54 11.5 L62 11" stroke="var(--well)" stroke-width="4" />
        }
        @case ('damp') {
          <path
            d="M34 44h.1M44 50h.1M70 46h.1M80 40h.1M64 54h.1M40 28h.1M72 22h.1"
            stroke="var(--ink)"
            stroke-width="2.5"
            stroke-linecap="round"
          />
        }
        @case ('pale') {
          <path d="M34 42h5M66 46h5M76 50h5M46 52h5M72 22h4M42 24h4" stroke="var(--ink)" />
        }
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-height: 78px;
    }
  `,
})
export class StoneLook {
  readonly look = input.required<string>();
  protected dry(): boolean {
    return this.look() === 'edges' || this.look() === 'pale';
  }
}
