import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** Own drawings of how a cylinder broke: what came off is gone, cracks are lines. */
@Component({
  selector: 'km-fracture-shape',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 40 66" aria-hidden="true">
      <path [attr.d]="bodies[type()] ?? bodies['1']" fill="var(--con)" stroke="var(--ink)" stroke-width="1.4" stroke-linejoin="round" />
      <path [attr.d]="cracks[type()] ?? ''" fill="none" stroke="var(--ink)" stroke-width="1.5" stroke-linejoin="round" />
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-height: var(--shape-height, 62px);
    }
  `,
})
export class FractureShape {
  readonly type = input.required<string>();
  protected readonly bodies = BODIES;
  protected readonly cracks = CRACKS;
}

const WHOLE = 'M8 3H32V63H8Z';
const BODIES: Readonly<Record<string, string>> = {
  '1': WHOLE,
  '2': WHOLE,
  '3': WHOLE,
  '4': WHOLE,
  '5': 'M8 3H32V40L27 52 25 63H15L13 52 8 40Z',
  '6': 'M8 3H32V34L26 48 20 63 14 48 8 34Z',
};
const CRACKS: Readonly<Record<string, string>> = {
  '1': 'M8 3 15 16 20 30 25 16 32 3M8 63 14 50 20 36 26 50 32 63M11 24V42M29 24V42',
  '2': 'M8 63 14 48 20 34 26 48 32 63M14 3V30M20 3V34M26 3V28',
  '3': 'M13 3 14 20 12 40 13 63M20 3 19 24 21 44 20 63M27 3 26 22 28 42 27 63',
  '4': 'M8 12 17 28 22 38 32 56',
  '5': 'M16 3V18M24 8V30M13 52 17 40M27 52 24 42',
  '6': 'M15 3V22M25 6V26M20 63 19 44',
};
