import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { convert, dimensionOf, exact, unitLabel, type Picture, type ResultValue } from '@keen-mortar/core';
import { Pictogram } from '../ui/pictogram';
import { SLUMP_SHAPES, SlumpShape } from './slump-shape';

/** Height of the mold as drawn, and what it stands for: only the drawing's own scale. */
const MOLD = { top: 26, foot: 146, mm: 300 };

/** The thing that is tested, drawn with its result on it where the drawing can carry it. */
@Component({
  selector: 'km-drawing',
  imports: [Pictogram, SlumpShape],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @switch (picture()) {
      @case ('cone') {
        @if (heap() === null && drawn()) {
          <km-slump-shape class="shape" [shape]="shape()!" />
        } @else {
          <svg viewBox="0 0 262 156" aria-hidden="true">
            <path d="M52 146 78 26H122L148 146" class="line" stroke-dasharray="4 4" />
            @if (heap(); as top) {
              <path
                [attr.d]="
                  'M' + (44 - spread()) + ' 146Q66 ' + (top + 6) + ' 100 ' + top + 'Q134 ' + (top + 6) + ' ' + (156 + spread()) + ' 146Z'
                "
                class="line con"
              />
              <path [attr.d]="'M100 26H186M100 ' + top + 'H184'" class="line thin" />
              <path [attr.d]="'M178 26V' + top" class="now" />
              <text x="190" [attr.y]="(26 + top) / 2 + 6" class="f">{{ text() }}</text>
            } @else {
              <path d="M52 146 78 26H122L148 146Z" class="line tone" />
            }
            <path d="M12 146H188" class="line" />
          </svg>
        }
      }
      @case ('bowl') {
        <svg viewBox="0 0 200 156" aria-hidden="true">
          <path d="M50 34V126Q50 134 58 134H142Q150 134 150 126V34Z" class="line con" />
          <path d="M51 66H149M51 99H149" class="line" stroke-dasharray="4 4" />
          @for (s of stones; track $index) {
            <path [attr.d]="s" class="stone" />
          }
          <path d="M42 28H162V34H42Z" class="line steel" />
          <path d="M36 134H164V140H36Z" class="line steel" />
          <path d="M62 140 56 152H144L138 140Z" class="line steel" />
        </svg>
      }
      @case ('meter') {
        <svg viewBox="0 0 200 156" aria-hidden="true">
          <path d="M46 84V148H154V84Z" class="line con" />
          <path d="M34 84H166M48 84C52 62 72 54 100 54S148 62 152 84" class="line well" />
          <circle cx="100" cy="32" r="24" class="line well" />
          <path d="M100 32 113 21" class="now" />
          @for (a of ticks; track a) {
            <path d="M100 12V17" class="line" [attr.transform]="'rotate(' + a + ' 100 32)'" />
          }
          <path d="M152 74H174M26 148H174" class="line" />
          @if (text()) {
            <text x="100" y="122" text-anchor="middle" class="f">{{ text() }}</text>
          }
        </svg>
      }
      @default {
        <km-pic [name]="picture()" [size]="112" />
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      place-items: center;
    }
    svg {
      width: 100%;
      max-width: 250px;
      display: block;
    }
    .line {
      fill: none;
      stroke: var(--ink);
      stroke-width: 1.6;
      stroke-linejoin: round;
    }
    .thin {
      stroke-width: 1;
    }
    .con {
      fill: var(--con);
    }
    .tone {
      fill: var(--tone);
    }
    .steel {
      fill: var(--steel-l);
    }
    .well {
      fill: var(--well);
    }
    .stone {
      fill: var(--con-l);
      stroke: var(--con-d);
      stroke-width: 0.8;
    }
    .now {
      fill: none;
      stroke: var(--now);
      stroke-width: 3;
    }
    text {
      font: 700 17px var(--fig);
      fill: var(--ink);
    }
    km-pic {
      color: var(--soft);
    }
    .shape {
      --shape-height: 130px;
      width: 190px;
    }
  `,
})
export class Drawing {
  readonly picture = input.required<Picture>();
  /** The result that stands on it. */
  readonly result = input<ResultValue | null>(null);
  /** What it looked like, where that was said: a void one has no figure to draw. */
  readonly shape = input<string | null>(null);
  protected readonly drawn = computed(() => SLUMP_SHAPES.has(this.shape() ?? ''));
  protected readonly ticks = [-120, -80, -40, 0, 40, 80, 120];
  protected readonly stones = [
    [66, 50, 7],
    [92, 44, 5],
    [118, 56, 8],
    [138, 46, 5],
    [74, 82, 6],
    [104, 80, 8],
    [132, 84, 6],
    [64, 116, 8],
    [94, 112, 6],
    [120, 118, 7],
    [140, 110, 5],
  ].map(([x, y, r]) => `M${x! - r!} ${y}l${r! * 0.7} ${-r! * 0.8} ${r} ${r! * 0.3} ${r! * 0.2} ${r! * 0.7} ${-r! * 0.9} ${r! * 0.5}Z`);

  protected readonly text = computed(() => {
    const r = this.result();
    return r?.reported ? `${r.reported} ${unitLabel(r.unit)}`.trim() : '';
  });
  protected readonly heap = computed(() => {
    const r = this.result();
    if (!r?.unrounded || dimensionOf(r.unit) !== 'length') return null;
    const share = convert(exact(r.unrounded), r.unit, 'mm').near / MOLD.mm;
    return MOLD.top + Math.min(0.92, Math.max(0, share)) * (MOLD.foot - MOLD.top);
  });
  protected readonly spread = computed(() => ((this.heap() ?? MOLD.top) - MOLD.top) / 3.4);
}
