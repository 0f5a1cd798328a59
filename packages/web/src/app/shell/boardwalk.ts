import { ChangeDetectionStrategy, Component } from '@angular/core';

/** The boardwalk under the pump, the test place on the shore: what all of this is for. */
@Component({
  selector: 'km-boardwalk',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './boardwalk.svg',
  styles: `
    :host,
    :host > svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    .line {
      stroke: var(--ink);
      stroke-width: 1.5;
      stroke-linejoin: round;
      stroke-linecap: round;
    }
    path.line:not([fill]) {
      fill: none;
    }
    .ripple {
      fill: none;
      stroke: var(--steel-d);
      stroke-opacity: 0.55;
      stroke-width: 1.2;
    }
    .pic {
      fill: none;
      stroke: currentColor;
      stroke-width: var(--pw);
      stroke-linejoin: round;
      stroke-linecap: round;
    }
  `,
})
export class Boardwalk {}
