import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Thing } from '@keen-mortar/core';

/** Grains lying in a heap that is 84 wide and 58 high, from its left foot. */
const GRAINS = [
  [20, 50, 3],
  [30, 38, 3.5],
  [38, 52, 2.5],
  [44, 26, 3],
  [50, 42, 3.5],
  [58, 54, 3],
  [56, 30, 2.5],
  [66, 44, 3],
  [74, 53, 2.5],
] as const;
/** Stones in a heap, a basket or a measure: the same ones, piled. */
const STONES = [
  [22, 50, 9],
  [42, 51, 10],
  [62, 50, 9],
  [31, 35, 9],
  [51, 35, 10],
  [41, 20, 9],
] as const;

const stone = ([x, y, r]: readonly [number, number, number]): string =>
  `M${x - r} ${y}l${r * 0.6} ${-r * 0.8}h${r}l${r * 0.5} ${r * 0.7}l${-r * 0.5} ${r * 0.9}h${-r * 1.1}Z`;

/** Own drawings of things on a balance, on one ground line. */
@Component({
  selector: 'km-thing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 100 104" aria-hidden="true">
      @switch (thing()) {
        @case ('flask-water') {
          <path d="M41 34Q40 44 24 56 10 68 14 84 18 98 30 98H70Q82 98 86 84 90 68 76 56 60 44 59 34Z" class="water" />
          <path [attr.d]="flask" />
          <path d="M41 34H68" class="thin" />
        }
        @case ('flask-sand') {
          <path d="M41 34Q40 44 24 56 10 68 14 84 18 98 30 98H70Q82 98 86 84 90 68 76 56 60 44 59 34Z" class="water" />
          <path d="M13 76Q50 66 87 76 86 98 70 98H30Q14 98 13 76Z" class="sand" />
          <g transform="translate(2 36)">
            @for (g of grains; track $index) {
              <circle [attr.cx]="g[0]" [attr.cy]="g[1]" [attr.r]="g[2] / 2" class="grain" />
            }
          </g>
          <path [attr.d]="flask" />
          <path d="M41 34H68" class="thin" />
        }
        @case ('pushed-out') {
          <path d="M26 62H74V96H26Z" class="water" />
          <path d="M22 42 26 50V98H74V42" />
          <path d="M74 60H66M74 70H68M74 80H66M26 62H74" class="thin" />
        }
        @case ('volume') {
          <path d="M26 46 50 34 84 44V84L60 98 26 86Z" class="well" stroke-dasharray="4 4" />
          <path d="M26 46 60 58 84 44M60 58V98" stroke-dasharray="4 4" />
        }
        @case ('stone-in-water') {
          <path d="M8 34H92V98H8Z" class="water" />
          <path d="M4 22 8 34V98H92V34L96 22M8 34H92" class="thin" />
          <path d="M50 4V44M26 44H74" />
          <g transform="translate(10 34) scale(0.96)">
            @for (s of stones; track $index) {
              <path [attr.d]="s" class="wet" />
            }
          </g>
          <path d="M26 44V92H74V44M26 56H74M26 68H74M26 80H74M38 44V92M50 44V92M62 44V92" class="thin" />
        }
        @case ('measure-empty') {
          <path d="M22 34V90Q22 96 28 96H72Q78 96 78 90V34Z" class="well" />
          <path d="M16 30H84V35H16Z" class="steel" />
          <path d="M22 54H14V70H22M78 54H86V70H78" />
        }
        @case ('measure-full') {
          <path d="M22 34V90Q22 96 28 96H72Q78 96 78 90V34Z" class="con" />
          <g transform="translate(6 34)">
            @for (s of stones; track $index) {
              <path [attr.d]="s" class="bit" />
            }
          </g>
          <path d="M16 30H84V35H16Z" class="steel" />
          <path d="M22 54H14V70H22M78 54H86V70H78" />
        }
        @case ('measure-stone') {
          <path d="M22 34V90Q22 96 28 96H72Q78 96 78 90V34Z" class="well" />
          <g transform="translate(8 35)">
            @for (s of stones; track $index) {
              <path [attr.d]="s" class="dry" />
            }
          </g>
          <path d="M22 34V90Q22 96 28 96H72Q78 96 78 90V34M16 30H84V35H16Z" />
          <path d="M22 54H14V70H22M78 54H86V70H78" />
        }
        @default {
          <path d="M6 92H94L88 98H12Z" class="steel" />
          @if (thing() === 'sand-wet' || thing() === 'sand-dry') {
            <path
              d="M12 92Q34 84 46 44 52 36 58 48 68 84 88 92Z"
              [class.sand]="thing() === 'sand-wet'"
              [class.pale]="thing() === 'sand-dry'"
            />
            <g transform="translate(3 36)">
              @for (g of grains; track $index) {
                <circle [attr.cx]="g[0]" [attr.cy]="g[1]" [attr.r]="g[2] / 2" class="grain" />
              }
            </g>
          } @else {
            <g transform="translate(8 32)">
              @for (s of stones; track $index) {
                <path [attr.d]="s" [class.wet]="thing() === 'stone-wet'" [class.dry]="thing() === 'stone-dry'" />
              }
            </g>
          }
        }
      }
      <path d="M0 99H100" class="ground" />
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
    }
    path {
      fill: none;
      stroke: var(--ink);
      stroke-width: 1.6;
      stroke-linejoin: round;
    }
    .thin {
      stroke-width: 1;
    }
    .ground {
      stroke: var(--soft);
      stroke-width: 1;
    }
    .water {
      fill: var(--water);
      stroke: none;
    }
    .sand {
      fill: var(--sand);
    }
    .pale {
      fill: var(--sand-l);
    }
    .grain {
      fill: var(--sand-d);
    }
    .steel {
      fill: var(--steel-l);
    }
    .well {
      fill: var(--well);
    }
    .con {
      fill: var(--con);
    }
    .bit {
      fill: var(--con-l);
      stroke: var(--con-d);
      stroke-width: 0.8;
    }
    .wet {
      fill: var(--con-d);
    }
    .dry {
      fill: var(--con-l);
    }
  `,
})
export class ThingDrawing {
  readonly thing = input.required<Thing>();
  protected readonly flask = 'M41 8V34Q40 44 24 56 10 68 14 84 18 98 30 98H70Q82 98 86 84 90 68 76 56 60 44 59 34V8M37 8H63';
  protected readonly grains = GRAINS;
  protected readonly stones = STONES.map(stone);
}
