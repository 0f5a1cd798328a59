import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** Own drawings of what the sand did when the cone was lifted: the mold's outline dashed, the sand in its own colour. */
@Component({
  selector: 'km-cone-look',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 104 66" aria-hidden="true">
      <path d="M20 60 L36 8 L68 8 L84 60" fill="none" stroke="var(--rule)" stroke-dasharray="3 3" />
      @switch (look()) {
        @case ('kept') {
          <path d="M20 60 L36 9 L68 9 L84 60Z" fill="var(--con)" stroke="var(--ink)" />
        }
        @case ('slight') {
          <path d="M12 60 Q20 52 27 42 L36 12 L56 10 Q62 26 70 34 Q80 46 92 60Z" fill="var(--con)" stroke="var(--ink)" />
          <path d="M56 10 Q66 22 86 54" fill="none" stroke="var(--ink)" stroke-dasharray="2 3" />
        }
        @case ('half') {
          <path d="M8 60 Q22 48 30 34 L40 20 Q46 16 50 26 Q58 42 98 60Z" fill="var(--con)" stroke="var(--ink)" />
        }
        @case ('fell') {
          <path d="M2 60 Q26 48 52 46 Q78 48 102 60Z" fill="var(--con)" stroke="var(--ink)" />
        }
        @default {
          <path d="M30 60 L52 12 L80 22 L78 60Z" fill="var(--con-l)" stroke="var(--ink)" stroke-dasharray="5 3" />
          <path d="M84 14l12 -8M90 26l12 -2" stroke="var(--now)" stroke-width="2.5" fill="none" />
        }
      }
      <path d="M0 60.5H104" stroke="var(--ink)" />
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-height: 66px;
    }
  `,
})
export class ConeLook {
  readonly look = input.required<string>();
}
