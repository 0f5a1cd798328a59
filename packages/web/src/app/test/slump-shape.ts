import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** What there is a drawing of. */
export const SLUMP_SHAPES: ReadonlySet<string> = new Set(['true', 'shear', 'collapse', 'zero']);

/** Own drawings of what the heap did: the mold's outline dashed, the concrete in its own colour. */
@Component({
  selector: 'km-slump-shape',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 104 62" aria-hidden="true">
      <path d="M22 58 L37 4 L67 4 L82 58" fill="none" stroke="var(--rule)" stroke-dasharray="3 3" />
      @switch (shape()) {
        @case ('true') {
          <path d="M14 58 Q20 44 30 34 Q40 26 52 25 Q64 26 74 34 Q84 44 90 58Z" fill="var(--con)" stroke="var(--ink)" />
        }
        @case ('shear') {
          <path d="M20 58 L34 12 L47 10 L72 58Z" fill="var(--con)" stroke="var(--ink)" />
          <path d="M54 26 Q82 38 98 58 L74 58Z" fill="var(--con-l)" stroke="var(--ink)" />
        }
        @case ('collapse') {
          <path d="M2 58 Q20 51 52 49 Q84 51 102 58Z" fill="var(--con)" stroke="var(--ink)" />
        }
        @default {
          <path d="M22 58 L37 4 L67 4 L82 58Z" fill="var(--con)" stroke="var(--ink)" />
        }
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-height: var(--shape-height, 66px);
    }
  `,
})
export class SlumpShape {
  readonly shape = input.required<string>();
}
